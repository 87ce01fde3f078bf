import type { Change } from '../../server/acts/live';

/**
 * How much of a page has to look again, and how soon: all of it at once; all of it, for something that is not what the page is of; the timers at its head alone,
 * where the page lets that be enough (`unlessTimers`); or nothing.
 */
export type Concern = 'all' | 'elsewhere' | 'timers' | 'nothing';

/** How long a page rests after a look before it looks again for a concern, milliseconds: in a busy shop something happens elsewhere each second. */
export const restMs = { all: 0, elsewhere: 1000, timers: 2000 } as const satisfies Partial<Record<Concern, number>>;

const order: readonly Concern[] = ['nothing', 'timers', 'elsewhere', 'all'];
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
