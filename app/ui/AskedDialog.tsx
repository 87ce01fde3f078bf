import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { useId } from 'react';

/** The question before something that can't be undone. */
export default function AskedDialog({
  open,
  close,
  ask,
  lost,
  yes,
  onYes,
}: {
  open: boolean;
  close: () => void;
  ask: string;
  lost: string;
  yes: string;
  onYes: () => void;
}) {
  const id = useId();
  return (
    <Dialog open={open} onClose={close} aria-labelledby={id}>
      <DialogTitle id={id}>{ask}</DialogTitle>
      <DialogContent>{lost}</DialogContent>
      <DialogActions>
        <Button onClick={close} color="inherit" autoFocus>
          Cancel
        </Button>
        <Button
          variant="contained"
          color="error"
          onClick={() => {
            close();
            onYes();
          }}
        >
          {yes}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
