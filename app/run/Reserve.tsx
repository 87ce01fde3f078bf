import { lazy, Suspense, useState } from 'react';
import type { ReserveSaid, RunReserve } from '../../core/procedure';
import styles from '../battery/battery.module.css';
import type { Commands } from './useCommands';

const BatteryDialog = lazy(() => import('./BatteryDialog'));

/** How long the battery holds, in a line; what that rests on behind a button. */
export function Reserve({ reserve, said, commands }: { reserve: RunReserve; said: ReserveSaid; commands: Commands }) {
  const [open, setOpen] = useState(false);
  return (
    <div className={styles.strip} data-attention={said.attention} role="status">
      <button type="button" className={styles.line} onClick={() => setOpen(true)}>
        <span>{said.text}</span>
        {reserve.typical && <span className="typical">typical battery: enter yours</span>}
      </button>
      {open && (
        <Suspense fallback={null}>
          <BatteryDialog reserve={reserve} commands={commands} onClose={() => setOpen(false)} />
        </Suspense>
      )}
    </div>
  );
}
