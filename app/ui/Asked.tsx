import Button, { type ButtonProps } from '@mui/material/Button';
import { useState } from 'react';
import { later } from './later';

const Dialog = later('AskedDialog', () => import('./AskedDialog'));

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
  return (
    <>
      <Button variant="text" color="error" {...button} onClick={() => setOpen(true)}>
        {label}
      </Button>
      <Dialog shown={open} open={open} close={() => setOpen(false)} ask={ask} lost={lost} yes={yes} onYes={onYes} />
    </>
  );
}
