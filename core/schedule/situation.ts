import type { Shop } from './instance';
import { type Asked, Windows } from './windows';

/** One act in its place: indexes of the case and of the technician. */
export interface Placed {
  job: number;
  technician: number;
}

/** What a plan costs: minutes of lateness against promises first, then minutes until the last case is ready. */
export interface Cost {
  lateness: number;
  makespan: number;
}

export const isLess = (a: Cost, b: Cost, by = 1e-9): boolean =>
  a.lateness < b.lateness - by || (a.lateness <= b.lateness + by && a.makespan < b.makespan - by);

/** Acts in an order so far. */
export interface Situation {
  windows: Windows;
  /** Next act, by case. */
  next: readonly number[];
  /** Who holds each thing now; -1: nobody. */
  holder: readonly number[];
  /** Expected minutes of all acts so far. */
  worked: number;
  /** The order that led here, last act first. */
  order: Order | undefined;
}
interface Order {
  placed: Placed;
  before: Order | undefined;
}

export const opening = (shop: Shop, spread: number): Situation => ({
  windows: Windows.of(shop, spread),
  next: shop.jobs.map(() => 0),
  holder: shop.heldBy,
  worked: 0,
  order: undefined,
});

/** What it would be to let the act go last in the order; undefined when a limit or a thing that another case holds is against it. */
export function asked(shop: Shop, s: Situation, job: number, technician: number, kept = true): Asked | undefined {
  const act = shop.jobs[job]!.acts[s.next[job]!]!;
  for (const t of act.takes) if (s.holder[t] !== -1 && s.holder[t] !== job) return undefined;
  return s.windows.asked(job, act, technician, kept);
}

/** The act goes last in the order. */
export function placed(s: Situation, one: Asked): Situation {
  const { job, technician, act } = one;
  const next = [...s.next];
  next[job]! += 1;
  let { holder } = s;
  if (act.takes.length > 0 || act.gives.length > 0) {
    const now = [...holder];
    for (const t of act.takes) now[t] = job;
    for (const { thing } of act.gives) now[thing] = -1;
    holder = now;
  }
  return { windows: s.windows.after(one), next, holder, worked: s.worked + act.minutes, order: { placed: { job, technician }, before: s.order } };
}

/** The act of a case goes last in the order, if it can. */
export function place(shop: Shop, s: Situation, job: number, technician: number, kept = true): Situation | undefined {
  const one = asked(shop, s, job, technician, kept);
  return one && placed(s, one);
}

export function orderOf({ order }: Situation): Placed[] {
  const list: Placed[] = [];
  for (let o = order; o; o = o.before) list.push(o.placed);
  return list.reverse();
}

export const isDone = (shop: Shop, s: Situation): boolean => shop.jobs.every((j, i) => s.next[i] === j.acts.length);
