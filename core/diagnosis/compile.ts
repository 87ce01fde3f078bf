import { type Family, type FaultDefinition, gates, type ParamValues, type TestDefinition } from '../library';
import { isTaught, type Learned, learnedShare, withLearned } from './learned';
import { type Model, type ModelTest, rowEntropy } from './model';
import { rowOf, statementChances, usualHumanError, withHumanError } from './rows';

/** "Something else": the trouble is none of the faults that the family knows. */
export const somethingElse = 'somethingElse';

/** A fault, in one key where it sits in keys. */
export interface Hypothesis {
  id: string;
  fault: FaultDefinition;
  key?: string;
  /** Minutes and money of the repair, and what its hazard weighs. */
  repair: { minutes: number; cost: number };
}

/** A test as it can be made: with one key where its outcome belongs to a key. */
export interface Doable {
  id: string;
  test: TestDefinition;
  key?: string;
  /** Tests of the same group look at the same thing; one of them counts. */
  group: string;
  /** It may be recorded and is never proposed: "another key", with the first one; what a scan shows. */
  spare?: true;
}

/** What is known before anything is seen. */
export interface Opening {
  /** Ids of what changed lately and of what the customer tells; each lifts some faults. */
  told: readonly string[];
  /** Tags of the keys of the case, here or not; none: one key without a tag. */
  keys: readonly string[];
  /** Price of a minute of work. */
  ratePerMinute: number;
  /** Proven cases of this shop by fault: how often each was the cause. */
  proven?: Readonly<Record<string, number>>;
  /** What else they taught: of this vehicle line, how often answers are mistaken, what things take. */
  learned?: Learned;
}

/** A family as numbers, for one case. */
export interface Compiled {
  family: Family;
  model: Model;
  hypotheses: Hypothesis[];
  tests: Doable[];
  /** Chances of each test without human error, laid out as those of the model: what the vehicle does, whatever is written down. */
  bare: Float64Array[];
  /** Entropy of each test's chances under each hypothesis, in bits. */
  rowEntropy: Float64Array[];
  /** Chances of each test on a vehicle without a fault, without human error. */
  healthy: number[][];
  /** Place in the chain of each hypothesis' link, from 0. */
  place: number[];
  /** The family's own priors, in the order of the hypotheses, "something else" last; before the shop's cases and what was told. */
  familyPriors: number[];
}

/**
 * What it weighs to hand on a vehicle whose fault could have been found here: the customer comes back, or never does. Our own choice, in money, about
 * two hours of work.
 */
const missed = 120;

/**
 * "Something else" shows what the faults show on average, so that a look at one part mostly finds that part well; and in this share of looks anything,
 * evenly. Our own choice.
 */
const anything = 0.1;

/** Even an outcome that no row allows stays possible: what is written may always be wrong. */
export const leastChance = 1e-9;

const before = new WeakMap<Family, Map<string, Compiled>>();
/** Cases of one system type often know the same before anything is seen; so many different ones are kept. */
const mostKept = 16;

/** What `compile` makes, kept by all that goes into it: what comes back is nobody's to change. @throws RangeError as `compile` does */
export function compiledFor(family: Family, params: ParamValues, { told, keys, ratePerMinute, proven, learned }: Opening): Compiled {
  let ofFamily = before.get(family);
  if (!ofFamily) before.set(family, (ofFamily = new Map()));
  const name = JSON.stringify([params, told, keys, ratePerMinute, proven, learned]);
  const known = ofFamily.get(name);
  if (known) return known;
  const [oldest] = ofFamily.keys();
  if (ofFamily.size >= mostKept) ofFamily.delete(oldest!);
  const made = compile(family, params, { told, keys, ratePerMinute, ...(proven && { proven }), ...(learned && { learned }) });
  ofFamily.set(name, made);
  return made;
}

/**
 * Turns a family's faults and tests into a model.
 * @throws RangeError when the family has no faults
 */
