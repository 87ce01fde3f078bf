import type { ParamValues } from '../library';
import { never } from '../units';
import type { BatteryFacts } from './battery';
import type { InterruptionPolicy, LeafStep, Target, WaitStep } from './definition';
import type { RunEvent } from './events';
import { type GivenNumber, valuesAt } from './numbers';
import { leafAt, type Program, roundStart, stepsInside, walk } from './program';
import type { StepResult } from './results';
import { sentences } from './sentences';
import { endOfWait, isOver, type WaitBehind, waitTimes } from './times';

/** Everything a run is at one moment, folded from its events. Times are milliseconds of the case's clock. */
export interface RunState {
  status: 'running' | 'finished' | 'stopped';
  /** Name of the definition's stop that ended the run; null when a person stopped it. */
  stop?: { name: string | null; text: string; at: number };
  /** The step to be done; meaningless unless running. */
  step: string;
  enteredAt: number;
  counters: Record<string, number>;
  answers: Record<string, { answer: string; value?: number; result?: StepResult; at: number }>;
  /** When steps were completed since the last restart: what waits count from. */
  anchors: Record<string, number>;
  /**
   * Within the present step: when "lamp out" was noted, since when an early one is questioned, since when a hold or timed count goes on, and until
   * when a wait goes on whose number was changed meanwhile, unless a person ends it.
   */
  seen: { outAt?: number; questionedAt?: number; begunAt?: number; heldUntil?: number };
  /** The step that was left for the procedure's measurement, as it was: the run goes on there. */
  left?: Pick<RunState, 'step' | 'enteredAt' | 'seen'>;
  keys: string[];
  /** Numbers looked up since the run began. */
  given: Record<string, GivenNumber>;
  /** What was entered of the battery, in order of time. */
  battery: { facts: BatteryFacts; at: number }[];
  /** What the last event brought about, if it was not simply the next step. */
  notice?: { kind: 'questioned' | 'early' | 'late' | 'unmet' | 'short' | 'over' | 'restarted' | 'waived' | 'goOn' | 'measure'; text?: string };
  /** Accepted events that were not taken back, in order. */
  history: RunEvent[];
  /** Number of events in the list, the taken-back ones included. */
  seq: number;
  lastAt: number;
  /** How many entries of `history` lie before or on the last point of no return. */
  committed: number;
}

/** A run's state while it is folded, changed in place: a copy for each event would cost more than all the rest. Nothing outside sees one. */
interface Draft extends Omit<RunState, 'stop' | 'left' | 'notice'> {
  stop: RunState['stop'] | undefined;
  left: RunState['left'] | undefined;
  notice: RunState['notice'] | undefined;
}

/** A draft that may be changed without the state changing. What isn't copied here is replaced and never changed. */
const draftOf = ({ stop, left, notice, ...state }: RunState): Draft => ({
  ...state,
  answers: { ...state.answers },
  anchors: { ...state.anchors },
  stop,
  left,
  notice,
});
const stateOf = ({ stop, left, notice, ...draft }: Draft): RunState => ({
  ...draft,
  ...(stop && { stop }),
  ...(left && { left }),
  ...(notice && { notice }),
});

/** The state after the list of events; the list starts with `started`. */
export function fold(program: Program, params: ParamValues, events: readonly RunEvent[]): RunState {
  const retracted = new Set<string>();
  for (const e of events) if (e.type === 'retracted') retracted.add(e.event);
  const standing = retracted.size === 0 ? events : events.filter((e) => e.type !== 'retracted' && !retracted.has(e.id));
  const first = standing[0];
  if (first?.type !== 'started') throw new Error('A run begins with a started event');
  const draft = begin(program, params, first);
  for (let i = 1; i < standing.length; i += 1) {
    draft.history.push(standing[i]!);
    step(program, params, draft, standing[i]!);
  }
  return { ...stateOf(draft), seq: events.length, lastAt: events.at(-1)!.occurredAt };
}

/** The state after one more event. A retraction folds the remaining history again. */
export function apply(program: Program, params: ParamValues, state: RunState, event: RunEvent): RunState {
  const seq = state.seq + 1;
  const lastAt = event.occurredAt;
  if (event.type === 'retracted') {
    const remaining = state.history.filter((e) => e.id !== event.event);
    return { ...fold(program, params, remaining), seq, lastAt };
  }
  const draft = draftOf(state);
  draft.history = [...state.history, event];
  step(program, params, draft, event);
  return { ...stateOf(draft), seq, lastAt };
}

