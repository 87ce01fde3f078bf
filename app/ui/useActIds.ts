import { useCallback, useEffect, useRef } from 'react';
import { newCommandId } from './commandId';

/**
 * Ids of the acts of one fetcher. The id belongs to what is sent (a form as it was opened, or content): a doubled click, or sending it again after
 * a lost answer, is the same act; once it is done, the next one is another.
 * @returns gives the id for something to send; undefined while something is under way, which is known at once, before a button is drawn as shut
 */
export function useActIds({ state, data }: { state: string; data: unknown }): (what: unknown) => string | undefined {
  const ids = useRef(new Map<unknown, string>());
  const sent = useRef<{ what: unknown } | null>(null);
  useEffect(() => {
    if (state !== 'idle' || sent.current === null) return;
    if (data !== undefined && !(data as { problems?: unknown } | null)?.problems) ids.current.delete(sent.current.what);
    sent.current = null;
  }, [state, data]);
  return useCallback((what) => {
    if (sent.current !== null) return undefined;
    sent.current = { what };
    const id = ids.current.get(what) ?? newCommandId();
    ids.current.set(what, id);
    return id;
  }, []);
}
