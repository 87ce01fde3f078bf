import Button from '@mui/material/Button';
import { lazy, Suspense, useState } from 'react';
import type { ReserveSaid, RunReserve } from '../../core/procedure';
import styles from '../battery/battery.module.css';
import type { Commands } from './useCommands';

const BatteryDialog = lazy(() => import('./BatteryDialog'));

/** How long the battery holds, in a line; what that rests on behind a button. */
export function Reserve({ reserve, said, commands }: { reserve: RunReserve; said: ReserveSaid; commands: Commands }) {
  const [open, setOpen] = useState(false);
  return (
    <div className={styles.strip} data-attention={said.attention} role={said.attention === 'none' ? undefined : 'alert'}>
      <span>
        {said.text}
        {reserve.typical && <span className="quiet"> Typical battery.</span>}
      </span>
      <Button variant="text" onClick={() => setOpen(true)}>
        {reserve.typical ? 'Enter your battery' : 'Battery'}
      </Button>
      {open && (
        <Suspense fallback={null}>
          <BatteryDialog reserve={reserve} commands={commands} onClose={() => setOpen(false)} />
        </Suspense>
      )}
    </div>
  );
}
