import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';

export interface Shortcut {
  /** As the key library writes it: `n`, `g f`, `Shift+?`. */
  keys: string;
  /** As it is shown. */
  shown: string;
  say: string;
  act: () => void;
}

/** The keys of the screen, as a list. */
export default function KeysDialog({ open, close, groups }: { open: boolean; close: () => void; groups: Shortcut[][] }) {
  return (
    <Dialog open={open} onClose={close} aria-labelledby="keys-title">
      <DialogTitle id="keys-title">Keyboard shortcuts</DialogTitle>
      <DialogContent>
        <KeyList groups={groups} />
      </DialogContent>
      <DialogActions>
        <Button onClick={close}>Close</Button>
      </DialogActions>
    </Dialog>
  );
}

function KeyList({ groups }: { groups: Shortcut[][] }) {
  return (
    <ul>
      {groups.flat().map((s) => (
        <li key={s.keys} style={{ display: 'flex', gap: 16, padding: '6px 0' }}>
          <span className="keycap" style={{ minWidth: 48 }}>
            {s.shown}
          </span>
          {s.say}
        </li>
      ))}
      <li style={{ display: 'flex', gap: 16, padding: '6px 0' }}>
        <span className="keycap" style={{ minWidth: 48 }}>
          ?
        </span>
        these keys
      </li>
    </ul>
  );
}
