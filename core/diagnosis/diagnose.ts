import { midSentence } from '../words';
import { closedBecause, type Family, type FaultGroup, type OnRecord, type ParamValues } from '../library';
import { type Counted, counted, explain, type Explanation, type Finding, type Fit, fitOf, modelAfter, weigh } from './beliefs';
import { type Compiled, compiledFor, type Doable, type Opening, somethingElse } from './compile';
import { isMoot, isNeedless, waitsFor } from './doableNow';
import { after, type Model, sum } from './model';
import { formatChance } from '../units';
import { type Pairs, pairsOf } from './pairs';
import { type Action, type Budget, type Choice, Policy, usualBudget } from './policy';
import { Ranking } from './rank';
import { usualFirst } from './usualOrder';
import { type Ways, waysOn } from './ways';
import { sentences } from './sentences';

/** What is at hand. What is left out is not asked about: then everything is there. */
export interface AtHand {
  /** Names of tools. */
  tools?: readonly string[];
  /** Tags of the keys that are here. */
  keys?: readonly string[];
  /** What is on record, for the gates of tests with an effect. */
  record?: OnRecord;
}

export interface Situation extends Opening {
  family: Family;
  params: ParamValues;
  /** In the order of the ledger; corrected and withdrawn entries are left out. */
  findings: readonly Finding[];
  /** Tests that only ready an instrument, as they came out: a proven detector. */
  prepared?: readonly { test: string; outcome: string }[];
  atHand?: AtHand;
}

export interface Belief {
  /** Id of the fault, or `somethingElse`. */
  fault: string;
  title: string;
  key?: string;
  link: string | null;
  /** Chance now, and before anything was seen. All add up to 1. */
  p: number;
  prior: number;
}

export interface NextTest {
  test: string;
  title: string;
  key?: string;
  minutes: number;
  gainBits: number;
  /** Expected cost from here to a proven repair when this is done next. */
  expectedCost: number;
  why: string;
  /** What each outcome would lead to: its chance, and what would be likeliest then. */
  leads: { outcome: string; p: number; fault: string; faultP: number }[];
}

/** A place, or a fault, that a test tells from another, with the likeliest fault of it. */
interface Part {
  name: string;
  likeliest: number;
}

export type Advice = {
  text: string;
} & (
  | { kind: 'test'; test: string; key?: string }
  | { kind: 'act'; fault: string; key?: string; p: number }
  | { kind: 'get'; what: string; test: string }
  | { kind: 'leave'; test: string; key?: string }
  /** `finding`: the entry to take once more, where one would make the others fit. */
  | { kind: 'contradiction'; finding?: string }
  | { kind: 'unknown' }
);

export interface Diagnosis {
  beliefs: Belief[];
  /** Chance that the fault lies on a link, by its id. */
  onLink: Record<string, number>;
  /** Chance that the fault is the immobilizer's or lies in what releases it. */
  immobilizer: number;
  /** Two faults at once, reported apart: the beliefs are those in one fault. */
  pairs: Pairs;
  next: NextTest[];
  advice: Advice;
  fit: Fit;
}

/** Groups of faults that belong to the immobilizer and to what releases it. */
export const immobilizerGroups: ReadonlySet<FaultGroup> = new Set(['reader', 'key', 'interference', 'immobilizer', 'release', 'network', 'human']);
/** Below this the immobilizer is left alone. Our own choice: one case in twenty. */
const leaveBelow = 0.05;
/** What is missing is asked for when it would save more than this share of the expected cost. */
const worthGetting = 0.1;
/** A test is proposed when it saves at least this share of its own cost against not making it. */
const worthProposing = 0.2;
const shown = 3;
/** What tells less than this, bits, is not named beside the best, however little it costs: it would be made in vain. Our own choice. */
const worthNaming = 0.02;

/** Everything that follows from what was seen: how sure of each fault, what to do next, and what to make of it. */
export class Diagnostician {
  readonly compiled: Compiled;
  /** The model for what is done next. */
  private readonly model: Model;
  private readonly ranking: Ranking;
  private readonly findings: Counted[];
  readonly weights: Float64Array;
  /** The weights by which it is decided: a fault whose fix has nothing left to do counts as something else there, since it can't be fixed away. */
  private readonly decisive: Float64Array;

  /** @throws UnknownFinding, RangeError as `counted` and `compile` do */
  constructor(private readonly situation: Situation) {
    this.compiled = compiledFor(situation.family, situation.params, situation);
    this.findings = counted(this.compiled, situation.findings);
    this.model = modelAfter(this.compiled, this.findings);
    this.ranking = new Ranking(this.model);
    this.weights = weigh(this.compiled, this.findings);
    this.decisive = this.weights.slice();
    this.compiled.hypotheses.forEach(({ fault }, f) => {
      if (!isMoot(fault, situation.findings)) return;
      this.decisive[this.decisive.length - 1]! += this.decisive[f]!;
      this.decisive[f] = 0;
    });
  }

