import type { Change } from '../../server/acts/live';

/**
 * How much of a page has to look again, and how soon: all of it at once; all of it, for something that is not what the page is of; the timers at its head alone,
 * where the page lets that be enough (`unlessTimers`); or nothing.
 */
export type Concern = 'all' | 'elsewhere' | 'timers' | 'nothing';

/**
 * So long after its last look a page looks again at the earliest, and so much later at most by chance, milliseconds: in a busy shop something happens elsewhere each
 * second, and all pages hear of it at the same moment and must not all ask at the same moment.
 */
const rests = { all: [0, 0], elsewhere: [500, 300], timers: [2000, 2000] } as const;
/** A server that took so long to answer is asked so many times later: in a shop with hundreds of runs pages look less often instead of waiting for each other. */
const perAnswer = 5;

/**
 * When a page looks for a concern.
 * @param now milliseconds that only grow, as `looked`, when it looked last
 * @param answerMs how long the server took for its last small answer
 * @param chance 0 to 1
 */
export function lookAt(
  concern: Exclude<Concern, 'nothing'>,
  { now, looked, answerMs, chance }: { now: number; looked: number; answerMs: number; chance: number },
): number {
  const [rest, spread] = rests[concern];
  return Math.max(now, looked + (rest && Math.max(rest, perAnswer * answerMs))) + chance * spread;
}

const order = ['nothing', 'timers', 'elsewhere', 'all'];
/** What one look for both has to load. */
export const wider = (a: Concern, b: Concern): Concern => (order.indexOf(a) > order.indexOf(b) ? a : b);

/** What a change in the shop means for the page at an address: one of another case changes nothing on the page of a case but the timers at its head. */
export function concernOf(change: Change, pathname: string): Concern {
  if (change.what === 'plan') return pathname === '/' ? 'elsewhere' : 'nothing';
  const of = change.what === 'run' ? change.caseId : change.what === 'case' ? change.id : 0;
  if (!of) return 'all';
  const own = /^\/cases\/(\d+)/.exec(pathname)?.[1];
  return own === undefined ? 'elsewhere' : own === `${of}` ? 'all' : 'timers';
}
