import type { SentReading } from '../../../core/ladder';
import { useEffect, useRef, useState } from 'react';
import { newCommandId } from '../../ui/commandId';

export interface ListedMeter {
  id: string;
  name: string;
  address: string;
  simulated: boolean;
}

/** Asks a meter for one reading, or sets what the simulated one is connected to. */
export function useMeter(meter: ListedMeter | undefined) {
  const [state, setState] = useState<{ busy: boolean; problem: string }>({ busy: false, problem: '' });
  const ask = async (fields: Record<string, unknown>): Promise<{ ohms?: SentReading } | null> => {
    setState({ busy: true, problem: '' });
    try {
      const response = await fetch('/bench/meter', {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ ...fields, meter: meter?.id, commandId: newCommandId() }),
      });
      const answer = (await response.json()) as { ohms?: SentReading; problems?: { message: string }[] };
      setState({ busy: false, problem: answer.problems?.map((p) => p.message).join(' ') ?? '' });
      return answer.problems ? null : answer;
    } catch {
      setState({ busy: false, problem: 'The server does not answer. Read the display and type the value.' });
      return null;
    }
  };
  return {
    ...state,
    read: async (): Promise<SentReading | undefined> => (await ask({ intent: 'read' }))?.ohms,
    set: (circuit: { ohms: SentReading; badness: number }) => ask({ intent: 'set', ...circuit }),
  };
}

export interface Capture {
  samples: [number, SentReading][];
  running: boolean;
  problem: string;
}

/** How often what was read is shown, ms: however fast the meter is, the page draws as often. */
const showMs = 250;

/** Reads a meter without a pause, up to a minute. What was read stays when the meter goes away. */
export function useCapture(meter: ListedMeter | undefined, onSamples: (samples: [number, SentReading][]) => void) {
  const [running, setRunning] = useState(false);
  const [problem, setProblem] = useState('');
  const source = useRef<EventSource | null>(null);
  const samples = useRef<[number, SentReading][]>([]);
  const startedAt = useRef(0);
  const shown = useRef<ReturnType<typeof setTimeout> | null>(null);
  const show = () => {
    if (shown.current !== null) clearTimeout(shown.current);
    shown.current = null;
    onSamples([...samples.current]);
  };
  const stop = () => {
    source.current?.close();
    source.current = null;
    setRunning(false);
    if (shown.current !== null) show();
  };
  useEffect(
    () => () => {
      source.current?.close();
      if (shown.current !== null) clearTimeout(shown.current);
    },
    [],
  );
  const start = () => {
    if (!meter) return;
    stop();
    samples.current = [];
    onSamples([]);
    setProblem('');
    setRunning(true);
    startedAt.current = performance.now();
    const own = new EventSource(`/bench/meter/capture?${new URLSearchParams({ meter: meter.id })}`);
    source.current = own;
    own.addEventListener('sample', (event) => {
      samples.current.push(JSON.parse((event as MessageEvent<string>).data) as [number, SentReading]);
      shown.current ??= setTimeout(show, showMs);
    });
    own.addEventListener('problem', (event) => {
      setProblem(JSON.parse((event as MessageEvent<string>).data) as string);
      stop();
    });
    own.addEventListener('end', stop);
    own.addEventListener('error', () => {
      if (source.current !== own) return;
      setProblem('The connection to the server was lost. What was read stays.');
      stop();
    });
  };
  /** Seconds since the capture began, for a mark. */
  const nowS = () => (samples.current.at(-1)?.[0] ?? 0) || (performance.now() - startedAt.current) / 1000;
  return { running, problem, start, stop, nowS };
}
