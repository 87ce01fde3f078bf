import { useState } from 'react';
import Button from '@mui/material/Button';
import { parseReading, sent } from '../../../core/ladder';
import styles from './ladder.module.css';
import type { useMeter } from './useMeter';

/** What the simulated meter is connected to: any resistor, and a contact that can be worsened. */
export function SimulatedContact({ device }: { device: ReturnType<typeof useMeter> }) {
  const [ohms, setOhms] = useState('1392');
  const [badness, setBadness] = useState(0);
  const [said, say] = useState('');
  const read = parseReading(ohms);
  const connect = async () => {
    if (!read.ok) return say(read.problems[0]!.message);
    const answer = await device.set({ ohms: sent(read.value), badness: badness / 100 });
    say(answer ? 'Connected.' : '');
  };
  return (
    <fieldset className={styles.simulated}>
      <legend className="label">Simulated: what it is connected to</legend>
      <label>
        Resistor <input className={styles.entry} value={ohms} maxLength={20} onChange={(event) => setOhms(event.target.value)} />
      </label>
      <label>
        Contact, from good to broken
        <input
          type="range"
          min={0}
          max={100}
          step={5}
          value={badness}
          onChange={(event) => setBadness(Number(event.target.value))}
          aria-valuetext={`${badness} % worn`}
        />
      </label>
      <Button size="small" variant="outlined" onClick={() => void connect()}>
        Connect
      </Button>
      <p role="status">{said}</p>
    </fieldset>
  );
}