function begin(program: Program, params: ParamValues, event: Extract<RunEvent, { type: 'started' }>): Draft {
  const draft: Draft = {
    status: 'running',
    stop: undefined,
    step: '',
    enteredAt: event.occurredAt,
    counters: {},
    answers: {},
    anchors: {},
    seen: {},
    left: undefined,
    keys: event.keys,
    given: {},
    battery: [],
    notice: undefined,
    history: [event],
    seq: 1,
    lastAt: event.occurredAt,
    committed: 1,
  };
  arrive(program, params, draft, 0, event.occurredAt);
  return draft;
}

/** Walks to the next leaf and enters it. */
function arrive(program: Program, params: ParamValues, draft: Draft, from: number, at: number): void {
  const before = draft.counters;
  const arrival = walk(program, from, { counters: before, answers: draft.answers, keys: draft.keys, params });
  switch (arrival.kind) {
    case 'end':
      draft.status = 'finished';
      draft.enteredAt = at;
      draft.seen = {};
      return;
    case 'target':
      follow(program, params, draft, arrival.target, at);
      return;
    case 'leaf': {
      const node = program.nodes[arrival.index]!;
      if (node.op !== 'leaf') throw new Error('A walk ends on a leaf');
      draft.step = node.step.id;
      draft.counters = arrival.counters;
      draft.enteredAt = at;
      draft.seen = {};
      if (arrival.counters !== before) forgetOldRound(program, before, draft);
      return;
    }
    default:
      never(arrival);
  }
}

/** A new round of a loop starts without the answers of the round before, except the one that the loop itself asks about. */
function forgetOldRound(program: Program, before: Record<string, number>, draft: Draft): void {
  for (const [id, round] of Object.entries(draft.counters))
    if (before[id] !== undefined && before[id] !== round) forget(draft, stepsInside(program, id));
}

function forget(draft: Draft, steps: readonly string[]): void {
  const gone = new Set(steps);
  draft.answers = Object.fromEntries(Object.entries(draft.answers).filter(([id]) => !gone.has(id)));
}

function follow(program: Program, params: ParamValues, draft: Draft, target: Target, at: number): void {
  if (target === 'next') {
    if (draft.left) backFromMeasuring(draft);
    else arrive(program, params, draft, leafAt(program, draft.step).index + 1, at);
    return;
  }
  if (target.startsWith('stop.')) {
    const name = target.slice(5);
    stop(draft, { name, text: program.procedure.stops[name]?.text ?? name, at });
    draft.seen = {};
    return;
  }
  const { loops, index } = leafAt(program, draft.step);
  switch (target) {
    case 'leaveLoop': {
      const end = program.nodes.findIndex((n) => n.op === 'again' && n.id === loops.at(-1));
      arrive(program, params, draft, (end < 0 ? index : end) + 1, at);
      return;
    }
    case 'restartStep':
      draft.enteredAt = at;
      draft.seen = {};
      draft.anchors = {};
      return;
    case 'restartCycle': {
      const start = roundStart(program, loops);
      if (start === undefined) {
        follow(program, params, draft, 'restart', at);
        return;
      }
      forget(draft, stepsInside(program, loops.at(-1)!));
      draft.anchors = {};
      arrive(program, params, draft, start, at);
      return;
    }
    case 'restart': {
      if (index < program.restartAt) {
        draft.enteredAt = at;
        draft.seen = {};
        return;
      }
      const kept = new Set(program.nodes.slice(0, program.restartAt).flatMap((n) => (n.op === 'leaf' ? [n.step.id] : [])));
      forget(
        draft,
        Object.keys(draft.answers).filter((id) => !kept.has(id)),
      );
      draft.anchors = {};
      draft.counters = {};
      arrive(program, params, draft, program.restartAt, at);
      return;
    }
    default:
      throw new Error(`Unknown target ${target}`);
  }
}

function stop(draft: Draft, how: NonNullable<RunState['stop']>): void {
  draft.status = 'stopped';
  draft.stop = how;
}

