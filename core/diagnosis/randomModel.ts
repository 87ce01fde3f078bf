import type { Model, ModelTest } from './model';

/** The ranges that random models are drawn from. */
export interface Regime {
  faults: number;
  tests: number;
  outcomes: readonly [number, number];
  /** Probability of the outcome that a fault usually gives. */
  reliability: readonly [number, number];
  testCost: readonly [number, number];
  repair: readonly [number, number];
}

/** The three regimes in which the policy is measured against the optimum (docs/benchmarks.md). */
export const regimes = {
  usual: { faults: 8, tests: 8, outcomes: [2, 3], reliability: [0.8, 0.99], testCost: [2, 20], repair: [10, 200] },
  noisy: { faults: 8, tests: 8, outcomes: [2, 3], reliability: [0.6, 0.9], testCost: [2, 20], repair: [10, 200] },
  cheapRepairs: { faults: 8, tests: 8, outcomes: [2, 3], reliability: [0.8, 0.99], testCost: [2, 20], repair: [10, 40] },
} as const satisfies Record<string, Regime>;

/** Draws a model: each test gives each fault one usual outcome, with a reliability of its own, and the others evenly. */
export function randomModel(regime: Regime, draw: () => number): Model {
  const between = ([low, high]: readonly [number, number]) => low + (high - low) * draw();
  // Shares of exponential draws are spread evenly over all ways to divide 1 (Devroye, "Non-uniform random variate generation", 1986).
  const shares = Array.from({ length: regime.faults }, () => -Math.log(1 - draw()) + 1e-6);
  const all = shares.reduce((a, b) => a + b, 0);
  return {
    faults: shares.map((s, i) => ({ id: `f${i}`, prior: s / all, repair: between(regime.repair) })),
    refer: null,
    elsePrior: 0,
    tests: Array.from({ length: regime.tests }, (_, i) => randomTest(`t${i}`, regime, between, draw)),
  };
}

function randomTest(id: string, regime: Regime, between: (range: readonly [number, number]) => number, draw: () => number): ModelTest {
  const [fewest, most] = regime.outcomes;
  const outcomes = Array.from({ length: fewest + Math.floor(draw() * (most - fewest + 1)) }, (_, o) => `o${o}`);
  const width = regime.faults + 1;
  const p = new Float64Array(outcomes.length * width);
  for (let f = 0; f < width; f += 1) {
    const usual = Math.floor(draw() * outcomes.length);
    const reliability = between(regime.reliability);
    outcomes.forEach((_, o) => (p[o * width + f] = o === usual ? reliability : (1 - reliability) / (outcomes.length - 1)));
  }
  return { id, cost: between(regime.testCost), outcomes, p, rank: 0 };
}
