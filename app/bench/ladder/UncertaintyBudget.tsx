import { formatOhms, type Measured } from '../../../core/ladder';
import styles from './ladder.module.css';

/** Where the uncertainty comes from, part by part. */
export function UncertaintyBudget({ found }: { found: Measured }) {
  if (found.components.length === 0) return null;
  return (
    <details className={styles.budget}>
      <summary>Where the uncertainty comes from</summary>
      <table>
        <thead>
          <tr>
            <th scope="col">Part</th>
            <th scope="col">Type</th>
            <th scope="col">Standard</th>
          </tr>
        </thead>
        <tbody>
          {found.components.map((c) => (
            <tr key={c.name}>
              <th scope="row">
                {c.name}
                <small>{c.how}</small>
              </th>
              <td>{c.type}</td>
              <td className="mono">{formatOhms(c.ohms)}</td>
            </tr>
          ))}
          <tr>
            <th scope="row">
              Together
              <small>root of the sum of squares, times {found.k.toFixed(2)} for 95 %</small>
            </th>
            <td />
            <td className="mono">{formatOhms(found.u)}</td>
          </tr>
        </tbody>
      </table>
    </details>
  );
}
