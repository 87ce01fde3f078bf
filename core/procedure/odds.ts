import { evaluateExpression, type ParamValues } from '../library';
import type { RepeatStep } from './definition';
import type { RunEvent } from './events';
import { valuesAt } from './numbers';
import { leafAt, type Program } from './program';
import { apply, fold, present, type RunState } from './state';

/** Tries beyond the usual number of cycles: how many there were, and how many of them brought it. */
export interface ExtraTries {
  tried: number;
  brought: number;
}

/** As many tries as the content's estimate of an extra cycle is worth beside those of the shop. Our own choice. */
const estimateWeight = 10;

/** Chance that one more cycle brings it: the content's estimate together with what this shop has tried (a beta posterior with the estimate as its mean). */
export const oddsHere = (odds: number, { tried, brought }: ExtraTries): number => (estimateWeight * odds + brought) / (estimateWeight + tried);

type Sought = RepeatStep & { repeat: { until: { answer: string; is: string } } };
const isSought = (loop: object): loop is Sought => 'repeat' in loop && (loop as RepeatStep).repeat.until !== undefined;

/** The loops of a procedure that go on until an answer comes. */
const soughtLoops = (program: Program): Sought[] => program.nodes.flatMap((n) => (n.op === 'enter' && isSought(n.loop) ? [n.loop] : []));

/** Extra tries of one run, from its events: answers to the question of a loop in a cycle beyond its least number. */
export function extraTries(program: Program, values: ParamValues, events: readonly RunEvent[]): ExtraTries {
  const sought = soughtLoops(program);
  const retracted = new Set(events.flatMap((e) => (e.type === 'retracted' ? [e.event] : [])));
  const standing = events.filter((e) => e.type !== 'retracted' && !retracted.has(e.id));
  let state = fold(program, values, standing.slice(0, 1));
  const found: ExtraTries = { tried: 0, brought: 0 };
  for (const event of standing.slice(1)) {
    const here = present(program, values, state, event.occurredAt).state;
    const loop = event.type === 'answered' ? sought.find(({ repeat }) => repeat.until.answer === event.step) : undefined;
    if (loop && event.type === 'answered' && (here.counters[loop.repeat.id] ?? 0) > evaluateExpression(loop.repeat.min, valuesAt(values, here))) {
      found.tried += 1;
      if (event.answer === loop.repeat.until.is) found.brought += 1;
    }
    state = apply(program, values, state, event);
  }
  return found;
}

/** The extra cycle that a run is about to make: the first beyond the usual number is 1; undefined elsewhere. */
export function extraCycle(
  program: Program,
  values: ParamValues,
  state: Pick<RunState, 'step' | 'counters' | 'status'>,
): { n: number; odds: number | null } | undefined {
  if (state.status !== 'running') return undefined;
  const { loops, index } = leafAt(program, state.step);
  for (const { repeat } of soughtLoops(program)) {
    const enter = program.nodes.findIndex((n) => n.op === 'enter' && n.id === repeat.id);
    const first = program.nodes.findIndex((n, i) => i > enter && n.op === 'leaf');
    const n = (state.counters[repeat.id] ?? 0) - evaluateExpression(repeat.min, values);
    if (loops.includes(repeat.id) && first === index && n > 0) return { n, odds: repeat.odds ?? null };
  }
  return undefined;
}
