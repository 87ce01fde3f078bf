import { caseCalendar } from '../../server/papers/files';
import { here } from '../../server/http/requestContext';
import { caseOf } from '../cases/caseId.server';
import type { Route } from './+types/calendar';

/** Running waits of a case and the day on which the shop asks again, for a calendar program. */
export async function loader({ params, context }: Route.LoaderArgs) {
  const record = await caseOf(context, params.caseId);
  return new Response(await caseCalendar(context.get(here).services, record), {
    headers: {
      'Content-Type': 'text/calendar; charset=utf-8',
      'Content-Disposition': `attachment; filename="case-${record.number}.ics"`,
      'Cache-Control': 'no-store',
    },
  });
}
