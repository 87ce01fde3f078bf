import { generator } from '../units';
import { type Counted, counted, type Finding, fitOf, modelAfter, weigh } from './beliefs';
import type { Compiled } from './compile';
import { isNeedless, waitsFor } from './doableNow';
import { sum } from './model';
import { solve } from './optimum';
import { tellableFaults } from './tellable';
import { together } from './together';
import { type Action, type Budget, Policy } from './policy';
import { usualFirst } from './usualOrder';

export const policyNames = ['engine', 'fixed', 'random', 'optimal'] as const;
export type PolicyName = (typeof policyNames)[number];

export interface Simulation {
  policy: PolicyName;
  trials: number;
  seed: number;
  /** Order of the fixed policy: ids of tests. */
  fixed: readonly string[];
  humanError?: boolean;
  /** Share of trials in which two faults are there at once; 0.02 if not given. */
  twoFaults?: number;
  /** How far the vehicle's own chances may lie off the model's, e.g. 0.3. */
  disturbed?: number;
  budget?: Budget;
  /** The vehicles as they are, where they are others than the model takes them for: of the same system type and keys. What is done to them costs what it costs there. */
  vehicles?: Compiled;
  /** Called now and then with the trials done. */
  progress?: (done: number) => void;
}

/** How one kind of trial went. Costs in the unit of the model; `meanExtraCost` is what was spent beyond the true repair. */
export interface Tally {
  trials: number;
  solved: number;
  wrong: number;
  unknown: number;
  failedRepairs: number;
  meanCost: number;
  meanExtraCost: number;
  meanMinutes: number;
  p90Minutes: number;
  meanTests: number;
}

export interface SimulationResult extends Tally {
  /** One fault that tests can tell apart from all others. */
  tellable: Tally;
  /** Draws with two faults, and draws of "something else". */
  twoFaults: Tally;
  somethingElse: Tally;
}

interface Trial {
  kind: 'single' | 'two' | 'else';
  tellable: boolean;
  conclusion: 'solved' | 'wrong' | 'unknown';
  failedRepairs: number;
  cost: number;
  extra: number;
  minutes: number;
  tests: number;
}

function pick(chances: readonly number[], draw: () => number): number {
  let left = draw() * chances.reduce((a, b) => a + b, 0);
  for (let i = 0; i < chances.length; i += 1) {
    left -= chances[i]!;
    if (left < 0) return i;
  }
  return chances.length - 1;
}

/** More tests than this in one trial would mean a policy that never ends. */
const mostSteps = 120;
/** A finding that does not fit is taken again until one reading has a majority. */
const mostReadings = 3;
/** How often a test whose trials are independent is made at most. */
const mostRepeats = 15;
/** What the simulation looks ahead: less than the app, since it decides a hundred thousand times. */
export const simulationBudget: Budget = { weighings: 600, depth: 1, breadth: [4, 3] };

/**
 * Draws faults from the priors, lets a policy work on each until its final conclusion, and counts. A conclusion is the fault whose repair cured, or that
 * nothing known fits and the vehicle is handed on. All policies share the beliefs, the rule when to stop testing and what they do on a contradiction
 * (the suspect finding is taken once more); only the optimal one, which is exact for tests that are made once, takes nothing twice.
 * @throws RangeError for `optimal` when the model is too large to solve exactly
 */
export function simulate(compiled: Compiled, simulation: Simulation): SimulationResult {
  const tellable = tellableFaults(compiled);
  const decide = decider(compiled, simulation, generator(simulation.seed));
  const vehicle = simulation.vehicles ?? (simulation.disturbed ? disturb(compiled, simulation.disturbed, generator(simulation.seed + 1)) : compiled);
  const trials: Trial[] = [];
  for (let i = 0; i < simulation.trials; i += 1) {
    trials.push(workThrough(compiled, vehicle, simulation, decide, tellable, seedOf(simulation.seed, i)).done);
    if (i % 50 === 49) simulation.progress?.(i + 1);
  }
  return {
    ...tally(trials),
    tellable: tally(trials.filter((t) => t.kind === 'single' && t.tellable)),
    twoFaults: tally(trials.filter((t) => t.kind === 'two')),
    somethingElse: tally(trials.filter((t) => t.kind === 'else')),
  };
}

/**
 * A seed from several whole numbers, for draws that belong to one thing: to a vehicle, or to one look at it. Every policy so works on the same vehicles, and
 * a test shows the same on a vehicle whoever makes it and whenever: what differs between policies is what they do (common random numbers; A. M. Law,
 * Simulation Modeling and Analysis, 11.2). Mixed as in MurmurHash3.
 */
