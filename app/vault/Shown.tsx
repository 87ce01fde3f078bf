import Button from '@mui/material/Button';
import { useEffect, useMemo, useState } from 'react';
import { groupsOfFour } from '../../core/copycheck';
import { formatLeft } from '../../core/units';
import { useNow, useReadClock } from '../ui/clock';
import styles from './vault.module.css';

/** What was opened closes by itself after this, ms. */
const openMs = 60_000;

/** A secret that is text as its characters, any other as hexadecimal digits. */
function textOf(bytes: Uint8Array): string {
  const isText = bytes.every((b) => (b > 31 && b < 127) || b === 9 || b === 10 || b === 13);
  if (isText) return new TextDecoder().decode(bytes).replace(/\s+/g, '');
  return Array.from(bytes, (b) => b.toString(16).toUpperCase().padStart(2, '0')).join('');
}

/** A secret that was opened: masked, four characters at a time, and gone after a minute. */
export function ShownSecret({ bytes, onClose }: { bytes: Uint8Array; onClose: () => void }) {
  const groups = useMemo(() => groupsOfFour(textOf(bytes)), [bytes]);
  const [shown, setShown] = useState(-1);
  return (
    <div className={styles.shown} role="group" aria-label="The secret">
      <p className={`mono ${styles.groups}`}>
        {groups.map((group, i) => (
          <span key={i} data-shown={i === shown ? '' : undefined}>
            {i === shown ? group : '•'.repeat(group.length)}
          </span>
        ))}
      </p>
      <p role="status">
        {shown < 0 ? `${groups.length} ${groups.length === 1 ? 'group' : 'groups'}, all hidden.` : `Group ${shown + 1} of ${groups.length}`}
      </p>
      <div className={styles.tools}>
        {shown > 0 && (
          <Button variant="outlined" color="inherit" onClick={() => setShown(shown - 1)}>
            Back
          </Button>
        )}
        <Button variant="contained" onClick={() => setShown(shown + 1 < groups.length ? shown + 1 : -1)}>
          {shown < 0 ? 'Show the first four' : shown + 1 < groups.length ? 'Next four' : 'Hide'}
        </Button>
        <Closing onClose={onClose} />
      </div>
    </div>
  );
}

/** A photo that was opened. */
export function ShownPhoto({ bytes, name, onClose }: { bytes: Uint8Array; name: string; onClose: () => void }) {
  const [url, setUrl] = useState('');
  useEffect(() => {
    const made = URL.createObjectURL(new Blob([bytes as BlobPart]));
    // The address belongs to the picture that is drawn: it is made and taken back with it.
    // eslint-disable-next-line react-hooks/set-state-in-effect
    setUrl(made);
    return () => URL.revokeObjectURL(made);
  }, [bytes]);
  return (
    <div className={styles.shown}>
      {url !== '' && <img src={url} alt={name} />}
      <div className={styles.tools}>
        <Closing onClose={onClose} />
      </div>
    </div>
  );
}

/** Closes by itself after a minute, and when the page is left for another. */
function Closing({ onClose }: { onClose: () => void }) {
  const readClock = useReadClock();
  const [until] = useState(() => readClock() + openMs);
  const now = useNow();
  const over = now >= until;
  useEffect(() => {
    if (over) onClose();
    const hidden = () => document.visibilityState === 'hidden' && onClose();
    document.addEventListener('visibilitychange', hidden);
    return () => document.removeEventListener('visibilitychange', hidden);
  }, [over, onClose]);
  return (
    <Button color="inherit" onClick={onClose}>
      Close ({formatLeft(until - now)})
    </Button>
  );
}
