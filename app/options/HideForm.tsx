import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import type { ShownOption } from '../../core/options';
import type { useAct } from '../ui/useAct';
import styles from './options.module.css';

/** An option is hidden with a reason, and can be shown again. */
export function HideForm({ act, option, done }: { act: ReturnType<typeof useAct>; option: ShownOption; done: () => void }) {
  const [reason, setReason] = useState('');
  return (
    <form
      className={styles.form}
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        act.sendJson({ intent: 'hide', option: option.id, reason });
      }}
    >
      <TextField
        label="Hidden, because"
        name="reason"
        value={reason}
        onChange={(e) => setReason(e.target.value)}
        required
        size="small"
        error={'reason' in act.errors}
        helperText={act.errors.reason ?? 'Without names.'}
        slotProps={{ htmlInput: { maxLength: 300 } }}
      />
      <div className={styles.row}>
        <Button type="submit" variant="contained" loading={act.busy}>
          Hide it
        </Button>
        <Button color="inherit" onClick={done}>
          Leave it
        </Button>
      </div>
    </form>
  );
}
