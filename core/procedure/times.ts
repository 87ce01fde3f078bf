import { evaluateExpression, type Expression, type ParamValues } from '../library';
import type { LeafStep, WaitStep } from './definition';

/** The moments in a run's state that limits are counted from, ms: when steps were done, when this one began, and what was seen in it. */
export interface Moments {
  anchors: Readonly<Record<string, number>>;
  enteredAt: number;
  seen: { begunAt?: number; outAt?: number; heldUntil?: number };
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
export function actTimes(step: LeafStep, state: Pick<Moments, 'seen' | 'enteredAt'>, params: ParamValues): ActTimes | undefined {
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

export function waitTimes(step: WaitStep, state: Pick<Moments, 'anchors' | 'enteredAt'>, params: ParamValues): WaitTimes {
  const { from, min, window, amber, red, max } = step.wait;
  let last: number | undefined;
  for (const id of from) {
    const anchor = state.anchors[id];
    if (anchor !== undefined && !(last !== undefined && last > anchor)) last = anchor;
  }
  const startedAt = last ?? state.enteredAt;
  const minAt = startedAt + ms(min, params);
  const times: WaitTimes = { startedAt, minAt, trustedFrom: window === undefined ? minAt : minAt - ms(window, params) };
  if (amber !== undefined) times.amberAt = minAt + ms(amber, params);
  if (red !== undefined) times.redAt = minAt + ms(red, params);
  if (max !== undefined) times.maxAt = startedAt + ms(max, params);
  return times;
}

const ms = (seconds: Expression, params: ParamValues): number => 1000 * evaluateExpression(seconds, params);

/** When a wait is over without a person: by its number, but not before the end it had when that number was changed. */
export function endOfWait(step: WaitStep, state: Moments, params: ParamValues): number {
  return Math.max(waitTimes(step, state, params).minAt, state.seen.heldUntil ?? -Infinity);
}

/** Whether a wait is over by a number that was changed meanwhile, and not by the one it began with: a person may end it. */
export function isShortened(step: LeafStep, state: Moments, params: ParamValues, now: number): boolean {
  return 'wait' in step && state.seen.heldUntil !== undefined && now >= waitTimes(step, state, params).minAt && now < state.seen.heldUntil;
}

/** A wait that needs nobody any more: its time is over and, where the lamp counts, it was noted out. */
export function isOver(step: WaitStep, state: Moments, params: ParamValues, now: number): boolean {
  if (now < endOfWait(step, state, params)) return false;
  return step.wait.and !== 'lampOut' || state.seen.outAt !== undefined;
}

/** A wait that lies behind by itself, with its moments: its upper limit still counts for the step that follows. */
export interface WaitBehind {
  step: WaitStep;
  times: WaitTimes;
}
