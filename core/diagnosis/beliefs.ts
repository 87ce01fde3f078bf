import { type Compiled, leastChance } from './compile';
import { type Model, type ModelTest, priorsOf, sum } from './model';
import { usualHumanError, withHumanError } from './rows';

const { log2, log, max, min } = Math;
const unbounded = Infinity;

/** One line of the ledger as the model needs it. */
export type Finding =
  | { id: string; test: string; outcome: string; key?: string }
  /** A repair that was made; in vain, it rules its fault out. */
  | { id: string; repair: string; worked: boolean; key?: string };

/** A finding that counts, with its place in the model. */
export interface Counted {
  id: string;
  /** Column of chances by hypothesis, "something else" last; null: a repair in vain. */
  chances: Float64Array | null;
  /** Hypotheses that a repair in vain has ruled out. */
  ruledOut: number[];
  test?: { index: number; outcome: number };
  /** How often the same was read in a row; more than once excludes a slip of the person. */
  readings: number;
}

/** How often a repair of something else seems to cure, until the cure is proven. Our own choice. */
const curedByChance = 0.02;

/** Findings that the model has no place for. */
export class UnknownFinding extends Error {
  constructor(
    /** Number of the finding in the ledger, from 0. */
    readonly at: number,
    message: string,
  ) {
    super(message);
  }
}

/**
 * The findings that count, in order: of tests that look at the same thing with the same key the latest one, of independent trials all.
 * @throws UnknownFinding for a test, outcome, key or fault that is not there, with what is allowed
 */
export function counted(compiled: Compiled, findings: readonly Finding[]): Counted[] {
  const width = compiled.hypotheses.length + 1;
  const latest = new Map<string, { at: number; outcome: string; readings: number }>();
  const trials = new Map<number, number[]>();
  const read = findings.map((finding, at): Counted & { group: string | null } => {
    if ('repair' in finding) {
      const of = compiled.hypotheses.flatMap((h, i) =>
        h.fault.id === finding.repair && (finding.key === undefined || h.key === undefined || h.key === finding.key) ? [i] : [],
      );
      if (of.length === 0)
        throw new UnknownFinding(
          at,
          `Fault "${finding.repair}" does not exist here. Use one of: ${[...new Set(compiled.hypotheses.map((h) => h.fault.id))].join(', ')}.`,
        );
      const chances = finding.worked ? Float64Array.from({ length: width }, (_, f) => (of.includes(f) ? 1 : curedByChance)) : null;
      return { id: finding.id, chances, ruledOut: finding.worked ? [] : of, group: null, readings: 1 };
    }
    const index = doableOf(compiled, finding.test, finding.key, at);
    const test = compiled.model.tests[index]!;
    const outcome = test.outcomes.indexOf(finding.outcome);
    if (outcome < 0)
      throw new UnknownFinding(at, `Outcome "${finding.outcome}" of "${finding.test}" does not exist. Use one of: ${test.outcomes.join(', ')}.`);
    const { test: definition, group } = compiled.tests[index]!;
    const before = definition.independent ? undefined : latest.get(group);
    const readings = before?.outcome === finding.outcome ? before.readings + 1 : 1;
    if (!definition.independent) latest.set(group, { at, outcome: finding.outcome, readings });
    const tried = trials.get(index) ?? test.outcomes.map(() => 0);
    if (definition.independent) {
      trials.set(
        index,
        tried.map((n, o) => (o === outcome ? n + 1 : n)),
      );
    }
    return {
      id: finding.id,
      chances: definition.independent
        ? nextTrial(test, tried, outcome)
        : readings === 1
          ? row(test, outcome, width)
          : surely(compiled, index, outcome, readings),
      ruledOut: [],
      test: { index, outcome },
      readings,
      group: definition.independent ? null : group,
    };
  });
  return read.filter((r, at) => r.group === null || latest.get(r.group)!.at === at);
}

const row = (test: ModelTest, outcome: number, width: number): Float64Array => test.p.subarray(outcome * width, (outcome + 1) * width);

/**
 * Chances of an outcome of a trial after others of the same kind. Under a known fault trials are independent. "Something else" has a rate of its own that
 * nobody knows: its trials teach what its rate is (Pólya's urn with one ball in the shares of its row; Feller, "An Introduction to Probability Theory", vol. 1,
 * section V.2), so that repeating a trial says little of it.
 */
function nextTrial(test: ModelTest, before: readonly number[], outcome: number): Float64Array {
  const width = test.p.length / test.outcomes.length;
  const chances = row(test, outcome, width).slice();
  const n = before.reduce((a, b) => a + b, 0);
  chances[width - 1] = (chances[width - 1]! + before[outcome]!) / (1 + n);
  return chances;
}

/** The model for what may be done next: a trial that was made before has other chances under "something else". */
export function modelAfter(compiled: Compiled, findings: readonly Counted[]): Model {
  const trials = new Map<number, number[]>();
  for (const { test } of findings) {
    if (!test || !compiled.tests[test.index]!.test.independent) continue;
    const counts = trials.get(test.index) ?? compiled.model.tests[test.index]!.outcomes.map(() => 0);
    counts[test.outcome]! += 1;
    trials.set(test.index, counts);
  }
  if (trials.size === 0) return compiled.model;
  const tests = compiled.model.tests.map((test, i): ModelTest => {
    const counts = trials.get(i);
    if (!counts) return test;
    const p = test.p.slice();
    const width = p.length / test.outcomes.length;
    test.outcomes.forEach((_, o) => p.set(nextTrial(test, counts, o), o * width));
    return { ...test, p };
  });
  return { ...compiled.model, tests };
}

