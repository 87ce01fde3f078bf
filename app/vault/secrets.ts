import { compareTyped, secretsOf } from '../../server/vault/compare';
import { parseTyped } from '../../server/vault/forms';
import { here } from '../../server/http/requestContext';
import { caseId } from '../cases/caseId.server';
import { acting } from '../respond.server';
import type { Route } from './+types/secrets';

/** For a run in which a secret is typed: which sealed ones there are, and whether what was typed is one of them. */
export async function loader({ params, context }: Route.LoaderArgs) {
  const { db } = context.get(here).services.database;
  return Response.json({ secrets: await secretsOf(db, caseId(params.caseId)) }, { headers: { 'Cache-Control': 'no-store' } });
}

export async function action(args: Route.ActionArgs) {
  const { database, keys } = args.context.get(here).services;
  const id = caseId(args.params.caseId);
  const { data, init } = await acting('/cases/:caseId/vault/secrets', args, {
    compare: async ({ form, act }) => {
      const { item, text } = parseTyped(form);
      return { equal: await compareTyped({ db: database.db, keys }, act(), id, item, text) };
    },
  });
  return Response.json(data, { ...init, headers: { 'Cache-Control': 'no-store' } });
}
