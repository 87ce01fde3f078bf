import { redirect } from 'react-router';
import { takePassing } from '../../server/vault/passing';
import { here } from '../../server/http/requestContext';
import { acting } from '../respond.server';
import { asAnswer } from './asAnswer.server';
import type { Route } from './+types/taken';

/** Uses the code up. */
export async function action(args: Route.ActionArgs) {
  const { services } = args.context.get(here);
  const on = { db: services.database.db, keys: services.keys };
  return asAnswer(await acting('/take/:token/now', args, { take: async ({ act }) => ({ opened: await takePassing(on, act(), args.params.token) }) }));
}

export const loader = ({ params }: Route.LoaderArgs) => redirect(`/take/${params.token}`);
