import { type Instance, type Shop, shopOf } from './instance';
import { boundOf } from './bound';
import { laid, type Link, linksOf, usualSpread, type Worked, workedOff } from './order';
import { type Found, search, usualSituations } from './search';
import { isLess, opening, type Placed } from './situation';

/** An act in the plan. Minutes from now. */
export interface Touch {
  at: number;
  /** When it is over, as expected. */
  until: number;
  case: string;
  /** Index in the case's steps. */
  step: number;
  technician: string;
  /** When it must have begun, where a wait before it has a limit. */
  limitAt?: number;
  /** The limit breaks if the acts before take a fifth longer, or can't be kept at all. */
  tight?: true;
  broken?: true;
  /** It begins so many minutes later than it could, so that a later limit is kept: of this case, since the other one needs the technician then. */
  held?: { minutes: number; other: string; at: number };
}

export interface CaseEnd {
  case: string;
  at: number;
  promiseIn?: number;
  /** Minutes after the promise. */
  late?: number;
}

export interface Plan {
  /** When the last case is ready. */
  makespanMinutes: number;
  /** Minutes after promises, added up. */
  latenessMinutes: number;
  /** No plan is ready sooner, among those with as little lateness. */
  bound: number;
  /** Nothing better exists. */
  proven: boolean;
  /** Keeps every limit also while acts take a fifth more or less than expected. */
  sturdy: boolean;
  touches: Touch[];
  ends: CaseEnd[];
}

/** A new plan takes the place of a standing one for so much gain, minutes. */
export const worthAJump = 2;

/** Minutes are whole thousandths: sums of shares leave dust behind. */
const tidy = (minutes: number): number => Math.round(minutes * 1000) / 1000;

/** Which acts of an order begin after their limit: indexes in the order. */
interface Kept {
  /** Those that are let go. */
  broken: ReadonlySet<number>;
  /** Those that would be late if acts took a fifth less or more. */
  unsure: ReadonlySet<number>;
}

/** An order as touches with their times, when every act takes as long as expected. */
function told(
  shop: Shop,
  order: readonly Placed[],
  { broken, unsure }: Kept,
  spread: number,
): Pick<Plan, 'makespanMinutes' | 'latenessMinutes' | 'touches' | 'ends'> {
  const links = linksOf(shop, order);
  const worked = workedOff(shop, links, { spread, broken, minutes: (act) => act.minutes });
  const touches = links.map(({ job, technician, act, before }, i): Touch => {
    const { start, end, could } = worked[i]!;
    const due = (before < 0 ? 0 : worked[before]!.end) + act.lag;
    const held = start - could > 1e-6 ? heldFor(shop, links, worked, i) : undefined;
    return {
      at: tidy(start),
      until: tidy(end),
      case: shop.jobs[job]!.id,
      step: act.step,
      technician: shop.technicians[technician]!.id,
      ...(act.late < Infinity ? { limitAt: tidy(due + act.late) } : {}),
      ...(act.late < Infinity && unsure.has(i) ? { tight: true as const } : {}),
      ...(broken.has(i) ? { broken: true as const } : {}),
      ...(held ? { held: { ...held, minutes: tidy(start - could) } } : {}),
    };
  });
  const ends = shop.jobs.map((j, i): CaseEnd => {
    const last = links.findLastIndex((l) => l.job === i);
    const at = tidy((last < 0 ? 0 : worked[last]!.end) + j.tail);
    return { case: j.id, at, ...(j.promise < Infinity ? { promiseIn: j.promise, late: Math.max(0, tidy(at - j.promise)) } : {}) };
  });
  return {
    makespanMinutes: Math.max(0, ...ends.map((e) => e.at)),
    latenessMinutes: tidy(ends.reduce((sum, e) => sum + (e.late ?? 0), 0)),
    touches: touches.sort((a, b) => a.at - b.at || a.until - b.until),
    ends,
  };
}

/** What an act that begins later than it could waits for: the act of another case that is in the way of the next limit of its own. */
function heldFor(shop: Shop, links: readonly Link[], worked: readonly Worked[], i: number): { other: string; at: number } | undefined {
  const { job, technician } = links[i]!;
  const next = links.findIndex((l, k) => k > i && l.job === job);
  const inTheWay = links.slice(0, Math.max(0, next)).findLastIndex((l, k) => k > i && l.technician === technician && l.job !== job);
  return inTheWay < 0 ? undefined : { other: shop.jobs[links[inTheWay]!.job]!.id, at: tidy(worked[inTheWay]!.start) };
}

/** What can't be kept is let go: the limits of first acts only, since a case alone keeps its later ones. Fewest first. */
function withoutLimits(shop: Shop, most: number): Found | undefined {
  const limited = shop.jobs.flatMap((j, i) => ((j.acts[0]?.late ?? Infinity) < Infinity ? [i] : []));
  const free = (which: ReadonlySet<number>): Shop => ({
    ...shop,
    jobs: shop.jobs.map((j, i) => (which.has(i) ? { ...j, acts: j.acts.map((a, k) => (k === 0 ? { ...a, late: Infinity } : a)) } : j)),
  });
  let best: Found | undefined;
  for (const one of limited) {
    const found = search(free(new Set([one])), 0, Math.ceil(most / limited.length));
    if (found && (!best || isLess(found.cost, best.cost))) best = found;
  }
  return best ?? search(free(new Set(limited)), 0, most);
}

