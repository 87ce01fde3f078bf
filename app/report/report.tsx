import Button from '@mui/material/Button';
import { Link } from 'react-router';
import { here } from '../../server/http/requestContext';
import { partKinds } from '../../core/library';
import { readReport } from '../../server/cases/report';
import { caseId, noCase } from '../cases/caseId.server';
import { Letterhead } from '../ui/Letterhead';
import type { Route } from './+types/report';
import { Facts } from './Facts';
import { Happened } from './Happened';
import { KeyTable } from './KeyTable';
import styles from './report.module.css';
import { RunNumbers } from './RunNumbers';
import { timesOf } from './view';

export const meta: Route.MetaFunction = ({ loaderData }) => [{ title: `Report ${loaderData?.report.record.number ?? ''} · Bloodstone` }];

export async function loader({ params, context }: Route.LoaderArgs) {
  const report = (await readReport(context.get(here).services, caseId(params.caseId))) ?? noCase(params.caseId);
  return { report, printedAt: context.get(here).services.clock.now(), timeZone: Intl.DateTimeFormat().resolvedOptions().timeZone };
}

/** Everything that happened, made for A4 paper; on the screen the same sheet. */
export default function Report({ loaderData: { report, printedAt, timeZone } }: Route.ComponentProps) {
  const { record } = report;
  const part = { report, timeZone };
  const { hm, day } = timesOf(part);
  return (
    <div className={styles.desk}>
      <nav className={styles.tools} aria-label="Report">
        <Button component={Link} to={`/cases/${record.id}`} variant="outlined">
          Back to the case
        </Button>
        <Button variant="contained" onClick={() => window.print()}>
          Print
        </Button>
      </nav>
      <main className={styles.sheet}>
        <Letterhead shop={report.shop}>
          <h1>
            Case {record.number}: {record.vehicle}
          </h1>
          <p>
            {day(record.openedAt)}, {record.closedAt === null ? 'still open' : `closed ${day(record.closedAt)} at ${hm(record.closedAt)}`}
            {report.demo && ' · demo data, nothing here is real'}
          </p>
        </Letterhead>
        <Facts {...part} />

        <KeyTable {...part} />

        {record.parts.length > 0 && (
          <>
            <h2>Parts</h2>
            <ul className={styles.advice}>
              {record.parts.map((p) => (
                <li key={p.tag}>
                  <span className="mono">{p.tag}</span> {[partKinds[p.what as keyof typeof partKinds], p.label, p.note].filter(Boolean).join(', ')}
                </li>
              ))}
            </ul>
          </>
        )}
        {report.held.length > 0 && <p>Still in the shop: {report.held.map((t) => `tag ${t}`).join(', ')}.</p>}
        <Happened {...part} />

        <RunNumbers {...part} />

        <h2>Advice</h2>
        <ul className={styles.advice}>
          {report.advice.map((a) => (
            <li key={a}>{a}</li>
          ))}
        </ul>
        <footer className={styles.foot}>
          Report of {day(printedAt)}, {hm(printedAt)}. Times in {timeZone}.
        </footer>
      </main>
    </div>
  );
}
