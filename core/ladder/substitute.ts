import type { Resistor } from './resistors';
import { sentences } from './sentences';

/** How up to three resistors are joined; `pairAcross` is one in line with two across each other, `pairInLine` is two in line, and one across both. */
export type Shape = 'one' | 'series' | 'parallel' | 'series3' | 'parallel3' | 'pairAcross' | 'pairInLine';

export interface Combination {
  shape: Shape;
  resistors: Resistor[];
  /** `a + b` in line, `a || b` across, ohms. */
  expression: string;
  parts: number;
  nominal: number;
  /** With every part at its limit, ohms. */
  worstLow: number;
  worstHigh: number;
  /** Distance of the nominal value from the target, ohms. */
  error: number;
  /** Inside the window with every part at its limit; null: there is no window. */
  inside: boolean | null;
  /** What the hottest part turns into heat at the sense voltage, watts; null: no voltage was given. */
  hottestWatts: number | null;
}

export interface Wanted {
  targetOhms: number;
  window?: { low: number; high: number };
  mostParts?: 1 | 2 | 3;
  /** How many combinations are given. */
  limit?: number;
  /** The most that lies across the whole, volts: combinations in which a part would get too hot are left out. */
  senseVolts?: number;
  /** Asked now and then; true: stop, what was found so far counts for nothing. */
  stopped?: () => boolean;
  /** Told how far it is, 0 to 1. */
  progress?: (share: number) => void;
}

type Values = readonly [number, number, number];

const across = (a: number, b: number): number => (a * b) / (a + b);
const valueOf: Readonly<Record<Shape, (v: Values) => number>> = {
  one: ([a]) => a,
  series: ([a, b]) => a + b,
  parallel: ([a, b]) => across(a, b),
  series3: ([a, b, c]) => a + b + c,
  parallel3: ([a, b, c]) => across(across(a, b), c),
  pairAcross: ([a, b, c]) => across(a, b) + c,
  pairInLine: ([a, b, c]) => across(a + b, c),
};
const written: Readonly<Record<Shape, (v: readonly string[]) => string>> = {
  one: ([a]) => a!,
  series: ([a, b]) => `${a} + ${b}`,
  parallel: ([a, b]) => `${a} || ${b}`,
  series3: ([a, b, c]) => `${a} + ${b} + ${c}`,
  parallel3: ([a, b, c]) => `${a} || ${b} || ${c}`,
  pairAcross: ([a, b, c]) => `${c} + (${a} || ${b})`,
  pairInLine: ([a, b, c]) => `(${a} + ${b}) || ${c}`,
};
/** A resistor's value as it is printed on the bag: `390 Ω`, `2.2 kΩ`. */
const printed = (ohms: number): string =>
  ohms < 1000
    ? `${Number(ohms.toPrecision(6))} Ω`
    : ohms < 1e6
      ? `${Number((ohms / 1000).toPrecision(6))} kΩ`
      : `${Number((ohms / 1e6).toPrecision(6))} MΩ`;

const said: Readonly<Record<Shape, (...parts: [string, string, string]) => string>> = {
  one: sentences.oneResistor,
  series: sentences.twoInSeries,
  parallel: sentences.twoInParallel,
  series3: sentences.threeInSeries,
  parallel3: sentences.threeInParallel,
  pairAcross: sentences.parallelThenSeries,
  pairInLine: sentences.seriesThenAcross,
};

/** The combination as it is said at the bench: "2.2 kΩ and 3.9 kΩ in parallel". */
export const inWords = ({ shape, resistors }: Pick<Combination, 'shape' | 'resistors'>): string => {
  const [a = '', b = '', c = ''] = resistors.map((r) => printed(r.ohms));
  return said[shape](a, b, c);
};

const partsOf: Readonly<Record<Shape, 1 | 2 | 3>> = { one: 1, series: 2, parallel: 2, series3: 3, parallel3: 3, pairAcross: 3, pairInLine: 3 };

/** Volts across each part, with so many across the whole. */
export function voltsOf(shape: Shape, v: readonly number[], whole: number): number[] {
  const [a = 0, b = 0, c = 0] = v;
  switch (shape) {
    case 'one':
      return [whole];
    case 'series':
      return [a, b].map((r) => (whole * r) / (a + b));
    case 'series3':
      return [a, b, c].map((r) => (whole * r) / (a + b + c));
    case 'parallel':
      return [whole, whole];
    case 'parallel3':
      return [whole, whole, whole];
    case 'pairAcross': {
      const pair = across(a, b);
      const volts = (whole * pair) / (pair + c);
      return [volts, volts, whole - volts];
    }
    case 'pairInLine':
      return [(whole * a) / (a + b), (whole * b) / (a + b), whole];
  }
}

