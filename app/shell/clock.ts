import { here } from '../../server/http/requestContext';
import type { ClockAnswer } from '../ui/pageClock';
import type { Route } from './+types/clock';

/** The shop's clock, for pages that measure their offset, and whether somebody is signed in here. The barest resource route there is. */
export const loader = ({ context }: Route.LoaderArgs) => {
  const { services, session } = context.get(here);
  const answer: ClockAnswer = { ...services.clock.read(), session: session ? (session.locked ? 'locked' : 'open') : 'none' };
  return Response.json(answer, { headers: { 'Cache-Control': 'no-store' } });
};

/** An act that does nothing and asks nobody; what follows it is that the page's data are loaded anew (ui/clock.tsx). */
export const clientAction = () => null;
