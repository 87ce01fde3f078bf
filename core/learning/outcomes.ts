import type { Tallies } from './tallies';

/** By what an option's price means: its upper end is not passed in 90 of 100 such cases. It weighs as much as 20 agreed options. Our own choice. */
export const expectedWithin = { share: 0.9, weight: 20 } as const;

/** How the bills of one kind of option went; a kind is the first word of the ids of such options. */
export interface OptionOutcome {
  /** Agreed options of closed cases, and those whose bill stayed within the upper end of the price. */
  n: number;
  within: number;
  /** The share to expect of the next one. */
  p: number;
}

/**
 * Outcomes of agreed options, shrunk towards what their price promises: the mean of a beta posterior (Gelman et al., "Bayesian Data Analysis", 3rd ed.,
 * section 2.4).
 * @example outcomesOf({ fix: { n: 10, within: 5 } }).fix.p // 0.767
 */
export function outcomesOf(options: Tallies['options']): Record<string, OptionOutcome> {
  const { share, weight } = expectedWithin;
  return Object.fromEntries(
    Object.entries(options).flatMap(([kind, { n, within }]) => (n > 0 ? [[kind, { n, within, p: (weight * share + within) / (weight + n) }]] : [])),
  );
}
