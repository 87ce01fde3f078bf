import { formatQuantity } from './format';
import { failed, ok, type Problem, type Result } from './result';
import { sentences } from './sentences';

/** A typed number: what it says, and the other thing it can be meant as, where its one separator can be a thousand's or a decimal's. */
export interface Digits {
  value: number;
  /** Decimals that are written: what a meter resolved. */
  decimals: number;
  /** With the same separator taken the other way. */
  otherwise?: number;
}

const spaces = /[\u0020\u00a0\u2009\u202f'’]/g;

/**
 * Digits as people write them: `1180`, `1,180`, `1 180`, `1'180`, `1,234.5`, `1.234,5`, `12,4`, `.5`. A comma before exactly three digits is a
 * thousand's, unless the number begins with 0; a point before three digits is a decimal's. Both are told as such with what they would be otherwise.
 * @returns undefined for what is no number
 */
export function readDigits(text: string): Digits | undefined {
  const [, sign, said] = /^([+-]?)(.*)$/s.exec(text.trim())!;
  const signed = (digits: string, decimals = ''): Digits => ({
    value: Number(`${sign}${digits}${decimals === '' ? '' : `.${decimals}`}`),
    decimals: decimals.length,
  });
  if (/^\d+$/.test(said!)) return signed(said!);
  const bySpaces = /^([1-9]\d{0,2}(?:[\u0020\u00a0\u2009\u202f'’]\d{3})+)(?:[.,](\d+))?$/.exec(said!);
  if (bySpaces) return signed(bySpaces[1]!.replace(spaces, ''), bySpaces[2]);
  const three = /^([1-9]\d{0,2})([.,])(\d{3})$/.exec(said!);
  if (three) {
    const [, whole, mark, part] = three;
    const [thousand, decimal] = [signed(whole! + part!), signed(whole!, part)];
    return mark === ',' ? { ...thousand, otherwise: decimal.value } : { ...decimal, otherwise: thousand.value };
  }
  const grouped =
    /^([1-9]\d{0,2}(?:,\d{3})+)\.(\d+)$/.exec(said!) ??
    /^([1-9]\d{0,2}(?:\.\d{3})+),(\d+)$/.exec(said!) ??
    /^([1-9]\d{0,2}(?:,\d{3}){2,}|[1-9]\d{0,2}(?:\.\d{3}){2,})$/.exec(said!);
  if (grouped) return signed(grouped[1]!.replace(/[.,]/g, ''), grouped[2]);
  const plain = /^(\d*)[.,](\d+)$/.exec(said!);
  return plain ? signed(plain[1] || '0', plain[2]) : undefined;
}

interface Unit {
  /** As a message names it. */
  say: string;
  /** What may be written behind a number, with how many of the unit it is; '' is nothing at all. */
  words: Readonly<Record<string, number>>;
  example: string;
}

const times = {
  ms: 0.001,
  s: 1,
  sec: 1,
  secs: 1,
  second: 1,
  seconds: 1,
  min: 60,
  mins: 60,
  m: 60,
  minute: 60,
  minutes: 60,
  h: 3600,
  hr: 3600,
  hrs: 3600,
};
const hours = { hour: 3600, hours: 3600 };
const inUnit = (factor: number) => Object.fromEntries(Object.entries({ ...times, ...hours }).map(([word, s]) => [word, s / factor]));

const units: Readonly<Record<string, Unit>> = {
  s: { say: sentences.secondsFormat, words: { ...inUnit(1), '': 1 }, example: sentences.secondsExample },
  min: { say: sentences.minutesFormat, words: { ...inUnit(60), '': 1 }, example: sentences.minutesExample },
  V: { say: 'volts', words: { '': 1, V: 1, v: 1, volt: 1, volts: 1, mV: 0.001 }, example: '12.4' },
  Hz: { say: 'hertz', words: { '': 1, Hz: 1, hz: 1, kHz: 1e3, khz: 1e3, MHz: 1e6 }, example: sentences.hertzExample },
  Ω: {
    say: 'ohms',
    words: { '': 1, ...Object.fromEntries(Object.entries({ '': 1, R: 1, k: 1e3, K: 1e3, M: 1e6, G: 1e9 }).flatMap(ohmWords)) },
    example: sentences.ohmsExample,
  },
  '°C': { say: '°C', words: { '': 1, '°C': 1, C: 1, '°c': 1, c: 1 }, example: '21' },
  '°F': { say: '°F', words: { '': 1, '°F': 1, F: 1, '°f': 1, f: 1 }, example: '70' },
  km: { say: 'kilometers', words: { '': 1, km: 1, kilometers: 1, kilometres: 1 }, example: '118400' },
  mi: { say: 'miles', words: { '': 1, mi: 1, mile: 1, miles: 1 }, example: '118400' },
  days: { say: 'days', words: { '': 1, d: 1, day: 1, days: 1 }, example: '30' },
  keys: { say: 'keys', words: { '': 1, key: 1, keys: 1 }, example: '3' },
  '%': { say: 'percent', words: { '': 1, '%': 1, percent: 1 }, example: '40' },
};

/** `k`, `kΩ`, `kohm` … with the two signs that stand for ohm. */
function ohmWords([prefix, factor]: [string, number]): [string, number][] {
  return ['', 'Ω', '\u2126', 'ohm', 'ohms', sentences.ohm, sentences.ohms].map((word) => [prefix + word, factor]);
}

export interface Quantity {
  /** In which the number is asked for and given back; '' for a plain number, and any other text (a currency) for itself. */
  unit: string;
  min?: number;
  max?: number;
  /** Only whole numbers are meant: a point before three digits is asked about. */
  whole?: boolean;
  path?: string;
}

/**
 * A quantity or a duration as people write it, in the unit that is asked for: `118,400`, `12,4 V`, `7:00`, `10 min`, `1 h 10 min`, `1k18` (IEC 60062),
 * `125 kHz`. What can be meant in two ways is refused with both.
 * @returns the number in `to.unit`, or one problem: `empty`, `number`, `unit`, `ambiguous`, `whole` or `range`; it says how the text was understood
 * @example readQuantity('7:30', { unit: 's' }) // 450
 */
export function readQuantity(text: string, to: Quantity): Result<number> {
  const wrong = (code: string, message: string): Result<never> => failed({ code, path: to.path ?? '', message } satisfies Problem);
  const unit = Object.hasOwn(units, to.unit) ? units[to.unit]! : plainUnit(to.unit);
  const such = to.unit === '' && to.whole ? sentences.typeWhole : sentences.typeSuchAs(to.unit === '' ? sentences.aNumber : unit.say, unit.example);
  const said = text.trim();
  if (said === '') return wrong('empty', sentences.empty(such));
  const time = to.unit === 's' || to.unit === 'min' ? readDuration(said) : undefined;
  const read = time === undefined ? readOne(said, to.unit, unit) : { value: tidy(time * unit.words.s!), otherwise: undefined };
  if (typeof read === 'string')
    return wrong(read === '' ? 'number' : 'unit', sentences.notUnderstood(quoted(said), read === '' ? '' : sentences.withTheUnit(read), such));
  const { value, otherwise } = read;
  const shown = (n: number) => (to.unit === '' ? plain(n) : quantityWords(n, to.unit));
  const twoWays = otherwise !== undefined && (read.scaled === true || (to.whole === true && value % 1 !== 0));
  const both = [value, otherwise ?? value].filter((n) => to.whole !== true || n % 1 === 0);
  if (twoWays) return wrong('ambiguous', sentences.ambiguous(quoted(said), shown(value), shown(otherwise), both.map(plain).join(' or ')));
  if (to.whole === true && value % 1 !== 0) return wrong('whole', sentences.whole(quoted(said), plain(Math.round(value))));
  const inside = (n: number) => n >= (to.min ?? -Infinity) && n <= (to.max ?? Infinity);
  if (inside(value)) return ok(value);
  const other = otherwise !== undefined && inside(otherwise) ? sentences.otherwiseType(shown(otherwise), plain(otherwise)) : '';
  const found = said === plain(value) ? sentences.typed(shown(value)) : sentences.typedMeans(quoted(said), shown(value));
  return wrong('range', sentences.outOfRange(found, rangeWords(to), other));
}

/** A quantity in full for a person who typed it: seconds of 60 and more also as m:ss. @example quantityWords(118400, 'mi') // "118,400 mi" */
export function quantityWords(value: number, unit: string): string {
  if (unit === 'min') return `${formatQuantity(value, 'min')}${value % 1 === 0 ? '' : ` (${formatQuantity(value * 60, 's')})`}`;
  if (unit === 's' && value >= 60) return `${formatQuantity(value, 's')} (${plain(value)} s)`;
  // Eight digits: what was typed is shown whole, not as a measured value is.
  const number = new Intl.NumberFormat('en-US', { useGrouping: 'min2', maximumSignificantDigits: 8 }).format(value);
  return unit === '' ? number : `${number} ${unit}`;
}

function rangeWords({ min, max, unit }: Quantity): string {
  if (unit === '' && min !== undefined && max !== undefined) return sentences.fromTo(plain(min), plain(max));
  if (min === undefined) return sentences.atMost(quantityWords(max!, unit));
  return max === undefined ? sentences.atLeast(quantityWords(min, unit)) : sentences.fromTo(quantityWords(min, ''), quantityWords(max, unit));
}

/** One number with its unit behind it, or before it for a currency; a text says which unit is not known, '' that there is no number. */
function readOne(said: string, name: string, unit: Unit): { value: number; otherwise?: number; scaled?: boolean } | string {
  const inside = name === 'Ω' ? /^([+-]?\d+)([kKMGR])(\d+)\s*(?:Ω|\u2126|ohms?)?$/i.exec(said) : null;
  if (inside) {
    const factor = unit.words[inside[2]!] ?? unit.words[inside[2]!.toUpperCase()]!;
    return { value: tidy(Number(`${inside[1]}.${inside[3]}`) * factor) };
  }
  const before = name !== '' && !Object.hasOwn(units, name) && said.startsWith(name) ? said.slice(name.length) : said;
  const parts = /^([+-]?\s*[\d.,'’\u0020\u00a0\u2009\u202f]*\d)(e[+-]?\d{1,2})?\s*(\D*)$/i.exec(before.trim());
  const digits = parts ? readDigits(parts[1]!.replace(/^([+-])\s+/, '$1')) : undefined;
  if (!parts || !digits) return '';
  const word = parts[3]!.trim();
  const factor = Object.hasOwn(unit.words, word) ? unit.words[word]! : undefined;
  if (factor === undefined) return otherTemperature(digits.value, name, word) ?? word;
  const power = Number(`1${parts[2] ?? ''}`);
  const scaled = factor !== 1 || power !== 1;
  const of = (n: number) => tidy(n * factor * power);
  return {
    value: of(digits.value),
    ...(digits.otherwise === undefined ? {} : { otherwise: of(digits.otherwise) }),
    // A comma before three digits and a prefix: 1,180k. Nobody writes a thousand kilohms so, but somebody may.
    scaled: scaled && /,/.test(parts[1]!),
  };
}

function otherTemperature(value: number, name: string, word: string): { value: number } | undefined {
  if (name === '°F' && Object.hasOwn(units['°C']!.words, word)) return { value: tidy((value * 9) / 5 + 32) };
  if (name === '°C' && Object.hasOwn(units['°F']!.words, word)) return { value: tidy(((value - 32) * 5) / 9) };
  return undefined;
}

/** Seconds of `7:00`, `1:10:00`, `1 h 10 min`, `7m30`; undefined for what is written otherwise. */
function readDuration(said: string): number | undefined {
  const clock = /^(?:(\d{1,3}):)?(\d{1,4}):([0-5]\d)(?:\s*(?:min|m:ss|h))?$/i.exec(said);
  if (clock) {
    const [h, m, s] = [Number(clock[1] ?? 0), Number(clock[2]), Number(clock[3])];
    return clock[1] !== undefined && m > 59 ? undefined : h * 3600 + m * 60 + s;
  }
  const words = { ...times, ...hours } as Readonly<Record<string, number>>;
  const parts = [...said.matchAll(/(\d+(?:[.,]\d+)?)\s*([a-z]*)\s*/gi)];
  if (parts.length < 2 || parts.map((p) => p[0]).join('') !== said) return undefined;
  let [sum, last] = [0, Infinity];
  for (const [, digits, word] of parts) {
    // A bare number behind hours is minutes, behind minutes seconds.
    const factor = word === '' ? { 3600: 60, 60: 1 }[last] : words[word!.toLowerCase()];
    const number = readDigits(digits!);
    if (factor === undefined || number === undefined || factor >= last) return undefined;
    sum += number.value * factor;
    last = factor;
  }
  return tidy(sum);
}

const plainUnit = (unit: string): Unit => ({ say: unit, words: { '': 1, ...(unit === '' ? {} : { [unit]: 1 }) }, example: '12.5' });
/** Twelve digits: more than anybody types, and the product with a factor leaves no tail such as 1182.9999999999998. */
const tidy = (n: number): number => Number(n.toPrecision(12));
const plain = (n: number): string => String(tidy(n));
const quoted = (text: string): string => JSON.stringify(text.slice(0, 40));
