import Button from '@mui/material/Button';
import { useState } from 'react';
import { paramWords, type ResolvedParam } from '../../core/library';
import { later } from '../ui/later';
import type { Commands } from './useCommands';
import styles from './run.module.css';

const EnterNumber = later('EnterNumber', () => import('./EnterNumber'));

/** The vehicle's numbers on which this step rests: a typical one is asked for, with its usual range; those that are known are folded away. */
export function Numbers({ numbers, commands }: { numbers: ResolvedParam[]; commands: Commands }) {
  const typical = numbers.filter((n) => n.status === 'typical');
  const known = numbers.filter((n) => n.status !== 'typical');
  return (
    <>
      {typical.length > 0 && (
        <ul className={styles.numbers} aria-label="Typical numbers of this step">
          {typical.map((n) => (
            <li key={n.name}>
              {n.label}: <span className="mono typical">{paramWords(n.value, n.unit)}</span> <span className="quiet">typical, usual {n.usual}</span>
              <Enter number={n} commands={commands} say="Enter it" />
            </li>
          ))}
        </ul>
      )}
      {known.length > 0 && (
        <details className={styles.known}>
          <summary>{known.length === 1 ? 'One number here is verified' : `${known.length} numbers here are verified`}</summary>
          <ul className={styles.numbers} aria-label="Verified numbers of this step">
            {known.map((n) => (
              <li key={n.name}>
                {n.label}: <span className="mono">{paramWords(n.value, n.unit)}</span> <span className="quiet">verified: {n.source}</span>
                <Enter number={n} commands={commands} say="Correct it" />
              </li>
            ))}
          </ul>
        </details>
      )}
    </>
  );
}

/** A number is entered in a dialog, which stays as it was left while it is shut. */
function Enter({ number: n, commands, say }: { number: ResolvedParam; commands: Commands; say: string }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button size="small" variant="outlined" color="inherit" onClick={() => setOpen(true)} aria-label={`${say}: ${n.label}`}>
        {say}
      </Button>
      <EnterNumber shown={open} open={open} close={() => setOpen(false)} number={n} commands={commands} say={say} />
    </>
  );
}
