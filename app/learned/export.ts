import { exportLearned } from '../../server/learning/elsewhere';
import { here } from '../../server/http/requestContext';
import type { Route } from './+types/export';

/** What the shop has learned, for other shops. */
export async function loader({ context }: Route.LoaderArgs) {
  const { services } = context.get(here);
  return new Response(await exportLearned(services.database.db, services.clock.now()), {
    headers: {
      'Content-Type': 'application/json; charset=utf-8',
      'Content-Disposition': 'attachment; filename="learned.json"',
      'Cache-Control': 'no-store',
    },
  });
}
