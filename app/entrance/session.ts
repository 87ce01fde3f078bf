import { data, redirect } from 'react-router';
import { endSession, lockSession, touch } from '../../server/accounts/sessions';
import { endCookie } from '../../server/http/cookie';
import { here } from '../../server/http/requestContext';
import { acting } from '../respond.server';
import type { Route } from './+types/session';

/** What a browser does with its own session: tells that somebody is there, locks, ends. */
export async function action(args: Route.ActionArgs) {
  const { services, session, secure } = args.context.get(here);
  const { db } = services.database;
  const now = services.clock.now();
  const answer = await acting('/session', args, {
    touch: async () => {
      await touch(db, session!, now);
      return { to: '' };
    },
    lock: async () => {
      await lockSession(db, session!);
      return { to: '/unlock' };
    },
    signOut: async () => {
      if (session) await endSession(db, session.id, now);
      return { to: '/sign-in' };
    },
  });
  if (!('to' in answer.data)) return answer;
  const { to } = answer.data;
  if (to === '/sign-in') throw redirect(to, { headers: { 'Set-Cookie': await endCookie(secure) } });
  if (to !== '') throw redirect(to);
  return answer;
}

export const loader = () => data('This address only changes the session.', { status: 405 });
