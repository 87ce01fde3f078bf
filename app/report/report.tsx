import { dateWords, inSentence, moneyWords, timesIn } from '../../core/units';
import Button from '@mui/material/Button';
import { Fragment } from 'react';
import { Link } from 'react-router';
import { here } from '../../server/http/requestContext';
import { abilityResults as words, keyKinds, keyRoles, partKinds } from '../../core/library';
import { readReport } from '../../server/cases/report';
import { caseId, noCase } from '../cases/caseId.server';
import { measuredLines } from '../cases/Measured';
import { Letterhead } from '../ui/Letterhead';
import type { Route } from './+types/report';
import styles from './report.module.css';

export const meta: Route.MetaFunction = ({ loaderData }) => [{ title: `Report ${loaderData?.report.record.number ?? ''} · Bloodstone` }];

export async function loader({ params, context }: Route.LoaderArgs) {
  const report = (await readReport(context.get(here).services, caseId(params.caseId))) ?? noCase(params.caseId);
  return { report, printedAt: context.get(here).services.clock.now(), timeZone: Intl.DateTimeFormat().resolvedOptions().timeZone };
}

/** Everything that happened, made for A4 paper; on the screen the same sheet. */
export default function Report({ loaderData: { report, printedAt, timeZone } }: Route.ComponentProps) {
  const { record } = report;
  const { hm, hms, day } = timesIn(timeZone, report.units);
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
        <dl className={styles.facts}>
          {record.customer && (
            <>
              <dt>Customer</dt>
              <dd>
                {record.customer.erasedAt !== null
                  ? `Personal data erased, ${day(record.customer.erasedAt)}`
                  : [record.customer.name, record.customer.phone].filter(Boolean).join(', ')}
              </dd>
            </>
          )}
          {report.conclusion && (
            <>
              <dt>Cause</dt>
              <dd>
                <b>{report.conclusion}</b>
              </dd>
            </>
          )}
          {report.minutes > 0 && (
            <>
              <dt>Counted</dt>
              <dd>{report.minutes} min of tests and repairs</dd>
            </>
          )}
          <dt>Vehicle</dt>
          <dd>
            {[record.vehicle, record.year, record.plate && `plate ${record.plate}`].filter(Boolean).join(', ')}
            {record.identification && <span className="mono"> {record.identification}</span>}
          </dd>
          <dt>Customer concern</dt>
          <dd>
            {record.words}
            {report.symptoms.length > 0 && ` (${report.symptoms.map(inSentence).join(', ')})`}
          </dd>
          {report.condition.length > 0 && (
            <>
              <dt>Condition on arrival</dt>
              <dd>{report.condition.join(', ')}</dd>
            </>
          )}
          {report.changed.length > 0 && (
            <>
              <dt>What changed</dt>
              <dd>{report.changed.join(', ')}</dd>
            </>
          )}
          <dt>System type</dt>
          <dd>
            {report.system.title}. {report.system.numbers === null ? 'Typical numbers. ' : `Numbers of the profile “${report.system.numbers}”. `}
            {report.system.checked
              ? `Checked by ${report.system.checked.by}, ${dateWords(report.system.checked.on, report.units.dates)}.`
              : 'Not checked against a source.'}
          </dd>
          {record.outcome && (
            <>
              <dt>Outcome</dt>
              <dd>
                <b>{record.outcome}</b>
              </dd>
            </>
          )}
        </dl>

        <h2>Keys</h2>
        {report.keys.length === 0 ? (
          <p>No key came with the vehicle.</p>
        ) : (
          <div className={styles.wide} role="region" aria-label="Keys, table" tabIndex={0}>
            <table className={`${styles.table} ${styles.keys}`}>
              <thead>
                <tr>
                  <th scope="col">Tag</th>
                  <th scope="col">Key</th>
                  {report.abilities.map((a) => (
                    <th scope="col" key={a}>
                      {a}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {report.keys.map((k) => (
                  <tr key={k.tag}>
                    <th scope="row" className="mono">
                      {k.tag}
                    </th>
                    <td>
                      {keyRoles[k.role as keyof typeof keyRoles]}
                      {[k.kind === 'unknown' ? '' : keyKinds[k.kind], k.marks, k.colour, k.condition, k.note].filter(Boolean).map((t) => `, ${t}`)}
                      {k.toFit
                        ? `, new: ${k.toFit.extent}${k.toFit.price === undefined ? '' : `, ${moneyWords(k.toFit.price, report.currency)}`}`
                        : ''}
                      {!k.present && ', was not here'}
                    </td>
                    {k.cells.map((c, i) => (
                      <td key={i}>
                        {c.now ? words[c.now] : 'not tried'}
                        {c.before && c.before !== c.now && <span className={styles.earlier}>before: {words[c.before]}</span>}
                        {c.told && <span className={styles.earlier}>told: {words[c.told]}</span>}
                      </td>
                    ))}
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        )}

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
        <h2>What happened</h2>
        <div className={styles.wide} role="region" aria-label="What happened, table" tabIndex={0}>
          <table className={styles.table}>
            <thead>
              <tr>
                <th scope="col">Time</th>
                <th scope="col" className={styles.what}>
                  What
                </th>
                <th scope="col">Seen or done</th>
                <th scope="col">By</th>
              </tr>
            </thead>
            <tbody>
              {report.lines.map((l, i) => {
                const before = report.lines[i - 1];
                return (
                  <Fragment key={i}>
                    {(!before || day(before.at) !== day(l.at)) && (
                      <tr>
                        <th scope="rowgroup" colSpan={4} className={styles.day}>
                          {day(l.at)}
                        </th>
                      </tr>
                    )}
                    <tr data-gone={l.gone || undefined}>
                      <td className="mono">{hms(l.at)}</td>
                      <td>{l.what}</td>
                      <td>
                        {l.detail}
                        {l.gone && ' (undone)'}
                        {l.measurement && <span className={styles.earlier}>{measuredLines(l.measurement, report.units.temperature).join(' ')}</span>}
                      </td>
                      <td>{l.by}</td>
                    </tr>
                  </Fragment>
                );
              })}
            </tbody>
          </table>
        </div>

        {report.runs.map((r) => (
          <section key={r.id} className={styles.numbers}>
            <h2>Numbers of the run</h2>
            <p>
              {r.title}, {r.pin}, {r.status}. {r.source}
            </p>
            <div className={styles.wide} role="region" aria-label="Numbers of the run, table" tabIndex={0}>
              <table className={styles.table}>
                <tbody>
                  {r.numbers.map((n) => (
                    <tr key={n.name}>
                      <th scope="row">{n.label}</th>
                      <td className="mono">{n.value}</td>
                      <td>
                        {n.status === 'verified' ? n.source : 'typical, not looked up for this vehicle'}
                        {n.changes.map((c) => (
                          <div key={c.at}>
                            counted from {hm(c.at)}; before it {c.from}
                            {c.fromTypical ? ' (typical)' : ''}
                            {c.unusual ? '. Outside the usual range, asked again and confirmed' : ''}
                          </div>
                        ))}
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          </section>
        ))}

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
