import type { Written, WrittenStep } from '../../../core/procedure';
import { formatQuantity } from '../../../core/units';
import { kindWords } from './figures';
import styles from './procedure.module.css';

/** A step in one line: its kind, its figures, its words. */
function inWords(s: WrittenStep): string {
  const figures = [
    s.minS === undefined ? '' : `at least ${formatQuantity(s.minS, 's')}`,
    s.maxS === undefined ? '' : `at most ${formatQuantity(s.maxS, 's')}`,
    s.withinS === undefined ? '' : `within ${formatQuantity(s.withinS, 's')}`,
    s.n === undefined ? '' : `${s.n} times`,
    s.max === undefined ? '' : `at most ${s.max} keys`,
  ].filter(Boolean);
  return `${kindWords[s.kind]}${figures.length > 0 ? `, ${figures.join(', ')}` : ''}: ${s.text}`;
}

/** Two versions side by side, step by step: what is the same, what was changed, moved, added or left out. */
export function Changed({ before, now, version }: { before: Written; now: Written; version: number }) {
  const old = new Map(before.steps.map((s) => [s.id, inWords(s)]));
  const kept = new Set(now.steps.map((s) => s.id));
  const gone = before.steps.filter((s) => !kept.has(s.id));
  const order = before.steps.filter((s) => kept.has(s.id)).map((s) => s.id);
  const orderNow = now.steps.filter((s) => old.has(s.id)).map((s) => s.id);
  const rows = [
    ...now.steps.map((s) => {
      const was = old.get(s.id);
      const is = inWords(s);
      const how = was === undefined ? 'added' : was !== is ? 'changed' : order.indexOf(s.id) !== orderNow.indexOf(s.id) ? 'moved' : 'same';
      return { id: s.id, was: was ?? '', is, how };
    }),
    ...gone.map((s) => ({ id: s.id, was: inWords(s), is: '', how: 'left out' })),
  ];
  const differ = rows.filter((r) => r.how !== 'same');
  return (
    <details className={styles.changed}>
      <summary>
        {differ.length === 0 ? 'No step differs from' : `${differ.length === 1 ? 'One step differs' : `${differ.length} steps differ`} from`} version{' '}
        {version - 1}
      </summary>
      <table>
        <thead>
          <tr>
            <th scope="col">Version {version - 1}</th>
            <th scope="col">Version {version}</th>
            <th scope="col">What happened</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((r) => (
            <tr key={r.id} data-how={r.how === 'same' ? undefined : r.how}>
              <td>{r.was}</td>
              <td>{r.is}</td>
              <td>{r.how}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}
