import styles from './report.module.css';
import { type Part, timesOf } from './view';

/** The numbers that each run worked with, and where they came from. */
export function RunNumbers(part: Part) {
  const { report } = part;
  const { hm } = timesOf(part);
  return (
    <>
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
    </>
  );
}
