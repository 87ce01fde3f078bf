import Button from '@mui/material/Button';
import { type Dispatch, type SetStateAction, useState } from 'react';
import { formatOhms, longestWiggleS, type Wiggle as Found } from '../../../core/ladder';
import { ColumnDrawing } from '../../drawings/ColumnDrawing';
import { useKeys } from '../../ui/keys';
import styles from './ladder.module.css';
import { Plot, WiggleChart } from './Plot';
import { type Captured, nothingCaptured } from './sheet';
import { type ListedMeter, useCapture } from './useMeter';

const usual = ['tilt up', 'tilt down', 'left lock', 'right lock', 'connector moved'];

/** Reads without a pause while the column is moved; each movement is marked as it is made. */
export function WiggleInput({
  meter,
  captured,
  put,
  allowed,
}: {
  meter: ListedMeter | undefined;
  captured: Captured;
  put: Dispatch<SetStateAction<Captured>>;
  allowed: boolean;
}) {
  const [own, setOwn] = useState('');
  const { running, problem, start, stop, nowS } = useCapture(meter, (samples) => put((c) => ({ ...c, samples })));
  const mark = (say: string) => {
    if (!running || say.trim() === '') return;
    const at = Math.round(nowS() * 100) / 100;
    put((c) => ({ ...c, marks: [...c.marks, [at, say.trim()]] }));
  };
  const begin = () => {
    if (!allowed) return;
    put({ ...nothingCaptured, simulated: meter?.simulated ?? false });
    start();
  };
  useKeys(
    meter
      ? [
          running
            ? { keys: 'Enter', shown: 'Enter', say: 'stop recording', act: stop }
            : { keys: 'c', shown: 'c', say: 'record continuously', act: begin },
          ...(running ? usual.map((say, i) => ({ keys: String(i + 1), shown: String(i + 1), say: `mark “${say}”`, act: () => mark(say) })) : []),
        ]
      : [],
  );
  if (!meter)
    return (
      <p>
        This needs a meter that the app can read: choose one below. Or tilt and turn the steering column while you watch the display, then answer the
        test in the case.
      </p>
    );
  return (
    <div className={styles.wiggle}>
      {running ? (
        <Button variant="contained" size="large" onClick={stop}>
          Stop recording
        </Button>
      ) : (
        <Button variant="contained" size="large" onClick={begin} disabled={!allowed}>
          {captured.samples.length > 0 ? 'Read again' : `Read for up to ${longestWiggleS} s`}
        </Button>
      )}
      <p role="timer" aria-label="Read for" className="mono">
        {(captured.samples.at(-1)?.[0] ?? 0).toFixed(0)} s · {captured.samples.length} readings
      </p>
      {problem && (
        <p role="alert" className={styles.problem}>
          {problem}
        </p>
      )}
      {running && (
        <div className={styles.marks} role="group" aria-label="What you are moving now">
          {usual.map((say, i) => (
            <button key={say} type="button" onClick={() => mark(say)}>
              <span className="keycap" aria-hidden="true">
                {i + 1}
              </span>
              {say}
            </button>
          ))}
          <input
            className={styles.entry}
            aria-label="Another movement"
            placeholder="another, Enter"
            value={own}
            maxLength={60}
            onChange={(event) => setOwn(event.target.value)}
            onKeyDown={(event) => {
              if (event.key !== 'Enter') return;
              event.preventDefault();
              mark(own);
              setOwn('');
            }}
          />
        </div>
      )}
    </div>
  );
}

export function WigglePicture({ captured, found }: { captured: Captured; found: Found | null }) {
  if (captured.samples.length === 0) return <p className="quiet">The readings are plotted here.</p>;
  return (
    <>
      <Plot say={`${captured.samples.length} readings over ${(captured.samples.at(-1)?.[0] ?? 0).toFixed(0)} s. ${found?.text ?? ''}`}>
        <WiggleChart samples={captured.samples} marks={captured.marks} rest={found?.rest ?? null} breaks={found?.breaks ?? []} />
      </Plot>
      {found && found.breaks.length > 0 && (
        <div className={styles.table} tabIndex={0} role="region" aria-label="Dropouts found">
          <table>
            <caption className="label">Breaks</caption>
            <thead>
              <tr>
                <th scope="col">From</th>
                <th scope="col">For</th>
                <th scope="col">What</th>
                <th scope="col">After</th>
              </tr>
            </thead>
            <tbody>
              {found.breaks.slice(0, 30).map((b) => (
                <tr key={b.fromS}>
                  <td className="mono">{b.fromS.toFixed(1)} s</td>
                  <td className="mono">{b.toS - b.fromS < 0.1 ? 'under 0.1 s' : `${(b.toS - b.fromS).toFixed(1)} s`}</td>
                  <td>{b.kind === 'open' ? 'open' : `changes to ${formatOhms(b.ohms)}`}</td>
                  <td>{b.mark ?? ''}</td>
                </tr>
              ))}
            </tbody>
          </table>
          {found.breaks.length > 30 && <p className="quiet">{found.breaks.length - 30} more not shown.</p>}
        </div>
      )}
    </>
  );
}

export function WiggleVerdict({ found }: { found: Found | null }) {
  if (!found)
    return (
      <>
        <ColumnDrawing />
        <h2>Nothing measured yet</h2>
        <p className="quiet">Start recording, then tilt and turn the wheel slowly through its whole travel, and mark each movement.</p>
      </>
    );
  return (
    <>
      <h2>{found.verdict === 'same' ? 'The wires are good.' : found.verdict === 'changes' ? 'It breaks.' : 'Keep reading.'}</h2>
      <p className={styles.said}>{found.text}</p>
    </>
  );
}
