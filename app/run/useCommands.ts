import { useCallback, useEffect, useRef, useState } from 'react';
import type { CommandBody } from '../../core/procedure';
import type { Problem } from '../../core/units';
import { useLookAgain } from '../ui/clock';
import { newCommandId } from '../ui/commandId';

/** Why a tap has not arrived yet: the answer takes long or does not come, or nobody is signed in here any more. */
export type Unsent = 'noAnswer' | 'signedOut';

type Pending = CommandBody & { id: string; expectedSeq: number; occurredAt: number };

/** Time between two tries while there is no connection, milliseconds. */
const retryMs = 3000;
/** An answer that does not come within this is not waited for any more, milliseconds; the same command is sent again. */
const answerMs = 8000;
/** A tap that was not answered within this is said to be on its way, milliseconds. */
const slowMs = 1500;

const boxName = (runId: number) => `bloodstone.pending.${runId}`;

function readBox(runId: number): Pending | null {
  try {
    return JSON.parse(localStorage.getItem(boxName(runId)) ?? 'null') as Pending | null;
  } catch {
    return null;
  }
}

/**
 * Sends one command at a time. It lies in the browser's storage until the server has answered, so that neither a lost connection nor a reload
 * loses it; the server does it once, however often it comes.
 */
export function useCommands(runId: number, seq: number, now: () => number) {
  const [pending, setPending] = useState<Pending | null>(null);
  const [unsent, setUnsent] = useState<Unsent | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const sending = useRef(false);
  const lookAgain = useLookAgain();
  // An accepted command is done for this page when the run it shows has moved on.
  const busy = pending !== null && seq <= pending.expectedSeq;

  const deliver = useCallback(
    async (command: Pending) => {
      if (sending.current) return;
      sending.current = true;
      setPending(command);
      const slow = setTimeout(() => setUnsent((said) => said ?? 'noAnswer'), slowMs);
      try {
        const response = await fetch(`/runs/${runId}/commands`, {
          method: 'POST',
          headers: { 'Content-Type': 'application/json', Accept: 'application/json' },
          body: JSON.stringify(command),
          signal: AbortSignal.timeout(answerMs),
        });
        if (response.status >= 500) throw new Error('The server could not answer');
        // Signed out meanwhile: it is kept and sent again as soon as somebody has signed in here.
        if (response.status === 401) return setUnsent('signedOut');
        const answer = (await response.json().catch(() => ({}))) as { problems?: Problem[] };
        localStorage.removeItem(boxName(runId));
        setUnsent(null);
        if (!response.ok) {
          setProblem(answer.problems?.[0] ?? { code: 'refused', path: '', message: 'The server refused this. Reload the page and look again.' });
          setPending(null);
        }
        lookAgain();
      } catch {
        setUnsent('noAnswer');
      } finally {
        clearTimeout(slow);
        sending.current = false;
      }
    },
    [runId, lookAgain],
  );

  // A command that was not answered before the page went away.
  useEffect(() => {
    const left = readBox(runId);
    if (left) queueMicrotask(() => void deliver(left));
  }, [runId, deliver]);

  useEffect(() => {
    if (!unsent || !pending) return;
    const timer = setInterval(() => void deliver(pending), retryMs);
    const online = () => void deliver(pending);
    window.addEventListener('online', online);
    return () => {
      clearInterval(timer);
      window.removeEventListener('online', online);
    };
  }, [unsent, pending, deliver]);

  const send = useCallback(
    (body: CommandBody) => {
      if (busy || sending.current || readBox(runId)) return;
      const command: Pending = { ...body, id: newCommandId(), expectedSeq: seq, occurredAt: now() };
      localStorage.setItem(boxName(runId), JSON.stringify(command));
      setProblem(null);
      void deliver(command);
    },
    [runId, seq, now, busy, deliver],
  );
  return { send, busy, unsent, problem };
}
