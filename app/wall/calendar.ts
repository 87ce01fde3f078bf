import { findAddress } from '../../server/floor/addresses';
import { here } from '../../server/http/requestContext';
import { shopCalendar } from '../../server/papers/shopCalendar';
import { notThere } from '../respond.server';
import type { Route } from './+types/calendar';

/** What is due in the shop, for calendar programs that have its secret address. */
export async function loader({ params, context }: Route.LoaderArgs) {
  const { services } = context.get(here);
  const found = await findAddress(services.database.db, 'calendar', params.token.replace(/\.ics$/, ''));
  if (!found) notThere('This address does not work', 'It was revoked, or was not copied whole. Ask the owner of the shop for a new one.');
  return new Response(await shopCalendar(services, found.name, found.vehicles), {
    headers: { 'Content-Type': 'text/calendar; charset=utf-8', 'Cache-Control': 'no-store' },
  });
}