  diagnose(budget: Budget = usualBudget, limit = shown): Diagnosis {
    const fit = fitOf(this.compiled, this.findings);
    const open = this.open();
    const choices = usualFirst(new Policy(this.model, budget).choices(this.decisive, open), {
      compiled: this.compiled,
      findings: this.situation.findings,
      model: this.model,
      weights: this.decisive,
      open,
    });
    const acting = choices.find((c) => c.action.kind !== 'test')!;
    const cheapest = Math.min(...choices.map((c) => c.cost));
    // A test that changes no decision only adds its own cost to what would be done anyway.
    const saves = ({ action, cost }: Choice) =>
      action.kind === 'test' && cost < acting.cost && cost <= cheapest + (1 - worthProposing) * this.model.tests[action.test]!.cost;
    const better = choices.filter((c, i) => (i === 0 && c.action.kind === 'test') || c.ends || saves(c));
    const bits = this.ranking.bits(this.weights);
    return {
      beliefs: this.beliefs(),
      onLink: this.onLink(),
      immobilizer: this.immobilizer(),
      pairs: this.pairs(),
      next: this.different(better)
        .filter((c, i) => i === 0 || bits[(c.action as { test: number }).test]! >= worthNaming)
        .slice(0, limit)
        .map((c) => this.nextTest(c, bits)),
      advice: this.advice(fit, choices[0]!, open),
      fit,
    };
  }

  /** What acting now and testing further may cost from here. */
  ways(): Ways {
    return waysOn(this.compiled, this.model, this.decisive, this.open());
  }

  beliefs(): Belief[] {
    const { hypotheses, model } = this.compiled;
    const named = hypotheses.map(({ fault, key }, i): Belief => ({
      fault: fault.id,
      title: fault.title,
      ...(key === undefined ? {} : { key }),
      link: fault.link,
      p: this.weights[i]!,
      prior: model.faults[i]!.prior,
    }));
    const otherwise: Belief = {
      fault: somethingElse,
      title: sentences.somethingElse,
      link: null,
      p: this.weights[hypotheses.length]!,
      prior: model.elsePrior,
    };
    return [...named, otherwise].sort((a, b) => b.p - a.p);
  }

  pairs(): Pairs {
    return pairsOf(this.compiled, this.findings);
  }

  /** What each entry said for or against a fault. */
  explainFault(fault: string, key?: string): Explanation {
    const { hypotheses } = this.compiled;
    const of = hypotheses.flatMap((h, i) => (h.fault.id === fault && (key === undefined || h.key === undefined || h.key === key) ? [i] : []));
    return explain(this.compiled, this.findings, new Set(fault === somethingElse ? [hypotheses.length] : of));
  }

  /** What each entry said for or against a fault anywhere on a link. */
  explainLink(link: string): Explanation {
    return explain(this.compiled, this.findings, new Set(this.compiled.hypotheses.flatMap((h, i) => (h.fault.link === link ? [i] : []))));
  }

  /** Ids of the findings that count: a repeated test takes the place of the one before. */
  get counting(): string[] {
    return this.findings.map((f) => f.id);
  }

  private immobilizer(): number {
    return this.compiled.hypotheses.reduce((n, { fault }, f) => n + (immobilizerGroups.has(fault.group) ? this.weights[f]! : 0), 0);
  }

  private onLink(): Record<string, number> {
    const chances: Record<string, number> = {};
    this.compiled.hypotheses.forEach(({ fault }, i) => (chances[fault.link] = (chances[fault.link] ?? 0) + this.weights[i]!));
    return chances;
  }

  /** Tests that can be made now and would count. */
  private open(): number[] {
    return this.notMade().filter((i) => this.hindrance(this.compiled.tests[i]!) === null);
  }

  private notMade(): number[] {
    const made = new Set(this.findings.flatMap((f) => (f.test ? [this.compiled.tests[f.test.index]!.group] : [])));
    return this.compiled.tests.flatMap((t, i) =>
      !t.spare && (t.test.independent || !made.has(t.group)) && !isNeedless(t, this.situation) ? [i] : [],
    );
  }

