import { evaluateExpression, type Expression, type ParamValues } from '../library';
import { never } from '../units';
import type { BatteryFacts } from './battery';
import type { InterruptionPolicy, LeafStep, Target, WaitStep } from './definition';
import type { RunEvent } from './events';
import { type GivenNumber, valuesAt } from './numbers';
import { leafAt, type Program, roundStart, stepsInside, walk } from './program';
import type { StepResult } from './results';
import { sentences } from './sentences';

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

/** The state after the list of events; the list starts with `started`. */
export function fold(program: Program, params: ParamValues, events: readonly RunEvent[]): RunState {
  const retracted = new Set(events.flatMap((e) => (e.type === 'retracted' ? [e.event] : [])));
  const standing = events.filter((e) => e.type !== 'retracted' && !retracted.has(e.id));
  const first = standing[0];
  if (first?.type !== 'started') throw new Error('A run begins with a started event');
  let state = begin(program, params, first);
  // One list for all the states on the way, of which only the last goes out: a copy for each event would cost the square of their number.
  const history: RunEvent[] = [first];
  for (const event of standing.slice(1)) {
    history.push(event);
    state = step(program, params, state, event, history);
  }
  const last = events.at(-1)!;
  return { ...state, seq: events.length, lastAt: last.occurredAt };
}

/** The state after one more event. A retraction folds the remaining history again. */
export function apply(program: Program, params: ParamValues, state: RunState, event: RunEvent): RunState {
  if (event.type !== 'retracted')
    return { ...step(program, params, state, event, [...state.history, event]), seq: state.seq + 1, lastAt: event.occurredAt };
  const remaining = state.history.filter((e) => e.id !== event.event);
  return { ...fold(program, params, remaining), seq: state.seq + 1, lastAt: event.occurredAt };
}

function begin(program: Program, params: ParamValues, event: Extract<RunEvent, { type: 'started' }>): RunState {
  const empty: RunState = {
    status: 'running',
    step: '',
    enteredAt: event.occurredAt,
    counters: {},
    answers: {},
    anchors: {},
    seen: {},
    keys: event.keys,
    given: {},
    battery: [],
    history: [event],
    seq: 1,
    lastAt: event.occurredAt,
    committed: 1,
  };
  return arrive(program, params, empty, 0, event.occurredAt);
}

/** Walks to the next leaf and enters it. */
function arrive(program: Program, params: ParamValues, state: RunState, from: number, at: number): RunState {
  const arrival = walk(program, from, { counters: state.counters, answers: state.answers, keys: state.keys, params });
  switch (arrival.kind) {
    case 'end':
      return { ...state, status: 'finished', enteredAt: at, seen: {} };
    case 'target':
      return follow(program, params, state, arrival.target, at);
    case 'leaf': {
      const node = program.nodes[arrival.index]!;
      if (node.op !== 'leaf') throw new Error('A walk ends on a leaf');
      const entered = { ...state, step: node.step.id, counters: arrival.counters, enteredAt: at, seen: {} };
      return forgetOldRound(program, state.counters, entered);
    }
    default:
      return never(arrival);
  }
}

/** A new round of a loop starts without the answers of the round before, except the one that the loop itself asks about. */
function forgetOldRound(program: Program, before: Record<string, number>, state: RunState): RunState {
  const begun = Object.keys(state.counters).filter((id) => before[id] !== undefined && before[id] !== state.counters[id]);
  if (begun.length === 0) return state;
  const stale = new Set(begun.flatMap((id) => stepsInside(program, id)));
  return { ...state, answers: Object.fromEntries(Object.entries(state.answers).filter(([id]) => !stale.has(id))) };
}

