import { dateWords, inSentence } from '../../core/units';
import styles from './report.module.css';
import { type Part, timesOf } from './view';

/** Whose vehicle it is, what was said of it, and what came of it. */
export function Facts(part: Part) {
  const { report } = part;
  const { record } = report;
  const { day } = timesOf(part);
  return (
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
          <dt>Time worked</dt>
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
  );
}
