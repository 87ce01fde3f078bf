import { ladderNamed, ladderYaml } from '../../server/ladders';
import { here } from '../../server/requestContext';
import { download } from '../respond.server';
import type { Route } from './+types/exportLadder';

/** A ladder as a file that another shop can take in. */
export async function loader({ params, context }: Route.LoaderArgs) {
  const { services } = context.get(here);
  return download(async () => {
    const { ladder } = await ladderNamed(services.database.db, services.library, params.ladderId, 404);
    return { name: `${ladder.id}.yaml`, type: 'text/yaml; charset=utf-8', body: ladderYaml(ladder) };
  });
}
