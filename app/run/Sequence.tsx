import type { SequenceMark, ShownWait } from '../../core/procedure';
import styles from './Sequence.module.css';

/** The whole run as one thin line: what lies behind is filled, the point of no return is marked. */
export function Sequence({ marks, wait, now }: { marks: SequenceMark[]; wait: ShownWait | undefined; now: number }) {
  const share = wait && wait.kind === 'least' ? Math.min(1, Math.max(0, (now - wait.startedAt) / Math.max(1, wait.until - wait.startedAt))) : 0;
  return (
    <ol className={styles.line} aria-label="The whole run">
      {marks.map((m, i) => (
        <li
          key={i}
          data-place={m.place}
          data-commitment={m.commitment || undefined}
          aria-current={m.place === 'now' ? 'step' : undefined}
          style={{ flexGrow: Math.sqrt(Math.max(m.weight, 10)) }}
        >
          <span className={styles.bar}>
            {m.place === 'now' && <span className={styles.part} style={{ width: `${100 * (m.wait ? share : 0.5)}%` }} />}
          </span>
          <span className={styles.label}>{m.label}</span>
          {m.commitment && <span className={styles.noReturn}>point of no return</span>}
        </li>
      ))}
    </ol>
  );
}
