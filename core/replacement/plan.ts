import type { Effect } from '../library';
import {
  type Doer,
  type FactName,
  holdsSomething,
  type ModuleName,
  networkQuiet,
  type Origin,
  type Place,
  type Replacement,
  type Stage,
  type Way,
} from './documents';
import { scanTool } from './vocabulary';
import { everything, type GroundAct, type Grounded, groundSituation, itemOf, partOf, replacedParts, type Situation } from './situation';
import { type Move, shortest } from './shortest';
import { type PlanWarning, warningsOf } from './warnings';

export interface PlanStep {
  /** The act, and after a dot the part that it is made for. */
  id: string;
  title: string;
  why: string;
  part?: ModuleName;
  by: Doer;
  back: Way;
  minutes: number;
  attended: number;
  money: number;
  effect: Effect;
  stage: Stage;
  procedure?: string;
  /** Where in the case it is written down. */
  place?: Place;
  /** A scan that counts only without a communication code. */
  quiet?: true;
  risk?: string;
  /** Items that are there again after it. */
  brings: FactName[];
  /** Steps that must be done before it. */
  after: string[];
}

/** Why an act that would bring something can't be done. */
export type Lack =
  | { code: 'tool'; act: string; tool: string }
  | { code: 'keys'; act: string; role: 'learned' | 'main' | 'master'; n: number }
  | { code: 'byHand'; act: string }
  | { code: 'waitsFor'; act: string; fact: FactName }
  | { code: 'nothing' };

export interface CannotBring {
  /** Part and item, as `engine.identity`. */
  fact: FactName;
  because: Lack[];
  /** What to do then, as the content says. */
  then: string;
}

export interface ReplacementPlan {
  steps: PlanStep[];
  /** Sums over the steps: elapsed minutes if nothing is done side by side, those that need a person, money beyond the minutes. */
  minutes: number;
  attended: number;
  money: number;
  /** Items that are gone with what is replaced. */
  lost: FactName[];
  cannot: CannotBring[];
  warnings: PlanWarning[];
  /** Replaced parts that hold nothing, or that this system type hasn't, with what the content says of them. */
  plain: { part: ModuleName; say: string }[];
}

/** What an act lacks of tools and keys; empty where it can be done. */
function lacks(act: GroundAct, { have, byHand }: Situation): Lack[] {
  const { keys } = have ?? everything;
  const tools = [...(act.by === 'scanTool' ? [scanTool] : []), ...act.tools];
  return [
    ...(byHand && act.by === 'scanTool' ? [{ code: 'byHand' as const, act: act.id }] : []),
    ...(have === undefined ? [] : tools.filter((t) => !have.tools.includes(t)).map((tool) => ({ code: 'tool' as const, act: act.id, tool }))),
    ...(['learned', 'main', 'master'] as const).flatMap((role) => {
      const n = act.keys[role] ?? 0;
      return keys[role] >= n ? [] : [{ code: 'keys' as const, act: act.id, role, n }];
    }),
  ];
}

/** Acts that can be done with what is at hand. */
function availableActs(acts: readonly GroundAct[], situation: Situation): GroundAct[] {
  const doable = acts.filter((a) => lacks(a, situation).length === 0);
  return doable.filter((a) => a.insteadOf === undefined || !doable.some((other) => other.of === a.insteadOf && other.part === a.part));
}

/** What can become so, if nothing were ever made void. */
function reachable(acts: readonly GroundAct[], start: ReadonlySet<FactName>): Set<FactName> {
  const facts = new Set(start);
  for (let size = -1; size !== facts.size;) {
    size = facts.size;
    for (const act of acts) if (act.needs.every((f) => facts.has(f))) act.gives.forEach((f) => facts.add(f));
  }
  return facts;
}

/** Acts that bring something that is missing, or something that such an act waits for; the others need not be looked at. */
function relevantActs(acts: readonly GroundAct[], start: ReadonlySet<FactName>, goals: readonly FactName[]): GroundAct[] {
  const wanted = new Set(goals.filter((f) => !start.has(f)));
  const relevant = new Set<GroundAct>();
  for (let size = -1; size !== relevant.size + wanted.size;) {
    size = relevant.size + wanted.size;
    for (const act of acts) {
      if (!act.gives.some((f) => wanted.has(f))) continue;
      relevant.add(act);
      act.needs.filter((f) => !start.has(f)).forEach((f) => wanted.add(f));
      // What it makes void is wanted again, where it is a goal.
      act.takes.filter((f) => goals.includes(f)).forEach((f) => wanted.add(f));
    }
  }
  return acts.filter((a) => relevant.has(a));
}

/** The quickest order of acts from what is so to what must be so. */
function quickest(acts: readonly GroundAct[], start: ReadonlySet<FactName>, goals: readonly FactName[]): GroundAct[] | undefined {
  const relevant = relevantActs(acts, start, goals);
  const bits = new Map<FactName, bigint>();
  const bit = (fact: FactName): bigint => {
    const known = bits.get(fact);
    if (known !== undefined) return known;
    const next = 1n << BigInt(bits.size);
    bits.set(fact, next);
    return next;
  };
  const mask = (facts: readonly FactName[]) => facts.reduce((m, f) => m | bit(f), 0n);
  const goal = mask(goals);
  const needed = mask(relevant.flatMap((a) => a.needs)) | goal;
  const moves: Move[] = relevant.map((a) => ({
    needs: mask(a.needs),
    gives: mask(a.gives) & needed,
    takes: mask(a.takes) & needed,
    cost: a.minutes,
  }));
  const from = [...start].filter((f) => bits.has(f));
  return shortest(moves, mask(from), goal)?.map((i) => relevant[i]!);
}