const policyTarget = (policy: Exclude<InterruptionPolicy, 'goOn' | 'measure' | 'stop'>): Target => policy;

/** From the measurement back to the step that was left for it; waits have gone on meanwhile. */
function backFromMeasuring(draft: Draft): void {
  if (!draft.left) return;
  ({ step: draft.step, enteredAt: draft.enteredAt, seen: draft.seen } = draft.left);
  draft.left = undefined;
}

function leaveToMeasure(program: Program, draft: Draft, at: number): void {
  if (draft.left || !program.procedure.measure) return;
  draft.left = { step: draft.step, enteredAt: draft.enteredAt, seen: draft.seen };
  draft.step = program.procedure.measure.id;
  draft.enteredAt = at;
  draft.seen = {};
}

/** One event more; the draft's history ends with it. */
function step(program: Program, began: ParamValues, draft: Draft, event: RunEvent): void {
  const params = valuesAt(began, draft);
  draft.notice = undefined;
  const at = event.occurredAt;
  switch (event.type) {
    case 'started':
    case 'retracted':
      throw new Error(`${event.type} can’t follow other events here`);
    case 'number':
      holdWait(program, began, draft, at);
      draft.given = { ...draft.given, [event.name]: { value: event.value, source: event.source, by: event.actor.name } };
      return;
    case 'battery':
      draft.battery = [...draft.battery, { facts: event.facts, at }];
      return;
    case 'noted':
      return;
    case 'stopped':
      stop(draft, { name: null, text: event.reason, at });
      return;
    case 'interrupted':
      interrupted(program, params, draft, event);
      return;
    case 'waived':
      draft.answers[event.step] = { answer: 'waived', at };
      follow(program, params, draft, 'next', at);
      draft.notice = { kind: 'waived' };
      return;
    case 'answered':
      answered(program, params, draft, event);
      return;
    default:
      never(event);
  }
}

function interrupted(program: Program, params: ParamValues, draft: Draft, event: Extract<RunEvent, { type: 'interrupted' }>): void {
  const at = event.occurredAt;
  // The run stays where it is, before a wait that is over by itself too: its upper limit still counts for the step behind it.
  if (event.policy === 'goOn') {
    draft.notice = { kind: 'goOn' };
    return;
  }
  if (event.policy === 'measure') {
    leaveToMeasure(program, draft, at);
    draft.notice = { kind: 'measure' };
    return;
  }
  settle(program, params, draft, event.step);
  backFromMeasuring(draft);
  if (event.policy === 'stop') {
    stop(draft, { name: null, text: sentences.interruptedBy(sentences[`interrupted_${event.what}`]), at });
    return;
  }
  follow(program, params, draft, policyTarget(event.policy), at);
  draft.notice = { kind: 'restarted' };
}

/**
 * A number that is changed during a wait never ends that wait by itself: it goes on to the end it had, unless a person says that the new time is up.
 */
function holdWait(program: Program, began: ParamValues, draft: Draft, at: number): void {
  if (draft.left) {
    const there = draftOf(stateOf(draft));
    backFromMeasuring(there);
    holdWait(program, began, there, at);
    draft.left = { step: there.step, enteredAt: there.enteredAt, seen: there.seen };
    return;
  }
  const here = present(program, began, stateOf(draft), at).state;
  if (here.status !== 'running') return;
  const { step: leaf } = leafAt(program, here.step);
  if (!('wait' in leaf)) return;
  const seen = { ...here.seen, heldUntil: endOfWait(leaf, here, valuesAt(began, draft)) };
  Object.assign(draft, draftOf(here), { seen });
}

/** Moves over waits that were over by themselves, up to the step the event speaks of. */
function settle(program: Program, params: ParamValues, draft: Draft, stepId: string): void {
  while (draft.step !== stepId) {
    const { step: current } = leafAt(program, draft.step);
    if (!('wait' in current)) throw new Error(`Event at step "${stepId}" while the run is at "${draft.step}"`);
    passWait(program, params, draft, current);
  }
}

/** Leaves a wait at the moment when it was over by itself. */
function passWait(program: Program, params: ParamValues, draft: Draft, wait: WaitStep): void {
  const over = endOfWait(wait, draft, params);
  draft.anchors[wait.id] = over;
  arrive(program, params, draft, leafAt(program, wait.id).index + 1, over);
}

