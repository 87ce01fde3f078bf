import type { Compiled } from './compile';

/** Faults that all tests together tell from every other one: the stated measure and limit (docs/benchmarks.md). */
export function tellableFaults(compiled: Compiled): boolean[] {
  const { hypotheses } = compiled;
  return hypotheses.map((_, a) => hypotheses.every((__, b) => a === b || divergence(compiled, a, b) >= tellableBits));
}

/** From here on two faults count as told apart: 1 bit bounds the error of the better guess between two equally likely ones at one quarter. */
export const tellableBits = 1;

/**
 * How far all tests together tell two faults apart, in bits: the Bhattacharyya distance (Kailath, "The divergence and Bhattacharyya distance measures in
 * signal selection", 1967), of tests that look at the same thing the most telling one.
 */
export function divergence(compiled: Compiled, a: number, b: number): number {
  const width = compiled.hypotheses.length + 1;
  const byGroup = new Map<string, number>();
  compiled.model.tests.forEach(({ p, outcomes }, t) => {
    const common = outcomes.reduce((n, _, o) => n + Math.sqrt(p[o * width + a]! * p[o * width + b]!), 0);
    const { group } = compiled.tests[t]!;
    byGroup.set(group, Math.max(byGroup.get(group) ?? 0, -Math.log2(common)));
  });
  return [...byGroup.values()].reduce((x, y) => x + y, 0);
}