function seedOf(...parts: readonly number[]): number {
  let h = 0x9747b28c;
  for (const part of parts) {
    let k = Math.imul(part, 0xcc9e2d51);
    k = (k << 15) | (k >>> 17);
    h ^= Math.imul(k, 0x1b873593);
    h = Math.imul((h << 13) | (h >>> 19), 5) + 0xe6546b64;
  }
  h ^= h >>> 16;
  h = Math.imul(h, 0x85ebca6b);
  h ^= h >>> 13;
  h = Math.imul(h, 0xc2b2ae35);
  return (h ^ (h >>> 16)) | 0;
}

/** A shop's history: vehicles worked on by the engine, each with what was wrong and what was found, in order. Only those with one fault that was fixed. */
export function workedVehicles(
  compiled: Compiled,
  simulation: Omit<Simulation, 'policy' | 'fixed'>,
): { fault: number; findings: Finding[]; seed: number }[] {
  const full: Simulation = { ...simulation, policy: 'engine', fixed: [] };
  const decide = decider(compiled, full, generator(full.seed));
  const tellable = compiled.hypotheses.map(() => true);
  return Array.from({ length: full.trials }, (_, i) => i).flatMap((i) => {
    const seed = seedOf(full.seed, i);
    const { truth, findings, done } = workThrough(compiled, full.vehicles ?? compiled, full, decide, tellable, seed);
    return done.kind === 'single' && done.conclusion === 'solved' ? [{ fault: truth[0]!, findings, seed }] : [];
  });
}

type Decide = (findings: readonly Counted[], weights: Float64Array, open: readonly number[]) => Action;

function decider(compiled: Compiled, { policy, fixed, budget = simulationBudget }: Simulation, draw: () => number): Decide {
  const engine = new Policy(compiled.model, budget);
  const known = new Map<string, Action>();
  const best: Decide = (findings, weights, open) => {
    const situation = findings
      .map((f) => (f.test ? `${f.test.index}.${f.test.outcome}.${f.readings}` : `r${f.ruledOut.join('+')}`))
      .sort()
      .join(' ');
    const found = known.get(situation);
    if (found) return found;
    const told = findings.flatMap(({ id, test }) =>
      test ? [{ id, test: compiled.tests[test.index]!.test.id, outcome: compiled.model.tests[test.index]!.outcomes[test.outcome]! }] : [],
    );
    const now = modelAfter(compiled, findings);
    const { action } = usualFirst(new Policy(now, budget).choices(weights, open), { compiled, findings: told, model: now, weights, open })[0]!;
    known.set(situation, action);
    return action;
  };
  if (policy === 'engine') return best;
  if (policy === 'optimal') {
    const { action } = solve(compiled.model);
    return (findings) =>
      action(
        new Map(findings.flatMap((f) => (f.test ? [[f.test.index, f.test.outcome] as const] : []))),
        findings.flatMap((f) => f.ruledOut),
      );
  }
  return (findings, weights, open) => {
    const action = best(findings, weights, open);
    if (action.kind !== 'test') return action;
    if (policy === 'random') return { kind: 'test', test: open[Math.floor(draw() * open.length)]! };
    const next = fixed.flatMap((id) => open.filter((t) => compiled.tests[t]!.test.id === id))[0];
    return next === undefined ? engine.actNow(weights) : { kind: 'test', test: next };
  };
}

/** One vehicle worked on to its end: what was wrong with it (numbers of hypotheses), what was found on the way, and how it went. */
interface Worked {
  truth: number[];
  findings: Finding[];
  done: Trial;
}

