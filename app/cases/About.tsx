import { Link } from 'react-router';
import { authorityKinds } from '../../core/library';
import type { CasePage } from './page';
import { caseWith } from './about';
import { useTimes } from '../ui/clock';
import styles from './About.module.css';

/** Vehicle, system, authority and runs: what the case stands on. */
export function About({ page }: { page: CasePage }) {
  const { record, system } = page;
  const { hm } = useTimes();
  return (
    <section className={styles.about} aria-label="About this case">
      <dl>
        <dt>Vehicle</dt>
        <dd>
          {record.vehicle}
          {record.year ? `, ${record.year}` : ''}
          {record.identification && <span className={`mono ${styles.vin}`}>{record.identification}</span>}
        </dd>
        {page.condition.length > 0 && (
          <>
            <dt>Condition on arrival</dt>
            <dd>{page.condition.join(', ')}</dd>
          </>
        )}
        <dt>Customer</dt>
        <dd>
          {record.customer === null
            ? 'not noted'
            : record.customer.erasedAt !== null
              ? `personal data erased at ${hm(record.customer.erasedAt)}`
              : [record.customer.name, record.customer.phone].filter(Boolean).join(', ')}
        </dd>
        {page.cameFrom && (
          <>
            <dt>Came back</dt>
            <dd>
              <Link to={`/cases/${page.cameFrom.id}`}>case {page.cameFrom.number}</Link>
            </dd>
          </>
        )}
        {record.kind === 'vehicle' && (
          <>
            <dt>Agreed</dt>
            <dd>
              {!page.agreed ? 'nothing yet' : page.agreed.titles.length === 0 ? 'nothing more is wanted' : page.agreed.titles.join('; ')}{' '}
              <Link to={`/cases/${record.id}/options`}>options</Link>
            </dd>
          </>
        )}
        <dt>System type</dt>
        <dd>
          <Link to={`/library/${record.family.id}`}>{system.title}</Link>
          {page.typical > 0 && (
            <span className="quiet">
              {' '}
              (<span className="typical">{page.typical} typical</span>)
            </span>
          )}
          {record.state === 'open' && record.kind === 'vehicle' && (
            <Link to={`/cases/${record.id}/identify`} className={styles.again}>
              identify again
            </Link>
          )}
        </dd>
        <dt>Runs</dt>
        <dd>
          {record.runs.length === 0
            ? 'none'
            : record.runs.map((r) => (
                <Link key={r.id} to={`/cases/${record.id}/runs/${r.id}`} className={styles.run}>
                  {hm(r.startedAt)} {r.status}
                </Link>
              ))}
        </dd>
        {page.everyVehicle.length > 0 && record.state === 'open' && record.kind === 'vehicle' && (
          <>
            <dt>Procedures</dt>
            <dd>
              <Procedures page={page} list={page.procedures.filter((p) => !page.everyVehicle.some((e) => e.id === p.id))} />
              <details className={styles.every}>
                <summary>For every vehicle</summary>
                <Procedures page={page} list={page.everyVehicle} />
              </details>
            </dd>
          </>
        )}
        <dt>Authority</dt>
        <dd>
          {record.authority.map((a) => (
            <p key={a.at}>
              {authorityKinds[a.kind as keyof typeof authorityKinds]}{' '}
              <span className="quiet">
                seen by {a.by}, {hm(a.at)}
                {a.note ? `: ${a.note}` : ''}
              </span>
            </p>
          ))}
          {record.authority.length === 0 && 'none seen'}
        </dd>
      </dl>
      <p className={styles.links}>
        <Link to={`/cases/${record.id}/papers`}>Papers</Link>
        {record.state === 'closed' && <Link to={`/cases/${record.id}/after`}>Look back</Link>}
        <Link to={`/cases/${record.id}/report`}>Report</Link>
        <Link to={`/cases/${record.id}/intake`}>Intake</Link>
        {record.state === 'open' && record.kind === 'vehicle' && <Link to={`/cases/${record.id}/verify`}>Verify the keys</Link>}
        {record.state === 'open' && <Link to={`/cases/${record.id}/hand-over`}>Hand over</Link>}
      </p>
    </section>
  );
}

function Procedures({ page, list }: { page: CasePage; list: CasePage['everyVehicle'] }) {
  return list.map((p) => (
    <Link key={p.id} to={caseWith(page, { run: p.id })} className={styles.procedure}>
      {p.title} <span className="quiet">{Math.max(1, Math.round(p.minutes))} min</span>
    </Link>
  ));
}
