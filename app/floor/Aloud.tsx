import Button from '@mui/material/Button';
import { useEffect, useRef, useState, useSyncExternalStore } from 'react';

const box = 'bloodstone.floorAloud';
const unchanging = () => () => {};

/** Says aloud what to touch next, whenever that changes; for a shop whose hands are busy. Nothing sounds before this page was touched. */
export function Aloud({ say }: { say: string }) {
  const kept = useSyncExternalStore(
    unchanging,
    () => localStorage.getItem(box) === 'on',
    () => false,
  );
  const [chosen, choose] = useState<boolean | null>(null);
  const on = chosen ?? kept;
  const said = useRef('');
  useEffect(() => {
    if (!on || said.current === say) return;
    said.current = say;
    void import('../ui/sounds').then(({ canSpeak, speak }) => {
      if (canSpeak()) speak(say);
    });
  }, [on, say]);
  return (
    <Button
      size="small"
      variant={on ? 'contained' : 'outlined'}
      aria-pressed={on}
      onClick={() => {
        localStorage.setItem(box, on ? 'off' : 'on');
        // Turned on: it is said now, which also shows how loud it is.
        said.current = '';
        choose(!on);
      }}
    >
      Say what’s next aloud
    </Button>
  );
}
