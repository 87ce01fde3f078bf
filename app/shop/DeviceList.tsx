import Button from '@mui/material/Button';
import type { FormEvent } from 'react';
import { Form } from 'react-router';
import type { Device } from '../../server/accounts/sessions';
import { useTimes } from '../ui/clock';
import styles from './shop.module.css';

/** Browsers that are signed in, each to be signed out. */
export function DeviceList({ devices, here, send }: { devices: Device[]; here: string; send: (event: FormEvent<HTMLFormElement>) => void }) {
  const { hm, day } = useTimes();
  return (
    <ul className={styles.list}>
      {devices.map((d) => (
        <li key={d.id}>
          <span>
            {d.person}: {d.device}
            {d.atBay ? ', stays at a bay' : ''}
            {d.id === here && <b> (this one)</b>}
            <br />
            <span className="quiet">
              since {day(d.createdAt)}, used last at {hm(d.touchedAt)}, from <span className="mono">{d.address || 'unknown'}</span>
            </span>
          </span>
          {d.id !== here && (
            <Form method="post" onSubmit={send}>
              <input type="hidden" name="session" value={d.id} />
              <Button type="submit" variant="outlined" color="error" aria-label={`Sign out ${d.person}: ${d.device}`}>
                Sign out
              </Button>
            </Form>
          )}
        </li>
      ))}
    </ul>
  );
}
