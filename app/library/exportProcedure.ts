import { refused } from '../../server/base/expected';
import { here } from '../../server/http/requestContext';
import { procedureVersions, procedureYaml } from '../../server/library/procedures';
import { download } from '../respond.server';
import { askedVersion } from './askedVersion';
import type { Route } from './+types/exportProcedure';

/** A procedure as a file that another shop can take in. */
export async function loader({ params, request, context }: Route.LoaderArgs) {
  const { database } = context.get(here).services;
  return download(async () => {
    const found = askedVersion(await procedureVersions(database.db, params.procedureId), new URL(request.url).searchParams.get('version'));
    if (!found) throw refused(404, 'noProcedure', 'This version of the procedure was not found. Go back to the Library.');
    return { name: `${found.pin.id}-${found.pin.version}.yaml`, type: 'application/yaml; charset=utf-8', body: procedureYaml(found.procedure) };
  });
}