export function compile(written: Family, params: ParamValues, opening: Opening): Compiled {
  const proven = opening.proven ?? {};
  const family = opening.learned && isTaught(proven) ? withLearned(written, opening.learned) : written;
  if (!family.faults?.length) throw new RangeError(`The system type "${family.id}" has no faults, so there is nothing to weigh.`);
  const keys: (string | undefined)[] = opening.keys.length > 0 ? [...new Set(opening.keys)] : [undefined];
  const hypotheses = family.faults.flatMap((fault) =>
    (fault.perKey ? keys : [undefined]).map((key) => hypothesis(fault, key, opening.ratePerMinute)),
  );
  const tests = family.tests.filter((t) => t.p).flatMap((test) => doables(test, keys));
  const elsewhere = family.elsewhere ?? { prior: 0.05, minutes: 60, money: 150 };

  const share = (fault: FaultDefinition) => (fault.perKey ? 1 / keys.length : 1);
  const total = family.faults.reduce((n, f) => n + f.prior, 0);
  const own = hypotheses.map((h) => (h.fault.prior / total) * (1 - elsewhere.prior) * share(h.fault));
  const learnt = (prior: number, id: string, part: number) => learnedShare(prior, id, part, proven, opening.learned?.line ?? {});
  const before = hypotheses.map((h, i) => learnt(own[i]!, h.fault.id, share(h.fault)));
  const weighed = hypotheses.map((h, i) => ({ fault: h.fault, prior: before[i]! }));
  // What was told counts for and against; "something else" is told of as the faults are on average.
  const statements = (family.statements ?? []).filter((s) => opening.told.includes(s.symptom)).map((s) => statementChances(s, weighed, params));
  const meanOf = (said: readonly number[]) => said.reduce((n, p, i) => n + p * before[i]!, 0) / before.reduce((a, b) => a + b, 0);
  const lifted = hypotheses.map((h, i) =>
    statements.reduce(
      (n, said) => n * said[i]!,
      opening.told.reduce((n, told) => n * (h.fault.lifts?.[told] ?? 1), before[i]!),
    ),
  );
  const otherwise = statements.reduce((n, said) => n * meanOf(said), learnt(elsewhere.prior, somethingElse, 1));
  const all = lifted.reduce((a, b) => a + b, otherwise);
  const priors = lifted.map((p) => p / all);
  const referring = elsewhere.minutes * opening.ratePerMinute + elsewhere.money;

  const made = tests.map((doable) => modelTest(doable, hypotheses, priors, params, opening.ratePerMinute));
  const model: Model = {
    faults: hypotheses.map((h, i) => ({ id: h.id, prior: priors[i]!, repair: h.repair.cost })),
    elsePrior: otherwise / all,
    refer: Float64Array.from([...hypotheses.map((h) => referring + h.repair.cost + missed), referring]),
    tests: made.map((m) => m.test),
  };
  return {
    family,
    model,
    hypotheses,
    tests,
    bare: made.map((m) => m.bare),
    rowEntropy: model.tests.map((t) => rowEntropy(t, hypotheses.length + 1)),
    healthy: tests.map(({ test }) => rowOf(test, null, params).p),
    place: hypotheses.map((h) => family.chain.findIndex((l) => l.id === h.fault.link)),
    familyPriors: [...own, elsewhere.prior],
  };
}

function hypothesis(fault: FaultDefinition, key: string | undefined, rate: number): Hypothesis {
  const { minutes, money = 0, penalty = 0 } = fault.cure;
  return {
    id: key === undefined ? fault.id : `${fault.id}@${key}`,
    fault,
    ...(key === undefined ? {} : { key }),
    repair: { minutes, cost: minutes * rate + money + penalty },
  };
}

function doables(test: TestDefinition, keys: readonly (string | undefined)[]): Doable[] {
  const others = test.needs?.keys === 'second';
  return (test.perKey ? keys : [undefined]).map((key, i) => {
    const at = key === undefined ? '' : `@${key}`;
    const spare = test.recorded || (others && i === 0) ? ({ spare: true } as const) : {};
    return { id: `${test.id}${at}`, test, ...(key === undefined ? {} : { key }), group: `${test.same ?? test.id}${at}`, ...spare };
  });
}

function modelTest(
  doable: Doable,
  hypotheses: readonly Hypothesis[],
  priors: readonly number[],
  params: ParamValues,
  rate: number,
): { test: ModelTest; bare: Float64Array } {
  const { test, key } = doable;
  const outcomes = Object.keys(test.outcomes);
  const error = test.humanError ?? usualHumanError;
  const rows = hypotheses.map((h) => {
    // A fault in another key leaves this one as it should be.
    const inThisKey = h.key === undefined || key === undefined || h.key === key;
    return rowOf(test, inThisKey ? h.fault : null, params).p;
  });
  const width = hypotheses.length + 1;
  const p = new Float64Array(outcomes.length * width);
  const total = priors.reduce((a, b) => a + b, 0);
  const mean = outcomes.map((_, o) => rows.reduce((n, row, f) => n + row[o]! * priors[f]!, 0) / total);
  const columns = [...rows, mean.map((m) => (1 - anything) * m + anything / outcomes.length)];
  const bare = new Float64Array(outcomes.length * width);
  columns.forEach((row, f) => {
    row.forEach((x, o) => (bare[o * width + f] = x));
    withHumanError(row, error).forEach((x, o) => (p[o * width + f] = Math.max(x, leastChance)));
  });
  const made: ModelTest = {
    id: doable.id,
    cost: test.minutes * rate + (test.money ?? 0) + (test.penalty ?? 0),
    outcomes,
    p,
    // The immobilizer is asked first; then what is harmless before what has an effect.
    rank: (test.triage?.includes('immobilizer') ? 0 : 1) + (test.effect === 'none' ? 0 : gates[test.effect].authority ? 200 : 100),
  };
  return { test: made, bare };
}
