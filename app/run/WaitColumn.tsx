import type { Attention, ShownWait } from '../../core/procedure';
import styles from './WaitColumn.module.css';

/** The time as a column that empties: seen from across the bay. */
export function WaitColumn({ wait, now, attention }: { wait: ShownWait; now: number; attention: Attention }) {
  const share = Math.min(1, Math.max(0, (wait.until - now) / Math.max(1, wait.until - wait.startedAt)));
  return (
    <div className={styles.column} data-attention={attention} aria-hidden="true">
      <div className={styles.left} style={{ height: `${100 * share}%` }} />
    </div>
  );
}
