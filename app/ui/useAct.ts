import { type FormEvent, useState } from 'react';
import { useFetcher, useLocation } from 'react-router';
import type { Problem } from '../../core/units';
import { errorsByPath } from './problems';
import { useActIds } from './useActIds';

/** What comes back of an act, whichever page it is of: what was wrong, or what was done. */
export interface Answered {
  problems?: Problem[];
  said?: string;
}

const keptSay = 'Saved on this device. It is sent when the connection is back.';

/**
 * Sends the forms of a page without leaving it, one at a time, each act under an id of its own (useActIds). What was wrong comes back by the fields'
 * names, what was done as a sentence.
 */
export function useAct<A = () => Promise<Answered>>(key?: string) {
  const fetcher = useFetcher<A>(key === undefined ? {} : { key });
  const one = useActIds(fetcher);
  const { pathname, search } = useLocation();
  const [kept, setKept] = useState(false);
  const answer = fetcher.data as Answered | undefined;
  const busy = fetcher.state !== 'idle';
  return {
    busy,
    data: fetcher.data,
    errors: errorsByPath(answer?.problems ?? []),
    said: busy ? '' : kept ? keptSay : (answer?.said ?? ''),
    /** The last act lies on this device until the server can be reached. */
    kept,
    /** The same for a form that is kept as data. @param later what it is in words, where it may arrive later, and what else it takes the place of */
    sendJson: (fields: Record<string, unknown>, action?: string, later?: { say: string; subject?: string; id?: string; kept?: () => void }) => {
      const text = JSON.stringify(fields);
      setKept(false);
      one(
        text,
        (commandId) => {
          void fetcher.submit({ ...(JSON.parse(text) as object), commandId } as never, {
            method: 'post',
            encType: 'application/json',
            ...(action ? { action } : {}),
          });
        },
        {
          ...(later?.id === undefined ? {} : { id: later.id }),
          ...(later && {
            later: {
              act: {
                address: action ?? pathname + search,
                fields: JSON.parse(text) as Record<string, unknown>,
                subject: later.subject ?? text,
                say: later.say,
              },
              kept: () => {
                setKept(true);
                later.kept?.();
              },
            },
          }),
        },
      );
    },
    send: (intent: string, action?: string) => (event: FormEvent<HTMLFormElement>) => {
      event.preventDefault();
      const form = new FormData(event.currentTarget);
      form.set('intent', intent);
      one(event.currentTarget, (commandId) => {
        form.set('commandId', commandId);
        void fetcher.submit(form, {
          method: 'post',
          ...(action ? { action } : {}),
          ...(form.has('file') ? { encType: 'multipart/form-data' as const } : {}),
        });
      });
    },
  };
}
