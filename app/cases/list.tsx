import Button from '@mui/material/Button';
import { Link } from 'react-router';
import { type CaseRow, listCases } from '../../server/cases';
import { useTimes } from '../ui/clock';
import type { Route } from './+types/list';
import styles from './list.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'Cases · Bloodstone' }];
export const handle = { place: () => ({ title: 'Cases' }) };

export async function loader({ request, context }: Route.LoaderArgs) {
  const state = new URL(request.url).searchParams.get('state') === 'closed' ? ('closed' as const) : ('open' as const);
  return { state, rows: await listCases(context.services.database.db, state) };
}

export default function CaseList({ loaderData: { state, rows } }: Route.ComponentProps) {
  return (
    <div className={styles.page}>
      <div className={styles.head}>
        <h1>{state === 'open' ? 'In work' : 'Closed'}</h1>
        <nav aria-label="Which cases" className={styles.tabs}>
          <Link to="/cases" aria-current={state === 'open' ? 'page' : undefined}>
            In work
          </Link>
          <Link to="/cases?state=closed" aria-current={state === 'closed' ? 'page' : undefined}>
            Closed
          </Link>
        </nav>
        <Button component={Link} to="/cases/new" variant="contained">
          New case
        </Button>
      </div>
      {rows.length === 0 ? (
        <p className={styles.empty}>
          {state === 'open'
            ? 'A case holds one job from intake to hand-over. None is in work; open one when a vehicle comes in.'
            : 'Cases come here when they have been handed over. None has been closed yet.'}
        </p>
      ) : (
        <ul className={styles.rows}>
          {rows.map((row) => (
            <Row key={row.id} row={row} />
          ))}
        </ul>
      )}
    </div>
  );
}

function Row({ row }: { row: CaseRow }) {
  const { hm, day } = useTimes();
  return (
    <li>
      <Link to={`/cases/${row.id}`} className={styles.row}>
        <span className="mono">{row.number}</span>
        <span className={styles.vehicle}>
          {row.vehicle} <span className="quiet">{row.plate}</span>
        </span>
        <span className={styles.words}>{row.outcome ?? row.words}</span>
        <span className="quiet">{row.closedAt === null ? `${row.bay ?? 'no bay'}, since ${hm(row.openedAt)}` : `closed ${day(row.closedAt)}`}</span>
      </Link>
    </li>
  );
}
