import type { Act, Shop } from './instance';
import { opening, place, type Placed } from './situation';

/** How much longer or shorter acts may take for a plan to count as sturdy: a fifth. */
export const usualSpread = 0.2;

/** Puts an order in place act by act. A limit that can't be kept is let go and its act named. */
export function laid(shop: Shop, order: readonly Placed[], spread: number): { broken: Set<number> } | undefined {
  let last = opening(shop, spread);
  const broken = new Set<number>();
  for (const [i, { job, technician }] of order.entries()) {
    if (last.next[job]! >= shop.jobs[job]!.acts.length) return undefined;
    let next = place(shop, last, job, technician);
    if (!next) {
      broken.add(i);
      next = place(shop, last, job, technician, false);
    }
    if (!next) return undefined;
    last = next;
  }
  return shop.jobs.every((j, i) => last.next[i] === j.acts.length) ? { broken } : undefined;
}

/** An act in an order, with what it depends on: indexes in the order, -1 for none. */
export interface Link extends Placed {
  act: Act;
  /** The act of the same case before it, and after it. */
  before: number;
  next: number;
  /** The last act of the same hands. */
  hands: number;
  /** Acts that give back what it takes, and how long after their end. */
  givers: readonly { at: number; after: number }[];
}

export function linksOf(shop: Shop, order: readonly Placed[]): Link[] {
  const links: Link[] = [];
  order.forEach(({ job, technician }, i) => {
    const before = links.findLastIndex((l) => l.job === job);
    const act = shop.jobs[job]!.acts[links.filter((l) => l.job === job).length]!;
    if (before >= 0) links[before]!.next = i;
    links.push({
      job,
      technician,
      act,
      before,
      next: -1,
      hands: links.findLastIndex((l) => l.technician === technician),
      givers: act.takes.flatMap((thing) => {
        const at = links.findLastIndex((l) => l.act.gives.some((g) => g.thing === thing));
        return at < 0 ? [] : [{ at, after: links[at]!.act.gives.find((g) => g.thing === thing)!.after }];
      }),
    });
  });
  return links;
}

/** An act as it was done, minutes from now. */
export interface Worked {
  start: number;
  end: number;
  /** When it could have begun, had no later limit held it back. */
  could: number;
}

/**
 * From when the hands are kept free for each act, so that every limit that is kept can be, whatever acts take within the spread: the least moments, found by
 * moving acts later until nothing is against them. What a limit moves is the act before it.
 * @param done acts that are behind, as they were
 */
function keptFree(shop: Shop, links: readonly Link[], spread: number, broken: ReadonlySet<number>, done: readonly Worked[]): number[] {
  const free = links.map((_, i) => done[i]?.start ?? 0);
  const latest = links.map((_, i) => done[i]?.start ?? 0);
  const soonestEnd = (i: number) => done[i]?.end ?? free[i]! + links[i]!.act.minutes * (1 - spread);
  const latestEnd = (i: number) => done[i]?.end ?? latest[i]! + links[i]!.act.minutes * (1 + spread);
  for (let moved = true; moved;) {
    moved = false;
    const atLeast = (list: number[], i: number, t: number) => {
      if (i < done.length || t <= list[i]! + 1e-9) return;
      list[i] = t;
      moved = true;
    };
    for (let i = done.length; i < links.length; i += 1) {
      const { act, before, hands, technician, givers } = links[i]!;
      atLeast(free, i, (before < 0 ? 0 : soonestEnd(before)) + act.lag);
      atLeast(free, i, hands < 0 ? shop.technicians[technician]!.busy : latestEnd(hands));
      for (const { at, after } of givers) atLeast(free, i, latestEnd(at) + after);
      atLeast(latest, i, Math.max(free[i]!, (before < 0 ? 0 : latestEnd(before)) + act.lag));
      if (act.late < Infinity && before >= 0 && !broken.has(i))
        atLeast(free, before, free[i]! - act.lag - act.late - links[before]!.act.minutes * (1 - spread));
    }
  }
  return free;
}

export interface Working {
  /** How far acts may be from their expected minutes, as a share. */
  spread: number;
  /** Indexes of acts whose limit is let go. */
  broken: ReadonlySet<number>;
  /** How long an act really takes, minutes. */
  minutes: (act: Act, index: number) => number;
}

/** Works an order off: each act as soon as it can, but one with a limit after it not before the hands are kept free for it. Reckoned anew after each act. */
export function workedOff(shop: Shop, links: readonly Link[], { spread, broken, minutes }: Working): Worked[] {
  const done: Worked[] = [];
  links.forEach(({ act, before, next, hands, technician, givers }, i) => {
    const could = Math.max(
      (before < 0 ? 0 : done[before]!.end) + act.lag,
      hands < 0 ? shop.technicians[technician]!.busy : done[hands]!.end,
      ...givers.map(({ at, after }) => done[at]!.end + after),
    );
    const isHeld = next >= 0 && links[next]!.act.late < Infinity && !broken.has(next);
    const start = isHeld ? Math.max(could, keptFree(shop, links, spread, broken, done)[i]!) : could;
    done.push({ start, could, end: start + minutes(act, i) });
  });
  return done;
}
