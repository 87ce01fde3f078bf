import { Fragment } from 'react';
import { measuredLines } from '../cases/Measured';
import styles from './report.module.css';
import { type Part, timesOf } from './view';

/** Line by line, by its day. */
export function Happened(part: Part) {
  const { report } = part;
  const { hms, day } = timesOf(part);
  return (
    <>
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
    </>
  );
}
