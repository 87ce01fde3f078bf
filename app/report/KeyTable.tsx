import { moneyWords } from '../../core/units';
import { abilityResults as words, keyKinds, keyRoles } from '../../core/library';
import styles from './report.module.css';
import type { Part } from './view';

/** Each key with what it could do before and now. */
export function KeyTable({ report }: Part) {
  return (
    <>
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
                    {k.toFit ? `, new: ${k.toFit.extent}${k.toFit.price === undefined ? '' : `, ${moneyWords(k.toFit.price, report.currency)}`}` : ''}
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
    </>
  );
}
