import type { ParamValues } from '../library';
import type { RunEvent } from './events';
import { leafAt, type Program } from './program';
import { apply, fold, present, type RunState } from './state';

/** How long acts of a procedure took in runs that have ended: by step, seconds each. */
export type Paces = Readonly<Record<string, readonly number[]>>;

/** What lay longer than this was not being done: somebody was at another car. Seconds; our own choice. */
const longestAct = 600;
/** As many times as the content's estimate is worth beside those of the shop: as for minutes of tests and fixes (core/diagnosis/learned). */
const estimateWeight = 8;

/**
 * How long each act of one run took, from when its instruction was there until its answer. Waits and holds are left out, since a clock sets their length; so is
 * what took longer than ten minutes, and what was answered while another step was left for a measurement.
 */
export function pacesOf(program: Program, values: ParamValues, events: readonly RunEvent[]): { step: string; seconds: number }[] {
  const retracted = new Set(events.flatMap((e) => (e.type === 'retracted' ? [e.event] : [])));
  const standing = events.filter((e) => e.type !== 'retracted' && !retracted.has(e.id));
  const found: { step: string; seconds: number }[] = [];
  let state: RunState = fold(program, values, standing.slice(0, 1));
  for (const event of standing.slice(1)) {
    const here = present(program, values, state, event.occurredAt).state;
    if (event.type === 'answered' && here.status === 'running' && event.step === here.step && !here.left) {
      const { step } = leafAt(program, here.step);
      const seconds = (event.occurredAt - here.enteredAt) / 1000;
      if (!('wait' in step) && !('hold' in step) && seconds > 0 && seconds <= longestAct) found.push({ step: event.step, seconds });
    }
    state = apply(program, values, state, event);
  }
  return found;
}

/** Seconds of an act here: the median of those counted, shrunk towards the content's estimate. @param counted in this shop, seconds each */
export function paceHere(estimate: number, counted: readonly number[] = []): number {
  if (counted.length === 0) return estimate;
  const sorted = [...counted].sort((a, b) => a - b);
  const middle = (sorted[Math.floor((sorted.length - 1) / 2)]! + sorted[Math.ceil((sorted.length - 1) / 2)]!) / 2;
  return (estimateWeight * estimate + counted.length * middle) / (estimateWeight + counted.length);
}
