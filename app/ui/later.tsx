import { type ComponentType, lazy, type ReactNode, Suspense, useEffect, useState } from 'react';

type Loaded<P> = Promise<{ default: ComponentType<P> }>;

/**
 * A part that a page does without at first. Its scripts come as soon as the browser has nothing else to do, so that it is there without a connection too,
 * or when it is shown, whichever is earlier.
 * @param load imports it
 * @param waiting is shown until it is loaded
 * @returns the part, with `shown` (true, if not given): it is not there until it is shown for the first time, and stays from then on, so that what was
 * typed in it is not lost and a dialog closes by itself
 */
export function later<P extends object>(load: () => Loaded<P>, waiting: ReactNode = null): ComponentType<P & { shown?: boolean }> {
  let loading: Loaded<P> | null = null;
  const once = () => (loading ??= load());
  const Part = lazy(once);
  return function Later({ shown = true, ...props }: P & { shown?: boolean }) {
    const [wanted, setWanted] = useState(shown);
    if (shown && !wanted) setWanted(true);
    useEffect(() => {
      // Without a connection it is tried again when it is shown.
      const soon = () => once().catch(() => (loading = null));
      // Not in every browser.
      if (!('requestIdleCallback' in window)) return void soon();
      const asked = requestIdleCallback(() => void soon());
      return () => cancelIdleCallback(asked);
    }, []);
    return wanted ? (
      <Suspense fallback={waiting}>
        <Part {...(props as unknown as P)} />
      </Suspense>
    ) : null;
  };
}
