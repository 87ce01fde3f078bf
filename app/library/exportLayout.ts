import { refused } from '../../server/base/expected';
import { layoutYaml } from '../../server/library/layouts';
import { documentVersions } from '../../server/library/shopDocuments';
import { here } from '../../server/http/requestContext';
import { download } from '../respond.server';
import { askedVersion } from './askedVersion';
import type { Route } from './+types/exportLayout';

/** A layout as a file that another shop can take in. */
export async function loader({ params, request, context }: Route.LoaderArgs) {
  const { database } = context.get(here).services;
  return download(async () => {
    const versions = await documentVersions(database.db, 'layout', params.layoutId);
    const found = askedVersion(versions, new URL(request.url).searchParams.get('version'));
    if (!found) throw refused(404, 'noLayout', 'This version of the layout was not found. Go back to the Library.');
    return { name: `${found.pin.id}-${found.pin.version}.yaml`, type: 'application/yaml; charset=utf-8', body: layoutYaml(found.body) };
  });
}
