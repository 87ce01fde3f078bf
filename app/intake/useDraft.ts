import { useEffect, useRef, useState } from 'react';

/** Pause after the last key before a draft is sent, milliseconds. */
const pauseMs = 700;

export const draftBox = (id: string) => `bloodstone.draft.${id}`;

/** What this browser kept and the server has not confirmed. */
export function unconfirmedDraft(id: string): unknown {
  try {
    return JSON.parse(localStorage.getItem(draftBox(id)) ?? 'null');
  } catch {
    return null;
  }
}

export const forgetDraft = (id: string): void => localStorage.removeItem(draftBox(id));

/**
 * Keeps a form while it is filled in: at once in this browser, and after a short pause at the server, from where any device can go on. What
 * the server has confirmed is forgotten here.
 */
export function useDraft(id: string, fields: unknown, changed: boolean): 'unchanged' | 'here' | 'kept' {
  const [kept, setKept] = useState<string | null>(null);
  const [attempt, setAttempt] = useState(0);
  const text = JSON.stringify(fields);
  const latest = useRef(text);
  useEffect(() => {
    latest.current = text;
    if (!changed || text === kept) return;
    localStorage.setItem(draftBox(id), text);
    const timer = setTimeout(async () => {
      try {
        const response = await fetch('/cases/drafts', {
          method: 'POST',
          headers: { 'Content-Type': 'application/json', Accept: 'application/json' },
          body: JSON.stringify({ intent: 'keepDraft', draft: id, fields: JSON.parse(text) as unknown }),
        });
        if (!response.ok) return;
        setKept(text);
        if (latest.current === text) forgetDraft(id);
      } catch {
        // No connection: it lies in this browser, and is sent with the next change or when the connection is back.
      }
    }, pauseMs);
    const online = () => setAttempt((n) => n + 1);
    window.addEventListener('online', online);
    return () => {
      clearTimeout(timer);
      window.removeEventListener('online', online);
    };
  }, [id, text, changed, kept, attempt]);
  return !changed ? 'unchanged' : text === kept ? 'kept' : 'here';
}
