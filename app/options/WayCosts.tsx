import type { WayCost } from '../../core/options';
import styles from './options.module.css';

const says = { test: 'Test further first', act: 'Fix now, test no more' } as const;

/** What the two ways may cost: a bar from 10 to 90 of 100 such cases, a mark at 50, on one scale. */
export function WayCosts({ ways, money }: { ways: { act: WayCost | null; test: WayCost | null }; money: (amount: number) => string }) {
  const rows = (['test', 'act'] as const).flatMap((way) => (ways[way] ? [{ way, cost: ways[way] }] : []));
  if (rows.length < 2) return null;
  const most = Math.max(...rows.map((r) => r.cost.p90), 1);
  const least = rows.reduce((a, b) => (b.cost.mean < a.cost.mean ? b : a));
  const saves = Math.abs(rows[0]!.cost.mean - rows[1]!.cost.mean);
  const at = (amount: number) => `${(amount / most) * 100}%`;
  return (
    <section className={styles.ways} aria-labelledby="ways">
      <h2 id="ways">Test further, or act now?</h2>
      <p>
        {saves < most / 100
          ? 'Both ways cost about the same on average until it is fixed.'
          : `${says[least.way]}: it saves ${money(saves)} on average until it is fixed.`}
      </p>
      <table>
        <thead className="hidden">
          <tr>
            <th scope="col">Way</th>
            <th scope="col">10, 50 and 90 of 100 such cases cost no more than</th>
            <th scope="col">On average</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(({ way, cost }) => (
            <tr key={way}>
              <th scope="row">{says[way]}</th>
              <td>
                <span className={styles.scale} aria-hidden="true">
                  <i style={{ left: at(cost.p10), width: at(cost.p90 - cost.p10) }} />
                  <b style={{ left: at(cost.p50) }} />
                </span>
                <span className={styles.figures}>
                  10 in 100: {money(cost.p10)} · 50: {money(cost.p50)} · 90: {money(cost.p90)}
                </span>
              </td>
              <td>{money(cost.mean)} on average</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="quiet">
        From the chances of this case, with every result followed to the fix or to handing it on: work, parts and tax, without the diagnosis so far.
      </p>
    </section>
  );
}
