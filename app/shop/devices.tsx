import { parseSessionId } from '../../server/accounts/forms';
import { endSession, listDevices } from '../../server/accounts/sessions';
import { actOnce } from '../../server/acts/commands';
import { here } from '../../server/http/requestContext';
import { acting } from '../respond.server';
import { ProblemSummary } from '../ui/problems';
import { useAct } from '../ui/useAct';
import type { Route } from './+types/devices';
import { DeviceList } from './DeviceList';
import { ShopNav } from './ShopNav';
import styles from './shop.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'Devices · Bloodstone' }];
export const handle = { place: () => ({ title: 'Devices', detail: 'where people are signed in' }) };

export async function loader({ context }: Route.LoaderArgs) {
  const { services, session } = context.get(here);
  return { here: session!.id, devices: await listDevices(services.database.db, services.clock.now()) };
}

export async function action(args: Route.ActionArgs) {
  const { db } = args.context.get(here).services.database;
  return acting('/shop/devices', args, {
    end: async ({ form, act }) => {
      const by = act();
      const id = parseSessionId(form);
      await actOnce(db, by, { right: 'endSessions', action: 'device signed out', payload: id }, async () => null);
      await endSession(db, id, by.now);
      return { said: 'The device is signed out.' };
    },
  });
}

export default function Devices({ loaderData: d }: Route.ComponentProps) {
  const act = useAct<typeof action>();
  return (
    <div className={styles.page}>
      <h1 className="hidden">Devices</h1>
      <ShopNav />
      <ProblemSummary errors={act.errors} />
      <p role="status" className="quiet">
        {act.said}
      </p>
      <DeviceList devices={d.devices} here={d.here} send={act.send('end')} />
    </div>
  );
}
