import { parseOpening } from '../../server/vault/forms';
import { openItem } from '../../server/vault/items';
import { makePassing } from '../../server/vault/passing';
import { here } from '../../server/http/requestContext';
import { caseId } from '../cases/caseId.server';
import { acting } from '../respond.server';
import { redirect } from 'react-router';
import { asAnswer } from './asAnswer.server';
import type { Route } from './+types/item';

/** Opening a sealed item: what comes out goes to the page that asked, and into no page's data. */
export async function action(args: Route.ActionArgs) {
  const { services } = args.context.get(here);
  const on = { db: services.database.db, keys: services.keys };
  const [id, item] = [caseId(args.params.caseId), args.params.itemId];
  const answer = await acting('/cases/:caseId/vault/:itemId', args, {
    open: async ({ form, act }) => ({ opened: await openItem(on, act(), id, item, parseOpening(form).reason) }),
    copyOut: async ({ form, act }) => ({ opened: await openItem(on, act(), id, item, parseOpening(form).reason, 'copied out') }),
    pass: async ({ form, act }) => {
      const token = await makePassing(on, act(), id, item, parseOpening(form).reason);
      return { address: `${services.address ?? new URL(args.request.url).origin}/take/${token}` };
    },
  });
  return asAnswer(answer);
}

export const loader = ({ params }: Route.LoaderArgs) => redirect(`/cases/${caseId(params.caseId)}/vault`);