function follow(program: Program, params: ParamValues, state: RunState, target: Target, at: number): RunState {
  if (target === 'next' && state.left) return backFromMeasuring(state);
  if (target === 'next') return arrive(program, params, state, leafAt(program, state.step).index + 1, at);
  if (target.startsWith('stop.')) {
    const name = target.slice(5);
    return { ...state, status: 'stopped', stop: { name, text: program.procedure.stops[name]?.text ?? name, at }, seen: {} };
  }
  const { loops, index } = leafAt(program, state.step);
  switch (target) {
    case 'leaveLoop': {
      const end = program.nodes.findIndex((n) => n.op === 'again' && n.id === loops.at(-1));
      return arrive(program, params, state, (end < 0 ? index : end) + 1, at);
    }
    case 'restartStep':
      return { ...state, enteredAt: at, seen: {}, anchors: {} };
    case 'restartCycle': {
      const start = roundStart(program, loops);
      if (start === undefined) return follow(program, params, state, 'restart', at);
      return arrive(program, params, { ...forgetRound(program, state, loops.at(-1)!), anchors: {} }, start, at);
    }
    case 'restart': {
      if (index < program.restartAt) return { ...state, enteredAt: at, seen: {} };
      const kept = new Set(program.nodes.slice(0, program.restartAt).flatMap((n) => (n.op === 'leaf' ? [n.step.id] : [])));
      const answers = Object.fromEntries(Object.entries(state.answers).filter(([id]) => kept.has(id)));
      return arrive(program, params, { ...state, answers, anchors: {}, counters: {} }, program.restartAt, at);
    }
    default:
      throw new Error(`Unknown target ${target}`);
  }
}

function forgetRound(program: Program, state: RunState, loopId: string): RunState {
  const inside = new Set(stepsInside(program, loopId));
  return { ...state, answers: Object.fromEntries(Object.entries(state.answers).filter(([id]) => !inside.has(id))) };
}

const policyTarget = (policy: Exclude<InterruptionPolicy, 'goOn' | 'measure' | 'stop'>): Target => policy;

/** From the measurement back to the step that was left for it; waits have gone on meanwhile. */
function backFromMeasuring(state: RunState): RunState {
  const { left, ...rest } = state;
  return left ? { ...rest, ...left } : state;
}

function leaveToMeasure(program: Program, state: RunState, at: number): RunState {
  if (state.left || !program.procedure.measure) return state;
  const { step, enteredAt, seen } = state;
  return { ...state, step: program.procedure.measure.id, enteredAt: at, seen: {}, left: { step, enteredAt, seen } };
}

/** @param history the events up to this one, which it includes */
function step(program: Program, began: ParamValues, before: RunState, event: RunEvent, history: RunEvent[]): RunState {
  const params = valuesAt(began, before);
  const { notice: _gone, ...rest } = before;
  const state: RunState = { ...rest, history };
  const at = event.occurredAt;
  switch (event.type) {
    case 'started':
    case 'retracted':
      throw new Error(`${event.type} can’t follow other events here`);
    case 'number': {
      const given = { value: event.value, source: event.source, by: event.actor.name };
      return { ...holdWait(program, began, state, at), given: { ...state.given, [event.name]: given } };
    }
    case 'battery':
      return { ...state, battery: [...state.battery, { facts: event.facts, at }] };
    case 'noted':
      return state;
    case 'stopped':
      return { ...state, status: 'stopped', stop: { name: null, text: event.reason, at } };
    case 'interrupted': {
      // The run stays where it is, before a wait that is over by itself too: its upper limit still counts for the step behind it.
      if (event.policy === 'goOn') return { ...state, notice: { kind: 'goOn' } };
      if (event.policy === 'measure') return { ...leaveToMeasure(program, state, at), notice: { kind: 'measure' } };
      const here = backFromMeasuring(settle(program, params, state, event.step));
      if (event.policy === 'stop')
        return { ...here, status: 'stopped', stop: { name: null, text: sentences.interruptedBy(sentences[`interrupted_${event.what}`]), at } };
      return { ...follow(program, params, here, policyTarget(event.policy), at), notice: { kind: 'restarted' } };
    }
    case 'waived': {
      const done = { ...state, answers: { ...state.answers, [event.step]: { answer: 'waived', at } } };
      return { ...follow(program, params, done, 'next', at), notice: { kind: 'waived' } };
    }
    case 'answered':
      return answered(program, params, state, event);
    default:
      return never(event);
  }
}

/**
 * A number that is changed during a wait never ends that wait by itself: it goes on to the end it had, unless a person says that the new time is up.
 */