function workThrough(
  compiled: Compiled,
  vehicle: Compiled,
  simulation: Simulation,
  decide: Decide,
  tellable: readonly boolean[],
  seed: number,
): Worked {
  const draw = generator(seed);
  const { model, hypotheses, tests } = compiled;
  const real = vehicle.model;
  const priors = [...real.faults.map((f) => f.prior), real.elsePrior];
  const first = pick(priors, draw);
  const named = (f: number) => f < hypotheses.length;
  const truth = [first];
  if (named(first) && draw() < (simulation.twoFaults ?? 0.02)) {
    const second = pick(
      priors.map((p, f) => (f === first || !named(f) ? 0 : p)),
      draw,
    );
    truth.push(second);
  }
  const kind = !named(first) ? 'else' : truth.length > 1 ? 'two' : 'single';
  const right = truth.reduce((n, f) => n + (named(f) ? real.faults[f]!.repair : real.refer![f]!), 0);
  const remaining = new Set(truth);
  const done: Trial = {
    kind,
    tellable: named(first) && tellable[first]!,
    conclusion: 'unknown',
    failedRepairs: 0,
    cost: 0,
    extra: 0,
    minutes: 0,
    tests: 0,
  };
  const findings: Finding[] = [];
  const made = new Map<string, number>();
  const looks = new Map<string, number>();
  /** Counts what was repaired: after it a test may show something else. */
  let era = 0;

  const make = (t: number) => {
    const test = model.tests[t]!;
    const doable = tests[t]!;
    const { independent } = doable.test;
    const { minutes } = vehicle.tests[t]!.test;
    made.set(doable.group, (made.get(doable.group) ?? 0) + 1);
    done.tests += 1;
    done.cost += real.tests[t]!.cost;
    done.minutes += minutes;
    const nth = looks.get(doable.id) ?? 0;
    looks.set(doable.id, nth + 1);
    // A test shows the same again, except where each trial counts anew; a person may be mistaken each time anew.
    const shows = generator(seedOf(seed, t, era, independent ? nth : 0));
    const person = generator(seedOf(seed, t, era, nth, 1));
    let outcome = pick(chancesOf(vehicle, t, [...remaining]), shows);
    const error = vehicle.tests[t]!.test.humanError ?? 0.02;
    if ((simulation.humanError ?? true) && test.outcomes.length > 1 && person() < error)
      outcome = (outcome + 1 + Math.floor(person() * (test.outcomes.length - 1))) % test.outcomes.length;
    findings.push({
      id: String(findings.length),
      test: doable.test.id,
      outcome: test.outcomes[outcome]!,
      ...(doable.key === undefined ? {} : { key: doable.key }),
    });
  };

  for (let step = 0; step < mostSteps; step += 1) {
    const counts = counted(compiled, findings);
    const fit = fitOf(compiled, counts);
    const suspect = fit.suspect === null ? undefined : counts.find((c) => c.id === fit.suspect)!.test!.index;
    if (simulation.policy !== 'optimal' && suspect !== undefined && (made.get(tests[suspect]!.group) ?? 0) < mostReadings) {
      make(suspect);
      continue;
    }
    const weights = weigh(compiled, counts);
    const open = tests.flatMap((t, i) =>
      !t.spare &&
      !isNeedless(t, { family: compiled.family, findings }) &&
      (waitsFor(t, { family: compiled.family, findings })?.prepares ?? true) &&
      (made.get(t.group) ?? 0) < (t.test.independent ? mostRepeats : 1)
        ? [i]
        : [],
    );
    const action = decide(counts, weights, open);
    if (action.kind === 'test') make(action.test);
    else if (action.kind === 'repair') {
      const { fault, key } = hypotheses[action.fault]!;
      const { repair } = vehicle.hypotheses[action.fault]!;
      done.cost += repair.cost;
      done.minutes += repair.minutes;
      if (remaining.delete(action.fault)) {
        if (remaining.size === 0) {
          done.conclusion = 'solved';
          break;
        }
        era += 1;
      } else done.failedRepairs += 1;
      findings.push({ id: String(findings.length), repair: fault.id, worked: false, ...(key === undefined ? {} : { key }) });
    } else {
      done.cost += sum(Float64Array.from([...remaining].map((f) => real.refer![f]!)));
      done.conclusion = [...remaining].every((f) => !named(f)) ? 'solved' : 'wrong';
      break;
    }
  }
  done.extra = done.cost - right;
  return { truth, findings, done };
}

/** What the vehicle shows: the chances of the one fault, or of the two together. */
function chancesOf(vehicle: Compiled, t: number, truth: readonly number[]): number[] {
  if (truth.length > 1) return together(vehicle, t, truth[0]!, truth[1]!);
  const width = vehicle.hypotheses.length + 1;
  return vehicle.model.tests[t]!.outcomes.map((_, o) => vehicle.bare[t]![o * width + truth[0]!]!);
}

/** A vehicle whose every chance lies up to a share off the content's, once and for all its trials. */
function disturb(compiled: Compiled, share: number, draw: () => number): Compiled {
  return { ...compiled, bare: compiled.bare.map((table) => table.map((x) => x * (1 + share * (2 * draw() - 1)))) };
}

function tally(trials: readonly Trial[]): Tally {
  const n = trials.length;
  const mean = (of: (t: Trial) => number) => (n === 0 ? 0 : trials.reduce((a, t) => a + of(t), 0) / n);
  const minutes = trials.map((t) => t.minutes).sort((a, b) => a - b);
  const count = (conclusion: Trial['conclusion']) => trials.filter((t) => t.conclusion === conclusion).length;
  return {
    trials: n,
    solved: count('solved'),
    wrong: count('wrong'),
    unknown: count('unknown'),
    failedRepairs: trials.reduce((a, t) => a + t.failedRepairs, 0),
    meanCost: mean((t) => t.cost),
    meanExtraCost: mean((t) => t.extra),
    meanMinutes: mean((t) => t.minutes),
    p90Minutes: minutes[Math.min(n - 1, Math.floor(n * 0.9))] ?? 0,
    meanTests: mean((t) => t.tests),
  };
}
