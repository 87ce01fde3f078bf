import { randomUUID } from 'node:crypto';
import { redirect } from 'react-router';
import { erasePersonalData, personalData } from '../../server/cases/personal';
import { here } from '../../server/http/requestContext';
import { caseId } from '../cases/caseId.server';
import { acting, actOf, download } from '../respond.server';
import type { Route } from './+types/personal';

/** A customer's personal data: as a file, and its erasure. */
export async function loader({ params, context }: Route.LoaderArgs) {
  const { db } = context.get(here).services.database;
  const id = caseId(params.caseId);
  return download(async () => ({
    name: `case-${id}-personal-data.json`,
    type: 'application/json',
    body: JSON.stringify(await personalData(db, actOf(context, randomUUID()), id), null, 2),
  }));
}

export async function action(args: Route.ActionArgs) {
  const { database } = args.context.get(here).services;
  const id = caseId(args.params.caseId);
  const answer = await acting('/cases/:caseId/personal', args, {
    erase: async ({ act }) => {
      await erasePersonalData(database, act(), id);
      return { done: true };
    },
  });
  if ('done' in answer.data) throw redirect(`/cases/${id}`);
  return answer;
}
