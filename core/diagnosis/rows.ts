import {
  type Aspect,
  aspects,
  type ChanceRow,
  type CustomerStatement,
  type FaultDefinition,
  holds,
  type ParamValues,
  type TestDefinition,
} from '../library';

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

/**
 * How often a customer whose car has this fault makes a statement: by the fault's own row, else by the states that it shows, else by `default`, else as
 * with a car without a fault. Only as much of it counts as the statement is reliable; the rest is the mean over all faults, which says nothing.
 * @param faults each with its prior
 * @returns chance by fault, in their order, each above 0
 */
export function statementChances(
  statement: CustomerStatement,
  faults: readonly { fault: FaultDefinition; prior: number }[],
  params: ParamValues,
): number[] {
  const asTest = {
    outcomes: { said: {}, unsaid: {} },
    p: Object.fromEntries(Object.entries(statement.p).map(([name, row]) => [name, asRow(row)])),
  } as unknown as TestDefinition;
  const said = faults.map(({ fault }) => rowOf(asTest, fault, params).p[0]!);
  const total = faults.reduce((n, f) => n + f.prior, 0);
  const mean = total > 0 ? said.reduce((n, p, i) => n + p * faults[i]!.prior, 0) / total : 0;
  return said.map((p) => Math.max(leastSaid, statement.reliability * p + (1 - statement.reliability) * mean));
}

/** Whatever a customer says stays possible. */
const leastSaid = 1e-6;

const asRow = (row: CustomerStatement['p'][string]): ChanceRow =>
  Array.isArray(row) ? row.map(({ when, p }) => ({ ...(when ? { when } : {}), p: { said: p, unsaid: 1 - p } })) : { said: row, unsaid: 1 - row };

/** The chances of what is written down: with chance `error` one of the other outcomes, each as often. */
export function withHumanError(p: readonly number[], error: number): number[] {
  if (p.length < 2) return [...p];
  return p.map((x) => x * (1 - error) + ((1 - x) * error) / (p.length - 1));
}
