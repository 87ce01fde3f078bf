import type { Change } from '../../server/acts/live';

/** How much of a page has to look again: all of it; the timers at its head alone, where the page lets that be enough (`unlessTimers`); or nothing. */
export type Concern = 'all' | 'timers' | 'nothing';

/** What a change in the shop means for the page at an address: one of another case changes nothing on the page of a case but the timers at its head. */
export function concernOf(change: Change, pathname: string): Concern {
  if (change.what === 'plan' && pathname !== '/') return 'nothing';
  const of = change.what === 'run' ? change.caseId : change.what === 'case' ? change.id : 0;
  return of && pathname.split('/')[2] !== `${of}` ? 'timers' : 'all';
}