  /** Why a test can't be made now, in words; null: it can. */
  private hindrance({ test, key }: Doable): string | null {
    const { tools, keys, record } = this.situation.atHand ?? {};
    const missing = tools ? test.tools.filter((t) => !tools.includes(t)) : [];
    if (missing.length > 0) return missing.join(' and ');
    if (keys && test.perKey && key !== undefined && !keys.includes(key)) return sentences.key(key);
    if (keys && test.perKey && keys.length === 0) return sentences.aKey;
    const before = waitsFor({ test, ...(key === undefined ? {} : { key }) }, this.situation);
    // What only readies an instrument is proposed in place of the test that needs it, unless it was tried and the instrument is no good.
    if (before && !(before.prepares && !this.situation.prepared?.some((p) => p.test === before.test.id))) return before.test.title;
    const closed = record ? closedBecause(test.effect, record) : [];
    return closed[0] ?? null;
  }

  /** One of each test: the same with another key is no alternative, nor is another test that looks at the same. */
  private different(choices: readonly Choice[]): Choice[] {
    const doable = (c: Choice) => this.compiled.tests[(c.action as { test: number }).test]!;
    const same = (a: Doable, b: Doable) => a.test.id === b.test.id || a.group === b.group;
    return choices.filter((c, i) => !choices.slice(0, i).some((other) => same(doable(other), doable(c))));
  }

  private nextTest({ action, cost }: Choice, bits: Float64Array): NextTest {
    const index = (action as { test: number }).test;
    const { test, key } = this.compiled.tests[index]!;
    const before = waitsFor({ test, ...(key === undefined ? {} : { key }) }, this.situation);
    if (before?.prepares)
      return {
        test: before.test.id,
        title: before.test.title,
        minutes: before.test.minutes,
        gainBits: bits[index]!,
        expectedCost: cost,
        why: sentences.neededFor(test.title, this.why(index)),
        leads: [],
      };
    return {
      test: test.id,
      title: test.title,
      ...(key === undefined ? {} : { key }),
      minutes: test.minutes,
      gainBits: bits[index]!,
      expectedCost: cost,
      why: this.why(index),
      leads: this.leads(index),
    };
  }

  private leads(index: number): NextTest['leads'] {
    const test = this.model.tests[index]!;
    return test.outcomes.map((outcome, o) => {
      const weights = after(this.weights, test, o);
      const total = sum(weights);
      const best = weights.reduce((b, w, f) => (w > weights[b]! ? f : b), 0);
      return { outcome, p: total, fault: this.compiled.hypotheses[best]?.fault.id ?? somethingElse, faultP: weights[best]! / total };
    });
  }

  /**
   * What the test is good for, in consequences: "Tells “Key” from “Antenna at the lock”. Repairing the wrong one costs 60 to 80 min." The two are the
   * places, or faults of one place, that the test tells apart best; the minutes are those of the likeliest fault of each.
   */
  private why(index: number): string {
    const { hypotheses } = this.compiled;
    const titles = new Map(this.situation.family.chain.map((l) => [l.id, l.title]));
    const split = this.parts(index, (f) => titles.get(hypotheses[f]!.fault.link)!) ?? this.parts(index, (f) => hypotheses[f]!.fault.title);
    if (!split) return sentences.narrowsDown;
    const wrong = split.map((g) => hypotheses[g.likeliest]!.fault.cure.minutes).sort((x, y) => x - y);
    const [low, high] = wrong as [number, number];
    const saves = high === 0 ? '' : sentences.wrongRepairCosts(low === high ? '' : sentences.lowTo(low), high);
    return sentences.tellsApart(split[0].name, split[1].name, saves);
  }

  private parts(index: number, nameOf: (fault: number) => string): [Part, Part] | null {
    const { p, outcomes } = this.model.tests[index]!;
    const width = this.weights.length;
    const groups = new Map<string, Part & { weight: number; mixed: number[] }>();
    this.compiled.hypotheses.forEach((_, f) => {
      const name = nameOf(f);
      const group = groups.get(name) ?? { name, likeliest: f, weight: 0, mixed: outcomes.map(() => 0) };
      if (this.weights[f]! > this.weights[group.likeliest]!) group.likeliest = f;
      group.weight += this.weights[f]!;
      outcomes.forEach((__, o) => (group.mixed[o]! += this.weights[f]! * p[o * width + f]!));
      groups.set(name, group);
    });
    const all = [...groups.values()].filter((g) => g.weight > 0.01);
    let best: { value: number; parts: [Part, Part] } | null = null;
    for (const [i, ga] of all.entries())
      for (const gb of all.slice(i + 1)) {
        const distance = ga.mixed.reduce((n, x, o) => n + Math.abs(x / ga.weight - gb.mixed[o]! / gb.weight), 0) / 2;
        const value = ga.weight * gb.weight * distance;
        if (distance > 0.1 && value > (best?.value ?? 0)) best = { value, parts: ga.weight >= gb.weight ? [ga, gb] : [gb, ga] };
      }
    return best?.parts ?? null;
  }

