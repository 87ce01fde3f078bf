import Button, { type ButtonProps } from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { useId, useState } from 'react';

/** A button for what can't be undone: it asks first, and says what is lost. */
export function Asked({
  label,
  ask,
  lost,
  yes,
  onYes,
  ...button
}: Omit<ButtonProps, 'onClick'> & {
  label: string;
  ask: string;
  lost: string;
  /** What the button that does it says. */
  yes: string;
  onYes: () => void;
}) {
  const [open, setOpen] = useState(false);
  const id = useId();
  return (
    <>
      <Button variant="text" color="error" {...button} onClick={() => setOpen(true)}>
        {label}
      </Button>
      <Dialog open={open} onClose={() => setOpen(false)} aria-labelledby={id}>
        <DialogTitle id={id}>{ask}</DialogTitle>
        <DialogContent>{lost}</DialogContent>
        <DialogActions>
          <Button onClick={() => setOpen(false)} color="inherit" autoFocus>
            Cancel
          </Button>
          <Button
            variant="contained"
            color="error"
            onClick={() => {
              setOpen(false);
              onYes();
            }}
          >
            {yes}
          </Button>
        </DialogActions>
      </Dialog>
    </>
  );
}
