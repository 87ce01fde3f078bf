import { useLayoutEffect, useRef, useState, useSyncExternalStore } from 'react';
import { formatDuration } from '../../core/units';
import { useNow, useReadClock } from '../ui/clock';
import { openFor } from './openFor';
import styles from './Next.module.css';

/** A count of more than a day is one that somebody forgot. */
const longestMs = 1440 * 60_000;
const kept = (name: string): number => Number(sessionStorage.getItem(`took ${name}`));

/** Counts how long a test has been open; a reload goes on counting, and a person may put it right. */
export function useTook(name: string) {
  const readClock = useReadClock();
  const [entry, setEntry] = useState({ name, text: '' });
  const typed = entry.name === name ? entry.text : '';
  const taken = useRef(false);
  // Before anything can be pressed: a key that comes right after the next act is shown finds its count begun.
  useLayoutEffect(() => {
    const now = readClock();
    const since = kept(name);
    if (!(since > 0 && since <= now && now - since < longestMs)) sessionStorage.setItem(`took ${name}`, String(now));
    taken.current = false;
    // What was recorded and is left is done: opened once more, it counts from its beginning.
    return () => {
      if (taken.current) sessionStorage.removeItem(`took ${name}`);
    };
  }, [name, readClock]);
  return {
    name,
    typed,
    setTyped: (text: string) => setEntry({ name, text }),
    /** What is recorded, in minutes: as typed, else as counted. Refused, it goes on counting; the next act has a name and a count of its own. */
    take: (): string => {
      const counted = openFor(kept(name), readClock()) / 60_000;
      taken.current = true;
      return typed.trim() === '' ? String(Math.round(counted * 10) / 10) : typed.trim();
    },
  };
}

const noChanges = () => () => {};

/** The running count, and a field to put it right by hand. */
export function Took({ took }: { took: ReturnType<typeof useTook> }) {
  const now = useNow();
  const since = useSyncExternalStore(
    noChanges,
    () => kept(took.name),
    () => 0,
  );
  return (
    <label className={styles.took}>
      <span>
        open for <span className="mono">{formatDuration(Math.floor(openFor(since, now) / 1000))}</span>, or it took
      </span>
      <input inputMode="text" value={took.typed} maxLength={12} onChange={(e) => took.setTyped(e.target.value)} placeholder="–" /> min
    </label>
  );
}
