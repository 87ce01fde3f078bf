import { knownVehicle } from '../../server/cases/caseList';
import { parseVehicleQuery } from '../../server/cases/queries';
import { here } from '../../server/http/requestContext';
import type { Route } from './+types/known';

/** Earlier cases of a vehicle, looked for while its number is typed. */
export async function loader({ request, context }: Route.LoaderArgs) {
  const { identification, plate, but } = parseVehicleQuery(new URL(request.url).searchParams);
  return knownVehicle(context.get(here).services.database.db, identification, plate, but);
}
