import { csvLines } from '../csv/csvLines';
import { failed, ok, type Problem, type Result } from '../units';
import { type Amount, amountText, type Decimals, readAmount } from './money';
import { sentences } from './sentences';

/** What a price is for: work of the shop, a part, or work done elsewhere. */
export const itemKinds = ['labor', 'part', 'outside'] as const;
export type ItemKind = (typeof itemKinds)[number];

/** One line of the price book. Labor has minutes, or a price of its own, whatever it takes. */
export interface PriceItem {
  /** Short name by which it is found again, such as `diagnosis` or `key-blank`. */
  code: string;
  kind: ItemKind;
  title: string;
  minutes?: number;
  price?: Amount;
}

/** What the shop charges, in one version. */
export interface PriceBook {
  decimals: Decimals;
  /** An hour of work. */
  rate: Amount;
  /** Labor is billed in steps of so many minutes, begun ones whole; at least so many. */
  stepMin: number;
  leastMin: number;
  callOut: Amount;
  /** A bill is never less, before tax; 0: no minimum. */
  leastBill: Amount;
  /** Tax on the sum, thousandths of a percent: 8250 is 8.25 %. */
  tax: number;
  taxName: string;
  items: PriceItem[];
}

export const mostItems = 2000;
const columns = ['kind', 'code', 'title', 'minutes', 'price'] as const;
export const bookHeader = columns.join(',');
const codeForm = /^[a-z0-9]+(-[a-z0-9]+)*$/;

/** The items of a price book: `kind,code,title,minutes,price`; labor has minutes or a price, everything else a price. */
export function parseItems(text: string, decimals: Decimals): Result<PriceItem[]> {
  if (text.trim() === '') return ok([]);
  const lines = csvLines(text);
  if (!lines) return failed({ code: 'quote', path: '', message: sentences.quoteOpen });
  const [header, ...rows] = lines;
  if (!header || header.cells.join(',') !== bookHeader)
    return failed({ code: 'header', path: sentences.lineAt(header?.line ?? 1), message: sentences.header(bookHeader) });
  if (rows.length > mostItems) return failed({ code: 'tooMany', path: '', message: sentences.tooManyItems(rows.length, mostItems) });
  const problems: Problem[] = [];
  const seen = new Map<string, number>();
  const items = rows.flatMap(({ line, cells }): PriceItem[] => {
    const bad = (column: string, code: string, message: string) => {
      problems.push({ code, path: `${sentences.lineAt(line)}, ${column}`, message });
      return [];
    };
    if (cells.length !== columns.length) {
      problems.push({ code: 'cells', path: sentences.lineAt(line), message: sentences.cells(cells.length, columns.length, bookHeader) });
      return [];
    }
    const [kind, code, title, minutes, price] = cells as [string, string, string, string, string];
    if (!isKind(kind)) return bad('kind', 'kind', sentences.kind(kind, itemKinds.join(', ')));
    if (!codeForm.test(code) || code.length > 60) return bad('code', 'code', sentences.code(code.slice(0, 40)));
    const before = seen.get(code);
    if (before !== undefined) return bad('code', 'twice', sentences.codeTwice(code, before));
    seen.set(code, line);
    if (title === '' || title.length > 120) return bad('title', 'title', sentences.title(120));
    if (minutes !== '' && kind !== 'labor') return bad('minutes', 'minutes', sentences.minutesOfLabor);
    if (minutes !== '' && !(/^\d{1,5}$/.test(minutes) && Number(minutes) > 0))
      return bad('minutes', 'minutes', sentences.minutes(minutes.slice(0, 40)));
    if (minutes === '' && price === '') return bad('price', 'price', kind === 'labor' ? sentences.minutesOrPrice : sentences.priceMissing);
    const amount = price === '' ? undefined : readAmount(price, decimals);
    if (amount && !amount.ok) return bad('price', 'price', amount.problems[0]!.message);
    return [{ code, kind, title, ...(minutes === '' ? {} : { minutes: Number(minutes) }), ...(amount ? { price: amount.value } : {}) }];
  });
  return problems.length > 0 ? failed(...problems.slice(0, 20)) : ok(items);
}

const isKind = (text: string): text is ItemKind => (itemKinds as readonly string[]).includes(text);

/** The same as a file: what is read from it again is the same. */
export function itemsCsv({ items, decimals }: Pick<PriceBook, 'items' | 'decimals'>): string {
  const cell = (text: string) => (/[",\n;]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);
  return [
    bookHeader,
    ...items.map((i) => [i.kind, i.code, cell(i.title), i.minutes ?? '', i.price === undefined ? '' : amountText(i.price, decimals)].join(',')),
  ].join('\n');
}

/** A tax as a person types it, in percent with up to three places, in thousandths of a percent. @example readTax('8.25') // 8250 */
export function readTax(text: string): Result<number> {
  const typed = text.trim().replace(/\s*%$/, '');
  const found = /^(\d{1,3})(?:\.(\d{1,3}))?$/.exec(typed);
  const tax = found ? Number(found[1]) * 1000 + Number((found[2] ?? '').padEnd(3, '0')) : NaN;
  return tax <= 100_000 ? ok(tax) : failed({ code: 'tax', path: '', message: sentences.tax(text.trim().slice(0, 40)) });
}

/** A tax as it stands on a paper. @example taxText(8250) // "8.25" */
export const taxText = (tax: number): string => String(tax / 1000);

/** Versions of the book, each in force from its moment on until a later one is. */
export interface PriceVersion {
  version: number;
  /** ms. */
  from: number;
  book: PriceBook;
}

/** The version in force at a moment: the one that begins last before it; of two that begin together, the later version. */
export function bookAt<V extends Pick<PriceVersion, 'version' | 'from'>>(versions: readonly V[], at: number): V | undefined {
  return versions
    .filter((v) => v.from <= at)
    .reduce<V | undefined>((best, v) => (!best || v.from > best.from || (v.from === best.from && v.version > best.version) ? v : best), undefined);
}
