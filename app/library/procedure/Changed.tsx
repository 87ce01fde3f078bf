import { useState } from 'react';
import { lineInWords, linesOf, type Procedure, type WrittenStep } from '../../../core/procedure';
import { formatQuantity } from '../../../core/units';
import { Choice } from '../../ui/Choice';
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

interface Line {
  id: string;
  words: string;
}

/** A version line by line: by the sentences it was made of, or by its steps. */
const linesIn = ({ written, steps }: Pick<Procedure, 'written' | 'steps'>): Line[] =>
  written
    ? written.steps.map((s) => ({ id: s.id, words: inWords(s) }))
    : linesOf(steps).flatMap((l) => (l.words === '' ? [] : [{ id: l.id, words: lineInWords(l) }]));

/** Two versions side by side, step by step: what was changed, moved, added or left out, and on demand what is the same. */
export function Changed({ before, now }: { before: Procedure; now: Procedure }) {
  const [all, setAll] = useState(false);
  const [was, is] = [linesIn(before), linesIn(now)];
  const { version } = now;
  const old = new Map(was.map((l) => [l.id, l.words]));
  const kept = new Set(is.map((l) => l.id));
  const order = was.filter((l) => kept.has(l.id)).map((l) => l.id);
  const orderNow = is.filter((l) => old.has(l.id)).map((l) => l.id);
  const rows = [
    ...is.map(({ id, words }) => {
      const earlier = old.get(id);
      const how = earlier === undefined ? 'added' : earlier !== words ? 'changed' : order.indexOf(id) !== orderNow.indexOf(id) ? 'moved' : 'same';
      return { id, was: earlier ?? '', is: words, how };
    }),
    ...was.filter((l) => !kept.has(l.id)).map(({ id, words }) => ({ id, was: words, is: '', how: 'left out' })),
  ];
  const differ = rows.filter((r) => r.how !== 'same');
  return (
    <details className={styles.changed}>
      <summary>
        {differ.length === 0 ? 'No step differs from' : `${differ.length === 1 ? 'One step differs' : `${differ.length} steps differ`} from`} version{' '}
        {version - 1}
      </summary>
      <Choice type="checkbox" checked={all} onChange={(e) => setAll(e.target.checked)}>
        Show what is the same too
      </Choice>
      <table>
        <thead>
          <tr>
            <th scope="col">Version {version - 1}</th>
            <th scope="col">Version {version}</th>
            <th scope="col">What happened</th>
          </tr>
        </thead>
        <tbody>
          {(all ? rows : differ).map((r) => (
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
