import { formatDuration, formatLeft } from '../../core/units';
import { useNow } from '../ui/clock';
import styles from './entrance.module.css';

/** The shop's running waits on a locked device: where and how long, nothing else. */
export function LockedWaits({ waits }: { waits: { id: string; bay: string; until: number }[] }) {
  const now = useNow();
  if (waits.length === 0) return null;
  return (
    <section className={styles.waits} aria-label="Running waits">
      <ul>
        {waits.map((w) => (
          <li key={w.id}>
            <span>{w.bay}</span>
            <span className="mono">{now >= w.until ? `+${formatDuration((now - w.until) / 1000)}` : formatLeft(w.until - now)}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
