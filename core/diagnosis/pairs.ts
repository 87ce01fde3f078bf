import type { Counted } from './beliefs';
import { type Compiled, leastChance } from './compile';
import { together } from './together';
import { usualHumanError, withHumanError } from './rows';

/** How often two faults are there at once, before anything is seen. Our own, small choice. */
export const pairPrior = 0.02;

export interface Pairs {
  /** Chance that two faults are there at once, 0 to 1. */
  p: number;
  /** The likeliest pairs, as numbers of hypotheses, with their chances; they add up to `p` when all are listed. */
  top: { faults: [number, number]; p: number }[];
}

/**
 * Two faults at once, weighed apart from the single ones: every pair of different faults with the product of their priors, and of "something else"
 * none. Exact over all pairs.
 * @param findings those that count; a repair in vain leaves the pairs in which its fault was one of two, with the other one to find
 * @param limit number of pairs listed
 */
export function pairsOf(compiled: Compiled, findings: readonly Counted[], limit = 3): Pairs {
  const { model, hypotheses, tests } = compiled;
  const n = hypotheses.length;
  const width = n + 1;
  const repaired = new Set(findings.flatMap((f) => f.ruledOut));
  const made = findings.filter((f) => f.test);
  // What the findings say of each single hypothesis and of "something else".
  const single = Array.from({ length: width }, (_, f) => made.reduce((x, { chances }) => x * chances![f]!, 1));
  const priors = [...model.faults.map((f) => f.prior), model.elsePrior];
  const singles = priors.reduce((x, p, f) => x + (repaired.has(f) ? 0 : p * single[f]!), 0);

  const weighed: { faults: [number, number]; p: number }[] = [];
  let priorOfPairs = 0;
  for (let a = 0; a < n; a += 1)
    for (let b = a + 1; b < n; b += 1) {
      const prior = priors[a]! * priors[b]!;
      priorOfPairs += prior;
      if (repaired.has(a) && repaired.has(b)) continue;
      const p = made.reduce((x, { test }) => {
        const { humanError } = tests[test!.index]!.test;
        return x * Math.max(leastChance, withHumanError(together(compiled, test!.index, a, b), humanError ?? usualHumanError)[test!.outcome]!);
      }, prior);
      weighed.push({ faults: [a, b], p });
    }
  const total = weighed.reduce((x, { p }) => x + p, 0);
  const asPairs = (pairPrior * total) / (priorOfPairs || 1);
  const all = asPairs + (1 - pairPrior) * singles;
  const share = all > 0 ? asPairs / all : 0;
  return {
    p: share,
    top: weighed
      .sort((x, y) => y.p - x.p)
      .slice(0, limit)
      .map(({ faults, p }) => ({ faults, p: total > 0 ? (share * p) / total : 0 })),
  };
}
