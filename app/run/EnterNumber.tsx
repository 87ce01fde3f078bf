import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import { type FormEvent, useState } from 'react';
import { paramWords, type ResolvedParam } from '../../core/library';
import { maxReason } from '../../core/procedure';
import { readQuantity } from '../../core/units';
import { QuantityField } from '../ui/QuantityField';
import type { Commands } from './useCommands';
import dialogs from './Dialogs.module.css';

/** Asks for a number with its source; one outside the usual range is asked again, with both numbers. */
export default function EnterNumber({
  open,
  close,
  number: n,
  commands,
  say,
}: {
  open: boolean;
  close: () => void;
  number: ResolvedParam;
  commands: Commands;
  say: string;
}) {
  // Kept while the dialog is shut, so that a refused number can be mended.
  const [value, setValue] = useState('');
  const [source, setSource] = useState('');
  const [tried, setTried] = useState(false);
  /** What was sent last; what the server said of something else is not about this. */
  const [sent, setSent] = useState<string | null>(null);
  const read = n.oneOf ? undefined : readQuantity(value, { unit: n.unit });
  const wrong = n.oneOf ? (value === '' ? 'Choose one.' : undefined) : read!.ok ? undefined : read!.problems[0]!.message;
  const problem = sent === value && !commands.busy ? commands.problem : null;
  const unusual = problem?.code === 'unusual';
  const shut = () => {
    close();
    setSent(null);
  };
  const send = (event: FormEvent) => {
    event.preventDefault();
    setTried(true);
    if (wrong !== undefined || source.trim() === '') return;
    setSent(value);
    commands.send({ type: 'number', name: n.name, value: value.trim(), source: source.trim(), ...(unusual ? { confirmed: true } : {}) });
  };
  // Taken: the step shows the number now.
  if (open && sent !== null && !commands.busy && !commands.problem && !commands.unsent) shut();
  const words = read?.ok ? paramWords(read.value, n.unit) : value;
  return (
    <Dialog open={open} onClose={shut} aria-labelledby={`number-${n.name}`} fullWidth maxWidth="sm">
      <form onSubmit={send} noValidate>
        <DialogTitle id={`number-${n.name}`}>What does the service information say?</DialogTitle>
        <DialogContent className={dialogs.content!}>
          <p>
            {n.label}: usual {n.usual}. It counts from now on in this run and can be saved to a shop profile afterward. A wait in progress goes on.
          </p>
          {n.oneOf ? (
            <TextField
              label="Which"
              value={value}
              onChange={(e) => setValue(e.target.value)}
              autoFocus
              select
              error={tried && wrong !== undefined}
              helperText={tried ? wrong : ' '}
              slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
            >
              {['', ...n.oneOf].map((o) => (
                <option key={o} value={o}>
                  {paramWords(o, '')}
                </option>
              ))}
            </TextField>
          ) : (
            <QuantityField
              quantity={{ unit: n.unit }}
              label={n.unit ? `Number, ${n.unit}` : 'Number'}
              value={value}
              onText={setValue}
              autoFocus
              problem={problem ? problem.message : tried ? wrong : undefined}
              help={n.unit === 's' || n.unit === 'min' ? 'Such as 420, 7:00 or 7 min' : ' '}
              slotProps={{ inputLabel: { shrink: true } }}
            />
          )}
          <TextField
            label="Where from: document and page"
            value={source}
            onChange={(e) => setSource(e.target.value)}
            error={tried && source.trim() === ''}
            helperText={tried && source.trim() === '' ? 'Say where the number comes from.' : ' '}
            slotProps={{ htmlInput: { maxLength: maxReason } }}
          />
        </DialogContent>
        <DialogActions>
          <Button onClick={shut} color="inherit">
            {say === 'Enter it' ? 'Use the typical number' : 'Cancel'}
          </Button>
          <Button type="submit" variant="contained" loading={commands.busy}>
            {unusual ? `Yes, use ${words}` : 'Use this number'}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
