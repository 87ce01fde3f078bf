import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { Link } from 'react-router';
import { classify, type Ladder, ladderVerdict, parseReadings, sent, unknownMeter } from '../../../core/ladder';
import type { OnResult } from './onResult';
import styles from './instruments.module.css';

/** Readings of a resistor key, and which value of the chart they are; the bench has the same with meter, leads and both ways around. */
export default function ResistorKey({ ladder, busy, onResult }: { ladder: Ladder | null; busy: boolean; onResult: OnResult }) {
  const [typed, setTyped] = useState('');
  if (!ladder)
    return (
      <p>
        This vehicle has no value chart. <Link to="/library/ladders">Add the vehicle’s chart</Link>, or note what you measured.
      </p>
    );
  const read = typed.trim() === '' ? null : parseReadings(typed);
  const ohms = read?.ok ? read.value : [];
  const conditions = { meter: unknownMeter, leadOhms: null, temperatureC: null };
  const found = ohms.length > 0 ? classify(ohms, ladder, conditions) : null;
  const said = found && ladderVerdict(found, ladder);
  return (
    <div className={styles.part}>
      <TextField
        label="Readings in ohms, three or more"
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
        placeholder="1391, 1388, 1384"
        error={read !== null && !read.ok}
        helperText={
          read !== null && !read.ok ? read.problems[0]!.message : 'Lift the tips and turn the key around between readings. OL for an overload.'
        }
        slotProps={{ htmlInput: { maxLength: 2000, className: 'mono', inputMode: 'text' } }}
      />
      <div role="status">
        {said && (
          <p>
            <b>{said.head}</b> {said.text}
          </p>
        )}
      </div>
      <div className={styles.row}>
        <Button
          variant="contained"
          size="large"
          loading={busy}
          disabled={!found || ohms.length < 3}
          onClick={() =>
            found &&
            onResult('ticked', {
              result: {
                kind: 'ladder',
                ladder: ladder.id,
                readings: ohms.map(sent),
                verdict: found.verdict,
                step: found.step?.step ?? null,
              },
            })
          }
        >
          Record
        </Button>
        <span className="quiet">{ladder.title}</span>
      </div>
    </div>
  );
}
