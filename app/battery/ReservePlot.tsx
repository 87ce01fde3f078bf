import { lazy, Suspense, useSyncExternalStore } from 'react';
import type { course } from '../../core/reserve';
import { formatQuantity } from '../../core/units';
import styles from './battery.module.css';

/** Drawing needs the size of the page, so it waits for the browser; its scripts are only loaded where it is drawn. */
const ReserveChart = lazy(() => import('./ReserveChart'));
const noChanges = () => () => {};

export function ReservePlot({ points, limitVolts }: { points: ReturnType<typeof course>; limitVolts: number }) {
  const drawn = useSyncExternalStore(
    noChanges,
    () => true,
    () => false,
  );
  const [first, last] = [points[0]!, points.at(-1)!];
  const say = `Volts under load: ${formatQuantity(first.middle, 'V')} now, ${formatQuantity(last.middle, 'V')} after ${Math.round(last.minute)} minutes, limit ${limitVolts} V`;
  return (
    <div className={styles.plot} role="img" aria-label={say}>
      {drawn && (
        <Suspense fallback={<p className="quiet">Drawing …</p>}>
          <ReserveChart points={points} limitVolts={limitVolts} />
        </Suspense>
      )}
    </div>
  );
}
