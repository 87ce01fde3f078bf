import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import { type ReactNode, useState } from 'react';
import { type Interruption, type InterruptionPolicy, maxReason, type RunView } from '../../core/procedure';
import styles from './Dialogs.module.css';
import type { Commands } from './useCommands';

type Send = Commands['send'];

const happened: Record<Interruption, string> = {
  keyOff: 'The key went off',
  started: 'The engine was started',
  supplyLow: 'Battery voltage is getting low',
  supplyLost: 'Power was lost',
  locked: 'The vehicle locked itself',
  left: 'I had to step away',
};
const follows: Record<InterruptionPolicy, string> = {
  goOn: 'It is noted, and the run goes on.',
  measure: 'You measure it now, then the run goes on. Timers keep running.',
  restartStep: 'This step starts over.',
  restartCycle: 'This cycle starts over.',
  restart: 'The cycles start over from the first.',
  stop: 'The run stops.',
};

/**
 * What the procedure answers to what happened is shown before it is recorded. While something else is on its way, `busy`, nothing more is taken: what was
 * typed stays, and its button waits.
 */
export function SomethingElse({ open, onClose, run, busy, send }: { open: boolean; onClose: () => void; run: RunView; busy: boolean; send: Send }) {
  const [note, setNote] = useState('');
  const [missing, setMissing] = useState(false);
  return (
    <Dialog open={open} onClose={onClose} aria-labelledby="else-title" fullWidth maxWidth="sm">
      <DialogTitle id="else-title">What happened?</DialogTitle>
      <DialogContent>
        <ul className={styles.list}>
          {run.interruptions.map(({ what, policy }) => (
            <li key={what}>
              <button
                type="button"
                className={styles.choice}
                disabled={busy}
                onClick={() => {
                  send({ type: 'interrupt', what });
                  onClose();
                }}
              >
                <b>{happened[what]}</b>
                <span>{follows[policy]}</span>
              </button>
            </li>
          ))}
        </ul>
        <form
          className={styles.noted}
          onSubmit={(event) => {
            event.preventDefault();
            if (note.trim() === '') return setMissing(true);
            send({ type: 'note', note: note.trim() });
            setNote('');
            onClose();
          }}
        >
          <TextField
            label="Only a note, for the next time"
            value={note}
            onChange={(e) => {
              setNote(e.target.value);
              setMissing(false);
            }}
            multiline
            maxRows={4}
            error={missing}
            helperText={
              missing ? 'Write it in a few words.' : 'It appears in the report and at this step in the Library. Never write a secret into it.'
            }
            slotProps={{ htmlInput: { maxLength: maxReason } }}
          />
          <Button type="submit" variant="outlined" color="inherit" loading={busy}>
            Save the note
          </Button>
        </form>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose} color="inherit">
          Nothing happened
        </Button>
      </DialogActions>
    </Dialog>
  );
}

export function StopRun({ open, onClose, busy, send }: { open: boolean; onClose: () => void; busy: boolean; send: Send }) {
  return (
    <WithReason
      open={open}
      onClose={onClose}
      busy={busy}
      title="Stop the run?"
      label="Why"
      keep="Don’t stop"
      act="Stop the run"
      danger
      onAct={(reason) => send({ type: 'stop', reason })}
    >
      <p>A stopped run can’t be continued. Its events stay in the report.</p>
    </WithReason>
  );
}

export function Waive({ open, onClose, step, busy, send }: { open: boolean; onClose: () => void; step: string; busy: boolean; send: Send }) {
  return (
    <WithReason
      open={open}
      onClose={onClose}
      busy={busy}
      title="Waive this precondition?"
      label="Reason, signed by the lead"
      keep="Don’t waive"
      act="Waive it"
      onAct={(reason) => send({ type: 'waive', step, reason })}
    >
      <p>Only a lead may do this. Name and reason go into the report. Authority can’t be waived.</p>
    </WithReason>
  );
}

interface WithReasonProps {
  open: boolean;
  onClose: () => void;
  busy: boolean;
  title: string;
  label: string;
  keep: string;
  act: string;
  danger?: boolean;
  onAct: (reason: string) => void;
  children: ReactNode;
}

function WithReason({ open, onClose, busy, title, label, keep, act, danger, onAct, children }: WithReasonProps) {
  const [reason, setReason] = useState('');
  const [missing, setMissing] = useState(false);
  return (
    <Dialog open={open} onClose={onClose} aria-labelledby="reason-title" fullWidth maxWidth="sm">
      <DialogTitle id="reason-title">{title}</DialogTitle>
      <DialogContent className={styles.content!}>
        {children}
        <TextField
          label={label}
          value={reason}
          onChange={(e) => setReason(e.target.value)}
          multiline
          minRows={2}
          autoFocus
          error={missing}
          helperText={missing ? 'Say it in a few words.' : ' '}
          slotProps={{ htmlInput: { maxLength: maxReason } }}
        />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose} color="inherit">
          {keep}
        </Button>
        <Button
          variant="contained"
          color={danger ? 'error' : 'primary'}
          loading={busy}
          onClick={() => {
            if (reason.trim() === '') return setMissing(true);
            onAct(reason);
            onClose();
          }}
        >
          {act}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
