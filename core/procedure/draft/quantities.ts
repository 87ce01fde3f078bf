/** A time that a sentence names, seconds. `within` bounds an act, `max` a state. */
export interface Time {
  minS?: number;
  maxS?: number;
  withinS?: number;
}

export interface Quantities {
  times: Time[];
  /** How often something is done; without "once", which only says that it is done. */
  counts: { n: number; more: boolean; inAll: boolean }[];
  /** A bound of a number of things, as in "at most 4". */
  atMost?: number;
  /** Figures that look like a time or a count and were not understood. */
  left: boolean;
}

const ones = ['zero', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten', 'eleven', 'twelve', 'thirteen', 'fourteen'];
const teens = ['fifteen', 'sixteen', 'seventeen', 'eighteen', 'nineteen'];
const tens = ['twenty', 'thirty', 'forty', 'fifty', 'sixty', 'seventy', 'eighty', 'ninety'];
const small = [...ones, ...teens];
const times: Readonly<Record<string, number>> = { once: 1, twice: 2, thrice: 3 };

const word = `(?:(?:${tens.join('|')})(?:[- ](?:${ones.slice(1, 10).join('|')}))?|${small.toReversed().join('|')})`;
const figure = '(?:\\d+ \\d+/\\d+|\\d+/\\d+|\\d+(?:[.,]\\d+)?)';
const number = `(?:${figure}|${word})`;
const unit = '(hours?|hrs?|h|minutes?|mins?|seconds?|secs?|s)\\b\\.?';

/** A number as people write it: digits, a fraction, words up to ninety-nine. */
export function readNumber(text: string): number {
  const said = text.trim();
  const fraction = /^(?:(\d+) )?(\d+)\/(\d+)$/.exec(said);
  if (fraction) return Number(fraction[1] ?? 0) + Number(fraction[2]) / Number(fraction[3]);
  if (/^\d/.test(said)) return Number(said.replace(',', '.'));
  const [ten, one] = said.split(/[- ]/) as [string, string?];
  const of = (w: string) => (tens.includes(w) ? 20 + 10 * tens.indexOf(w) : small.indexOf(w));
  return of(ten) + (one === undefined ? 0 : of(one));
}

/** Something that is done a number of times. */
const counted = new RegExp(`\\b(?:${number}\\s*(?:x|times|turns|presses|flashes)|twice|thrice|once)\\b`);

const secondsOf = (u: string): number => (u.startsWith('h') ? 3600 : u.startsWith('m') ? 60 : 1);

/** What is counted. */
const counting = /times|cycles|rounds|turns|presses|flashes/;

/** What stands before a time and says which bound it is. */
const within = /\b(?:within|in less than|no later than|not later than|in under)(?: the next)?\s*$/;
/** The same behind a count, as in "six times in ten seconds". */
const inTime = /\bin\s*$/;
const atMostBefore = /\b(?:no longer than|not longer than|no more than|not more than|at most|up to|max(?:imum)?(?: of)?|(?:for )?less than)\s*$/;
const atMostAfter = /^\s*(?:or less|at most|max(?:imum)?\b|at the most)/;

/** Reads the times and counts of one sentence, in their order. */
export function quantitiesOf(sentence: string): Quantities {
  let rest = sentence
    .toLowerCase()
    .replaceAll('½', ' 1/2')
    .replaceAll('¼', ' 1/4')
    .replaceAll('¾', ' 3/4')
    .replaceAll(/[–—]/g, '-')
    // "twenty-five" is one number, not a range.
    .replaceAll(new RegExp(`\\b(${tens.join('|')})-(${ones.slice(1, 10).join('|')})\\b`, 'g'), '$1 $2')
    .replaceAll(/\s+/g, ' ');
  const found: { at: number; time: Time }[] = [];
  /** Takes what a pattern finds out of the sentence, so that nothing is read twice; the places of the others stay. */
  const take = (pattern: RegExp, read: (m: RegExpExecArray) => { minS: number; maxS?: number }) => {
    for (const m of rest.matchAll(pattern)) {
      const { minS, maxS } = read(m);
      const before = rest.slice(0, m.index);
      const after = rest.slice(m.index + m[0].length);
      let time: Time = maxS === undefined ? { minS } : { minS, maxS };
      if (maxS === undefined && (within.test(before) || (counted.test(before) && inTime.test(before)))) time = { withinS: minS };
      else if (maxS === undefined && (atMostBefore.test(before) || atMostAfter.test(after))) time = { maxS: minS };
      found.push({ at: m.index, time });
    }
    rest = rest.replaceAll(pattern, (all) => '_'.repeat(all.length));
  };
  const global = (source: string) => new RegExp(source, 'g');
  // "9 minutes and 30 seconds" is one time, "between 9 and 30 seconds" two bounds.
  for (const range of [
    `between \\b(${number})\\s*(?:${unit})?\\s*and\\s*(${number})\\s*${unit}`,
    `\\b(${number})\\s*(?:${unit})?\\s*(?:to|-|or)\\s*(${number})\\s*${unit}`,
  ])
    take(global(range), (m) => {
      const [from, fromUnit, to, toUnit] = [m[1]!, m[2], m[3]!, m[4]!];
      return { minS: readNumber(from) * secondsOf(fromUnit ?? toUnit), maxS: readNumber(to) * secondsOf(toUnit) };
    });
  take(global(`\\b(?:an? |one )${unit} and a half\\b`), (m) => ({ minS: 1.5 * secondsOf(m[1]!) }));
  take(global(`\\b(${number}) and a half\\s*${unit}`), (m) => ({ minS: (readNumber(m[1]!) + 0.5) * secondsOf(m[2]!) }));
  take(global(`\\b(?:a |one )?quarter of an? ${unit}`), (m) => ({ minS: 0.25 * secondsOf(m[1]!) }));
  take(global(`\\bthree quarters of an? ${unit}`), (m) => ({ minS: 0.75 * secondsOf(m[1]!) }));
  take(global(`\\bhalf an? ${unit}`), (m) => ({ minS: 0.5 * secondsOf(m[1]!) }));
  take(global(`\\b(${number})\\s*(hours?|hrs?|h|minutes?|mins?)\\b\\.?,? (?:and )?(${number})\\s*${unit}`), (m) => ({
    minS: readNumber(m[1]!) * secondsOf(m[2]!) + readNumber(m[3]!) * secondsOf(m[4]!),
  }));
  take(global(`\\b(${number})\\s*-?${unit}`), (m) => ({ minS: readNumber(m[1]!) * secondsOf(m[2]!) }));
  take(/\b(?:an?|one) (hour|minute|second)\b/g, (m) => ({ minS: secondsOf(m[1]!) }));
  take(/\b(\d{1,2}):(\d{2})\b/g, (m) => ({ minS: Number(m[1]) * 60 + Number(m[2]) }));

  const counts: Quantities['counts'] = [];
  const count = (pattern: RegExp, read: (m: RegExpExecArray) => number) => {
    for (const m of rest.matchAll(pattern)) {
      const near = rest.slice(Math.max(0, m.index - 12), m.index + m[0].length + 12);
      counts.push({
        n: read(m),
        more: /\b(?:more|further|additional|again)\b/.test(near),
        inAll: /\b(?:in all|in total|altogether|total of|total)\b/.test(rest.slice(Math.max(0, m.index - 10), m.index + m[0].length + 14)),
      });
    }
    rest = rest.replaceAll(pattern, (all) => '_'.repeat(all.length));
  };
  count(global(`\\b(${number})\\s*(?:more |further |additional )?(?:${counting.source})\\b`), (m) => readNumber(m[1]!));
  // "Repeat one more time", "repeat once more".
  if (/\b(?:repeat|redo|perform|carry out)\b/.test(rest)) {
    count(/\bonce (?:more|again)\b/g, () => 1);
    count(/\b(?:one|1) (?:more|further|additional) (?:time|cycle)\b/g, () => 1);
  }
  count(global(`\\b(\\d+)\\s*x\\b`), (m) => Number(m[1]));
  count(/\b(twice|thrice)\b/g, (m) => times[m[1]!]!);
  const bound = global(`\\b(?:at most|up to|max(?:imum)?(?: of)?|no more than)\\s*(${number})\\b`).exec(rest);
  if (bound) rest = rest.replace(bound[0], '_');
  return {
    times: found.toSorted((a, b) => a.at - b.at).map((f) => f.time),
    counts,
    ...(bound ? { atMost: readNumber(bound[1]!) } : {}),
    left:
      // Bounds in the wrong order are no bounds.
      found.some(({ time }) => time.minS !== undefined && time.maxS !== undefined && time.maxS <= time.minS) ||
      /\b\d+(?:[.,]\d+)?\s*(?:"|'|ms|days?|weeks?|clicks?|pulses?|°|%)/.test(rest) ||
      /\b(?:several|some|a few|a couple of) (?:seconds|minutes|hours|times)\b/.test(rest),
  };
}
