import { evaluateExpression, type ParamValues } from '../library';
import { type Draw, minutesWords, mostMinutes, predict, type Predicted, type Reading } from '../reserve';
import { type BatteryFacts, typicalFacts } from './battery';
import { kindOf, type ValueStep } from './definition';
import { happyPath, placeOnPath } from './happyPath';
import { valuesAt } from './numbers';
import { leafAt, type Program } from './program';
import { sentences } from './sentences';
import type { RunState } from './state';

/** Under which voltage at its posts a run must not go on, where the procedure names none. */
const usualLimit = 12;

/** The battery's reserve as it was at the last event of a run. */
export interface RunReserve {
  facts: BatteryFacts;
  /** Nobody has entered what is known of the battery. */
  typical: boolean;
  restedVolts: number;
  readings: Reading[];
  limitVolts: number;
  predicted: Predicted;
  /** Of the way from the last event to the expected end, what loads the battery. */
  neededMinutes: number;
  /** Until when nineteen of twenty such batteries hold, as a moment; Infinity with a day or more. */
  sureUntil: number;
  /** When the run would end if the load were on from now on. */
  endsAt: number;
  /** The battery is off the vehicle now: it loses nothing. */
  disconnected: boolean;
}

/**
 * Predictions that were made before, the newest last: between two events of a run its page and its lines on other pages ask for the same one again and
 * again, and one takes as long as all the rest of the page.
 */
const known = new Map<string, Predicted>();
const mostKnown = 100;

function predictedOf(battery: Parameters<typeof predict>[0], asked: Parameters<typeof predict>[1]): Predicted {
  const name = JSON.stringify([battery, asked]);
  const before = known.get(name);
  if (before) return before;
  const made = predict(battery, asked);
  if (known.size >= mostKnown) known.delete(known.keys().next().value!);
  known.set(name, made);
  return made;
}

/**
 * What the battery has left for the rest of a run: from the rested voltage on, as if the load were on all the time, fitted to every voltage that was
 * measured under load since. Undefined before the rested voltage was measured, and when the run has ended.
 */
export function reserveOf(program: Program, began: ParamValues, state: RunState): RunReserve | undefined {
  if (state.status !== 'running') return undefined;
  const measured = state.history.flatMap((e) => {
    if (e.type !== 'answered' || e.value === undefined) return [];
    const { step } = leafAt(program, e.step);
    return kindOf(step) === 'value' && (step as ValueStep).value.battery !== undefined
      ? [{ step: step as ValueStep, volts: e.value, at: e.occurredAt }]
      : [];
  });
  const rested = measured.findLast((m) => m.step.value.battery === 'rested');
  if (!rested) return undefined;
  const since = (at: number) => Math.max(0, at - rested.at) / 60_000;
  const facts = state.battery.at(-1)?.facts ?? typicalFacts;
  const draws = drawsOf(program, state, rested.at);
  const readings = measured
    .filter((m) => m.step.value.battery === 'loaded' && m.at >= rested.at)
    .map(({ at, volts }) => ({ minutes: since(at), volts }));
  const values = valuesAt(began, state);
  const limitVolts = limitOf(program, values);
  const now = state.lastAt;
  const neededMinutes = loadedAhead(program, values, state);
  const battery = { ...facts, openCircuitVolts: rested.volts, limitVolts };
  const predicted = predictedOf(battery, { minutes: neededMinutes, from: since(now), readings, draws });
  return {
    facts,
    typical: state.battery.length === 0,
    restedVolts: rested.volts,
    readings,
    limitVolts,
    predicted,
    neededMinutes,
    sureUntil: predicted.minutesSure >= mostMinutes ? Infinity : now + predicted.minutesSure * 60_000,
    endsAt: now + neededMinutes * 60_000,
    disconnected: disconnectedSince(program, state, rested.at).now,
  };
}

/**
 * Minutes of the way ahead in which the battery is loaded: what lies between the procedure's `disconnected` steps doesn't count. A wait counts from its
 * beginning.
 */
