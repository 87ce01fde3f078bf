import { useCallback, useEffect, useRef, useState } from 'react';
import type { CommandBody } from '../../core/procedure';
import type { Problem } from '../../core/units';
import { useLookAgain } from '../ui/clock';
import { newCommandId } from '../ui/commandId';

type Pending = CommandBody & { id: string; expectedSeq: number; occurredAt: number };

/** Time between two tries while there is no connection, milliseconds. */
const retryMs = 3000;

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
  const [unsent, setUnsent] = useState(false);
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
      try {
        const response = await fetch(`/runs/${runId}/commands`, {
          method: 'POST',
          headers: { 'Content-Type': 'application/json', Accept: 'application/json' },
          body: JSON.stringify(command),
        });
        if (response.status >= 500) throw new Error('The server could not answer');
        // Signed out meanwhile: it is kept and sent again, for the person signs in at once.
        if (response.status === 401) throw new Error('Signed out');
        const answer = (await response.json().catch(() => ({}))) as { problems?: Problem[] };
        localStorage.removeItem(boxName(runId));
        setUnsent(false);
        if (!response.ok) {
          setProblem(answer.problems?.[0] ?? { code: 'refused', path: '', message: 'The server refused this. Reload the page and look again.' });
          setPending(null);
        }
        lookAgain();
      } catch {
        setUnsent(true);
      } finally {
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
