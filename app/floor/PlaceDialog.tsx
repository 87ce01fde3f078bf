import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import { useEffect, useState } from 'react';
import type { Lane } from '../../server/floor/floor';
import { useNow, useZone } from '../ui/clock';
import { ProblemSummary } from '../ui/problems';
import { useAct } from '../ui/useAct';
import { momentOf, timeOf } from './dayTime';
import styles from './floor.module.css';

/** Asks where a case stands and when it is promised to be ready. */
export default function PlaceDialog({
  of,
  bays,
  close,
  saved,
}: {
  of: NonNullable<Lane['case']>;
  bays: { id: string; name: string }[];
  close: () => void;
  /** Something else stands now. @param before as it stood when this was opened */
  saved: (before: NonNullable<Lane['case']>) => void;
}) {
  const now = useNow();
  const zone = useZone();
  const act = useAct();
  const [promise, setPromise] = useState(of.promisedAt === null ? '' : timeOf(of.promisedAt, zone));
  const [before] = useState(of);
  const [sent, setSent] = useState(false);
  const promisedAt =
    promise === '' ? '' : String(of.promisedAt !== null && timeOf(of.promisedAt, zone) === promise ? of.promisedAt : momentOf(promise, now, zone));
  // Taken: the Floor shows it now.
  const taken = sent && act.said !== '';
  useEffect(() => {
    if (!taken) return;
    saved(before);
    close();
  }, [taken, before, saved, close]);
  return (
    <Dialog open onClose={close} aria-labelledby="place-title" fullWidth maxWidth="xs">
      <form
        onSubmit={(event) => {
          setSent(true);
          act.send('setPlace', '/?index')(event);
        }}
        noValidate
      >
        <DialogTitle id="place-title">
          Case {of.number}, {of.vehicle}
        </DialogTitle>
        <DialogContent className={styles.place!}>
          <ProblemSummary errors={act.errors} />
          <input type="hidden" name="caseId" value={of.id} />
          {promisedAt !== '' && <input type="hidden" name="promisedAt" value={promisedAt} />}
          <TextField
            label="Bay"
            name="bay"
            select
            defaultValue={of.bayId}
            autoFocus
            error={act.errors.bay !== undefined}
            helperText={act.errors.bay ?? ' '}
            slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
          >
            <option value="">No bay</option>
            {bays.map((b) => (
              <option key={b.id} value={b.id}>
                {b.name}
              </option>
            ))}
          </TextField>
          <TextField
            label="Promised for"
            type="time"
            value={promise}
            onChange={(e) => setPromise(e.target.value)}
            helperText="The next time the clock shows this. Empty: nothing is promised."
            slotProps={{ inputLabel: { shrink: true } }}
          />
        </DialogContent>
        <DialogActions>
          <Button onClick={close}>Cancel</Button>
          <Button type="submit" variant="contained" disabled={act.busy}>
            Save
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
