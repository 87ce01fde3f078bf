import { randomUUID } from 'node:crypto';
import { useState } from 'react';
import { redirect, useSearchParams } from 'react-router';
import { saveCall, takeCallIn } from '../../server/calls/calls';
import { parseCall } from '../../server/calls/forms';
import { here } from '../../server/http/requestContext';
import { acting } from '../respond.server';
import { newCommandId } from '../ui/commandId';
import type { Route } from './+types/new';
import { callData } from './callData.server';
import { Sheet } from './Sheet';

export const meta: Route.MetaFunction = () => [{ title: 'New call · Bloodstone' }];
export const handle = { place: () => ({ title: 'New call', detail: 'before the vehicle is here' }) };

export async function loader({ request, context }: Route.LoaderArgs) {
  const url = new URL(request.url);
  const name = url.searchParams.get('call') ?? '';
  // The address names the call while it is written down, so that a reload finds it again and the next call begins empty.
  if (!/^[0-9a-f-]{36}$/.test(name)) {
    url.searchParams.set('call', randomUUID());
    throw redirect(`/calls/new?${url.searchParams}`);
  }
  return { name, ...(await callData(context.get(here).services, request, '')) };
}

export async function action(args: Route.ActionArgs) {
  const answer = await acting('/calls/new', args, {
    keep: async ({ form, services, act }) => ({ kept: (await saveCall(services.database.db, services.library, act(), parseCall(form))).id }),
    takeIn: async ({ form, services, act }) => {
      const { id } = await saveCall(services.database.db, services.library, act(), parseCall(form));
      const { id: own, ...same } = act();
      return takeCallIn(services.database.db, services.library, { ...same, id: `${own.slice(0, 60)}-in` }, id);
    },
  });
  if ('kept' in answer.data) throw redirect('/calls');
  if ('draft' in answer.data) throw redirect(`/cases/new?draft=${answer.data.draft}`);
  return answer;
}

/** A call from its first word. */
export default function NewCall({ loaderData }: Route.ComponentProps) {
  const asked = useSearchParams()[0].get('call');
  // A page that was kept for when there is no connection shows another call than the address names, or is asked for a new one.
  const [fresh] = useState(newCommandId);
  const name = asked ?? fresh;
  return <Sheet key={name} d={loaderData} call={null} name={name} />;
}
