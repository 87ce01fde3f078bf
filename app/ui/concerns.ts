import type { ShouldRevalidateFunctionArgs } from 'react-router';
import type { Change } from '../../server/acts/live';

/** How much of a page has to look again: all of it, the timers at its head alone, or nothing. */
export type Concern = 'all' | 'timers' | 'nothing';

/** What a change in the shop means for the page at an address: a page of a case shows that case, and the timers of all of them at its head. */
export function concernOf(change: Change, pathname: string): Concern {
  if (change.what === 'plan') return pathname === '/' ? 'all' : 'nothing';
  const own = /^\/cases\/(\d+)(?:\/|$)/.exec(pathname)?.[1];
  const of = change.what === 'run' ? change.caseId : change.what === 'case' ? change.id : undefined;
  return own === undefined || of === undefined || of === Number(own) ? 'all' : 'timers';
}

/** What a look at the timers alone is sent with (ui/clock.tsx). */
export const timersOnly = { only: 'timers' };

/** For `shouldRevalidate` of the page of a case: the timers at its head are not its own. */
export const unlessTimers = ({ formAction, formData, defaultShouldRevalidate }: ShouldRevalidateFunctionArgs): boolean =>
  formAction === '/clock' && formData?.get('only') === timersOnly.only ? false : defaultShouldRevalidate;
