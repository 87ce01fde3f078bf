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

/** The vehicle's numbers on which this step rests: a typical one is asked for, with its usual range. */
export function Numbers({ numbers, commands }: { numbers: ResolvedParam[]; commands: Commands }) {
  if (numbers.length === 0) return null;
  return (
    <ul className={styles.numbers} aria-label="Numbers of this step">
      {numbers.map((n) => (
        <OneNumber key={n.name} number={n} commands={commands} />
      ))}
    </ul>
  );
}

function OneNumber({ number: n, commands }: { number: ResolvedParam; commands: Commands }) {
  const [open, setOpen] = useState(false);
  // Kept while the dialog is shut, so that a refused number can be mended.
  const [value, setValue] = useState('');
  const [source, setSource] = useState('');
  const [tried, setTried] = useState(false);
  const typical = n.status === 'typical';
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
      {n.label}: <span className={typical ? 'mono typical' : 'mono'}>{paramWords(n.value, n.unit)}</span>{' '}
      <span className="quiet">{typical ? `typical, usual ${n.usual}` : `verified: ${n.source}`}</span>
      {typical && (
        <Button size="small" variant="outlined" color="inherit" onClick={() => setOpen(true)} aria-label={`Enter it: ${n.label}`}>
          Enter it
        </Button>
      )}
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