function loadedAhead(program: Program, values: ParamValues, state: RunState): number {
  const path = happyPath(program, values, state.keys, state.answers, state.counters);
  const here = Math.max(0, placeOnPath(program, path, state.left?.step ?? state.step, state.counters));
  const { disconnected } = program.procedure;
  const at = (id: string | undefined) => (id === undefined ? -1 : path.findIndex((e) => e.step.id === id));
  const [off, on] = [at(disconnected?.from), at(disconnected?.until)];
  const seconds = path.slice(here).reduce((sum, e, i) => (off >= 0 && here + i > off && here + i <= on ? sum : sum + e.attendedS + e.waitS), 0);
  return seconds / 60;
}

/** When the battery was taken off and put on again since a moment, and whether it is off now. */
function disconnectedSince(program: Program, state: RunState, since: number): { changes: { at: number; off: boolean }[]; now: boolean } {
  const { disconnected } = program.procedure;
  const changes = state.history.flatMap((e) =>
    e.type === 'answered' && e.occurredAt >= since && (e.step === disconnected?.from || e.step === disconnected?.until)
      ? [{ at: e.occurredAt, off: e.step === disconnected.from }]
      : [],
  );
  return { changes, now: changes.at(-1)?.off ?? false };
}

/**
 * What drew on the battery, from the rested voltage on: what was first known of it counts from the beginning, a change from when it was entered, and nothing
 * while the battery was off.
 */
function drawsOf(program: Program, state: RunState, restedAt: number): Draw[] {
  const [first, ...entered] = state.battery;
  const net = ({ loadAmps, supplyAmps }: BatteryFacts) => loadAmps - supplyAmps;
  const { changes } = disconnectedSince(program, state, restedAt);
  const moments = [...entered.map((e) => e.at), ...changes.map((c) => c.at)].filter((at) => at > restedAt).toSorted((a, b) => a - b);
  return [restedAt, ...moments].map((at) => {
    const facts = entered.findLast((e) => e.at <= at)?.facts ?? first?.facts ?? typicalFacts;
    const off = changes.findLast((c) => c.at <= at)?.off ?? false;
    return { fromMinute: (at - restedAt) / 60_000, amps: off ? 0 : net(facts) };
  });
}

function limitOf(program: Program, values: ParamValues): number {
  for (const node of program.nodes) {
    if (node.op !== 'leaf' || !('value' in node.step) || node.step.value.battery !== 'loaded' || node.step.value.atLeast === undefined) continue;
    return evaluateExpression(node.step.value.atLeast, values);
  }
  return usualLimit;
}

/** How long before the battery is no longer sure a person is warned. */
const warnMs = 5 * 60_000;

/** What a screen says of the reserve at a moment, and when a voice says it. */
export interface ReserveSaid {
  attention: 'none' | 'amber' | 'red';
  text: string;
  /** Undefined where the run is over before. */
  alarm?: { at: number; say: string };
}

/** The reserve in words. @param now milliseconds of the case's clock */
export function sayReserve(reserve: RunReserve, now: number): ReserveSaid {
  const { sureUntil, endsAt, predicted, facts } = reserve;
  const left = Math.max(0, (sureUntil - now) / 60_000);
  const needed = Math.ceil(Math.max(0, endsAt - now) / 60_000);
  if (reserve.disconnected) return { attention: 'none', text: sentences.reserveOff };
  if (sureUntil === Infinity)
    return { attention: 'none', text: facts.supplyAmps > 0 ? sentences.reserveHeld : sentences.reserveEnough(minutesWords(mostMinutes)) };
  if (sureUntil >= Math.max(endsAt, now)) return { attention: 'none', text: sentences.reserveEnough(minutesWords(left)) };
  const amps = facts.supplyAmps + Math.max(1, predicted.supplyAmps);
  const text = predicted.verdict === 'dont' ? sentences.reserveFlat : sentences.reserveShort(minutesWords(left), needed, amps);
  return { attention: sureUntil - now <= warnMs ? 'red' : 'amber', text, alarm: { at: sureUntil - warnMs, say: sentences.reserveAloud(amps) } };
}