export interface PlanAsked {
  /** Most situations to look at. */
  most?: number;
  /** Only the narrowest pass is made: a good order soon, not the best. */
  narrow?: boolean;
  /** Acts may take so much more or less than expected, as a share, and no limit breaks; 0 plans with the minutes as they are. */
  spread?: number;
}

/**
 * The order of touches with the least lateness against promises and then the least time to the last case, while every limit is kept. With `spread`, the order
 * keeps them also when acts take more or less than expected, if there is such an order; times are told as expected.
 * @example planOf({ technicians: 1, cases: [{ id: 'a', steps: [{ kind: 'attended', minutes: 2 }] }] }).makespanMinutes // 2
 */
export function planOf(instance: Instance, { most = usualSituations, narrow = false, spread = 0 }: PlanAsked = {}): Plan {
  const shop = shopOf(instance);
  const sturdy = spread > 0 ? search(shop, spread, most, narrow) : undefined;
  const exact = sturdy ?? search(shop, 0, most, narrow);
  const found = exact ?? withoutLimits(shop, most);
  if (!found) return { makespanMinutes: 0, latenessMinutes: 0, bound: 0, proven: false, sturdy: false, touches: [], ends: [] };
  const unsure = laid(shop, found.order, usualSpread)?.broken ?? new Set<number>();
  const broken = sturdy && spread === usualSpread ? unsure : (laid(shop, found.order, sturdy ? spread : 0)?.broken ?? new Set<number>());
  return planned(shop, found.order, {
    kept: { broken, unsure },
    bound: sturdy ? boundOf(shop, opening(shop, 0), 0).makespan : found.bound.makespan,
    proven: !isLess(found.bound, found.cost),
    spread: sturdy ? spread : 0,
  });
}

/** The plan of an order. */
function planned(
  shop: Shop,
  order: readonly Placed[],
  { kept, bound, proven, spread }: { kept: Kept; bound: number; proven: boolean; spread: number },
): Plan {
  const plan = told(shop, order, kept, spread);
  return {
    ...plan,
    bound: tidy(Math.min(bound, plan.makespanMinutes)),
    proven,
    sturdy: plan.touches.every((t) => !t.tight && !t.broken),
  };
}

/** The order of a plan, by the ids of cases and technicians. */
export type StandingOrder = readonly Pick<Touch, 'case' | 'technician'>[];

/**
 * A standing order with what has happened since: of each case the last touches, as many as are left of it.
 * @returns undefined where the order no longer fits: a case has more to be done than it knows, somebody is gone, or a thing is held by another case
 */
export function byOrder(instance: Instance, standing: StandingOrder): Plan | undefined {
  const shop = shopOf(instance);
  const skip = shop.jobs.map((j) => standing.filter((t) => t.case === j.id).length - j.acts.length);
  const order = standing.flatMap((t): Placed[] => {
    const job = shop.jobs.findIndex((j) => j.id === t.case);
    if (job < 0 || skip[job]!-- > 0) return [];
    return [{ job, technician: shop.technicians.findIndex((p) => p.id === t.technician) }];
  });
  if (order.some((o) => !shop.jobs[o.job]!.by.includes(o.technician))) return undefined;
  const unsure = laid(shop, order, usualSpread)?.broken;
  const isSturdy = unsure?.size === 0;
  const broken = isSturdy ? unsure : laid(shop, order, 0)?.broken;
  if (!broken || !unsure) return undefined;
  const spread = isSturdy ? usualSpread : 0;
  return planned(shop, order, { kept: { broken, unsure }, bound: boundOf(shop, opening(shop, 0), 0).makespan, proven: false, spread });
}

/**
 * The standing order, where the new plan gains too little for anybody to change their way: less than `worthAJump` minutes. The new plan where the old order no
 * longer fits, breaks a limit or leaves one without slack that the new one keeps, or costs that much more.
 */
export function settled(instance: Instance, standing: StandingOrder, fresh: Plan): Plan {
  const old = byOrder(instance, standing);
  if (!old) return fresh;
  const count = (plan: Plan, of: 'broken' | 'tight') => plan.touches.filter((t) => t[of]).length;
  if (count(old, 'broken') !== count(fresh, 'broken')) return count(old, 'broken') > count(fresh, 'broken') ? fresh : old;
  if (count(old, 'tight') > count(fresh, 'tight')) return fresh;
  if (old.latenessMinutes >= fresh.latenessMinutes + worthAJump) return fresh;
  return old.makespanMinutes >= fresh.makespanMinutes + worthAJump ? fresh : old;
}
