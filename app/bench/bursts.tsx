import { useNavigate } from 'react-router';
import { parseBenchQuery } from '../../server/cases/queries';
import { here } from '../../server/http/requestContext';
import { parseMeasurement } from '../../server/ledger/measurements/form';
import { recordMeasurement } from '../../server/ledger/measurements/record';
import { parseSetAside, setCaptureAside } from '../../server/ledger/measurements/setAside';
import { acting } from '../respond.server';
import { later } from '../ui/later';
import type { Route } from './+types/bursts';
import bench from './bench.module.css';
import { burstsPage } from './bursts/page.server';

export const meta: Route.MetaFunction = () => [{ title: 'Field and answer · Bloodstone' }];
export const handle = {
  place: ({ chosen }: Route.ComponentProps['loaderData']) => ({
    title: 'Field and answer',
    detail: chosen ? `case ${chosen.number} · ${chosen.vehicle}` : 'measured on the bench',
  }),
};

export async function loader({ request, context }: Route.LoaderArgs) {
  const { services, session } = context.get(here);
  return burstsPage(services, session?.person ?? null, parseBenchQuery(new URL(request.url).searchParams));
}

export async function action(args: Route.ActionArgs) {
  return acting('/bench/bursts', args, {
    measure: async ({ form, services, act }) => {
      const { answered, say } = await recordMeasurement(services, act(), parseMeasurement(form));
      return { said: answered.length > 0 ? `Saved to the case: ${answered.join(', ')}.` : `Saved to the case. ${say}` };
    },
    setAside: async ({ form, services, act }) => {
      await setCaptureAside(services.database.db, act(), parseSetAside(form));
      return { said: 'Set aside. Nothing is compared with it any more.' };
    },
  });
}

/** With it come drawing and statistics. */
const Lab = later(
  'Lab',
  () => import('./bursts/Lab'),
  <p className="quiet" style={{ padding: 20 }}>
    Loading …
  </p>,
);

/** Does the field come, does an answer come: the coil's field counted, and its bursts measured and compared. */
export default function Bursts({ loaderData: d }: Route.ComponentProps) {
  const navigate = useNavigate();
  return (
    <div className={bench.whole}>
      <h1 className="hidden">Field and answer</h1>
      <Lab key={d.chosen?.id ?? 'bench'} d={d} onCase={(id) => void navigate(id === '' ? '?' : `?case=${id}`, { replace: true })} />
    </div>
  );
}
