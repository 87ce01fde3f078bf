import { readMeter, setSimulated } from '../../server/shop/devices/bench';
import { parseCircuit, parseMeterAsked } from '../../server/shop/devices/forms';
import { acting } from '../respond.server';
import type { Route } from './+types/meter';

/** One reading of a meter of the shop, or what the simulated one is connected to. */
export async function action(args: Route.ActionArgs) {
  const answer = await acting('/bench/meter', args, {
    read: async ({ form, services }) => readMeter(services, parseMeterAsked(form).meter),
    set: async ({ form, services }) => setSimulated(services, parseCircuit(form)),
  });
  return Response.json(answer.data, { status: answer.init?.status ?? 200 });
}
