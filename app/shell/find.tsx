import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { Form, Link } from 'react-router';
import { here } from '../../server/http/requestContext';
import { findCases } from '../../server/cases/find';
import type { Route } from './+types/find';
import styles from './find.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'Find · Bloodstone' }];
export const handle = { place: () => ({ title: 'Find' }) };

/** Longest text that is looked for. */
const maxQuery = 80;

export async function loader({ request, context }: Route.LoaderArgs) {
  const query = (new URL(request.url).searchParams.get('q') ?? '').trim().slice(0, maxQuery);
  return { query, rows: query === '' ? [] : await findCases(context.get(here).services.database.db, query) };
}

export default function Find({ loaderData: { query, rows } }: Route.ComponentProps) {
  return (
    <div className={styles.page}>
      <h1 className="hidden">Find a case</h1>
      <Form role="search" className={styles.form}>
        <TextField
          name="q"
          label="Case number, vehicle, plate, VIN or the customer’s words"
          defaultValue={query}
          autoFocus
          slotProps={{ htmlInput: { maxLength: maxQuery } }}
        />
        <Button type="submit" variant="contained">
          Find
        </Button>
      </Form>
      {query !== '' && rows.length === 0 && (
        <p>Nothing found for “{query}”. Try fewer letters: a part of the plate or of the vehicle’s name is enough.</p>
      )}
      <ul>
        {rows.map((r) => (
          <li key={r.id}>
            <Link to={`/cases/${r.id}`} className={styles.row}>
              <span className="mono">{r.number}</span>
              <span>
                {r.vehicle} <span className="quiet">{r.plate}</span>
              </span>
              <span className="quiet">{r.closedAt === null ? (r.bay ?? 'no bay') : 'closed'}</span>
            </Link>
          </li>
        ))}
      </ul>
    </div>
  );
}
