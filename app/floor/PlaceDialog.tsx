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

/** A case with where it stands and who works on it. */
export type PlacedCase = NonNullable<Lane['case']> & { /** Empty: anybody. */ technicianId: string };

/** Asks where a case stands, who works on it, and when it is promised to be ready. */
export default function PlaceDialog({
  of,
  bays,
  people,
  close,
  saved,
}: {
  of: PlacedCase;
  bays: { id: string; name: string }[];
  people: { id: string; name: string }[];
  close: () => void;
  /** Something else stands now. @param before as it stood when this was opened */
  saved: (before: PlacedCase) => void;
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
          <Pick label="Bay" name="bay" value={of.bayId} none="No bay" of={bays} error={act.errors.bay} autoFocus />
          <Pick label="Technician" name="technician" value={of.technicianId} none="Anybody" of={people} error={act.errors.technician} />
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

interface Picked {
  label: string;
  name: string;
  value: string;
  /** What an empty choice means. */
  none: string;
  of: { id: string; name: string }[];
  error: string | undefined;
  autoFocus?: boolean;
}
function Pick({ label, name, value, none, of, error, autoFocus = false }: Picked) {
  return (
    <TextField
      label={label}
      name={name}
      select
      defaultValue={value}
      autoFocus={autoFocus}
      error={error !== undefined}
      helperText={error ?? ' '}
      slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
    >
      <option value="">{none}</option>
      {of.map((one) => (
        <option key={one.id} value={one.id}>
          {one.name}
        </option>
      ))}
    </TextField>
  );
}