  private advice(fit: Fit, { action, cost }: Choice, open: readonly number[]): Advice {
    const cured = this.cured();
    if (cured) return cured;
    if (fit.contradiction && (fit.suspect !== null || action.kind !== 'refer')) return this.contradiction(fit);
    if (action.kind === 'refer')
      return {
        kind: 'unknown',
        text: sentences.nothingFits,
      };
    const get = this.worthGetting(cost, open);
    if (get) return get;
    if (action.kind === 'repair') return this.act(action);
    const { test, key } = this.compiled.tests[action.test]!;
    const place = { test: test.id, ...(key === undefined ? {} : { key }) };
    const immobilizer = this.immobilizer();
    if (immobilizer < leaveBelow && this.findings.length > 0)
      return {
        kind: 'leave',
        ...place,
        text: sentences.leaveImmobilizer(formatChance(1 - immobilizer), test.title.toLowerCase()),
      };
    return {
      kind: 'test',
      ...place,
      text: sentences.keepTesting(test.title.toLowerCase(), key === undefined ? '' : sentences.withKey(key)),
    };
  }

  /** After a repair that worked there is nothing to look for, only to prove. */
  private cured(): Advice | null {
    const last = this.situation.findings.findLast((f) => 'repair' in f);
    if (!last || !('repair' in last) || !last.worked) return null;
    const { fault, key } = this.compiled.hypotheses.find((h) => h.fault.id === last.repair)!;
    return {
      kind: 'act',
      fault: fault.id,
      ...((last.key ?? key) === undefined ? {} : { key: (last.key ?? key)! }),
      p: this.beliefs().reduce((n, b) => (b.fault === fault.id ? n + b.p : n), 0),
      text: sentences.worked(fault.title, fault.prove.say),
    };
  }

  private act(action: Action & { kind: 'repair' }): Advice {
    const { fault, key } = this.compiled.hypotheses[action.fault]!;
    const p = this.weights[action.fault]!;
    const where = key === undefined ? '' : sentences.withKeyNamed(key);
    return {
      kind: 'act',
      fault: fault.id,
      ...(key === undefined ? {} : { key }),
      p,
      text: sentences.fixNow(fault.title, where, formatChance(p), this.insteadOf(action.fault)),
    };
  }

  /** Why a fault is fixed before a likelier one: what is spent on average until the car is fixed is less in this order. */
  private insteadOf(chosen: number): string {
    const { hypotheses } = this.compiled;
    const likelier = hypotheses.reduce((b, _, f) => (this.decisive[f]! > this.decisive[b]! ? f : b), chosen);
    if (likelier === chosen) return '';
    const { fault, key } = hypotheses[likelier]!;
    const takes = (f: number) => {
      const { minutes, money } = hypotheses[f]!.fault.cure;
      return `${minutes} min${money ? sentences.andParts : ''}`;
    };
    const cost = (f: number) => this.model.faults[f]!.repair;
    const what = `${midSentence(fault.title)}${key === undefined ? '' : sentences.withKeyNamed(key)}`;
    const dearer = cost(likelier) > cost(chosen) ? sentences.dearer(takes(likelier), takes(chosen)) : '';
    return sentences.cheaperFirst(what, formatChance(this.weights[likelier]!), dearer);
  }

  private contradiction(fit: Fit): Advice {
    const suspect = fit.suspect === null ? undefined : this.situation.findings.find((f) => f.id === fit.suspect);
    const test = suspect && 'test' in suspect ? this.situation.family.tests.find((t) => t.id === suspect.test) : undefined;
    if (!suspect || !test)
      return {
        kind: 'contradiction',
        text: sentences.contradictionUnexplained,
      };
    return {
      kind: 'contradiction',
      finding: suspect.id,
      text: sentences.contradictionByOne(test.title, test.outcomes[(suspect as { outcome: string }).outcome]!.say),
    };
  }

  /** What is not here and would save the most, if it saves enough. */
  private worthGetting(cost: number, open: readonly number[]): Advice | null {
    const waiting = ({ test, key }: Doable) => waitsFor({ test, ...(key === undefined ? {} : { key }) }, this.situation)?.prepares === false;
    // A test that only waits for another one needs nothing that isn't here.
    const missing = this.notMade().filter((i) => !open.includes(i) && !waiting(this.compiled.tests[i]!));
    if (missing.length === 0) return null;
    const quick = new Policy(this.model, { weighings: 0, depth: 0, breadth: [1, 1] });
    const best = quick.choices(this.decisive, missing)[0]!;
    if (best.action.kind !== 'test' || best.cost > cost * (1 - worthGetting)) return null;
    const doable = this.compiled.tests[best.action.test]!;
    const what = this.hindrance(doable)!;
    return {
      kind: 'get',
      what,
      test: doable.test.id,
      text: sentences.getTool(what, doable.test.title.toLowerCase()),
    };
  }
}