function answered(program: Program, params: ParamValues, draft: Draft, event: Extract<RunEvent, { type: 'answered' }>): void {
  const at = event.occurredAt;
  if (event.remark === 'late') {
    const { behind } = present(program, params, stateOf(draft), at);
    if (!behind) throw new Error('A late answer follows a wait');
    const { step: wait } = behind;
    settle(program, params, draft, wait.id);
    follow(program, params, draft, wait.late ?? 'next', at);
    draft.notice = { kind: 'late', ...(wait.lateSay ? { text: wait.lateSay } : {}) };
    return;
  }
  settle(program, params, draft, event.step);
  const { step: leaf } = leafAt(program, event.step);
  const { heldUntil, ...seen } = draft.seen;
  // The time is up by the number that counts now; the lamp, where it counts, is still to be seen.
  if ('wait' in leaf && event.answer === 'timeOver' && event.remark !== 'questioned' && event.remark !== 'early') {
    draft.seen = seen;
    return;
  }
  draft.answers[event.step] = {
    answer: event.answer,
    at,
    ...(event.value === undefined ? {} : { value: event.value }),
    ...(event.result === undefined ? {} : { result: event.result }),
  };
  if ('wait' in leaf) {
    const held = heldUntil === undefined ? {} : { heldUntil };
    if (event.remark === 'questioned') {
      draft.seen = { ...held, questionedAt: at };
      draft.notice = { kind: 'questioned' };
      return;
    }
    if (event.remark === 'early') {
      draft.seen = { ...held, outAt: at };
      draft.notice = { kind: 'early' };
      return;
    }
    if (event.answer === 'stillOn') {
      const { redAt } = waitTimes(leaf, draft, params);
      if (redAt !== undefined && at >= redAt && leaf.redTo) follow(program, params, draft, leaf.redTo, at);
      else draft.seen = held;
      return;
    }
  }
  if (event.answer === 'begin' && ('hold' in leaf || 'count' in leaf)) {
    draft.seen = { begunAt: at };
    return;
  }
  if (event.remark === 'short') {
    draft.seen = {};
    draft.notice = { kind: 'short' };
    return;
  }
  if (event.remark === 'over') {
    follow(program, params, draft, overTarget(leaf), at);
    draft.notice = { kind: 'over', ...('lateSay' in leaf && leaf.lateSay ? { text: leaf.lateSay } : {}) };
    return;
  }
  if (event.remark === 'unmet' && 'value' in leaf) {
    draft.notice = { kind: 'unmet', text: leaf.unmet };
    return;
  }
  draft.anchors[event.step] = at;
  if ('commitment' in leaf) draft.committed = draft.history.length;
  follow(program, params, draft, targetOf(leaf, event.answer), at);
}

function targetOf(leaf: LeafStep, answer: string): Target {
  if ('answers' in leaf) return leaf.answers[answer]?.to ?? 'next';
  if ('count' in leaf && answer === 'other') return leaf.other ?? 'restartStep';
  if ('message' in leaf && answer === 'absent') return leaf.absent;
  if ('file' in leaf && answer === 'different') return leaf.differs ?? 'restartStep';
  return 'next';
}

/** Where an act leads that took longer than its own limit. */
function overTarget(leaf: LeafStep): Target {
  if ('message' in leaf) return leaf.absent;
  return ('hold' in leaf || 'count' in leaf ? leaf.late : undefined) ?? 'restartStep';
}

/** The run as a person meets it at a moment: waits that are over by themselves lie behind. */
export function present(program: Program, began: ParamValues, state: RunState, now: number): { state: RunState; behind?: WaitBehind } {
  const params = valuesAt(began, state);
  let here: Draft | undefined;
  let behind: WaitBehind | undefined;
  for (;;) {
    const at = here ?? state;
    if (at.status !== 'running') break;
    const { step: leaf } = leafAt(program, at.step);
    if (!('wait' in leaf) || !isOver(leaf, at, params, now)) break;
    behind = { step: leaf, times: waitTimes(leaf, at, params) };
    here ??= draftOf(state);
    passWait(program, params, here, leaf);
  }
  return here && behind ? { state: stateOf(here), behind } : { state };
}
