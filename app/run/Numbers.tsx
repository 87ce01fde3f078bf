import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import { type FormEvent, useState } from 'react';
import { paramWords, type ResolvedParam } from '../../core/library';
import { maxReason } from '../../core/procedure';
import type { Commands } from './run';
import dialogs from './Dialogs.module.css';
import styles from './run.module.css';

/** The vehicle's numbers on which this step rests: a typical one is asked for, with its usual range; those that are known are folded away. */
export function Numbers({ numbers, commands }: { numbers: ResolvedParam[]; commands: Commands }) {
  const typical = numbers.filter((n) => n.status === 'typical');
  const known = numbers.filter((n) => n.status !== 'typical');
  return (
    <>
      {typical.length > 0 && (
        <ul className={styles.numbers} aria-label="Typical numbers of this step">
          {typical.map((n) => (
            <OneNumber key={n.name} number={n} commands={commands} />
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
              </li>
            ))}
          </ul>
        </details>
      )}
    </>
  );
}

function OneNumber({ number: n, commands }: { number: ResolvedParam; commands: Commands }) {
  const [open, setOpen] = useState(false);
  // Kept while the dialog is shut, so that a refused number can be mended.
  const [value, setValue] = useState('');
  const [source, setSource] = useState('');
  const [tried, setTried] = useState(false);
  const bad = n.oneOf === undefined && !/^\d+([.,]\d+)?$/.test(value.trim());
  const missing = { value: value.trim() === '' || bad, source: source.trim() === '' };
  const send = (event: FormEvent) => {
    event.preventDefault();
    setTried(true);
    if (missing.value || missing.source) return;
    commands.send({ type: 'number', name: n.name, value: value.trim(), source: source.trim() });
    setOpen(false);
  };
  return (
    <li>
      {n.label}: <span className="mono typical">{paramWords(n.value, n.unit)}</span> <span className="quiet">typical, usual {n.usual}</span>
      <Button size="small" variant="outlined" color="inherit" onClick={() => setOpen(true)} aria-label={`Enter it: ${n.label}`}>
        Enter it
      </Button>
      <Dialog open={open} onClose={() => setOpen(false)} aria-labelledby={`number-${n.name}`} fullWidth maxWidth="sm">
        <form onSubmit={send} noValidate>
          <DialogTitle id={`number-${n.name}`}>What does the service information say?</DialogTitle>
          <DialogContent className={dialogs.content!}>
            <p>
              {n.label}: usual {n.usual}. It counts from now on in this run, and can be kept as a profile of the shop afterwards.
            </p>
            <TextField
              label={n.unit ? `Number, ${n.unit}` : n.oneOf ? 'Which' : 'Number'}
              value={value}
              onChange={(e) => setValue(e.target.value)}
              autoFocus
              select={n.oneOf !== undefined}
              error={tried && missing.value}
              helperText={tried && missing.value ? (n.oneOf ? 'Choose one.' : `Type a number${n.unit ? ` in ${n.unit}` : ''}.`) : ' '}
              slotProps={{ htmlInput: { inputMode: 'decimal', maxLength: 20 }, select: { native: true }, inputLabel: { shrink: true } }}
            >
              {n.oneOf &&
                ['', ...n.oneOf].map((o) => (
                  <option key={o} value={o}>
                    {paramWords(o, '')}
                  </option>
                ))}
            </TextField>
            <TextField
              label="Where it stands: document and page"
              value={source}
              onChange={(e) => setSource(e.target.value)}
              error={tried && missing.source}
              helperText={tried && missing.source ? 'Say where the number comes from.' : ' '}
              slotProps={{ htmlInput: { maxLength: maxReason } }}
            />
          </DialogContent>
          <DialogActions>
            <Button onClick={() => setOpen(false)} color="inherit">
              Go on with the typical
            </Button>
            <Button type="submit" variant="contained">
              Use this number
            </Button>
          </DialogActions>
        </form>
      </Dialog>
    </li>
  );
}
