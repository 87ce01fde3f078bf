import { betaQuantile } from '../statistics';

const { ceil, floor, log, max } = Math;

export interface TrialsAssessed {
  /** Hits among the trials, 0 to 1; null without a trial. */
  rate: number | null;
  /** Two-sided exact limits of the hit rate (Clopper–Pearson). */
  low: number;
  high: number;
  /** One-sided exact upper limit of the miss rate. */
  missUpper: number;
  /** How many more trials without a miss bring `missUpper` down to the target; 0: it is there. */
  furtherCleanTrials: number;
}

export interface TrialsAsked {
  /** 0.95 if not given. */
  confidence?: number;
  /** The miss rate that one wants to rule out, 0 to 1; 0.05 if not given. */
  target?: number;
}

/** More trials than anybody makes. */
export const mostTrials = 1_000_000;

/**
 * What repeated yes/no looks show. Limits after C. J. Clopper and E. S. Pearson, Biometrika 26 (1934) 404: quantiles of the beta distribution, never too
 * narrow. After n trials without a miss the upper limit is 1 − α^(1/n).
 * @param hits 0 to `trials`
 * @param trials whole number from 0; without one everything is possible
 * @throws RangeError when the numbers can't be counts, or confidence or target lie outside of 0 to 1
 * @example assessTrials(15, 15).missUpper // 0.181: fifteen of fifteen still allow nearly one miss in five
 */
export function assessTrials(hits: number, trials: number, { confidence = 0.95, target = 0.05 }: TrialsAsked = {}): TrialsAssessed {
  if (!Number.isInteger(hits) || !Number.isInteger(trials) || hits < 0 || hits > trials || trials > mostTrials)
    throw new RangeError(`${hits} hits of ${trials} trials can't be counts.`);
  if (!(confidence > 0 && confidence < 1 && target > 0 && target < 1)) throw new RangeError('Confidence and target must be between 0 and 1.');
  const alpha = 1 - confidence;
  const misses = trials - hits;
  return {
    rate: trials === 0 ? null : hits / trials,
    low: hits === 0 ? 0 : betaQuantile(alpha / 2, hits, misses + 1),
    high: misses === 0 ? 1 : betaQuantile(1 - alpha / 2, hits + 1, misses),
    missUpper: missLimit(misses, trials, alpha),
    furtherCleanTrials: furtherClean(misses, trials, alpha, target),
  };
}

/** Upper limit of the miss rate that is exceeded with chance alpha. */
function missLimit(misses: number, trials: number, alpha: number): number {
  if (misses === trials) return 1;
  if (misses === 0) return 1 - alpha ** (1 / trials);
  return betaQuantile(1 - alpha, misses + 1, trials - misses);
}

/** The limit falls with every clean trial, so the first number that is enough is found by halving. */
function furtherClean(misses: number, trials: number, alpha: number, target: number): number {
  // The closed form of no miss, and the margin for rounding, so that 59 trials are 59 at 95 % and 5 %.
  if (misses === 0) return max(0, ceil(log(alpha) / log(1 - target) - 1e-9) - trials);
  const enough = (more: number) => missLimit(misses, trials + more, alpha) <= target;
  if (enough(0)) return 0;
  let high = 1;
  while (!enough(high)) high *= 2;
  let low = floor(high / 2);
  while (high - low > 1) {
    const middle = floor((low + high) / 2);
    if (enough(middle)) high = middle;
    else low = middle;
  }
  return high;
}
