import { readPicture } from '../../server/shop/shop';
import { here } from '../../server/http/requestContext';
import { notThere } from '../respond.server';
import type { Route } from './+types/picture';

/** The picture at the head of the shop's papers. */
export async function loader({ context }: Route.LoaderArgs) {
  const found = await readPicture(context.get(here).services.database.db);
  if (!found) notThere('There is no picture', 'The shop has no picture for its papers. A lead or the owner adds one under Shop.');
  return new Response(found.data as BodyInit, {
    headers: { 'Content-Type': found.type, 'Cache-Control': 'no-cache', 'Content-Disposition': 'inline' },
  });
}
