import type { PriceBook, PriceItem } from './book';
import { type Amount, shareOf } from './money';
import { sentences } from './sentences';

/** What goes on a bill: an item of the book so many times, work by the minute, something at a price of its own, the call-out. */
export type BillEntry =
  | { kind: 'item'; code: string; count: number }
  | { kind: 'work'; title: string; minutes: number }
  | { kind: 'priced'; title: string; amount: Amount }
  | { kind: 'callOut' };

export interface BillLine {
  title: string;
  /** Minutes that are billed, where it is work by the minute. */
  minutes: number | null;
  count: number;
  amount: Amount;
}

export interface Bill {
  lines: BillLine[];
  /** The lines together, and what is missing to the least bill as its own line among them. */
  sum: Amount;
  tax: Amount;
  total: Amount;
}

/** Minutes of work as they are billed: begun steps whole, at least the least. 0 stays 0. */
export function billedMinutes(minutes: number, { stepMin, leastMin }: Pick<PriceBook, 'stepMin' | 'leastMin'>): number {
  if (minutes <= 0) return 0;
  return Math.max(leastMin, Math.ceil(minutes / stepMin) * stepMin);
}

/**
 * A bill by a price book. Work by the minute is put together before it is rounded to steps, so that ten looks of a minute don't become ten steps; each
 * line is rounded once to the smallest unit, tax once on the sum.
 * @throws RangeError for an item that is not in the book, a count below 1 or an amount that is none
 */
export function billOf(book: PriceBook, entries: readonly BillEntry[]): Bill {
  const items = new Map(book.items.map((i) => [i.code, i]));
  const work = entries.filter((e) => e.kind === 'work');
  const minutes = billedMinutes(
    work.reduce((sum, w) => sum + w.minutes, 0),
    book,
  );
  const lines: BillLine[] = entries.flatMap((entry): BillLine[] => {
    if (entry.kind === 'work') return [];
    if (entry.kind === 'priced') {
      if (!Number.isSafeInteger(entry.amount) || entry.amount < 0) throw new RangeError(`${entry.amount} is no amount`);
      return [{ title: entry.title, minutes: null, count: 1, amount: entry.amount }];
    }
    if (entry.kind === 'callOut') return book.callOut > 0 ? [{ title: sentences.callOut, minutes: null, count: 1, amount: book.callOut }] : [];
    const item = items.get(entry.code);
    if (!item || !Number.isInteger(entry.count) || entry.count < 1)
      throw new RangeError(`${entry.code} × ${entry.count} is no item of this price book`);
    const amount = entry.count * priceOf(item, book);
    return [{ title: item.title, minutes: item.price === undefined ? item.minutes! * entry.count : null, count: entry.count, amount }];
  });
  if (minutes > 0)
    lines.unshift({
      title: work.length === 1 ? work[0]!.title : sentences.workOf(work.map((w) => w.title).join(', ')),
      minutes,
      count: 1,
      amount: shareOf(book.rate, minutes, 60),
    });
  const sum = lines.reduce((s, l) => s + l.amount, 0);
  if (lines.length > 0 && sum < book.leastBill) lines.push({ title: sentences.toLeastBill, minutes: null, count: 1, amount: book.leastBill - sum });
  const all = lines.reduce((s, l) => s + l.amount, 0);
  const tax = shareOf(all, book.tax, 100_000);
  return { lines, sum: all, tax, total: all + tax };
}

/** What one of an item costs: its price, or its minutes at the hourly rate, which are never rounded to steps: the book says them as they are billed. */
export const priceOf = (item: PriceItem, { rate }: Pick<PriceBook, 'rate'>): Amount => item.price ?? shareOf(rate, item.minutes!, 60);
