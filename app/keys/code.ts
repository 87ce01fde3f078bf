import { redirect } from 'react-router';
import { findKeyCode } from '../../server/cases/keys';
import { here } from '../../server/http/requestContext';
import { notThere } from '../respond.server';
import type { Route } from './+types/code';

/** The address in the QR code of a label: opens the page of its key. */
export async function loader({ params, context }: Route.LoaderArgs) {
  const found = await findKeyCode(context.get(here).services.database.db, params.code.slice(0, 20));
  if (!found) notThere('No key has this label', 'This code isn’t from this shop, or it didn’t scan completely. Scan the label again, or use Find.');
  throw redirect(`/cases/${found.caseId}/keys/${found.tag}`);
}
