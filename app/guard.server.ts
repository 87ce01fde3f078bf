import { data, type MiddlewareFunction, redirect } from 'react-router';
import { needsSetUp } from '../server/accounts/people';
import { touch } from '../server/accounts/sessions';
import { may, type PageRights, pages } from '../server/acts/rights';
import { here } from '../server/http/requestContext';

/** Where to go on after signing in: only an address of this app. */
export const safeTarget = (to: string | null): string => (to !== null && /^\/(?![/\\])[\w\-./?=&%~+]*$/.test(to) ? to : '/');

/**
 * Stands before every loader and action (root.tsx). Who may see a page is looked up in the table of server/acts/rights.ts; a page that is not in it
 * is shut. The right of an act is checked where its form is read (`acting`), so that what was typed can be answered and is not lost.
 */
export const guard: MiddlewareFunction<Response> = async ({ request, context, pattern }, next) => {
  const { services, session, dataOnly } = context.get(here);
  const address = `/${pattern.replace(/^\//, '')}`;
  const page: PageRights | undefined = Object.hasOwn(pages, address) ? pages[address as keyof typeof pages] : undefined;
  if (!page)
    throw data('This page has no access rule, so nobody may see it. Tell the person who runs Bloodstone here.', {
      status: 403,
      statusText: 'Not allowed',
    });
  const act = request.method !== 'GET' && request.method !== 'HEAD';
  // A page that is opened or an act is a sign of a person; what an open page asks by itself is none.
  const { db, space } = services.database;
  const mode = request.headers.get('sec-fetch-mode');
  const opened = !dataOnly && (mode === null || mode === 'navigate');
  if (session && !session.locked && (act || opened) && page.see !== 'anyone' && (await space.roomy())) await touch(db, session, services.clock.now());
  // An act for which no page is rendered is answered where it is read; the page it came from and what was typed in it stay.
  if (page.see === 'anyone' || (act && (dataOnly || page.alone))) return next();
  const url = new URL(request.url);
  // The router's own question which parts of the page to load is no part of its address.
  url.searchParams.delete('_routes');
  const to = `?to=${encodeURIComponent(url.pathname + url.search)}`;
  if (session?.locked) throw redirect(`/unlock${to}`);
  if (!session) throw redirect((await needsSetUp(db)) ? '/set-up' : `/sign-in${to}`);
  if (!may(session.person, page.see))
    throw data(`${session.person.name}, you don’t have access to this page. Ask the lead or the owner.`, {
      status: 403,
      statusText: 'No access',
    });
  return next();
};
