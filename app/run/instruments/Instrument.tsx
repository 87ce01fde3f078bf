import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { lazy, Suspense, useState } from 'react';
import type { Ladder } from '../../../core/ladder';
import { maxReason, type RunView } from '../../../core/procedure';
import styles from './instruments.module.css';
import type { OnResult } from './onResult';

const Entries = lazy(() => import('./Entries'));
const FilePart = lazy(() => import('./FilePart'));
const Cell = lazy(() => import('./Cell'));
const ResistorKey = lazy(() => import('./ResistorKey'));

/** The instrument of a step, in place of its answers; where the work was done elsewhere, a note takes its place. */
export function Instrument({ run, ladder, busy, onResult }: { run: RunView; ladder: Ladder | null; busy: boolean; onResult: OnResult }) {
  const { instrument } = run;
  if (!instrument) return null;
  return (
    <div className={styles.instrument}>
      <Suspense fallback={<p className="quiet">Loading …</p>}>
        {instrument.kind === 'entries' && <Entries instrument={instrument} busy={busy} onResult={onResult} />}
        {instrument.kind === 'file' && <FilePart instrument={instrument} answers={run.answers} busy={busy} onResult={onResult} />}
        {instrument.kind === 'cell' && <Cell busy={busy} onResult={onResult} />}
        {instrument.kind === 'ladder' && <ResistorKey ladder={ladder} busy={busy} onResult={onResult} />}
      </Suspense>
      {instrument.kind !== 'entries' && <Elsewhere shown={run} open={instrument.kind === 'ladder' && !ladder} busy={busy} onResult={onResult} />}
    </div>
  );
}

/** Done on another device: the answers as they are, with a note of where the result is. */
function Elsewhere({ shown, open, busy, onResult }: { shown: RunView; open: boolean; busy: boolean; onResult: OnResult }) {
  const [note, setNote] = useState('');
  const [missing, setMissing] = useState(false);
  return (
    <details className={styles.elsewhere} open={open}>
      <summary>Done on another device</summary>
      <TextField
        label="Note: what was done, and where the result is saved"
        value={note}
        onChange={(e) => {
          setNote(e.target.value);
          setMissing(false);
        }}
        error={missing}
        helperText={missing ? 'Write it in a few words. It goes into the report.' : 'Never write a secret into the note.'}
        multiline
        maxRows={3}
        slotProps={{ htmlInput: { maxLength: maxReason } }}
      />
      <div className={styles.row}>
        {shown.answers.map((a) => (
          <Button
            key={a.id}
            variant="outlined"
            color="inherit"
            disabled={busy}
            onClick={() => {
              const said = note.trim();
              if (said === '' && shown.noted.includes(a.id)) setMissing(true);
              else onResult(a.id, { note: said });
            }}
          >
            {a.say}
          </Button>
        ))}
      </div>
    </details>
  );
}
