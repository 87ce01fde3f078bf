import { refused } from '../../server/base/expected';
import { ladderVersions, ladderYaml } from '../../server/library/ladders';
import { here } from '../../server/http/requestContext';
import { download } from '../respond.server';
import { askedVersion } from './askedVersion';
import type { Route } from './+types/exportLadder';

/** A ladder as a file that another shop can take in. */
export async function loader({ params, request, context }: Route.LoaderArgs) {
  const { database } = context.get(here).services;
  return download(async () => {
    const versions = await ladderVersions(database.db, params.ladderId);
    const found = askedVersion(versions, new URL(request.url).searchParams.get('version'));
    if (!found) throw refused(404, 'noLadder', 'This version of the value chart was not found. Go back to the Library.');
    return { name: `${found.pin.id}-${found.pin.version}.yaml`, type: 'application/yaml; charset=utf-8', body: ladderYaml(found.ladder) };
  });
}
