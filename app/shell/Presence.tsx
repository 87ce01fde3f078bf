import { useEffect } from 'react';
import { useRevalidate, useNow } from '../ui/clock';

/** Signs of a person are told to the server at most this often, milliseconds. */
const everyMs = 60_000;

/** Tells the server that somebody is at this device, so that it does not lock under their hands; a page that only shows does not count. */
export function Presence({ locksAt }: { locksAt: number | null }) {
  // A device at a bay locks before everyone's eyes, not only at the next touch: the page asks again, and is led to the lock.
  const over = useNow() >= (locksAt ?? Infinity);
  const revalidate = useRevalidate();
  useEffect(() => {
    if (over) revalidate();
  }, [over, revalidate]);
  useEffect(() => {
    let last = performance.now();
    const present = () => {
      if (performance.now() - last < everyMs) return;
      last = performance.now();
      const form = new URLSearchParams({ intent: 'touch' });
      // Lost when there is no connection: the next sign comes soon.
      fetch('/session', { method: 'POST', body: form }).catch(() => undefined);
    };
    const signs = ['pointerdown', 'keydown'] as const;
    for (const sign of signs) window.addEventListener(sign, present, { passive: true });
    return () => {
      for (const sign of signs) window.removeEventListener(sign, present);
    };
  }, []);
  return null;
}
