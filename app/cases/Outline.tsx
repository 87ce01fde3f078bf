import type { SequenceMark } from '../../core/procedure';
import { formatDuration } from '../../core/units';
import styles from './Outline.module.css';

/** A procedure before it is begun, as a strip: filled where a hand is needed, open where time runs by itself, the point of no return marked. */
export function Outline({
  marks,
  forgets = [],
}: {
  marks: readonly SequenceMark[];
  /** Tags that are not here and would be forgotten from the point of no return on. */ forgets?: readonly string[];
}) {
  if (marks.length === 0) return null;
  return (
    <figure className={styles.outline}>
      <ol aria-label="Steps of the procedure">
        {marks.map((m, i) => (
          <li
            key={i}
            data-wait={m.wait || undefined}
            data-commitment={m.commitment || undefined}
            style={{ flexGrow: Math.sqrt(Math.max(m.weight, 10)) }}
          >
            <span className={styles.bar} />
            <span>{m.label}</span>
            {m.commitment && forgets.length > 0 && <span className={styles.forgets}>forgets {forgets.map((tag) => `tag ${tag}`).join(', ')}</span>}
            {m.wait && <span className="mono">{formatDuration(m.weight)}</span>}
          </li>
        ))}
      </ol>
      <figcaption>
        <i /> hands on <i data-wait /> wait <i data-commitment /> point of no return
      </figcaption>
    </figure>
  );
}
