/** What can be done: what it waits for, what it leaves, what it makes void, and how long it takes. Facts are bits. */
export interface Move {
  needs: bigint;
  gives: bigint;
  takes: bigint;
  /** Minutes, 0 or more. */
  cost: number;
}

/** Most states that are looked at: the largest replacement of the content has about a thousand. */
const mostStates = 50_000;

export class TooManyStates extends Error {}

/**
 * The order of moves with the least total cost from `start` to where all `goal` bits are set; of several, the one that does the earlier moves of the
 * list first. Every state that can be reached is looked at once (uniform cost, backward from the goals), so the least is exact.
 * @returns indices of moves in their order; undefined where the goal can't be reached
 * @throws TooManyStates beyond 50,000 states
 */
export function shortest(moves: readonly Move[], start: bigint, goal: bigint): number[] | undefined {
  const states: bigint[] = [start];
  const indexOf = new Map([[start, 0]]);
  /** From each state: where each move leads, -1 where it can't be made or changes nothing. */
  const leads: Int32Array[] = [];
  const before: number[][] = [[]];
  for (let at = 0; at < states.length; at += 1) {
    const state = states[at]!;
    const row = new Int32Array(moves.length).fill(-1);
    leads.push(row);
    if ((state & goal) === goal) continue;
    moves.forEach((move, m) => {
      if ((state & move.needs) !== move.needs) return;
      // Nothing is done for what is there already.
      if ((state & move.gives) === move.gives) return;
      const next = (state & ~move.takes) | move.gives;
      if (next === state) return;
      let to = indexOf.get(next);
      if (to === undefined) {
        to = states.push(next) - 1;
        if (to >= mostStates) throw new TooManyStates(`more than ${mostStates} states`);
        indexOf.set(next, to);
        before.push([]);
      }
      row[m] = to;
      before[to]!.push(at);
    });
  }
  const toGo = new Float64Array(states.length).fill(Infinity);
  const work: number[] = [];
  states.forEach((state, i) => {
    if ((state & goal) !== goal) return;
    toGo[i] = 0;
    work.push(i);
  });
  while (work.length > 0) {
    const to = work.pop()!;
    for (const from of before[to]!) {
      let best = toGo[from]!;
      leads[from]!.forEach((next, m) => {
        if (next >= 0) best = Math.min(best, moves[m]!.cost + toGo[next]!);
      });
      if (best >= toGo[from]!) continue;
      toGo[from] = best;
      work.push(from);
    }
  }
  if (toGo[0] === Infinity) return undefined;
  const order: number[] = [];
  // A move that costs nothing may lead in a circle: each state is passed once.
  const passed = new Set([0]);
  for (let at = 0; (states[at]! & goal) !== goal;) {
    const row = leads[at]!;
    const m = row.findIndex((next, i) => next >= 0 && !passed.has(next) && moves[i]!.cost + toGo[next]! === toGo[at]);
    order.push(m);
    at = row[m]!;
    passed.add(at);
  }
  return order;
}
