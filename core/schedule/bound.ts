import type { Shop } from './instance';
import { mostCases, mostSteps } from './limits';
import type { Cost, Situation } from './situation';
import type { Asked } from './windows';

/**
 * The least that any continuation can cost, or any that goes on with the act `one`. For one technician the makespan is that of the schedule in which acts may be interrupted, by heads and tails: J. R.
 * Jackson's rule with J. Carlier's bound, European Journal of Operational Research 11 (1982) 42. For several: the work left shared evenly.
 */
export function boundOf(shop: Shop, s: Situation, spread: number, one?: Asked): Cost {
  const longer = 1 + spread;
  const { heads, left, tails } = scratch;
  let [lateness, makespan, work, acts, leastTail] = [0, 0, 0, 0, Infinity];
  let [soonest, free] = [Infinity, 0];
  for (let i = 0; i < shop.technicians.length; i += 1) {
    const f = s.windows.free(i, one?.row);
    soonest = Math.min(soonest, f);
    free += f;
  }
  for (let j = 0; j < shop.jobs.length; j += 1) {
    const job = shop.jobs[j]!;
    let at = s.windows.end(j, one?.row);
    const first = acts;
    for (let a = s.next[j]! + (one?.job === j ? 1 : 0); a < job.acts.length; a += 1) {
      const act = job.acts[a]!;
      const minutes = act.minutes * longer;
      heads[acts] = Math.max(at + act.lag, soonest);
      left[acts] = minutes;
      work += minutes;
      at = heads[acts]! + minutes;
      acts += 1;
    }
    let tail = job.tail;
    for (let a = job.acts.length - 1, o = acts - 1; o >= first; a -= 1, o -= 1) {
      tails[o] = tail;
      tail += left[o]! + job.acts[a]!.lag;
    }
    if (acts > first) leastTail = Math.min(leastTail, job.tail);
    const end = at + job.tail;
    lateness += Math.max(0, end - job.promise);
    makespan = Math.max(makespan, end);
  }
  if (acts === 0) return { lateness, makespan };
  const shared = shop.technicians.length === 1 ? interrupted(acts) : (free + work) / shop.technicians.length + leastTail;
  return { lateness, makespan: Math.max(makespan, shared) };
}

const mostActs = mostCases * mostSteps;
/** Numbers of one bound, which is made tens of thousands of times. */
const scratch = {
  heads: new Float64Array(mostActs),
  left: new Float64Array(mostActs),
  tails: new Float64Array(mostActs),
  order: new Int32Array(mostActs),
  ready: new Int32Array(mostActs),
};

/** Makespan of one technician when acts may be interrupted: always the one with the longest tail of those that may begin. */
function interrupted(acts: number): number {
  const { heads, left, tails, order } = scratch;
  for (let i = 0; i < acts; i += 1) {
    let at = i;
    while (at > 0 && heads[order[at - 1]!]! > heads[i]!) {
      order[at] = order[at - 1]!;
      at -= 1;
    }
    order[at] = i;
  }
  let [t, i, ready, latest] = [0, 0, 0, 0];
  const may = scratch.ready;
  while (i < acts || ready > 0) {
    if (ready === 0) t = Math.max(t, heads[order[i]!]!);
    for (; i < acts && heads[order[i]!]! <= t; i += 1) may[ready++] = order[i]!;
    let now = 0;
    for (let k = 1; k < ready; k += 1) if (tails[may[k]!]! > tails[may[now]!]!) now = k;
    const act = may[now]!;
    const until = i < acts ? Math.min(left[act]!, heads[order[i]!]! - t) : left[act]!;
    t += until;
    left[act]! -= until;
    if (left[act]! > 1e-9) continue;
    may[now] = may[--ready]!;
    latest = Math.max(latest, t + tails[act]!);
  }
  return latest;
}
