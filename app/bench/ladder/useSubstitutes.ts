import { useEffect, useRef, useState } from 'react';
import type { Combination } from '../../../core/ladder';
import type { Asked, SubstituteNews } from '../../workers/substitute';

export type SubstituteState = { share: number } | { each: Combination[][] } | null;

/** Searches in a worker, away from the page; a new search ends the one before. */
export function useSubstitutes() {
  const [state, setState] = useState<SubstituteState>(null);
  const worker = useRef<Worker | null>(null);
  const stop = () => {
    worker.current?.terminate();
    worker.current = null;
    setState(null);
  };
  useEffect(() => () => worker.current?.terminate(), []);
  const search = (asked: Asked) => {
    worker.current?.terminate();
    setState({ share: 0 });
    const own = new Worker(new URL('../../workers/substitute.ts', import.meta.url), { type: 'module' });
    worker.current = own;
    own.addEventListener('message', ({ data }: MessageEvent<SubstituteNews>) => {
      if (data.kind === 'progress') return setState({ share: data.share });
      own.terminate();
      setState({ each: data.each });
    });
    own.postMessage(asked);
  };
  return { state, search, stop };
}
