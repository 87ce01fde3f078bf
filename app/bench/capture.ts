import { captureMeter } from '../../server/shop/devices/bench';
import { here } from '../../server/http/requestContext';
import type { Route } from './+types/capture';

/** Readings of a meter one after the other, as they come, up to a minute. */
export async function loader({ request, context }: Route.LoaderArgs) {
  return captureMeter(context.get(here).services, new URL(request.url).searchParams.get('meter') ?? '', request.signal);
}
