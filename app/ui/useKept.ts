import { useEffect, useEffectEvent, useState } from 'react';

/**
 * State that outlives a reload and the lock of a bay's device, in this tab of this browser only: for what is half done and nobody has sent yet. It comes
 * back after the page is there, so that page and server agree at first.
 * @param read makes sense of what was kept, or leaves it
 */
export function useKept<T>(name: string, initial: T, read: (kept: unknown) => T | undefined): [T, (value: T | ((before: T) => T)) => void] {
  const box = `bloodstone.kept.${name}`;
  const [value, setValue] = useState(initial);
  const restore = useEffectEvent(() => {
    let kept: unknown;
    try {
      kept = JSON.parse(sessionStorage.getItem(box) ?? 'null');
    } catch {
      kept = null;
    }
    const found = kept === null ? undefined : read(kept);
    if (found !== undefined) queueMicrotask(() => setValue(found));
  });
  // Only what was there at the beginning comes back.
  useEffect(() => restore(), [box]);
  const keep = (to: T): T => {
    if (to === null || to === initial) sessionStorage.removeItem(box);
    else sessionStorage.setItem(box, JSON.stringify(to));
    return to;
  };
  const put = (to: T | ((before: T) => T)) => {
    // What follows from the state before, such as one more reading of many, is kept when that state is known.
    if (typeof to === 'function') setValue((before) => keep((to as (before: T) => T)(before)));
    else setValue(keep(to));
  };
  return [value, put];
}
