import { asksAgain, spentSoFar } from '../../core/options';
import type { Effect, Family } from '../../core/library';
import { formatAmount } from '../../core/quote';
import { refused } from '../base/expected';
import type { Tx } from '../db/open';
import type { CaseRecord } from '../record/cases';
import { readBook } from './book';
import { agreedIn, workDone } from './work';

/**
 * Refuses what goes beyond what the customer agreed to: an effect on keys or modules that was not in it, more than the limit, anything after a refusal.
 * Where nobody has agreed to anything yet there is nothing to go beyond.
 * @throws Refused 409
 */
export async function withinAgreement(
  tx: Tx,
  record: CaseRecord,
  family: Family,
  next: { title: string; effect: Effect } | null,
  now: number,
): Promise<void> {
  const agreed = agreedIn(record);
  if (!agreed) return;
  const { book, currency } = await readBook(tx, now, agreed.kind === 'agree' ? agreed.book : undefined);
  const because = asksAgain(agreed, next, {
    amount: spentSoFar(book, workDone(record, family, now), agreed),
    say: (amount) => formatAmount(amount, book.decimals, currency),
  });
  if (because !== null) throw refused(409, 'notAgreed', because);
}
