import { type ComponentType, lazy, type ReactNode, Suspense, useEffect, useState } from 'react';

type Loaded<P> = Promise<{ default: ComponentType<P> }>;

/** Loads a part, by its name; of every page whose scripts are there. */
const parts = new Map<string, () => Promise<unknown>>();
const marked = 'bloodstone-part';

/**
 * Loads the parts that the document has drawn. Before the page is taken over: a part that isn't there then is thrown away and drawn anew at the first
 * change of anything, with what was typed in it.
 */
export const partsOfDocument = (): Promise<unknown> =>
  Promise.all([...document.querySelectorAll<HTMLMetaElement>(`meta[name=${marked}]`)].map(({ content }) => parts.get(content)?.()));

/**
 * A part that a page does without at first. Its scripts come as soon as the browser has nothing else to do, so that it is there without a connection too,
 * or when it is shown, whichever is earlier.
 * @param name its own, of all parts
 * @param load imports it
 * @param waiting is shown until it is loaded
 * @returns the part, with `shown` (true, if not given): it is not there until it is shown for the first time, and stays from then on, so that what was
 * typed in it is not lost and a dialog closes by itself
 */
export function later<P extends object>(name: string, load: () => Loaded<P>, waiting: ReactNode = null): ComponentType<P & { shown?: boolean }> {
  let loading: Promise<{ default: ComponentType<P> }> | null = null;
  let there: ComponentType<P> | null = null;
  const once = () =>
    (loading ??= load().then((loaded) => {
      there = loaded.default;
      return loaded;
    }));
  // Without a connection it is tried again when it is shown.
  const soon = () => once().catch(() => (loading = null));
  const Lazy = lazy(once);
  parts.set(name, soon);
  return function Later({ shown = true, ...props }: P & { shown?: boolean }) {
    const [wanted, setWanted] = useState(shown);
    if (shown && !wanted) setWanted(true);
    const [drawn] = useState(shown);
    // One that is there stands at once; it stays the same one, so that it keeps what it holds.
    const [Part] = useState<{ of: ComponentType<P> }>(() => ({ of: there ?? Lazy }));
    useEffect(() => {
      // Not in every browser.
      if (!('requestIdleCallback' in window)) return void soon();
      const asked = requestIdleCallback(() => void soon());
      return () => cancelIdleCallback(asked);
    }, []);
    return wanted ? (
      <Suspense fallback={waiting}>
        {drawn && <meta name={marked} content={name} />}
        <Part.of {...(props as unknown as P)} />
      </Suspense>
    ) : null;
  };
}
