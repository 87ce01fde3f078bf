import Button from '@mui/material/Button';
import { useEffect, useRef, useState } from 'react';
import type { LampFileNews } from '../workers/lampFile';
import type { Look } from './look';
import styles from './bench.module.css';

/** A recording of an instrument, read by a worker in pieces; long ones show how far they are, and can be left. */
export function FilePick({ onRead }: { onRead: (look: Look) => void }) {
  const [state, setState] = useState<{ share: number } | { problem: string } | null>(null);
  const worker = useRef<Worker | null>(null);
  const input = useRef<HTMLInputElement>(null);
  const stop = () => {
    worker.current?.terminate();
    worker.current = null;
  };
  useEffect(() => stop, []);
  const read = (file: File) => {
    stop();
    setState({ share: 0 });
    const own = new Worker(new URL('../workers/lampFile.ts', import.meta.url), { type: 'module' });
    worker.current = own;
    own.addEventListener('message', ({ data }: MessageEvent<LampFileNews>) => {
      if (data.kind === 'progress') return setState({ share: data.share });
      stop();
      setState(data.kind === 'problem' ? { problem: data.message } : null);
      if (data.kind === 'read') onRead(data.look);
    });
    own.postMessage(file);
  };
  const reading = state !== null && 'share' in state;
  return (
    <div
      className={styles.file}
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        const file = event.dataTransfer.files[0];
        if (file) read(file);
      }}
    >
      <input
        ref={input}
        type="file"
        accept=".csv,.vcd"
        className="hidden"
        tabIndex={-1}
        aria-label="Recording file"
        onChange={(event) => {
          const file = event.currentTarget.files?.[0];
          if (file) read(file);
          event.currentTarget.value = '';
        }}
      />
      {reading ? (
        <>
          <progress value={state.share} aria-label="Reading the file" />
          <Button
            color="inherit"
            size="small"
            onClick={() => {
              stop();
              setState(null);
            }}
          >
            Cancel
          </Button>
        </>
      ) : (
        <Button variant="outlined" color="inherit" onClick={() => input.current?.click()}>
          Read a recording
        </Button>
      )}
      <small className="quiet">CSV (seconds,level) or VCD, starting at that moment. Or drop it here.</small>
      {state !== null && 'problem' in state && (
        <p role="alert" className={styles.problem}>
          {state.problem}
        </p>
      )}
    </div>
  );
}
