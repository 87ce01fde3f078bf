import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { Form, Link, useSubmit } from 'react-router';
import { SystemDrawing } from '../drawings/SystemDrawing';
import { type CaseRow, listCases, sorts } from '../../server/cases/caseList';
import { listDrafts } from '../../server/cases/drafts';
import { caseSearch, parseCaseQuery } from '../../server/cases/queries';
import { here } from '../../server/http/requestContext';
import { may } from '../../server/acts/rights';
import { useTimes } from '../ui/clock';
import type { Route } from './+types/list';
import styles from './list.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'Cases · Bloodstone' }];
export const handle = { place: () => ({ title: 'Cases' }) };

export async function loader({ request, context }: Route.LoaderArgs) {
  const { services, session } = context.get(here);
  const { db } = services.database;
  const query = parseCaseQuery(new URL(request.url).searchParams);
  const { rows, more } = await listCases(db, query);
  const last = rows.at(-1);
  const drafts = query.shown === 'open' && query.text === '' && !query.after ? await listDrafts(db, session!.person) : [];
  return {
    query,
    rows,
    sorts: Object.entries(sorts) as [string, string][],
    families: [...services.library.families.values()].map((f) => ({ id: f.id, title: f.title })),
    here: caseSearch(query, {}),
    closed: caseSearch(query, { shown: 'closed' }),
    parked: caseSearch(query, { shown: 'parked' }),
    open: caseSearch(query, { shown: 'open' }),
    first: query.after ? caseSearch(query, {}) : null,
    next: more && last ? caseSearch(query, { after: last }) : null,
    mayImport: may(session!.person, 'importCase'),
    drafts: drafts.map((d) => ({
      id: d.id,
      updatedAt: d.updatedAt,
      say: String(d.fields.vehicle || d.fields.words || 'nothing written yet').slice(0, 80),
    })),
  };
}

const tabs = { open: 'Open', parked: 'Parked', closed: 'Closed' } as const;
const empty = {
  open: 'A case is one job from intake to hand-over. None is open. Open one when a vehicle comes in.',
  parked: 'A case that has to wait can be parked; it then frees its bay and is listed here. None is parked.',
  closed: 'Handed-over cases are listed here. None has been closed yet.',
};

export default function CaseList({ loaderData: d }: Route.ComponentProps) {
  const { query, rows } = d;
  const submit = useSubmit();
  const filtered = query.text !== '' || query.kind !== undefined || query.family !== undefined;
  return (
    <div className={styles.page}>
      <div className={styles.head}>
        <h1>{tabs[query.shown]}</h1>
        <nav aria-label="Which cases" className={styles.tabs}>
          {(Object.keys(tabs) as (keyof typeof tabs)[]).map((shown) => (
            <Link key={shown} to={`/cases${d[shown]}`} aria-current={query.shown === shown ? 'page' : undefined}>
              {tabs[shown]}
            </Link>
          ))}
        </nav>
        <Button component={Link} to="/cases/new" variant="contained">
          New case
        </Button>
      </div>
      <Form
        role="search"
        className={styles.filters}
        key={d.here}
        onChange={(event) => (event.target as unknown as HTMLInputElement).name !== 'q' && void submit(event.currentTarget)}
      >
        {query.shown !== 'open' && <input type="hidden" name="state" value={query.shown} />}
        <TextField
          name="q"
          label="Number, plate, customer, key or words"
          size="small"
          defaultValue={query.text}
          sx={{ '& .MuiInputBase-root': { height: 48 } }}
          slotProps={{ htmlInput: { maxLength: 80 } }}
        />
        <label className={styles.filter}>
          <span className="label">Kind</span>
          <select name="kind" defaultValue={query.kind ?? ''}>
            <option value="">all</option>
            <option value="vehicle">vehicles</option>
            <option value="parts">parts</option>
          </select>
        </label>
        <label className={styles.filter}>
          <span className="label">System type</span>
          <select name="family" defaultValue={query.family ?? ''}>
            <option value="">all</option>
            {d.families.map((f) => (
              <option key={f.id} value={f.id}>
                {f.title}
              </option>
            ))}
          </select>
        </label>
        <label className={styles.filter}>
          <span className="label">Order</span>
          <select name="sort" defaultValue={query.sort}>
            {d.sorts.map(([id, say]) => (
              <option key={id} value={id}>
                {say}
              </option>
            ))}
          </select>
        </label>
        <Button type="submit" variant="outlined">
          Search
        </Button>
      </Form>
      {d.drafts.length > 0 && (
        <section className={styles.drafts} aria-labelledby="drafts">
          <h2 id="drafts">Unfinished</h2>
          <ul>
            {d.drafts.map((x) => (
              <Draft key={x.id} draft={x} />
            ))}
          </ul>
        </section>
      )}
      {rows.length === 0 ? (
        <p className={styles.empty}>
          {filtered || query.after ? 'No case found. Try fewer letters or another filter, or another tab.' : empty[query.shown]}
        </p>
      ) : (
        <ul className={styles.rows}>
          {rows.map((row) => (
            <Row key={row.id} row={row} />
          ))}
        </ul>
      )}
      <p className={styles.foot}>
        {d.first && <Link to={`/cases${d.first}`}>First page</Link>}
        {d.next && <Link to={`/cases${d.next}`}>More cases</Link>}
        <a href={`/cases.csv${d.here}`}>Export this list as CSV</a>
        {d.mayImport && <Link to="/cases/import">Import a case from another shop</Link>}
      </p>
    </div>
  );
}

function Draft({ draft }: { draft: { id: string; updatedAt: number; say: string } }) {
  const { hm, day } = useTimes();
  return (
    <li>
      <Link to={`/cases/new?draft=${draft.id}`} className={styles.draft}>
        <span className="mono">new</span>
        <span className={styles.vehicle}>{draft.say}</span>
        <span />
        <span className="quiet">
          {day(draft.updatedAt)}, {hm(draft.updatedAt)}
        </span>
      </Link>
    </li>
  );
}

const stages = { takenIn: 'Checked in', testing: 'Testing', repair: 'Repair', handedOver: 'Handed over' } as const;

function Row({ row }: { row: CaseRow }) {
  const { hm, day } = useTimes();
  const at = Object.keys(stages).indexOf(row.stage);
  const state = row.state === 'parked' ? 'Parked' : row.running ? 'Relearn running' : stages[row.stage];
  return (
    <li>
      <Link to={`/cases/${row.id}`} className={styles.row}>
        <SystemDrawing family={row.kind === 'vehicle' ? row.family : ''} width={64} />
        <span className={styles.what}>
          <span className={styles.vehicle}>
            <span className="mono">{row.number}</span> {row.vehicle || 'Parts'} <span className="quiet">{row.plate}</span>
          </span>
          <span className={styles.words}>{row.outcome ?? row.words}</span>
        </span>
        <span className={styles.stage} data-parked={row.state === 'parked' || undefined} data-running={row.running || undefined}>
          <span className={styles.way} aria-hidden="true">
            {Object.keys(stages).map((id, i) => (
              <i key={id} data-done={i <= at || undefined} />
            ))}
          </span>
          {state}
        </span>
        <span className="quiet">
          <span className={styles.by}>{row.by}</span>
          {row.closedAt !== null
            ? `closed ${day(row.closedAt)}`
            : row.state === 'parked'
              ? `since ${day(row.openedAt)}`
              : `${row.bay ?? 'no bay'}, since ${hm(row.openedAt)}`}
        </span>
      </Link>
    </li>
  );
}
