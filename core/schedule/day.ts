import { type Act, type Instance, type Job, shopOf } from './instance';
import { linksOf, usualSpread, workedOff } from './order';
import { planOf } from './plan';

/** Who decides what is touched next in a simulated day: the plan, one case after another, or the earliest limit first. */
export const dayPolicies = ['plan', 'oneByOne', 'deadlines'] as const;
export type DayPolicy = (typeof dayPolicies)[number];

export interface Day {
  /** When the last case is ready, minutes. */
  makespan: number;
  /** Limits that were broken. */
  broken: number;
}

interface Place {
  next: number;
  /** When the act before was over, really. */
  over: number;
}

/**
 * A day of one technician whose acts take up to `spread` less or more than expected, drawn evenly. Waits begin when the act before is really over.
 * @param draw even draws from 0 up to 1
 */
export function dayOf(instance: Instance, policy: DayPolicy, draw: () => number, spread = usualSpread): Day {
  const shop = shopOf(instance);
  const minutes = (act: Act) => act.minutes * (1 - spread + 2 * spread * draw());
  const day: Day = { makespan: 0, broken: 0 };
  if (policy === 'plan') {
    const plan = planOf(instance, { spread, most: situations });
    const order = plan.touches.map(({ case: id, technician }) => ({
      job: shop.jobs.findIndex((j) => j.id === id),
      technician: shop.technicians.findIndex((t) => t.id === technician),
    }));
    const links = linksOf(shop, order);
    const worked = workedOff(shop, links, { spread: plan.sturdy ? spread : 0, broken: new Set(), minutes });
    links.forEach(({ job, act, before, next }, i) => {
      if (worked[i]!.start > (before < 0 ? 0 : worked[before]!.end) + act.lag + act.late + 1e-6) day.broken += 1;
      if (next < 0) day.makespan = Math.max(day.makespan, worked[i]!.end + shop.jobs[job]!.tail);
    });
    return day;
  }
  const places = shop.jobs.map((): Place => ({ next: 0, over: 0 }));
  let now = shop.technicians[0]!.busy;
  const left = () => shop.jobs.flatMap((j, i) => (places[i]!.next < j.acts.length ? [i] : []));
  for (let open = left(); open.length > 0; open = left()) {
    const job = policy === 'oneByOne' ? open[0]! : mostUrgent(shop.jobs, places, open, now);
    const at = places[job]!;
    const act = shop.jobs[job]!.acts[at.next]!;
    const due = at.over + act.lag;
    const begins = Math.max(now, due);
    if (begins > due + act.late + 1e-6) day.broken += 1;
    now = begins + minutes(act);
    places[job] = { next: at.next + 1, over: now };
  }
  shop.jobs.forEach((j, i) => (day.makespan = Math.max(day.makespan, places[i]!.over + j.tail)));
  return day;
}

/** One beam: a good sturdy plan of six cases, not the best. */
const situations = 600;

/** Of the acts that may begin now, the one whose limit comes first; of none, the one that may begin first. */
function mostUrgent(jobs: readonly Job[], places: readonly Place[], open: readonly number[], now: number): number {
  const due = (i: number) => places[i]!.over + jobs[i]!.acts[places[i]!.next]!.lag;
  const limit = (i: number) => due(i) + jobs[i]!.acts[places[i]!.next]!.late;
  const ready = open.filter((i) => due(i) <= now + 1e-9);
  const least = (list: readonly number[], by: (i: number) => number) => list.reduce((a, b) => (by(b) < by(a) ? b : a));
  return ready.length > 0 ? least(ready, limit) : least(open, due);
}
