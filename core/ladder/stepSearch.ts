/** How long a try and the wait after a refusal take. */
export interface TryTimes {
  /** From one lockout's end to the next answer: resistor in, ignition on, look; seconds. */
  tryS: number;
  /** Wait after a wrong step, seconds. */
  lockoutS: number;
}

export interface StepSearch {
  /** Steps by number, the one to try first at the front; those that were refused are left out. */
  order: number[];
  /** Chance of each in that order, after what was refused. */
  chances: number[];
  /** To the answer that accepts, on average and at worst, seconds; the wait that runs now is not in it. */
  expectedSeconds: number;
  worstSeconds: number;
}

/**
 * The order of tries with the least expected time. Every try costs the same and every refusal the same wait, so the likelier step always comes first: swapping
 * two neighbours p, q changes the expectation by (p − q) × (try + wait) (W. E. Smith, 1956, with equal lengths). A step with no chance comes last, by number.
 * @param steps with their chances, which need not add up to 1; equal chances keep the order in which they stand
 * @param refused steps that were tried and not accepted
 * @returns null when no step is left
 */
export function searchSteps(
  steps: readonly { step: number; p: number }[],
  { tryS, lockoutS }: TryTimes,
  refused: readonly number[] = [],
): StepSearch | null {
  const left = steps.filter((s) => !refused.includes(s.step));
  if (left.length === 0) return null;
  const sum = left.reduce((s, x) => s + x.p, 0);
  const ranked = left.map((s) => ({ step: s.step, p: sum > 0 ? s.p / sum : 1 / left.length })).sort((a, b) => b.p - a.p);
  const untilAnswer = (i: number) => (i + 1) * tryS + i * lockoutS;
  return {
    order: ranked.map((r) => r.step),
    chances: ranked.map((r) => r.p),
    expectedSeconds: ranked.reduce((s, r, i) => s + r.p * untilAnswer(i), 0),
    worstSeconds: untilAnswer(ranked.length - 1),
  };
}

/**
 * Chances of the steps from how often the shop met them: one seen in advance for each (Laplace), so that none is ruled out by a short history.
 * @param counts by step, in the ladder's order
 */
export function historyPrior(counts: readonly number[]): number[] {
  const sum = counts.reduce((s, c) => s + c, 0) + counts.length;
  return counts.map((c) => (c + 1) / sum);
}

/** A prior together with what a doubtful reading of the key says; a reading may be wrong altogether, so every step keeps a hundredth. */
export function withReading(prior: readonly number[], read: readonly number[]): number[] {
  const sum = read.reduce((s, p) => s + p, 0);
  const share = (p: number) => (sum > 0 ? 0.99 * (p / sum) : 0) + 0.01 / read.length;
  const joint = prior.map((p, i) => p * share(read[i]!));
  const total = joint.reduce((s, p) => s + p, 0);
  return joint.map((p) => p / total);
}
