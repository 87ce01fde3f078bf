import type { LampReading } from '../../core/lamp';
import type { LaidLamp } from '../../core/library';
import { formatChance } from '../../core/units';
import styles from './bench.module.css';

/** How likely each pattern is, those that matter. */
export function Shares({ reading, lamps }: { reading: LampReading; lamps: readonly LaidLamp[] }) {
  return (
    <ul className={styles.shares} aria-label="How likely">
      {reading.patterns
        .filter((p, i) => i === 0 || p.p >= 0.005)
        .map((p) => (
          <li key={p.id}>
            <span>{lamps.find((l) => l.id === p.id)?.title ?? 'None of these'}</span>
            <span className={styles.share} aria-hidden="true">
              <span style={{ width: `${p.p * 100}%` }} />
            </span>
            <span className="mono">{formatChance(p.p)}</span>
          </li>
        ))}
    </ul>
  );
}
