import Button from '@mui/material/Button';
import { Link } from 'react-router';
import { listCalls } from '../../server/calls/calls';
import { here } from '../../server/http/requestContext';
import { keptProfiles } from '../../server/library/profiles';
import { SystemDrawing } from '../drawings/SystemDrawing';
import { useTimes } from '../ui/clock';
import type { Route } from './+types/calls';
import styles from './calls.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'Calls · Bloodstone' }];
export const handle = { place: () => ({ title: 'Calls', detail: 'before the vehicle is here' }) };

export async function loader({ context }: Route.LoaderArgs) {
  const { services } = context.get(here);
  const profiles = new Map((await keptProfiles(services)).map((p) => [`profile:${p.pin.id}`, p.profile.family]));
  const calls = await listCalls(services.database.db);
  return { calls: calls.map((c) => ({ ...c, family: profiles.get(c.system) ?? c.system.replace(/^family:/, '') })) };
}

/** Calls that were kept, and what became of them. */
export default function Calls({ loaderData: { calls } }: Route.ComponentProps) {
  const { hm, day } = useTimes();
  return (
    <div className={styles.list}>
      <div className={styles.head}>
        <h1>Calls</h1>
        <Button component={Link} to="/calls/new" variant="contained">
          New call
        </Button>
      </div>
      {calls.length === 0 ? (
        <p className="quiet">
          A few questions on the phone tell whether it sounds like the immobilizer, whether to go there, and what to bring. No call has been saved
          yet.
        </p>
      ) : (
        <ul>
          {calls.map((c) => (
            <li key={c.id}>
              <Link to={c.caseId === null ? `/calls/${c.id}` : `/cases/${c.caseId}`} className={styles.row}>
                <SystemDrawing family={c.family} width={64} />
                <span>
                  <b>{c.vehicle || c.customer || 'Unknown caller'}</b> <span className="quiet">{c.vehicle ? c.customer : ''}</span>
                </span>
                <span>{c.told.sounds}</span>
                <span className="quiet">
                  {c.case === null ? '' : `became case ${c.case} · `}
                  {day(c.at)}, {hm(c.at)}, {c.by}
                </span>
              </Link>
            </li>
          ))}
        </ul>
      )}
      <p className="quiet">
        A call that doesn’t become a case is deleted after 90 days. <Link to="/cases">All cases</Link>
      </p>
    </div>
  );
}
