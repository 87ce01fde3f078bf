import { profileVersions, profileYaml } from '../../server/library/profiles';
import { refused } from '../../server/base/expected';
import { here } from '../../server/http/requestContext';
import { download } from '../respond.server';
import { askedVersion } from './askedVersion';
import type { Route } from './+types/exportProfile';

/** The profile as YAML, in the form of content files, for another shop or for `--content`. */
export async function loader({ params, request, context }: Route.LoaderArgs) {
  const { database } = context.get(here).services;
  return download(async () => {
    const versions = await profileVersions(database.db, params.profileId);
    const found = askedVersion(versions, new URL(request.url).searchParams.get('version'));
    if (!found) throw refused(404, 'noProfile', 'This version of the profile was not found. Go back to the Library.');
    return {
      name: `${found.pin.id}-${found.pin.version}.yaml`,
      type: 'application/yaml; charset=utf-8',
      body: profileYaml(found.profile),
    };
  });
}
