import { boundOf } from './bound';
import type { Act, Shop } from './instance';
import { asked, type Cost, isDone, isLess, opening, orderOf, place, type Placed, placed, type Situation } from './situation';
import type { Asked, Windows } from './windows';

interface Way {
  /** What it goes on from, and with which act; the situation after it is made when it is looked at. */
  from: Situation;
  one: Asked;
  bound: Cost;
  /** Which of those with the same bound comes first: the least. */
  score: number;
}

/**
 * How long the hands were idle before the act is over, and what is left then, in one figure: the first counts before the second. What is left is the longest chain for one technician;
 * for several the sum of the squares of all chains, since long ones that are left together keep somebody waiting at the end.
 */
function scoreOf(shop: Shop, s: Situation, one: Asked, spread: number): number {
  let [free, left] = [0, 0];
  const alone = shop.technicians.length === 1;
  for (let i = 0; i < shop.technicians.length; i += 1) free += s.windows.free(i, one.row);
  for (let j = 0; j < shop.jobs.length; j += 1) {
    const job = shop.jobs[j]!;
    const next = s.next[j]! + (one.job === j ? 1 : 0);
    const chain = next === 0 ? job.length : job.tails[next - 1]!;
    left = alone ? Math.max(left, chain) : left + chain ** 2 / 1000;
  }
  return (free - (s.worked + one.act.minutes) * (1 + spread)) * 10_000 + left;
}

/**
 * Ways on from a situation; none where an act that is due can't begin in time any more, whatever comes before it: what is put
 * before it can only make it later.
 */
function waysOn(shop: Shop, s: Situation, spread: number): Way[] {
  const ways: Way[] = [];
  const alone = shop.technicians.length === 1;
  const due = alone ? dueActs(shop, s) : [];
  for (let a = 0; a < due.length; a += 1)
    for (let b = a + 1; b < due.length; b += 1)
      if (
        !s.windows.fits(due[a]!.job, due[a]!.act, due[b]!.job, due[b]!.act, 0) &&
        !s.windows.fits(due[b]!.job, due[b]!.act, due[a]!.job, due[a]!.act, 0)
      )
        return [];
  for (let j = 0; j < shop.jobs.length; j += 1) {
    const job = shop.jobs[j]!;
    const act = job.acts[s.next[j]!];
    if (!act || !leavesTime(s, j, act, due)) continue;
    let [idle, shut] = [false, act.late < Infinity && act.takes.length === 0];
    for (const technician of job.by) {
      // Of those who have done nothing yet and were never busy, one stands for all.
      if (s.windows.free(technician) === 0) {
        if (idle) continue;
        idle = job.by.length === shop.technicians.length;
      }
      const one = asked(shop, s, j, technician);
      if (!one) continue;
      shut = false;
      ways.push({ from: s, one, bound: boundOf(shop, s, spread, one), score: scoreOf(shop, s, one, spread) });
    }
    if (shut) return [];
  }
  return ways;
}

interface Due {
  job: number;
  act: Act;
}

/** Whether every act that is due in another case could still begin in time after this one. */
function leavesTime(s: Situation, job: number, act: Act, due: readonly Due[]): boolean {
  for (let i = 0; i < due.length; i += 1) {
    const one = due[i]!;
    if (one.job !== job && !s.windows.fits(job, act, one.job, one.act, 0)) return false;
  }
  return true;
}

/** Acts with a limit that are next in their cases. */
function dueActs(shop: Shop, s: Situation): Due[] {
  const due: Due[] = [];
  for (let job = 0; job < shop.jobs.length; job += 1) {
    const act = shop.jobs[job]!.acts[s.next[job]!];
    if (act && act.late < Infinity) due.push({ job, act });
  }
  return due;
}
const byPromise = (a: Way, b: Way): number => a.bound.lateness - b.bound.lateness || a.bound.makespan - b.bound.makespan || a.score - b.score;

/** Situations of the same acts that were looked at: one that another covers leads nowhere better. */
class Seen {
  private readonly by = new Map<string, Windows[]>();
  isNew({ next, holder, windows }: Situation): boolean {
    const key = `${next.join()};${holder.join()}`;
    const before = this.by.get(key);
    if (!before) {
      this.by.set(key, [windows]);
      return true;
    }
    for (let i = 0; i < before.length; i += 1) if (before[i]!.covers(windows, next)) return false;
    // The most promising come first; hardly ever does a later one cover an earlier one.
    before.push(windows);
    return true;
  }
}

