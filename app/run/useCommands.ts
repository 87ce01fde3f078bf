import { useCallback, useEffect, useRef, useState } from 'react';
import type { CommandBody } from '../../core/procedure';
import type { Problem } from '../../core/units';
import { useRevalidate } from '../ui/clock';
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

/** What lies in the browser's storage for a run, the oldest first. */
function readBox(runId: number): Pending[] {
  try {
    return [JSON.parse(localStorage.getItem(boxName(runId)) ?? '[]') as Pending | Pending[]].flat();
  } catch {
    return [];
  }
}

function writeBox(runId: number, box: readonly Pending[]): void {
  if (box.length) localStorage.setItem(boxName(runId), JSON.stringify(box));
  else localStorage.removeItem(boxName(runId));
}

/**
 * Sends commands one after the other. Each lies in the browser's storage until the server has answered it, so that neither a lost connection nor a
 * reload loses it; the server does it once, however often it comes. The page may show the next step before the answer to the tap before has arrived
 * (the server tells all pages at once): a tap on it is kept and sent after that answer.
 */
export function useCommands(runId: number, seq: number, now: () => number) {
  const [latest, setLatest] = useState<Pending | null>(null);
  const [unsent, setUnsent] = useState<Unsent | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const sending = useRef(false);
  const revalidate = useRevalidate();
  // An accepted command is done for this page when the run it shows has moved on.
  const busy = latest !== null && seq <= latest.expectedSeq;

  const deliver = useCallback(async () => {
    if (sending.current) return;
    sending.current = true;
    try {
      for (let command; (command = readBox(runId)[0]);) {
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
          const { id } = command;
          writeBox(
            runId,
            readBox(runId).filter((c) => c.id !== id),
          );
          setUnsent(null);
          if (!response.ok) {
            setProblem(answer.problems?.[0] ?? { code: 'refused', path: '', message: 'The server refused this. Reload the page and check.' });
            setLatest((last) => (last?.id === id ? null : last));
          }
        } finally {
          clearTimeout(slow);
        }
        revalidate();
      }
    } catch {
      setUnsent('noAnswer');
    } finally {
      sending.current = false;
    }
  }, [runId, revalidate]);

  // Commands that were not answered before the page went away.
  useEffect(() => {
    const left = readBox(runId).at(-1);
    if (!left) return;
    queueMicrotask(() => {
      setLatest(left);
      void deliver();
    });
  }, [runId, deliver]);

  useEffect(() => {
    if (!unsent) return;
    const again = () => void deliver();
    const timer = setInterval(again, retryMs);
    window.addEventListener('online', again);
    return () => {
      clearInterval(timer);
      window.removeEventListener('online', again);
    };
  }, [unsent, deliver]);

  const send = useCallback(
    (body: CommandBody) => {
      const box = readBox(runId);
      // One tap for what is shown; a tap on what came after it waits its turn.
      if (busy || box.some((c) => c.expectedSeq >= seq)) return;
      const command: Pending = { ...body, id: newCommandId(), expectedSeq: seq, occurredAt: now() };
      writeBox(runId, [...box, command]);
      setLatest(command);
      setProblem(null);
      void deliver();
    },
    [runId, seq, now, busy, deliver],
  );
  return { send, busy, unsent, problem };
}

export type Commands = ReturnType<typeof useCommands>;
