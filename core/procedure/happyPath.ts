import { evaluateExpression, type ParamValues } from '../library';
import { type LeafStep } from './definition';
import { type Program, stepsInside, walk, type Walker } from './program';

/** One leaf of the way as it goes when all goes well. */
export interface PathEntry {
  step: LeafStep;
  /** Loop counters at this point: tells the rounds apart. */
  counters: Record<string, number>;
  /** Key concerned: the main key outside `each`, else the key of the round. */
  key: string;
  /** Time with hands on, seconds (an estimate of the content). */
  attendedS: number;
  /** Time that passes by itself, seconds. Counted from the step `from` names, so what lies between is inside it. */
  waitS: number;
}

/**
 * The way through a procedure when every observation is the good one: loops run until their `until` could be met, at least `min` rounds.
 * Used for the thin line, the forecast on the Floor and the lint's minutes; never to decide anything.
 * @param rounds rounds to lay out for a loop that is already further than its minimum
 */
export function happyPath(
  program: Program,
  params: ParamValues,
  keys: readonly string[],
  answers: Readonly<Record<string, { answer: string }>>,
  rounds: Readonly<Record<string, number>>,
): PathEntry[] {
  const path: PathEntry[] = [];
  const assumed: Record<string, { answer: string }> = { ...answers };
  const walker: Walker = { counters: {}, answers: assumed, keys, params };
  const untils = new Set(
    program.nodes.flatMap((n) => (n.op === 'again' && 'repeat' in n.loop && n.loop.repeat.until ? [n.loop.repeat.until.answer] : [])),
  );
  for (const id of untils) delete assumed[id];
  let from = 0;
  // The largest run is bounded by its loops; the guard only protects against content that never moves forward.
  for (let guard = 0; guard < 5000; guard += 1) {
    const arrival = walk(program, from, walker);
    if (arrival.kind !== 'leaf') return path;
    const node = program.nodes[arrival.index]!;
    if (node.op !== 'leaf') return path;
    const { step, loops } = node;
    // A new round begins without the answers of the one before, as in a real run.
    for (const loop of loops) {
      if (walker.counters[loop] === undefined || walker.counters[loop] === arrival.counters[loop]) continue;
      for (const id of stepsInside(program, loop)) if (untils.has(id)) delete assumed[id];
    }
    walker.counters = arrival.counters;
    const waitS = 'wait' in step ? evaluateExpression(step.wait.min, params) : 0;
    const eachLoop = program.nodes.find((n) => n.op === 'enter' && 'each' in n.loop && loops.includes(n.id));
    const key = eachLoop?.op === 'enter' ? keys[arrival.counters[eachLoop.id] ?? 0] : keys[0];
    path.push({ step, counters: arrival.counters, key: key ?? '', attendedS: step.takes, waitS });
    if ('cases' in step && assumed[step.id] === undefined) assumed[step.id] = { answer: Object.keys(step.cases)[0]! };
    for (const loopId of loops) {
      const enter = program.nodes.find((n) => n.op === 'enter' && n.id === loopId);
      if (enter?.op !== 'enter' || !('repeat' in enter.loop)) continue;
      const { until, min } = enter.loop.repeat;
      const enough = Math.max(evaluateExpression(min, params), rounds[loopId] ?? 0);
      if (until?.answer === step.id && (arrival.counters[loopId] ?? 1) >= enough) assumed[step.id] = { answer: until.is };
    }
    from = arrival.index + 1;
  }
  return path;
}

/** Index of the run's present place on the path; of a step that a good run never meets, that of the last one before it. -1: before the first. */
export function placeOnPath(program: Program, path: readonly PathEntry[], stepId: string, counters: Readonly<Record<string, number>>): number {
  const sameRound = (e: PathEntry) => Object.entries(e.counters).every(([loop, round]) => counters[loop] === undefined || counters[loop] === round);
  const exact = path.findIndex((e) => e.step.id === stepId && sameRound(e));
  if (exact >= 0) return exact;
  const anyRound = path.findIndex((e) => e.step.id === stepId);
  const here = program.at.get(stepId);
  if (anyRound >= 0 || here === undefined) return anyRound;
  return path.findLastIndex((e) => program.at.get(e.step.id)! < here && sameRound(e));
}
