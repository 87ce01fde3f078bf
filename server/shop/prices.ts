import { desc, eq, max } from 'drizzle-orm';
import { type Amount, bookAt, type Decimals, parseItems, type PriceBook, type PriceVersion, readAmount, readTax } from '../../core/quote';
import type { Problem, Result } from '../../core/units';
import { type Act, actOnce } from '../acts/commands';
import { notify } from '../acts/live';
import { Refused, refused } from '../base/expected';
import { choice, line, needed, orEmpty, pattern, text, whole } from '../base/field';
import { parseForm } from '../base/parseForm';
import type { Keeping } from '../db/kept';
import type { Db, Reader } from '../db/open';
import { person, priceBook } from '../db/schema';

/** A version with who saved it, and when. */
export interface SavedPrices extends PriceVersion {
  by: string;
  at: number;
}

/** Every version of the price book, the newest first. */
export async function listPrices(db: Reader): Promise<SavedPrices[]> {
  return db
    .select({ version: priceBook.version, from: priceBook.from, book: priceBook.book, by: person.name, at: priceBook.at })
    .from(priceBook)
    .innerJoin(person, eq(person.id, priceBook.by))
    .orderBy(desc(priceBook.version));
}

export const keptPrices = ({ kept, database }: Keeping): Promise<SavedPrices[]> =>
  kept.read('prices', [priceBook, person], () => listPrices(database.db));

/** The book in force now, where the shop has one. */
export const pricesNow = async (services: Keeping & { clock: { now(): number } }): Promise<SavedPrices | undefined> =>
  bookAt(await keptPrices(services), services.clock.now());

const day = pattern(/^(\d{4}-\d{2}-\d{2})?$/, 'a day such as 2027-03-31');
const amount = needed(line(20));
const parseFields = (data: unknown) =>
  parseForm(
    {
      /** The version that was on the page; 0: there was none. */
      basedOn: needed(whole(0, Number.MAX_SAFE_INTEGER)),
      /** Empty: from now on. */
      from: orEmpty(day),
      decimals: needed(choice(0, 1, 2, 3)),
      rate: amount,
      stepMin: needed(whole(1, 120)),
      leastMin: needed(whole(0, 600)),
      callOut: amount,
      leastBill: amount,
      tax: needed(line(12)),
      taxName: orEmpty(line(40)),
      items: orEmpty(text(400_000)),
    },
    data,
  );
export interface PricesForm {
  basedOn: number;
  /** ms; null: from now on. */
  from: number | null;
  book: PriceBook;
}

/** @throws Refused with what is wrong in any of the fields, all at once */
export function parsePrices(data: unknown): PricesForm {
  const form = parseFields(data);
  const decimals = form.decimals as Decimals;
  const problems: Problem[] = [];
  const take = <T>(path: string, read: Result<T>, otherwise: T): T => {
    if (read.ok) return read.value;
    problems.push(...read.problems.map((p) => ({ ...p, path, message: [p.path, p.message].filter(Boolean).join(': ') })));
    return otherwise;
  };
  const money = (path: 'rate' | 'callOut' | 'leastBill'): Amount => take(path, readAmount(form[path], decimals), 0);
  const from = form.from === '' ? null : new Date(`${form.from}T00:00:00`).getTime();
  if (from !== null && Number.isNaN(from)) problems.push({ code: 'day', path: 'from', message: 'This day does not exist. Choose a day.' });
  const book: PriceBook = {
    decimals,
    rate: money('rate'),
    stepMin: form.stepMin,
    leastMin: form.leastMin,
    callOut: money('callOut'),
    leastBill: money('leastBill'),
    tax: take('tax', readTax(form.tax), 0),
    taxName: form.taxName,
    items: take('items', parseItems(form.items, decimals), []),
  };
  if (problems.length > 0) throw new Refused(400, problems);
  return { basedOn: form.basedOn, from, book };
}

/**
 * Saves a version of the price book. What was quoted or billed by an older one stays as it was.
 * @throws Refused where it would begin in the past, or somebody saved another version meanwhile
 */
export async function savePrices(db: Db, act: Act, { basedOn, from, book }: PricesForm): Promise<{ version: number }> {
  const payload = { basedOn, from, book };
  const detail = { from: from === null ? 'now' : new Date(from).toISOString(), items: book.items.length };
  return actOnce(db, act, { right: 'setPrices', action: 'price book saved', payload, detail }, async (tx) => {
    // One after the other: two people may have the same version before them.
    await tx.execute('lock table price_book in exclusive mode');
    const [newest] = await tx.select({ version: max(priceBook.version) }).from(priceBook);
    if ((newest?.version ?? 0) !== basedOn)
      throw refused(409, 'changed', `Somebody saved version ${newest!.version} meanwhile. Look at it in another tab, then enter your prices there.`);
    const dayBegins = new Date(act.now).setHours(0, 0, 0, 0);
    if (from !== null && from < dayBegins)
      throw refused(400, 'past', 'Prices can’t begin in the past: what was billed stays. Choose today or a later day.', 'from');
    const starts = from === null || from === dayBegins ? act.now : from;
    const [row] = await tx.insert(priceBook).values({ from: starts, book, by: act.actor.id, at: act.now }).returning({ version: priceBook.version });
    await notify(tx, { what: 'library' });
    return { version: row!.version };
  });
}