/** Chances of an outcome that was read several times: the vehicle has not changed, but a person slips each time anew. */
function surely(compiled: Compiled, index: number, outcome: number, readings: number): Float64Array {
  const width = compiled.hypotheses.length + 1;
  const bare = compiled.bare[index]!;
  const { outcomes } = compiled.model.tests[index]!;
  const slip = (compiled.tests[index]!.test.humanError ?? usualHumanError) ** readings;
  return Float64Array.from({ length: width }, (_, f) =>
    max(
      leastChance,
      withHumanError(
        outcomes.map((__, o) => bare[o * width + f]!),
        slip,
      )[outcome]!,
    ),
  );
}

function doableOf(compiled: Compiled, test: string, key: string | undefined, at: number): number {
  const made = compiled.tests.flatMap((t, i) => (t.test.id === test ? [i] : []));
  const definition = compiled.tests[made[0] ?? -1]?.test;
  if (!definition)
    throw new UnknownFinding(at, `Test "${test}" does not exist here. Use one of: ${[...new Set(compiled.tests.map((t) => t.test.id))].join(', ')}.`);
  const found = made.find((i) => !definition.perKey || key === undefined || compiled.tests[i]!.key === key);
  if (found === undefined)
    throw new UnknownFinding(
      at,
      `"${test}" was not made with key "${key}" of this case. Use one of: ${made.map((i) => compiled.tests[i]!.key ?? '(no tag)').join(', ')}.`,
    );
  return found;
}

/** Weights of the hypotheses after the findings, "something else" last; they add up to 1 unless every fault has been ruled out. */
export function weigh(compiled: Compiled, findings: readonly Counted[]): Float64Array {
  const weights = priorsOf(compiled.model);
  for (const finding of findings) {
    if (finding.chances) for (let f = 0; f < weights.length; f += 1) weights[f]! *= finding.chances[f]!;
    for (const f of finding.ruledOut) weights[f] = 0;
    const total = sum(weights);
    for (let f = 0; f < weights.length; f += 1) weights[f]! /= total;
  }
  return weights;
}

export interface Fit {
  /** How much less likely than usual the findings are under the fault that fits them best, in bits; 0 where they are as likely as usual. */
  surprise: number;
  contradiction: boolean;
  /** The finding whose error would make the others fit; one that was read twice alike is not suspected. */
  suspect: string | null;
}

/** From here on the findings do not fit together: 2^6 = 64 times less likely than usual under every fault. Our own choice. */
export const contradictionBits = 6;

/**
 * Whether the findings fit together: under each fault, how far the chance of what was seen lies below what that fault usually gives (its entropy); the
 * best fault counts. "Something else" fits everything and is left out.
 */
export function fitOf(compiled: Compiled, findings: readonly Counted[]): Fit {
  const ruledOut = new Set(findings.flatMap((f) => f.ruledOut));
  const tests = findings.filter((f) => f.test);
  // Bits of the finding beyond what the fault usually gives, by finding and fault.
  const excess = tests.map((finding) => {
    const usual = compiled.rowEntropy[finding.test!.index]!;
    return compiled.hypotheses.map((_, f) => -log2(finding.chances![f]!) - usual[f]!);
  });
  const least = (without: number) =>
    max(
      0,
      min(...compiled.hypotheses.map((_, f) => (ruledOut.has(f) ? unbounded : excess.reduce((n, row, i) => (i === without ? n : n + row[f]!), 0)))),
    );
  const surprise = tests.length === 0 ? 0 : least(-1);
  if (!(surprise >= contradictionBits)) return { surprise, contradiction: false, suspect: null };
  const [best, at] = tests.reduce<[number, number]>(
    (found, t, i) => (t.readings === 1 && least(i) < found[0] ? [least(i), i] : found),
    [unbounded, -1],
  );
  return { surprise, contradiction: true, suspect: best < contradictionBits ? tests[at]!.id : null };
}

/** What each finding added for or against: change of log-odds in decibans, in the order of the ledger. */
export interface Explanation {
  /** Log-odds before anything was seen, in decibans. */
  prior: number;
  weights: { finding: string; decibans: number }[];
  /** Log-odds now; the prior and all weights add up to it. */
  now: number;
}

/** Odds beyond this are as good as certain; so a fault that was ruled out has a number as well. */
const mostDecibans = 120;

/**
 * @param of the hypotheses whose sum is explained: one fault, or all of a link
 */
export function explain(compiled: Compiled, findings: readonly Counted[], of: ReadonlySet<number>): Explanation {
  const odds = (weights: Float64Array) => {
    let inside = 0;
    let outside = 0;
    weights.forEach((w, f) => (of.has(f) ? (inside += w) : (outside += w)));
    const decibans = (10 * log(inside / outside)) / Math.LN10;
    return Number.isNaN(decibans) ? 0 : max(-mostDecibans, min(mostDecibans, decibans));
  };
  let before = odds(weigh(compiled, []));
  const prior = before;
  const weights = findings.map((finding, i) => {
    const now = odds(weigh(compiled, findings.slice(0, i + 1)));
    const decibans = now - before;
    before = now;
    return { finding: finding.id, decibans };
  });
  return { prior, weights, now: before };
}
