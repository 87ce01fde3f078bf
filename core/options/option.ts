import type { Amount, Bill, BillEntry, PriceBook } from '../quote';
import { billOf } from '../quote';
import type { Effect } from '../library';
import type { Doer, ModuleName, Origin } from '../replacement';

/** What an option is: a fix, a part that is replaced, a key, work of others, more tests, or what the shop wrote itself. */
export const optionKinds = ['fix', 'otherFix', 'part', 'key', 'clone', 'sendOut', 'test', 'own'] as const;
export type OptionKind = (typeof optionKinds)[number];

/** From little to much: minutes of a person, days until it is done, sums with tax. */
export interface Span {
  low: number;
  high: number;
}

/** What may go wrong, and in how many of a hundred such cases; null: nobody has counted it. */
export interface OptionRisk {
  say: string;
  p: number | null;
}

/** One way to go on, with what the customer has to know of it. */
export interface Option {
  /** The same for the same way, whatever else is proposed: `fix.coilOpen`, `part.engine.donor.scanTool`, `key.new.2`. */
  id: string;
  kind: OptionKind;
  title: string;
  /** What is done, in short. */
  what: string;
  by: Doer;
  /** Everything that it does to keys and modules. */
  effects: Effect[];
  /** What goes on the bill with it, without the diagnosis so far. */
  entries: BillEntry[];
  /** Sums with tax. `high` is not passed in 90 of 100 such cases. */
  price: Span;
  minutes: Span;
  days: Span;
  needs: string[];
  risks: OptionRisk[];
  warranty: string;
  /** What stays unproven with it. */
  unproven: string;
  /** Chance that it is what is needed; null where the diagnosis says nothing of it. */
  p: number | null;
  fault?: string;
  key?: string;
  part?: ModuleName;
  origin?: Origin;
}

/** Money of the content (whole currency, with fractions) as an amount of the book. */
export const amountOf = (money: number, { decimals }: Pick<PriceBook, 'decimals'>): Amount => Math.round(money * 10 ** decimals);

/**
 * What an option comes to: its own bill, and the least bill only once whatever else is on it.
 * @throws RangeError as `billOf`
 */
export const optionBill = (book: PriceBook, entries: readonly BillEntry[]): Bill => billOf(book, entries);
