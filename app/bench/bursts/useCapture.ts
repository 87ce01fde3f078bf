import { useEffect, useRef, useState } from 'react';
import type { BurstCondition, SimulatedCondition } from '../../../core/burst';
import type { BurstsAsked, BurstsNews, HeldCapture } from '../../workers/bursts';

/** What a capture is of: its condition, and the key that was in. */
export interface Taken {
  condition: BurstCondition;
  key: string | null;
}

/** How far a reading is, null while it measures. It is told often, so only what shows it is rendered for it, not the page. */
export class Far {
  private share: number | null = 0;
  private readonly listeners = new Set<() => void>();
  readonly get = () => this.share;
  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  };
  put(share: number | null): void {
    this.share = share;
    for (const listener of this.listeners) listener();
  }
}

/** Where the capture came from: a file, or the simulated source and what was set there. */
export type Source = { file: string } | { simulated: SimulatedCondition; hidden: boolean };
export type CaptureState =
  | { kind: 'empty' }
  | { kind: 'reading'; far: Far; what: 'file' | 'simulated' }
  | { kind: 'held'; capture: HeldCapture; source: Source }
  | { kind: 'problem'; message: string };
/** A stretch as it is drawn: the lowest and highest of each column, with the seconds it goes over. */
export interface Drawn {
  fromS: number;
  toS: number;
  low: Float32Array;
  high: Float32Array;
}

/** One capture, held by a worker of its own: the page has the figures and asks for stretches to draw. */
export function useCapture() {
  const worker = useRef<Worker | null>(null);
  const [state, setState] = useState<CaptureState>({ kind: 'empty' });
  const [drawn, setDrawn] = useState<Drawn | null>(null);
  const asks = useRef(0);
  const packing = useRef<((bytes: Uint8Array) => void) | null>(null);
  const stop = () => {
    worker.current?.terminate();
    worker.current = null;
  };
  useEffect(() => stop, []);
  const begin = (asked: BurstsAsked, source: Source) => {
    stop();
    setDrawn(null);
    const far = new Far();
    setState({ kind: 'reading', far, what: 'file' in source ? 'file' : 'simulated' });
    const own = new Worker(new URL('../../workers/bursts.ts', import.meta.url), { type: 'module' });
    worker.current = own;
    own.addEventListener('message', ({ data }: MessageEvent<BurstsNews>) => {
      if (worker.current !== own) return;
      if (data.kind === 'progress') far.put(data.share);
      else if (data.kind === 'held') setState({ kind: 'held', capture: data.capture, source });
      else if (data.kind === 'view') setDrawn((before) => (data.ask === asks.current ? data : before));
      else if (data.kind === 'packed') packing.current?.(data.bytes);
      else {
        stop();
        setState({ kind: 'problem', message: data.message });
      }
    });
    own.addEventListener('error', () => {
      stop();
      setState({ kind: 'problem', message: 'This browser could not hold the capture. Export a shorter stretch.' });
    });
    own.postMessage(asked);
  };
  const clear = () => {
    stop();
    setDrawn(null);
    setState({ kind: 'empty' });
  };
  return {
    state,
    drawn,
    held: state.kind === 'held' ? state.capture : null,
    source: state.kind === 'held' ? state.source : null,
    read: (file: File, channel: number) => begin({ kind: 'read', file, channel }, { file: file.name }),
    simulate: (condition: SimulatedCondition, hidden: boolean) =>
      begin({ kind: 'simulate', condition, seed: Math.floor(Math.random() * 1e9), everyMs: 50 }, { simulated: condition, hidden }),
    /** Asks for a stretch; an older answer that comes later is not drawn. */
    view: (fromS: number, toS: number, columns: number) => {
      asks.current += 1;
      worker.current?.postMessage({ kind: 'view', fromS, toS, columns, ask: asks.current } satisfies BurstsAsked);
    },
    pack: () =>
      new Promise<Uint8Array>((resolve) => {
        packing.current = resolve;
        worker.current?.postMessage({ kind: 'pack' } satisfies BurstsAsked);
      }),
    clear,
  };
}
export type OneCapture = ReturnType<typeof useCapture>;
