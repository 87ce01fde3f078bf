import { here } from '../../server/requestContext';
import type { Route } from './+types/clock';

/** The shop's clock, for pages that measure their offset. The barest resource route there is. */
export const loader = ({ context }: Route.LoaderArgs) =>
  Response.json(context.get(here).services.clock.read(), { headers: { 'Cache-Control': 'no-store' } });
