import { type Aspect, aspects, type ChanceRow, type FaultDefinition, holds, type ParamValues, type TestDefinition } from '../library';

/** How often a person takes one outcome for another where the test says nothing else. */
export const usualHumanError = 0.02;

/** Where the chances of a test under a fault come from. */
export type RowOrigin = 'fault' | 'shown' | 'default';

export interface Row {
  /** Chance of each outcome, in the order of the test's outcomes; adds up to 1. */
  p: number[];
  origin: RowOrigin;
}

/**
 * The chances of a test's outcomes under a fault, before human error: the fault's own row; else the rows of the states that the fault shows, in their
 * shares; else the row of a vehicle without a fault.
 * @param fault null: a vehicle without a fault
 */
export function rowOf(test: TestDefinition, fault: FaultDefinition | null, params: ParamValues): Row {
  const rows = test.p ?? {};
  const own = fault ? rows[fault.id] : undefined;
  if (own) return { p: chances(test, own, params), origin: 'fault' };
  const asked = aspectsOf(test);
  for (const aspect of asked) {
    const shows = fault?.shows?.[aspect];
    if (shows === undefined) continue;
    const shares = typeof shows === 'string' ? { [shows]: 1 } : shows;
    if (!Object.keys(shares).some((state) => rows[`${aspect}.${state}`])) {
      // The author has said what is shown, and the test does not tell that state from any other.
      if (asked.at(-1) === aspect) return { p: normal(test, params), origin: 'shown' };
      continue;
    }
    const mixed = Object.entries(shares).map(([state, share]) => {
      const row = rows[`${aspect}.${state}`];
      return (row ? chances(test, row, params) : normal(test, params)).map((p) => p * share);
    });
    return { p: mixed.reduce((a, b) => a.map((x, i) => x + b[i]!)), origin: 'shown' };
  }
  return { p: normal(test, params), origin: 'default' };
}

/** The aspects that a test asks about, in the order of its rows. */
const aspectsOf = (test: TestDefinition): Aspect[] => [
  ...new Set(
    Object.keys(test.p ?? {})
      .filter((name) => name.includes('.'))
      .map((name) => name.split('.')[0] as Aspect),
  ),
];

function normal(test: TestDefinition, params: ParamValues): number[] {
  const rows = test.p ?? {};
  const healthy = aspectsOf(test)
    .map((aspect) => rows[`${aspect}.${aspects[aspect][0]}`])
    .find((row) => row !== undefined);
  const row = rows.default ?? healthy;
  return row ? chances(test, row, params) : Object.keys(test.outcomes).map((_, __, all) => 1 / all.length);
}

function chances(test: TestDefinition, row: ChanceRow, params: ParamValues): number[] {
  const chosen = Array.isArray(row) ? (row.find((r) => !r.when || holds(r.when, () => undefined, params)) ?? row.at(-1)!).p : row;
  const outcomes = Object.keys(test.outcomes).map((o) => chosen[o] ?? 0);
  const total = outcomes.reduce((a, b) => a + b, 0);
  return outcomes.map((p) => p / total);
}

/** The chances of what is written down: with chance `error` one of the other outcomes, each as often. */
export function withHumanError(p: readonly number[], error: number): number[] {
  if (p.length < 2) return [...p];
  return p.map((x) => x * (1 - error) + ((1 - x) * error) / (p.length - 1));
}
