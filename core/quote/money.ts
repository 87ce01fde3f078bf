import { failed, ok, type Result } from '../units';
import { sentences } from './sentences';

/**
 * An amount of money: a whole number of the currency's smallest unit. Nothing is kept, added or stored in fractions; a share of an amount is rounded
 * once, where it becomes a line of a bill (docs/prices.md).
 */
export type Amount = number;

/** Decimal places of a currency: cents have two, some currencies none. */
export type Decimals = 0 | 1 | 2 | 3;

/** No price or bill of a shop is larger; sums of ten thousand such lines are still exact. */
export const mostAmount = 1e9;

/**
 * `amount × part / whole`, rounded half up (away from zero) to a whole unit.
 * @param whole above 0
 */
export function shareOf(amount: Amount, part: number, whole: number): Amount {
  const product = BigInt(amount) * BigInt(part);
  const negative = product < 0n;
  const [n, d] = [negative ? -product : product, BigInt(whole)];
  const rounded = Number((2n * n + d) / (2n * d));
  return negative && rounded !== 0 ? -rounded : rounded;
}

/** An amount as a person types it: 84, 84.5, 84.50, 1,250.00; no more places than the currency has. */
export function readAmount(text: string, decimals: Decimals): Result<Amount> {
  const typed = text.trim();
  if (typed === '') return failed({ code: 'empty', path: '', message: sentences.noAmount(sample(decimals)) });
  const found = /^(\d{1,3}(?:,\d{3})+|\d+)(?:\.(\d+))?$/.exec(typed);
  if (!found) return failed({ code: 'amount', path: '', message: sentences.notAnAmount(typed.slice(0, 40), sample(decimals)) });
  const [, whole, places = ''] = found;
  if (places.length > decimals) return failed({ code: 'places', path: '', message: sentences.tooManyPlaces(typed.slice(0, 40), decimals) });
  const amount = Number(whole!.replaceAll(',', '') + places.padEnd(decimals, '0'));
  return amount <= mostAmount ? ok(amount) : failed({ code: 'large', path: '', message: sentences.tooMuch(typed.slice(0, 40)) });
}

const sample = (decimals: Decimals) => amountText(84 * 10 ** decimals + (decimals > 0 ? 5 * 10 ** (decimals - 1) : 0), decimals);

/** As it stands in a field or a file: digits and a point, nothing else. @example amountText(8450, 2) // "84.50" */
export function amountText(amount: Amount, decimals: Decimals): string {
  const digits = String(Math.abs(amount)).padStart(decimals + 1, '0');
  const sign = amount < 0 ? '-' : '';
  return decimals === 0 ? `${sign}${digits}` : `${sign}${digits.slice(0, -decimals)}.${digits.slice(-decimals)}`;
}

/** As it stands on a screen or a paper, with every place: a sign of a currency in front, a word behind. @example formatAmount(125000, 2, '$') // "$1,250.00" */
export function formatAmount(amount: Amount, decimals: Decimals, currency: string): string {
  const [whole, places] = amountText(Math.abs(amount), decimals).split('.');
  const number = `${whole!.replace(/\B(?=(\d{3})+$)/g, ',')}${places === undefined ? '' : `.${places}`}`;
  const sign = amount < 0 ? '−' : '';
  return /^\p{Sc}$/u.test(currency) ? `${sign}${currency}${number}` : `${sign}${number} ${currency}`.trim();
}