interface Found {
  shape: Shape;
  /** Places in the sorted stock. */
  at: readonly number[];
  nominal: number;
  error: number;
  inside: boolean | null;
}

/** Keeps the best so many by error; ties go to the one found first, which is the one of fewer parts. */
class Best {
  readonly found: Omit<Found, 'inside'>[] = [];
  constructor(readonly limit: number) {}
  /** What is not nearer than this can't enter; nothing can where nothing is kept. */
  get bar(): number {
    if (this.limit <= 0) return -Infinity;
    return this.found.length < this.limit ? Infinity : this.found[this.found.length - 1]!.error;
  }
  add(entry: Best['found'][number]): void {
    if (entry.error >= this.bar) return;
    let i = this.found.length;
    while (i > 0 && this.found[i - 1]!.error > entry.error) i -= 1;
    this.found.splice(i, 0, entry);
    if (this.found.length > this.limit) this.found.pop();
  }
}

/**
 * The best combinations of one to three resistors, exactly: with two of three fixed, the third moves the whole one way only, so the nearest ones lie next to
 * the value that would hit the target, and the search goes outwards from there until nothing nearer can come. The value needed shrinks as the second part
 * grows, so three parts take in the order of n² steps (n: kinds at hand) in place of n³.
 *
 * With a window: those inside it at their limits first, then by number of parts, then by error. Without one: by error. Never more of a kind than there are.
 * @param stock any order; sorted here
 * @returns best first, `limit` at most (10 if not given); null when it was stopped
 */
