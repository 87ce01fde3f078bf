import { redirect } from 'react-router';
import { discardCall, readCall, saveCall, takeCallIn } from '../../server/calls/calls';
import { parseCall } from '../../server/calls/forms';
import { parseRecordId } from '../../server/base/fields';
import { here } from '../../server/http/requestContext';
import { acting, notThere } from '../respond.server';
import type { Route } from './+types/call';
import { callData } from './callData.server';
import { Sheet } from './Sheet';

export const meta: Route.MetaFunction = ({ loaderData }) => [{ title: `Call, ${loaderData?.call.vehicle || 'unknown vehicle'} · Bloodstone` }];
export const handle = { place: ({ call }: Route.ComponentProps['loaderData']) => ({ title: 'Call', detail: call.vehicle || call.customer }) };

const idOf = (text: string): number => parseRecordId(text) ?? notThere('Call not found', `“${text.slice(0, 60)}” is not a call.`);

export async function loader({ request, params, context }: Route.LoaderArgs) {
  const { services } = context.get(here);
  const id = idOf(params.callId);
  const call = (await readCall(services.database.db, id)) ?? notThere('Call not found', 'It was discarded or never saved.');
  if (call.caseId !== null) throw redirect(`/cases/${call.caseId}`);
  return { call, ...(await callData(services, request, call.system)) };
}

export async function action(args: Route.ActionArgs) {
  // Whose act it is comes before whether the call is there.
  const id = () => idOf(args.params.callId);
  const answer = await acting('/calls/:callId', args, {
    keep: async ({ form, services, act }) => ({ kept: (await saveCall(services.database.db, services.library, act(), parseCall(form), id())).id }),
    takeIn: async ({ form, services, act }) => {
      await saveCall(services.database.db, services.library, act(), parseCall(form), id());
      const { id: own, ...same } = act();
      return takeCallIn(services.database.db, services.library, { ...same, id: `${own.slice(0, 60)}-in` }, id());
    },
    discard: async ({ services, act }) => {
      await discardCall(services.database.db, act(), id());
      return { gone: true };
    },
  });
  if ('kept' in answer.data || 'gone' in answer.data) throw redirect('/calls');
  if ('draft' in answer.data) throw redirect(`/cases/new?draft=${answer.data.draft}`);
  return answer;
}

/** A call that was kept, to go on with. */
export default function KeptCall({ loaderData }: Route.ComponentProps) {
  return <Sheet key={loaderData.call.id} d={loaderData} call={loaderData.call} name={`${loaderData.call.id}.${loaderData.call.changedAt}`} />;
}
