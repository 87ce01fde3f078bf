import { useCallback, useContext, useEffect, useRef } from 'react';
import { useReach } from './clock';
import { newCommandId } from './commandId';
import { type LaterAct, Sending } from './sending';

interface Act {
  what: unknown;
  send: (id: string) => void;
  subject: unknown;
  later: { act: LaterAct; kept?: () => void } | undefined;
}
type One = (what: unknown, send: (id: string) => void, options?: { subject?: unknown; id?: string; later?: Act['later'] }) => void;

/**
 * Sends the acts of one fetcher one after the other, each under an id. The id belongs to what is sent (a form as it was opened, or content): a doubled
 * click, or sending it again after a lost answer, is the same act; once it is done, the next one is another.
 *
 * The page may show what an act brought before its answer is in (the server tells all pages at once). So an act on something else that comes meanwhile is
 * kept, the latest one, and sent after the answer; a refusal drops it, for the page was not what it seemed. Another act on the same subject is let go.
 *
 * Without a connection an act that may arrive later is kept on this device, and nothing else is sent, which is said: the router would put an error in the place
 * of the page and of what was typed.
 * @returns takes what is to be sent, how (with its id), what it is about (by itself, what is sent), an id that it has already, and what to keep of it
 */
export function useActIds({ state, data }: { state: string; data: unknown }): One {
  const ids = useRef(new Map<unknown, string>());
  const sent = useRef<Act | null>(null);
  const waiting = useRef<Act | null>(null);
  const reach = useReach();
  const { notSent, keep } = useContext(Sending);
  const start = useCallback(
    (act: Act) => {
      sent.current = act;
      const id = ids.current.get(act.what) ?? newCommandId();
      ids.current.set(act.what, id);
      reach(
        (reached) => {
          if (reached) return act.send(id);
          sent.current = null;
          waiting.current = null;
          if (!act.later) return notSent();
          ids.current.delete(act.what);
          keep(act.later.act, id);
          act.later.kept?.();
        },
        { sure: act.later !== undefined },
      );
    },
    [reach, notSent, keep],
  );
  useEffect(() => {
    if (state !== 'idle' || sent.current === null) return;
    const taken = data !== undefined && !(data as { problems?: unknown } | null)?.problems;
    if (taken) ids.current.delete(sent.current.what);
    const next = taken ? waiting.current : null;
    sent.current = null;
    waiting.current = null;
    if (next) start(next);
  }, [state, data, start]);
  return useCallback(
    (what, send, { subject = what, id, later } = {}) => {
      if (id !== undefined) ids.current.set(what, id);
      const act = { what, send, subject, later };
      // Known at once, before a button is drawn as shut.
      if (sent.current === null) start(act);
      else if (sent.current.subject !== subject) waiting.current = act;
    },
    [start],
  );
}
