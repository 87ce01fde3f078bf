import type { FormEvent } from 'react';
import { useFetcher } from 'react-router';
import type { Problem } from '../../core/units';
import { errorsByPath } from './problems';
import { useActIds } from './useActIds';

/** What comes back of an act, whichever page it is of: what was wrong, or what was done. */
export interface Answered {
  problems?: Problem[];
  said?: string;
}

/**
 * Sends the forms of a page without leaving it, one at a time, each act under an id of its own (useActIds). What was wrong comes back by the fields'
 * names, what was done as a sentence.
 */
export function useAct<A = () => Promise<Answered>>(key?: string) {
  const fetcher = useFetcher<A>(key === undefined ? {} : { key });
  const one = useActIds(fetcher);
  const answer = fetcher.data as Answered | undefined;
  const busy = fetcher.state !== 'idle';
  return {
    busy,
    data: fetcher.data,
    errors: errorsByPath(answer?.problems ?? []),
    said: busy ? '' : (answer?.said ?? ''),
    /** The same for a form that is kept as data. */
    sendJson: (fields: Record<string, unknown>, action?: string) => {
      const text = JSON.stringify(fields);
      one(text, (commandId) => {
        void fetcher.submit({ ...(JSON.parse(text) as object), commandId } as never, {
          method: 'post',
          encType: 'application/json',
          ...(action ? { action } : {}),
        });
      });
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