function holdWait(program: Program, began: ParamValues, state: RunState, at: number): RunState {
  if (state.left) {
    const { step, enteredAt, seen } = holdWait(program, began, backFromMeasuring(state), at);
    return { ...state, left: { step, enteredAt, seen } };
  }
  const here = present(program, began, state, at).state;
  if (here.status !== 'running') return state;
  const { step: leaf } = leafAt(program, here.step);
  if (!('wait' in leaf)) return state;
  return { ...here, seen: { ...here.seen, heldUntil: endOfWait(leaf, here, valuesAt(began, state)) } };
}

/** Moves over waits that were over by themselves, up to the step the event speaks of. */
function settle(program: Program, params: ParamValues, state: RunState, stepId: string): RunState {
  let here = state;
  while (here.step !== stepId) {
    const { step: current, index } = leafAt(program, here.step);
    if (!('wait' in current)) throw new Error(`Event at step "${stepId}" while the run is at "${here.step}"`);
    const over = endOfWait(current, here, params);
    here = arrive(program, params, { ...here, anchors: { ...here.anchors, [current.id]: over } }, index + 1, over);
  }
  return here;
}

function answered(program: Program, params: ParamValues, state: RunState, event: Extract<RunEvent, { type: 'answered' }>): RunState {
  const at = event.occurredAt;
  if (event.remark === 'late') {
    const { behind } = present(program, params, state, at);
    if (!behind) throw new Error('A late answer follows a wait');
    const { step: wait } = behind;
    const here = settle(program, params, state, wait.id);
    return { ...follow(program, params, here, wait.late ?? 'next', at), notice: { kind: 'late', ...(wait.lateSay ? { text: wait.lateSay } : {}) } };
  }
  const here = settle(program, params, state, event.step);
  const { step: leaf } = leafAt(program, event.step);
  const recorded = {
    answer: event.answer,
    at,
    ...(event.value === undefined ? {} : { value: event.value }),
    ...(event.result === undefined ? {} : { result: event.result }),
  };
  const noted: RunState = { ...here, answers: { ...here.answers, [event.step]: recorded } };
  if ('wait' in leaf) {
    const held = here.seen.heldUntil === undefined ? {} : { heldUntil: here.seen.heldUntil };
    if (event.remark === 'questioned') return { ...noted, seen: { ...held, questionedAt: at }, notice: { kind: 'questioned' } };
    if (event.remark === 'early') return { ...noted, seen: { ...held, outAt: at }, notice: { kind: 'early' } };
    // The time is up by the number that counts now; the lamp, where it counts, is still to be seen.
    if (event.answer === 'timeOver') {
      const { heldUntil: _over, ...seen } = here.seen;
      return { ...here, seen };
    }
    if (event.answer === 'stillOn') {
      const { redAt } = waitTimes(leaf, here, params);
      if (redAt !== undefined && at >= redAt && leaf.redTo) return follow(program, params, noted, leaf.redTo, at);
      return { ...noted, seen: held };
    }
  }
  if (event.answer === 'begin' && ('hold' in leaf || 'count' in leaf)) return { ...noted, seen: { begunAt: at } };
  if (event.remark === 'short') return { ...noted, seen: {}, notice: { kind: 'short' } };
  if (event.remark === 'over') {
    const say = 'lateSay' in leaf && leaf.lateSay ? { text: leaf.lateSay } : {};
    return { ...follow(program, params, noted, overTarget(leaf), at), notice: { kind: 'over', ...say } };
  }
  if (event.remark === 'unmet' && 'value' in leaf) return { ...noted, notice: { kind: 'unmet', text: leaf.unmet } };
  const done: RunState = {
    ...noted,
    anchors: { ...noted.anchors, [event.step]: at },
    committed: 'commitment' in leaf ? noted.history.length : noted.committed,
  };
  return follow(program, params, done, targetOf(leaf, event.answer), at);
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

/** The limits of an act that is measured from its beginning, as moments. */
export interface ActTimes {
  startedAt: number;
  /** Long enough from here on. */
  minAt?: number;
  /** Too long after this. */
  maxAt?: number;
}

/** Undefined when the step has no such limits, or when it has not started. */
export function actTimes(step: LeafStep, state: Pick<RunState, 'seen' | 'enteredAt'>, params: ParamValues): ActTimes | undefined {
  const { begunAt } = state.seen;
  const after = (moment: number, seconds: Expression | undefined) =>
    seconds === undefined ? undefined : moment + 1000 * evaluateExpression(seconds, params);
  const times = (startedAt: number, min: Expression | undefined, max: Expression | undefined): ActTimes => {
    const [minAt, maxAt] = [after(startedAt, min), after(startedAt, max)];
    return { startedAt, ...(minAt === undefined ? {} : { minAt }), ...(maxAt === undefined ? {} : { maxAt }) };
  };
  if ('hold' in step) return begunAt === undefined ? undefined : times(begunAt, step.hold.min, step.hold.max);
  if ('count' in step) return begunAt === undefined ? undefined : times(begunAt, undefined, step.count.within);
  if ('message' in step && step.within !== undefined) return times(state.enteredAt, undefined, step.within);
  return undefined;
}

/** The moments of a wait, derived from events and parameters only. */
export interface WaitTimes {
  startedAt: number;
  /** The time is over. */
  minAt: number;
  /** Before this, "lamp out" is questioned. */
  trustedFrom: number;
  amberAt?: number;
  redAt?: number;
  /** Upper limit of a wait on time alone. */
  maxAt?: number;
}

export function waitTimes(step: WaitStep, state: Pick<RunState, 'anchors' | 'enteredAt'>, params: ParamValues): WaitTimes {
  const anchors = step.wait.from.flatMap((id) => state.anchors[id] ?? []);
  const startedAt = anchors.length > 0 ? Math.max(...anchors) : state.enteredAt;
  const minAt = startedAt + 1000 * evaluateExpression(step.wait.min, params);
  const after = (moment: number, expression: number | string | undefined) =>
    expression === undefined ? undefined : moment + 1000 * evaluateExpression(expression, params);
  const window = step.wait.window === undefined ? 0 : 1000 * evaluateExpression(step.wait.window, params);
  const times: WaitTimes = { startedAt, minAt, trustedFrom: minAt - window };
  const [amberAt, redAt, maxAt] = [after(minAt, step.wait.amber), after(minAt, step.wait.red), after(startedAt, step.wait.max)];
  if (amberAt !== undefined) times.amberAt = amberAt;
  if (redAt !== undefined) times.redAt = redAt;
  if (maxAt !== undefined) times.maxAt = maxAt;
  return times;
}

/** When a wait is over without a person: by its number, but not before the end it had when that number was changed. */
export function endOfWait(step: WaitStep, state: Pick<RunState, 'anchors' | 'enteredAt' | 'seen'>, params: ParamValues): number {
  return Math.max(waitTimes(step, state, params).minAt, state.seen.heldUntil ?? -Infinity);
}

/** Whether a wait is over by a number that was changed meanwhile, and not by the one it began with: a person may end it. */
export function isShortened(step: LeafStep, state: Pick<RunState, 'anchors' | 'enteredAt' | 'seen'>, params: ParamValues, now: number): boolean {
  return 'wait' in step && state.seen.heldUntil !== undefined && now >= waitTimes(step, state, params).minAt && now < state.seen.heldUntil;
}

/** A wait that needs nobody any more: its time is over and, where the lamp counts, it was noted out. */
function isOver(step: WaitStep, state: RunState, params: ParamValues, now: number): boolean {
  if (now < endOfWait(step, state, params)) return false;
  return step.wait.and !== 'lampOut' || state.seen.outAt !== undefined;
}

/** A wait that lies behind by itself, with its moments: its upper limit still counts for the step that follows. */
export interface WaitBehind {
  step: WaitStep;
  times: WaitTimes;
}

/** The run as a person meets it at a moment: waits that are over by themselves lie behind. */
export function present(program: Program, began: ParamValues, state: RunState, now: number): { state: RunState; behind?: WaitBehind } {
  const params = valuesAt(began, state);
  let here = state;
  let behind: WaitBehind | undefined;
  while (here.status === 'running') {
    const { step: leaf, index } = leafAt(program, here.step);
    if (!('wait' in leaf) || !isOver(leaf, here, params, now)) break;
    const times = waitTimes(leaf, here, params);
    behind = { step: leaf, times };
    const over = endOfWait(leaf, here, params);
    here = arrive(program, params, { ...here, anchors: { ...here.anchors, [leaf.id]: over } }, index + 1, over);
  }
  return behind ? { state: here, behind } : { state: here };
}