/** Steps that must be done before each, from what gives what and what makes what void. */
function linked(acts: readonly GroundAct[], { start, lost }: Grounded): PlanStep[] {
  const firstAfter = acts.findIndex((a) => a.stage !== 'before');
  const isGoing = (a: GroundAct) => a.stage !== 'before' && a.stage !== 'after';
  return acts.map((act, i) => {
    const after = new Set<string>();
    for (const need of act.needs) {
      const giver = acts.slice(0, i).findLast((a) => a.gives.includes(need));
      if (giver && (!start.has(need) || acts.slice(0, i).some((a) => a.takes.includes(need)))) after.add(giver.id);
    }
    // What makes something void comes after whoever still needed it.
    for (const earlier of acts.slice(0, i)) if (act.takes.some((f) => earlier.needs.includes(f))) after.add(earlier.id);
    // Everything is read, compared and looked for before the first thing is unplugged; what closes comes when all is brought back.
    if (isGoing(act) && !acts.slice(firstAfter, i).some((a) => after.has(a.id))) acts.slice(0, firstAfter).forEach((a) => after.add(a.id));
    if (act.stage === 'after') {
      const previous = acts[i - 1];
      if (previous?.stage === 'after') after.add(previous.id);
      else acts.slice(0, i).forEach((a) => after.add(a.id));
    }
    const { id, title, why, part, by, back, minutes, attended, money, effect, stage, procedure, place, risk } = act;
    const brings = act.gives.filter((f) => lost.includes(f) || act.takes.includes(f));
    return {
      id,
      title,
      why,
      ...(part === undefined ? {} : { part }),
      by,
      back,
      minutes,
      attended,
      money,
      effect,
      stage,
      ...(procedure === undefined ? {} : { procedure }),
      ...(place === undefined ? {} : { place }),
      ...(place === 'scan' && act.gives.includes(networkQuiet) ? { quiet: true as const } : {}),
      ...(risk === undefined ? {} : { risk }),
      brings,
      after: acts.slice(0, i).flatMap((a) => (after.has(a.id) ? [a.id] : [])),
    };
  });
}

/** Why a fact can't become so: for each act that would bring it, what it lacks or waits for in vain. */
function because(fact: FactName, acts: readonly GroundAct[], situation: Situation, known: ReadonlySet<FactName>): Lack[] {
  const bringing = acts.filter((a) => a.gives.includes(fact) && a.insteadOf === undefined);
  if (bringing.length === 0) return [{ code: 'nothing' }];
  return bringing.flatMap((act): Lack[] => {
    const own = lacks(act, situation);
    if (own.length > 0) return own;
    return act.needs.filter((f) => !known.has(f)).map((f) => ({ code: 'waitsFor', act: act.id, fact: f }));
  });
}

/** Counters that stay wrong are told, and what can be set another day; everything else that can't be brought back is a reason not to begin. */
function isStopping(fact: FactName, content: Replacement): boolean {
  const item = itemOf(fact);
  const part = item && content.parts[item.part];
  return item === undefined || part === undefined || !holdsSomething(part) || (item.item !== 'counters' && part.holds[item.item]?.later !== true);
}

/**
 * What to do after parts were replaced, or are going to be: in an order in which nothing comes before what it needs and that takes the least time, with
 * a reason for each step; and what can't be brought back, with why and what then. Where something that the vehicle needs can't be brought back there
 * are no steps: a part that can't be made to work is better not begun.
 */
export function planReplacement(content: Replacement, situation: Situation): ReplacementPlan {
  const grounded = groundSituation(content, situation);
  const { start, goals, lost } = grounded;
  const replaced = replacedParts(content, situation.replaced);
  const able = availableActs(grounded.acts, situation);
  const first = able.filter((a) => a.stage === 'before');
  const known = new Set([...start, ...first.flatMap((a) => a.gives)]);
  const going = able.filter((a) => a.stage !== 'before' && a.stage !== 'after');
  const can = reachable(going, known);
  const cannot = goals
    .filter((f) => !can.has(f))
    .map((fact): CannotBring => {
      const part = content.parts[fact.split('.')[0] as ModuleName];
      return { fact, because: because(fact, grounded.acts, situation, can), then: holdsSomething(part) ? part.otherwise : '' };
    });
  const stops = cannot.some(({ fact }) => isStopping(fact, content));
  const within = stops
    ? undefined
    : quickest(
        going,
        known,
        goals.filter((f) => can.has(f)),
      );
  const anything = within !== undefined && replaced.size > 0;
  const acts = anything ? [...first, ...within, ...able.filter((a) => a.stage === 'after')] : [];
  const steps = linked(acts, grounded);
  const sum = (of: (step: PlanStep) => number) => steps.reduce((total, step) => total + of(step), 0);
  return {
    steps,
    minutes: sum((s) => s.minutes),
    attended: sum((s) => s.attended),
    money: sum((s) => s.money),
    lost,
    cannot,
    warnings: warningsOf(content, situation, replaced, acts),
    plain: plainParts(content, situation.replaced),
  };
}

/** The same replacement without a scan tool and with whatever is at hand, side by side. */
export function bothWays(content: Replacement, situation: Omit<Situation, 'byHand'>): { byHand: ReplacementPlan; withTool: ReplacementPlan } {
  return { byHand: planReplacement(content, { ...situation, byHand: true }), withTool: planReplacement(content, situation) };
}

function plainParts(content: Replacement, replaced: Partial<Record<ModuleName, Origin>>): ReplacementPlan['plain'] {
  return (Object.keys(replaced) as ModuleName[]).flatMap((name) => {
    const { part } = partOf(content, name);
    if ('plain' in part) return [{ part: name, say: part.plain }];
    return 'absent' in part ? [{ part: name, say: part.absent }] : [];
  });
}
