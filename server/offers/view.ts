import {
  asksAgain,
  caseBill,
  type Option,
  proposeOptions,
  settle,
  type Settled,
  spentSoFar,
  type WayCost,
  wayCost,
  type WorkDone,
} from '../../core/options';
import { type OptionOutcome, outcomesOf } from '../../core/learning';
import type { Family } from '../../core/library';
import { type Bill, formatAmount } from '../../core/quote';
import { keysAtHand } from '../replacement/plan';
import { jobOf } from '../replacement/job';
import { tally } from '../db/schema';
import { type CaseRecord, keysHere } from '../record/cases';
import { readTallies } from '../record/experience';
import { readForDiagnosis } from '../diagnosis/diagnosis';
import type { Services } from '../services/services';
import { keptPrices } from '../shop/prices';
import { equipment, type Equipment, keptShop } from '../shop/shop';
import { bookFrom, type BookInForce } from '../billing/book';
import { agreedIn, workDone } from '../billing/work';

/** Options of a case, what they follow from, and what was agreed to. */
export interface CaseOffers {
  settled: Settled;
  book: BookInForce;
  currency: string;
  work: WorkDone[];
  /** Bill as it stands now: diagnosis by its time, and what was agreed to. */
  bill: Bill;
  /** The diagnosis alone: on the bill even where everything is declined. */
  diagnosisBill: Bill;
  spent: number;
  /** Why the customer is to be asked again before anything more is done. */
  askAgain: string | null;
  /** What acting now and testing further may cost; null where nothing is weighed or it is fixed. */
  ways: { act: WayCost | null; test: WayCost | null } | null;
  family: Family;
  /** How the bills of agreed options went in this system type, by their kind. */
  outcomes: Record<string, OptionOutcome>;
}

export async function readOffers(services: Services, record: CaseRecord): Promise<CaseOffers> {
  const shop = await keptShop(services);
  const versions = await keptPrices(services);
  const now = services.clock.now();
  const agreed = agreedIn(record);
  const book = bookFrom(versions, shop, now);
  const read = await readForDiagnosis(services, record);
  const { family, situation, cured } = read;
  const weighs = situation !== null && record.kind === 'vehicle' && record.state !== 'closed';
  const diagnosis = situation && record.kind === 'vehicle' ? services.weigher.quick(situation).diagnosis : null;
  const ways = weighs && cured === null ? await services.weigher.ways(situation) : null;
  const owned = shop.equipment as Equipment[];
  const proposed: Option[] =
    record.kind === 'vehicle'
      ? proposeOptions({
          family,
          replacement: services.library.replacements.get(family.id) ?? null,
          book: book.book,
          beliefs: diagnosis?.beliefs ?? [],
          ways,
          cured: cured !== null,
          keys: keysAtHand(keysHere(record)),
          tools: owned.length === 0 ? allTools(services, family) : [...owned.flatMap((e) => equipment[e]?.tools ?? []), 'programming tool'],
          planned: jobOf(record, family)?.parts.map((p) => p.part) ?? [],
        })
      : [];
  const settled = settle(proposed, record.offers, book.book);
  const billed = agreed?.kind === 'agree' ? bookFrom(versions, shop, now, agreed.book) : book;
  const titleOf = (id: string) => services.library.procedures.get(id)?.title ?? id;
  const work = workDone(record, family, record.closedAt ?? now, titleOf);
  const spent = spentSoFar(billed.book, work, agreed);
  return {
    settled,
    book: billed,
    currency: shop.currency,
    work,
    bill: caseBill(billed.book, work, agreed),
    diagnosisBill: caseBill(billed.book, work, null),
    spent,
    askAgain: asksAgain(agreed, null, { amount: spent, say: (amount) => formatAmount(amount, billed.book.decimals, shop.currency) }),
    ways: ways && { act: wayCost(ways.act, book.book), test: wayCost(ways.test, book.book) },
    family,
    outcomes: outcomesOf((await services.kept.read('tallies', [tally], () => readTallies(services.database.db)))[family.id]?.options ?? {}),
  };
}

/** A shop that has not said what it owns may have anything. */
const allTools = (services: Services, family: Family): string[] => [
  'scan tool',
  ...new Set((services.library.replacements.get(family.id)?.acts ?? []).flatMap((a) => a.tools)),
];
