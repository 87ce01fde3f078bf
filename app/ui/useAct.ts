import type { FormEvent } from 'react';
import { useFetcher } from 'react-router';
import type { Problem } from '../../core/units';
import { newCommandId } from './commandId';
import { errorsByPath } from './problems';

/**
 * Sends the forms of a page without leaving it: each under an id of its own, so that a doubled click does the act once. What was wrong comes
 * back by the fields' names, what was done as a sentence.
 */
export function useAct<A>(key?: string) {
  const fetcher = useFetcher<A>(key === undefined ? {} : { key });
  const answer = fetcher.data as { problems?: Problem[]; said?: string } | undefined;
  const busy = fetcher.state !== 'idle';
  return {
    busy,
    data: fetcher.data,
    errors: errorsByPath(answer?.problems ?? []),
    said: busy ? '' : (answer?.said ?? ''),
    /** The same for a form that is kept as data. */
    sendJson: (fields: Record<string, unknown>, commandId: string, action?: string) =>
      void fetcher.submit(JSON.parse(JSON.stringify({ ...fields, commandId })) as never, {
        method: 'post',
        encType: 'application/json',
        ...(action ? { action } : {}),
      }),
    send: (intent: string, action?: string) => (event: FormEvent<HTMLFormElement>) => {
      event.preventDefault();
      const form = new FormData(event.currentTarget);
      form.set('intent', intent);
      form.set('commandId', newCommandId());
      void fetcher.submit(form, {
        method: 'post',
        ...(action ? { action } : {}),
        ...(form.has('file') ? { encType: 'multipart/form-data' as const } : {}),
      });
    },
  };
}
