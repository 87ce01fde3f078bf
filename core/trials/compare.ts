import { logGamma } from '../statistics';

const { exp, min } = Math;

export interface Counted {
  hits: number;
  trials: number;
}

/**
 * Whether two rates differ: Fisher's exact test, two-sided by summing every table that is no likelier than the one seen (R. A. Fisher, Statistical Methods
 * for Research Workers, 1934; the convention of most programs).
 * @returns the chance of a difference at least so unlikely when the two are alike; 1 where one was never tried
 * @example differByChance({ hits: 3, trials: 3 }, { hits: 0, trials: 3 }) // 0.1
 */
export function differByChance(a: Counted, b: Counted): number {
  const hits = a.hits + b.hits;
  const total = a.trials + b.trials;
  if (a.trials === 0 || b.trials === 0) return 1;
  const logChoose = (n: number, k: number) => logGamma(n + 1) - logGamma(k + 1) - logGamma(n - k + 1);
  const chance = (k: number) => exp(logChoose(a.trials, k) + logChoose(b.trials, hits - k) - logChoose(total, hits));
  const seen = chance(a.hits);
  let sum = 0;
  for (let k = Math.max(0, hits - b.trials); k <= min(a.trials, hits); k += 1) {
    const p = chance(k);
    if (p <= seen * (1 + 1e-7)) sum += p;
  }
  return min(1, sum);
}
