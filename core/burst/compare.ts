import { logGamma } from '../statistics';
import type { Burst, Measured } from './measure';

/** What a capture is known by: how often the coil asks, how long, and how far apart. Lengths and spacings are medians. */
export interface BurstFeatures {
  count: number;
  /** Of a burst, ms; null without one. */
  lengthMs: number | null;
  /** From start to start, ms; null with fewer than two. */
  spacingMs: number | null;
}

/** Captures of one condition, such as a key in foil. */
export interface Baseline {
  condition: string;
  captures: readonly BurstFeatures[];
}

export interface Compared {
  /** Each condition and `none`, which is like none of them; the likeliest first, adding up to 1. */
  matches: { condition: string; p: number }[];
  /** A condition, `none`, or null while it is not settled. */
  verdict: string | null;
  /** So many more captures like these are expected to settle it; 0 where it is, null where they won't or nobody knows. */
  more: number | null;
}

export const likeNone = 'none';

/** From here it is settled. */
export const settledFrom = 0.95;
/** Before anything is compared: that it is like none of the baselines. Our own choice. */
const priorNone = 0.1;
/** A count that no capture of a condition had yet, against one capture. */
const otherCount = 0.1;
/** The same count comes back so often; one more or less, each. */
const [sameCount, besideCount] = [0.9, 0.05];
/**
 * Spread of repeated captures before there are any: logarithms, so 0.05 are 5 %; it weighs as much as so many captures. Our own choice: a module times its bursts by a crystal, a probe moves their edges.
 */
const [priorSpread, priorWeight] = [0.05, 3];
/** One length in so many is a slip of an edge, and may be anything. */
const slip = 0.002;
/** Lengths and spacings of anything: between 0.01 ms and 10 s, each decade alike. */
const anyLog = 1 / Math.log(1e6);
/** Below this a further capture tells nothing, natural logarithms of the odds. */
const tellsFrom = 0.02;
/** Nobody makes more. */
const mostFurther = 50;

const median = (values: readonly number[]): number | null => {
  if (values.length === 0) return null;
  const sorted = [...values].sort((a, b) => a - b);
  return (sorted[(sorted.length - 1) >> 1]! + sorted[sorted.length >> 1]!) / 2;
};

/** What a measured capture is known by; null where it could not be measured. */
export function featuresOf({
  bursts,
  quality,
}: {
  bursts: readonly Pick<Burst, 'startS' | 'durationS'>[];
  quality: Measured['quality'];
}): BurstFeatures | null {
  if (quality === 'notMeasurable') return null;
  return {
    count: bursts.length,
    lengthMs: median(bursts.map((b) => b.durationS * 1000)),
    spacingMs: median(bursts.slice(1).map((b, i) => (b.startS - bursts[i]!.startS) * 1000)),
  };
}

/** Any count, the rarer the higher: 1/((k+1)(k+2)), which adds up to 1. */
const anyCount = (k: number) => 1 / ((k + 1) * (k + 2));

function countLikelihood(k: number, seen: readonly number[]): number {
  const near = seen.reduce((sum, own) => {
    // One burst and none is no slip of counting: whether the coil asks at all.
    if (own === 0 || k === 0) return sum + (k === own ? 1 : 0);
    return sum + (k === own ? sameCount : Math.abs(k - own) === 1 ? besideCount : 0);
  }, 0);
  return (near + otherCount * anyCount(k)) / (seen.length + otherCount);
}

/**
 * Density of a logarithm after others of its kind: Student's t of the normal distribution with unknown mean and variance, the mean free, the variance known
 * beforehand as well as from `priorWeight` captures (A. Gelman and others, Bayesian Data Analysis, 3rd edition 2013, section 3.3).
 */
function logLikelihood(x: number, seen: readonly number[]): number {
  const n = seen.length;
  if (n === 0) return anyLog;
  const mean = seen.reduce((a, b) => a + b, 0) / n;
  const degrees = priorWeight + n - 1;
  const squares = priorWeight * priorSpread ** 2 + seen.reduce((sum, v) => sum + (v - mean) ** 2, 0);
  const scale = Math.sqrt((squares / degrees) * (1 + 1 / n));
  const z = (x - mean) / scale;
  const log = logGamma((degrees + 1) / 2) - logGamma(degrees / 2) - 0.5 * Math.log(degrees * Math.PI) - Math.log(scale);
  // A length that was never seen is still possible: otherwise one slip of an edge would rule a condition out.
  return (1 - slip) * Math.exp(log - ((degrees + 1) / 2) * Math.log1p((z * z) / degrees)) + slip * anyLog;
}

const logs = (captures: readonly BurstFeatures[], what: 'lengthMs' | 'spacingMs') =>
  captures.flatMap((c) => (c[what] === null ? [] : [Math.log(c[what])]));

/** Logarithm of how likely a capture is under a condition; with no captures of it, under any. */
function weight(capture: BurstFeatures, captures: readonly BurstFeatures[]): number {
  let sum = Math.log(
    captures.length === 0
      ? anyCount(capture.count)
      : countLikelihood(
          capture.count,
          captures.map((c) => c.count),
        ),
  );
  for (const what of ['lengthMs', 'spacingMs'] as const)
    if (capture[what] !== null) sum += Math.log(logLikelihood(Math.log(capture[what]), logs(captures, what)));
  return sum;
}

/**
 * Which condition captures look like: Bayes over the baselines and `none`, each capture and each feature counted as independent when the condition is given.
 * @param captures all of the same thing, one at least
 * @param baselines each with one capture at least
 * @param alike conditions that mean the same; how many more captures are needed is counted against what means something else
 */
export function compareBursts(
  captures: readonly BurstFeatures[],
  baselines: readonly Baseline[],
  alike: (a: string, b: string) => boolean = (a, b) => a === b,
): Compared {
  const all = [...baselines, { condition: likeNone, captures: [] }];
  const said = all.map(({ condition, captures: own }) => ({
    condition,
    said: captures.reduce((sum, c) => sum + weight(c, own), 0),
    prior: Math.log(condition === likeNone ? (baselines.length === 0 ? 1 : priorNone) : (1 - priorNone) / baselines.length),
  }));
  const top = Math.max(...said.map((s) => s.said + s.prior));
  const weights = said.map((s) => Math.exp(s.said + s.prior - top));
  const total = weights.reduce((a, b) => a + b, 0);
  const ranked = said.map((s, i) => ({ ...s, p: weights[i]! / total })).sort((a, b) => b.p - a.p);
  const first = ranked[0];
  const second = ranked.find((r) => !alike(r.condition, first!.condition));
  const settled = first!.p >= settledFrom;
  return {
    matches: ranked.map(({ condition, p }) => ({ condition, p })),
    verdict: settled && baselines.length > 0 ? first!.condition : null,
    more: settled ? 0 : second === undefined ? null : further(first!, second, captures.length),
  };
}

interface Said {
  said: number;
  prior: number;
}
/** Captures like those there are, until the first is settled against the second. */
function further(first: Said, second: Said, captures: number): number | null {
  const each = (first.said - second.said) / captures;
  if (each < tellsFrom) return null;
  const missing = Math.log(settledFrom / (1 - settledFrom)) - (first.said + first.prior - second.said - second.prior);
  const needed = Math.max(1, Math.ceil(missing / each));
  return needed > mostFurther ? null : needed;
}
