import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { Fragment } from 'react';
import { Form, Link } from 'react-router';
import { auditPage, readAudit } from '../../server/acts/audit';
import { parseAuditQuery } from '../../server/cases/queries';
import { here } from '../../server/http/requestContext';
import { useTimes } from '../ui/clock';
import type { Route } from './+types/audit';
import { ShopNav } from './ShopNav';
import styles from './shop.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'Audit log · Bloodstone' }];
export const handle = { place: () => ({ title: 'Audit log', detail: 'who did what, and when' }) };

export async function loader({ request, context }: Route.LoaderArgs) {
  const query = parseAuditQuery(new URL(request.url).searchParams);
  const lines = await readAudit(context.get(here).services.database.db, query);
  return { query, lines, more: lines.length === auditPage ? lines.at(-1)!.id : null };
}

export default function Audit({ loaderData: { query, lines, more } }: Route.ComponentProps) {
  const { hm, day } = useTimes();
  const search = (extra: Record<string, string>) =>
    `?${new URLSearchParams({ ...(query.text ? { q: query.text } : {}), ...(query.caseId ? { case: String(query.caseId) } : {}), ...extra })}`;
  return (
    <div className={styles.page}>
      <h1 className="hidden">Audit log</h1>
      <ShopNav />
      <Form role="search" className={styles.row} key={JSON.stringify(query)}>
        <TextField name="q" label="Person, action or detail" defaultValue={query.text} slotProps={{ htmlInput: { maxLength: 80 } }} />
        <TextField
          name="case"
          label="Case"
          defaultValue={query.caseId ?? ''}
          sx={{ maxWidth: 140 }}
          slotProps={{ htmlInput: { inputMode: 'numeric', maxLength: 9 } }}
        />
        <Button type="submit" variant="contained" size="large">
          Search
        </Button>
        <Button component="a" href={`/shop/audit.csv${search({})}`} variant="outlined" size="large">
          Export as CSV
        </Button>
      </Form>
      {lines.length === 0 ? (
        <p>Nothing found. Every action is logged here automatically and can’t be changed.</p>
      ) : (
        <table className={styles.log}>
          <thead>
            <tr>
              <th scope="col">When</th>
              <th scope="col">Who</th>
              <th scope="col">What</th>
              <th scope="col">Case</th>
              <th scope="col">Detail</th>
            </tr>
          </thead>
          <tbody>
            {lines.map((l, i) => {
              const before = lines[i - 1];
              return (
                <Fragment key={l.id}>
                  {(!before || day(before.at) !== day(l.at)) && (
                    <tr>
                      <th scope="rowgroup" colSpan={5}>
                        {day(l.at)}
                      </th>
                    </tr>
                  )}
                  <tr>
                    <td className="mono">{hm(l.at)}</td>
                    <td>{l.by}</td>
                    <td>{l.action}</td>
                    <td>{l.caseId !== null && <Link to={`/cases/${l.caseId}`}>{String(l.caseId).padStart(4, '0')}</Link>}</td>
                    <td>{l.detail}</td>
                  </tr>
                </Fragment>
              );
            })}
          </tbody>
        </table>
      )}
      {more !== null && <Link to={search({ before: String(more) })}>Older lines</Link>}
    </div>
  );
}
