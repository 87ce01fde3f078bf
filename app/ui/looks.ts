import type { ShouldRevalidateFunctionArgs } from 'react-router';

/** For `shouldRevalidate` of a route that shows the same data whatever stands behind the question mark: looking elsewhere on it asks the server nothing. */
export const unlessOnlySearch = ({ currentUrl, nextUrl, formMethod, defaultShouldRevalidate }: ShouldRevalidateFunctionArgs): boolean =>
  formMethod === undefined && currentUrl.pathname === nextUrl.pathname && currentUrl.search !== nextUrl.search ? false : defaultShouldRevalidate;

/** For `shouldRevalidate` of the page of a case: the timers at its head are not its own, and a look at them alone says so (ui/clock.tsx). */
export const unlessTimers = ({ formAction, formData, defaultShouldRevalidate }: ShouldRevalidateFunctionArgs): boolean =>
  formAction === '/clock' && formData?.has('only') ? false : defaultShouldRevalidate;