export function substitutes(stock: readonly Resistor[], wanted: Wanted): Combination[] | null {
  const { targetOhms: target, window, mostParts = 3, limit = 10, senseVolts } = wanted;
  const sorted = [...stock].filter((r) => (r.count ?? 1) > 0).sort((a, b) => a.ohms - b.ohms);
  const ohms = sorted.map((r) => r.ohms);
  const n = sorted.length;
  const enough = (at: readonly number[]): boolean => {
    if (sorted.every((r) => r.count === undefined)) return true;
    return at.every((i) => sorted[i]!.count === undefined || at.filter((j) => j === i).length <= sorted[i]!.count!);
  };
  const unlimited = sorted.every((r) => r.count === undefined);
  const bounds = (shape: Shape, at: readonly number[]): [number, number] => {
    const side = (sign: 1 | -1) => valueOf[shape](at.map((i) => ohms[i]! * (1 + sign * sorted[i]!.tolerance)) as unknown as Values);
    return [side(-1), side(1)];
  };
  const isInside = (shape: Shape, at: readonly number[]): boolean => {
    const [low, high] = bounds(shape, at);
    return low >= window!.low && high <= window!.high;
  };
  const hottest = (shape: Shape, at: readonly number[]): number[] =>
    voltsOf(
      shape,
      at.map((i) => ohms[i]!),
      senseVolts!,
    ).map((v, k) => (v * v) / ohms[at[k]!]!);
  const cool = (shape: Shape, at: readonly number[]): boolean =>
    senseVolts === undefined || hottest(shape, at).every((w, k) => sorted[at[k]!]!.watts === undefined || w <= sorted[at[k]!]!.watts!);

  // Every combination is off by the finest part's tolerance at least, since the whole grows in step with its parts: a nominal value nearer to an edge is out.
  const finest = Math.min(...sorted.map((r) => r.tolerance));
  const room = window ? { low: window.low / (1 - finest), high: window.high / (1 + finest) } : null;
  const widest = room === null ? Infinity : room.low > room.high ? -Infinity : Math.max(room.high - target, target - room.low);
  const result: Found[] = [];
  const outside: Found[] = [];
  const overall = new Best(limit);
  for (const parts of [1, 2, 3] as const) {
    if (parts > mostParts) break;
    const inside = window ? new Best(limit) : overall;
    const beside = new Best(window ? limit - outside.length : 0);
    /** A nominal value further from the target than this matters no more. */
    const reachOf = (): number => Math.max(beside.bar, Math.min(inside.bar, widest));
    let far = reachOf();
    const consider = (shape: Shape, at: readonly number[], nominal: number): void => {
      if (!(unlimited || enough(at)) || !cool(shape, at)) return;
      const to = !window || isInside(shape, at) ? inside : beside;
      to.add({ shape, at, nominal, error: Math.abs(nominal - target) });
      far = reachOf();
    };
    /** Goes outwards over the last part, with the others fixed, from the first value that makes the whole too large; no lower than `from`. */
    const outwards = (shape: Shape, fixed: readonly number[], start: number, from: number): void => {
      const value = valueOf[shape];
      const [a = 0, b = 0] = fixed.map((i) => ohms[i]!);
      const whole = (i: number): number => (fixed.length === 0 ? ohms[i]! : fixed.length === 1 ? value([a, ohms[i]!, 0]) : value([a, b, ohms[i]!]));
      for (const step of [1, -1]) {
        for (let i = step === 1 ? start : start - 1; i >= from && i < n; i += step) {
          const nominal = whole(i);
          if (!(Math.abs(nominal - target) <= far)) break;
          consider(shape, [...fixed, i], nominal);
        }
      }
    };
    if (parts === 1) outwards('one', [], lowerBound(ohms, target), 0);
    for (let a = 0; parts > 1 && a < n; a += 1) {
      if (a % 16 === 0) {
        if (wanted.stopped?.()) return null;
        wanted.progress?.((parts === 3 ? 0.05 : 0) + (a / n) * (parts === 3 ? 0.95 : 0.05));
      }
      const first = ohms[a]!;
      if (parts === 2) {
        outwards('series', [a], Math.max(a, lowerBound(ohms, target - first)), a);
        outwards('parallel', [a], Math.max(a, lowerBound(ohms, inverse(target, first))), a);
        continue;
      }
      // With a growing second part the third that is needed only shrinks: four marks wander down, and nothing is searched for.
      let [inLine, acrossAll, underPair, besidePair] = [n, n, n, n];
      for (let b = a; b < n; b += 1) {
        const second = ohms[b]!;
        const sum = first + second;
        const pair = (first * second) / sum;
        const [need, needAcross, needUnder, needBeside] = [target - sum, inverse(target, pair), target - pair, inverse(target, sum)];
        while (inLine > 0 && ohms[inLine - 1]! >= need) inLine -= 1;
        while (acrossAll > 0 && ohms[acrossAll - 1]! >= needAcross) acrossAll -= 1;
        while (underPair > 0 && ohms[underPair - 1]! >= needUnder) underPair -= 1;
        while (besidePair > 0 && ohms[besidePair - 1]! >= needBeside) besidePair -= 1;
        // Each third part that is next to the one needed is looked at by a sum or two; only what is near enough is worth more.
        const start = Math.max(b, inLine);
        if ((start < n && ohms[start]! - need <= far) || (start > b && need - ohms[start - 1]! <= far)) outwards('series3', [a, b], start, b);
        const start2 = Math.max(b, acrossAll);
        if (
          (start2 < n && Math.abs(across(pair, ohms[start2]!) - target) <= far) ||
          (start2 > b && Math.abs(across(pair, ohms[start2 - 1]!) - target) <= far)
        )
          outwards('parallel3', [a, b], start2, b);
        if ((underPair < n && ohms[underPair]! - needUnder <= far) || (underPair > 0 && needUnder - ohms[underPair - 1]! <= far))
          outwards('pairAcross', [a, b], underPair, 0);
        if (
          (besidePair < n && Math.abs(across(sum, ohms[besidePair]!) - target) <= far) ||
          (besidePair > 0 && Math.abs(across(sum, ohms[besidePair - 1]!) - target) <= far)
        )
          outwards('pairInLine', [a, b], besidePair, 0);
      }
    }
    if (window) {
      result.push(...inside.found.map((f) => ({ ...f, inside: true })));
      outside.push(...beside.found.map((f) => ({ ...f, inside: false })));
      if (result.length >= limit) break;
    }
  }
  const best = window ? [...result, ...outside].slice(0, limit) : overall.found.map((f) => ({ ...f, inside: null }));
  return best.map(({ shape, at, nominal, error, inside }) => {
    const [worstLow, worstHigh] = bounds(shape, at);
    return {
      shape,
      resistors: at.map((i) => sorted[i]!),
      expression: written[shape](at.map((i) => String(ohms[i]))),
      parts: partsOf[shape],
      nominal,
      worstLow,
      worstHigh,
      error,
      inside,
      hottestWatts: senseVolts === undefined ? null : Math.max(...hottest(shape, at)),
    };
  });
}

/** What must lie across `other` to make `target`; Infinity where nothing that large is enough. */
const inverse = (target: number, other: number): number => (other > target ? (target * other) / (other - target) : Infinity);

/** Index of the first value not below x. */
function lowerBound(values: readonly number[], x: number): number {
  let [low, high] = [0, values.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (values[middle]! < x) low = middle + 1;
    else high = middle;
  }
  return low;
}
