import { randomUUID } from 'node:crypto';
import { here } from '../../server/http/requestContext';
import { exportCase } from '../../server/transfer/exportCase';
import { caseId } from '../cases/caseId.server';
import { actOf, download } from '../respond.server';
import type { Route } from './+types/export';

/** A whole case as a file that another shop can take over. */
export async function loader({ params, context }: Route.LoaderArgs) {
  const { db } = context.get(here).services.database;
  const id = caseId(params.caseId);
  return download(async () => {
    const { name, zip } = await exportCase(db, actOf(context, randomUUID()), id);
    return { name, type: 'application/zip', body: zip };
  });
}
