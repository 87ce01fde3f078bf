/** How a shop writes distances, temperatures, times, dates and prices. */
export interface ShopUnits {
  distance: 'mi' | 'km';
  temperature: '°F' | '°C';
  /** Hours of a clock. */
  clock: '12' | '24';
  /** Order of month, day and year. */
  dates: 'mdy' | 'dmy' | 'ymd';
}

/** What a new shop begins with. */
export const usUnits: ShopUnits = { distance: 'mi', temperature: '°F', clock: '12', dates: 'mdy' };

/** Degrees Celsius in the shop's unit, to a tenth of a degree. @example toShopTemperature(21, '°F') // 69.8 */
export function toShopTemperature(celsius: number, unit: ShopUnits['temperature']): number {
  return Math.round((unit === '°F' ? (celsius * 9) / 5 + 32 : celsius) * 10) / 10;
}

/** The shop's unit in degrees Celsius, unrounded: what calculations use. */
export const fromShopTemperature = (degrees: number, unit: ShopUnits['temperature']): number => (unit === '°F' ? ((degrees - 32) * 5) / 9 : degrees);

/** A price with the shop's currency: a sign stands in front, a word behind. @example moneyWords(1250, '$') // "$1,250" */
export function moneyWords(amount: number, currency: string): string {
  const number = new Intl.NumberFormat('en-US', { maximumFractionDigits: 2, minimumFractionDigits: amount % 1 === 0 ? 0 : 2 }).format(amount);
  return /^\p{Sc}$/u.test(currency) ? `${currency}${number}` : `${number} ${currency}`.trim();
}

/** Two prices from one to the other. @example moneyRange(70, 273, 'cr') // "70 to 273 cr" */
export function moneyRange(from: number, to: number, currency: string): string {
  const first = moneyWords(from, currency);
  return `${first.startsWith(currency) ? first : moneyWords(from, '')} to ${moneyWords(to, currency)}`;
}

/** A date of the calendar, such as 2026-03-04, in the shop's order; other text is left as it is. @example dateWords('2026-03-04', 'mdy') // "03/04/2026" */
export function dateWords(iso: string, order: ShopUnits['dates']): string {
  const parts = /^(\d{4})-(\d\d)-(\d\d)$/.exec(iso);
  if (!parts || order === 'ymd') return iso;
  const [, y, m, d] = parts;
  return order === 'mdy' ? `${m}/${d}/${y}` : `${d}.${m}.${y}`;
}

export interface Times {
  /** Time of day, such as 14:05 or 2:05 PM. */
  hm(ms: number): string;
  /** The same with seconds. */
  hms(ms: number): string;
  /** A day in full. */
  day(ms: number): string;
}
/** Making a formatter takes as long as a query; a server has one zone, and shops few kinds of clocks. */
const made = new Map<string, Times>();

/** Clock times and days as the shop writes them, in a time zone. Moments are milliseconds since 1970 UTC. */
export function timesIn(timeZone: string, { clock, dates }: Pick<ShopUnits, 'clock' | 'dates'>): Times {
  const key = `${timeZone} ${clock} ${dates}`;
  const before = made.get(key);
  if (before) return before;
  const [locale, hour] = clock === '12' ? (['en-US', 'numeric'] as const) : (['en-GB', '2-digit'] as const);
  const format = (options: Intl.DateTimeFormatOptions, of: string = locale) => new Intl.DateTimeFormat(of, { timeZone, ...options });
  const hm = format({ hour, minute: '2-digit' });
  const hms = format({ hour, minute: '2-digit', second: '2-digit' });
  const day = format({ weekday: 'long', day: 'numeric', month: 'long', year: 'numeric' }, dates === 'dmy' ? 'en-GB' : 'en-US');
  const [weekday, iso] = [format({ weekday: 'long' }, 'en-US'), format({ year: 'numeric', month: '2-digit', day: '2-digit' }, 'en-CA')];
  // Some versions of the data have a narrow space before PM; one kind of space is enough.
  const plain = (text: string) => text.replace(/\u202f/g, ' ');
  const times: Times = {
    hm: (ms) => plain(hm.format(ms)),
    hms: (ms) => plain(hms.format(ms)),
    day: (ms) => (dates === 'ymd' ? `${weekday.format(ms)} ${iso.format(ms)}` : day.format(ms)),
  };
  made.set(key, times);
  return times;
}
