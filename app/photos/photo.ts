import { findPhoto } from '../../server/cases/photos';
import { here } from '../../server/http/requestContext';
import { caseId } from '../cases/caseId.server';
import { notThere } from '../respond.server';
import type { Route } from './+types/photo';

/** One photo of a case, as it was encoded here. No browser keeps it: it is erased with the customer's data. */
export async function loader({ params, context }: Route.LoaderArgs) {
  const found = await findPhoto(context.get(here).services.database.db, caseId(params.caseId), params.photoId);
  if (!found) notThere('Photo not found', 'The address names no photo of this case. It may have been erased with the customer’s data.');
  return new Response(found.data as BodyInit, {
    headers: { 'Content-Type': found.type, 'Cache-Control': 'no-store', 'Content-Disposition': 'inline' },
  });
}
