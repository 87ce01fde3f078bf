import type { Lit, Recording } from './recording';

const { exp, log, max, PI, round, sqrt } = Math;

/**
 * How people tap along with a lamp. Our own figures, chosen wider than the tapping that is asked for (delay about 0.2 s and drifting, jitter about
 * 0.08 s, some taps missed or doubled), so that a person who taps a little otherwise is still read.
 */
export const tapping = {
  /** Mean and spread of the delay, seconds. */
  delayS: 0.23,
  delaySpreadS: 0.1,
  /** Spread of a single edge round the delay, and of the one in ten that goes astray. */
  jitterS: 0.1,
  strayS: 0.35,
  strayShare: 0.1,
  /** A flash that is not tapped, a tap that answers no flash, and one flash tapped in two goes. */
  missed: 0.04,
  extra: 0.02,
  /** A slip is short: mean length, seconds. */
  extraS: 0.3,
  split: 0.04,
  /** How far a lamp's own tempo lies from its numbers. */
  tempoSpread: 0.03,
} as const;

const gauss = (x: number, spread: number): number => exp(-0.5 * (x / spread) ** 2) / (spread * sqrt(2 * PI));

/** Density of one tapped edge that lies `x` seconds from where it should; never quite 0, since people also look away. */
const edgeDensity = (x: number): number =>
  (1 - tapping.strayShare) * gauss(x, tapping.jitterS) + tapping.strayShare * gauss(x, tapping.strayS) + 1e-6;

/** The same from a table, since it is asked for millions of times: in steps of 2 ms up to 3 s, where nothing but the floor is left. */
const stepS = 0.002;
const reachS = 3;
const table = Float64Array.from({ length: round(reachS / stepS) + 1 }, (_, k) => edgeDensity(k * stepS));
const floorDensity = 1e-6;
const edge = (x: number): number => {
  const away = x < 0 ? -x : x;
  return away >= reachS ? floorDensity : table[(away / stepS + 0.5) | 0]!;
};

/** Rows are scaled up when they get smaller than this, so that they don't run out of the range of numbers. */
const small = 1e-120;

/**
 * Log density of tapped lights under a pattern that is lit at the given times, for one delay: the sum over all alignments that keep the order, in
 * which each light is tapped, tapped in two goes, or missed, and each tap that is left over is a slip (a forward recursion as in hidden
 * Markov models; Rabiner 1989). Cost grows with the product of the two numbers of lights.
 * @param delayS how late this person taps, seconds
 */
export function alignedLogDensity(seen: Recording, lit: readonly Lit[], delayS: number): number {
  const { lengthS, litAtEnd } = seen;
  const taps = seen.lit;
  const n = taps.length;
  const m = lit.length;
  // A slip may lie anywhere in the look; hardly one is long.
  const slip = Float64Array.from(
    taps,
    (t) => (tapping.extra / (lengthS + 1)) * (exp(-(t.offS - t.onS) / tapping.extraS) / tapping.extraS + floorDensity),
  );
  const hit = 1 - tapping.missed - tapping.split;
  // A light that begins so late that its tap would fall after the end costs nothing.
  const miss = Float64Array.from(lit, (l) => (l.onS + delayS >= lengthS ? 1 : tapping.missed));
  const split = Float64Array.from(lit, (l) => tapping.split / (l.offS - l.onS + 0.3) ** 2);
  const end = (i: number, j: number): number => {
    const openTap = litAtEnd && i === n - 1;
    const openLight = lit[j]!.offS + delayS >= lengthS;
    // Neither end was seen: the look was over before.
    if (openTap && openLight) return 1;
    if (openTap) return edge(lengthS - lit[j]!.offS - delayS) / 2;
    return edge(taps[i]!.offS - (openLight ? lengthS : lit[j]!.offS + delayS));
  };
  let row = new Float64Array(m + 1);
  let above = new Float64Array(m + 1);
  let twoAbove = new Float64Array(m + 1);
  let scale = 0;
  for (let i = 0; i <= n; i += 1) {
    let most = 0;
    for (let j = 0; j <= m; j += 1) {
      let sum = i === 0 && j === 0 ? 1 : 0;
      if (j > 0) sum += row[j - 1]! * miss[j - 1]!;
      if (i > 0) {
        sum += above[j]! * slip[i - 1]!;
        if (j > 0) {
          const shift = lit[j - 1]!.onS + delayS;
          const once = above[j - 1]! * hit * edge(taps[i - 1]!.onS - shift);
          const twice = i > 1 ? twoAbove[j - 1]! * split[j - 1]! * edge(taps[i - 2]!.onS - shift) : 0;
          if (once + twice > 0) sum += (once + twice) * end(i - 1, j - 1);
        }
      }
      row[j] = sum;
      if (sum > most) most = sum;
    }
    if (most < small) {
      const up = 1 / most;
      scale -= log(up);
      for (const r of [row, above]) for (let j = 0; j <= m; j += 1) r[j]! *= up;
    }
    [twoAbove, above, row] = [above, row, twoAbove];
  }
  return log(above[m]!) + scale;
}

/** Spread of the length between two tapped edges, seconds: each has its own jitter. */
const lengthSpreadS = tapping.jitterS * sqrt(2);
/** Share of lengths in a regular flashing that are others, such as pauses between groups. */
const irregular = 0.15;
const shortestS = 0.05;

/**
 * Log density of taps that follow no pattern of the list: half of what lamps do besides is taken to be without any order, half to flash evenly in a
 * tempo that nobody has told.
 */
export function strangeLogDensity(seen: Recording): number {
  const [a, b] = [aimlessLogDensity(seen), evenLogDensity(seen)];
  const most = max(a, b);
  return most + log((exp(a - most) + exp(b - most)) / 2);
}

/** Lights anywhere in the look, of any length from a twentieth of a second on. */
function aimlessLogDensity({ lengthS, lit }: Recording): number {
  const longest = log(max(lengthS, 1) / shortestS);
  const each = lit.reduce((sum, l) => sum - log(lengthS + 1) - log(max(l.offS - l.onS, shortestS)) - log(longest), 0);
  return each - log((lit.length + 1) * (lit.length + 2));
}

/** Lights and darks that each have one length, whichever that is (its density by Laplace's method round the median), save for some others. */
function evenLogDensity({ lengthS, lit, litAtEnd }: Recording): number {
  const longest = log(max(lengthS, 1) / shortestS);
  const lights = lit.slice(0, litAtEnd ? -1 : undefined).map((l) => l.offS - l.onS);
  const darks = lit.slice(1).map((l, i) => l.onS - lit[i]!.offS);
  const ofOneLength = (list: readonly number[]): number => {
    if (list.length === 0) return 0;
    const middle = max([...list].sort((x, y) => x - y)[list.length >> 1]!, shortestS);
    const width = (lengthSpreadS * sqrt((2 * PI) / list.length)) / (middle * longest);
    return list.reduce(
      (sum, s) => sum + log((1 - irregular) * gauss(s - middle, lengthSpreadS) + irregular / (max(s, shortestS) * longest)),
      log(width < 1 ? width : 1),
    );
  };
  return ofOneLength(lights) + ofOneLength(darks) - log(lengthS + 1) - log((lit.length + 1) * (lit.length + 2));
}