const after = ({ from, one }: Way): Situation => placed(from, one);

interface Pass {
  best?: { order: Placed[]; cost: Cost };
  /** The least bound of what there was no room for; undefined where everything was looked at. */
  left?: Cost;
  situations: number;
}

/**
 * Level by level, by the number of acts in their places: of each level the `width` most promising situations go on. What can't be better than `known` and
 * what another situation covers is left out. With room for all it is complete.
 */
function pass(shop: Shop, from: Situation, spread: number, { width, most, known }: { width: number; most: number; known: Cost | undefined }): Pass {
  const result: Pass = { situations: 0 };
  let level: Way[][] = [waysOn(shop, from, spread)];
  for (let left = shop.jobs.reduce((n, j) => n + j.acts.length, 0); left > 0 && level.length > 0; left -= 1) {
    const seen = new Seen();
    const ways = level.flat().sort(byPromise);
    level = [];
    for (const way of ways) {
      if (known && !isLess(way.bound, known)) break;
      if (level.length >= width || result.situations >= most) {
        if (!result.left || isLess(way.bound, result.left)) result.left = way.bound;
        break;
      }
      const s = after(way);
      if (!seen.isNew(s)) continue;
      result.situations += 1;
      if (left === 1) return { ...result, best: { order: orderOf(s), cost: way.bound } };
      const on = waysOn(shop, s, spread);
      if (on.length > 0) level.push(on);
    }
  }
  return result;
}

/** Each pass has room for more than the one before: a good order is found by the narrow ones, and makes the wide ones short. */
const widths = [10, 40, 200, 1000, 5000];

export interface Found {
  order: Placed[];
  cost: Cost;
  /** No plan can cost less than this. */
  bound: Cost;
  /** Situations that were looked at. */
  situations: number;
}

/** Enough for the best plan of six cases nearly always; measured in docs/benchmarks.md. */
export const usualSituations = 100_000;

function oneAfterAnother(shop: Shop, from: Situation): Situation | undefined {
  let s: Situation | undefined = from;
  // Those whose limit runs first come first.
  const limit = (j: Shop['jobs'][number]) => (j.acts[0] ? j.acts[0].lag + j.acts[0].late : 0);
  const jobs = shop.jobs.map((job, j) => ({ job, j })).sort((a, b) => Math.min(limit(a.job), 1e9) - Math.min(limit(b.job), 1e9));
  for (const { job, j } of jobs) for (let a = 0; a < job.acts.length && s; a += 1) s = place(shop, s, j, job.by[0]!);
  return s;
}

/**
 * The order with the least cost that keeps every limit: branch and bound, level by level, in passes that get wider until one has room for all. Ends early
 * after `most` situations, or after the first pass where `narrow` asks for that, with the best found so far, and a bound that then is lower than its cost.
 * @returns undefined when no order keeps the limits, or none was found in time
 */
export function search(shop: Shop, spread: number, most = usualSituations, narrow = false): Found | undefined {
  const from = opening(shop, spread);
  let bound = boundOf(shop, from, spread);
  if (isDone(shop, from)) return { order: [], cost: bound, bound, situations: 0 };
  // One case after another keeps every limit but those that run already: always something to go on.
  const plain = oneAfterAnother(shop, from);
  let best = plain && { order: orderOf(plain), cost: boundOf(shop, plain, spread) };
  let situations = 0;
  for (const width of narrow ? widths.slice(0, 1) : widths) {
    if (best && !isLess(bound, best.cost)) break;
    if (situations >= most) break;
    const found = pass(shop, from, spread, { width, most: most - situations, known: best?.cost });
    situations += found.situations;
    if (found.best) best = found.best;
    // Whatever there was no room for costs as much at least; without any, the best is the best there is.
    const least = found.left ?? best?.cost;
    if (!least) return undefined;
    if (isLess(bound, least)) bound = least;
    if (!found.left) break;
  }
  if (!best) return undefined;
  return { ...best, bound: isLess(best.cost, bound) ? best.cost : bound, situations };
}
