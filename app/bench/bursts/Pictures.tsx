import Button from '@mui/material/Button';
import { useRef, useState } from 'react';
import type { Limit, Measured, TimeNote } from '../../../core/burst';
import type { HeldCapture } from '../../workers/bursts';
import { Choice } from '../../ui/Choice';
import styles from './bursts.module.css';
import { moved, Picture, type View, zoomed } from './Picture';
import { csvOf, pngOf, saveFile, stemOf } from './save';
import { SimulatedSource, Taking } from './Taking';
import type { OneCapture } from './useCapture';

const qualityWords: Readonly<Record<Measured['quality'], string>> = {
  good: 'measured well',
  limited: 'measured, with limits',
  nothing: 'no burst in it',
  notMeasurable: 'not measurable',
};
const limitWords: Readonly<Record<Limit, string>> = {
  clipped: 'clipped: the scope’s range was too small',
  undersampled: 'too few samples to a period: amplitudes may be low',
  hum: 'strong hum: hold the probe closer to the antenna coil',
  startsInside: 'it begins inside a burst: start recording earlier',
  endsInside: 'it ends inside a burst: record longer',
  gaps: 'time is missing in the file',
  weak: 'too near to the noise: hold the probe closer to the antenna coil',
};
const noteWords: Readonly<Record<TimeNote['kind'], string>> = { gap: 'gap in time', repeat: 'time that repeats', uneven: 'uneven step' };
const shownRows = 40;
const short = (value: number) => String(Number(value.toPrecision(4)));
const manyWords = (n: number) => (n >= 1e6 ? `${short(n / 1e6)} million` : String(n));
const rateWords = (hz: number) => (hz >= 1e6 ? `${short(hz / 1e6)} MS/s` : `${short(hz / 1e3)} kS/s`);

/** Two captures under each other, with one zoom for both, their bursts as a table, and what can be saved of them. */
export function Pictures({ captures, alignedAt }: { captures: readonly { name: string; one: OneCapture }[]; alignedAt: 'burst' | 'start' }) {
  const [aligned, setAligned] = useState(alignedAt === 'burst');
  const [view, setView] = useState<View | null>(null);
  const held = captures.flatMap(({ one }) => (one.held ? [one.held] : []));
  const zeroOf = (c: HeldCapture) => (aligned ? (c.bursts[0]?.startS ?? 0) : 0);
  const whole: View =
    held.length === 0
      ? { fromS: 0, toS: 1 }
      : { fromS: Math.min(...held.map((c) => -zeroOf(c))), toS: Math.max(...held.map((c) => c.lengthS - zeroOf(c))) };
  const fits = view && view.fromS >= whole.fromS - 1e-9 && view.toS <= whole.toS + 1e-9;
  const shown = fits ? view : whole;
  return (
    <>
      {captures.map(({ name, one }) => (
        <section key={name} className={styles.slot} aria-label={`Capture ${name}`}>
          {one.held && <Shown name={name} one={one} held={one.held} zeroS={zeroOf(one.held)} view={shown} whole={whole} onView={setView} />}
          <Taking one={one} name={name} />
          {name === 'A' && <SimulatedSource one={one} />}
        </section>
      ))}
      {held.length > 0 && (
        <div className={styles.tools}>
          <Button size="small" variant="outlined" color="inherit" onClick={() => setView(zoomed(shown, whole, 0.5, 0.5))}>
            Zoom in
          </Button>
          <Button size="small" variant="outlined" color="inherit" onClick={() => setView(zoomed(shown, whole, 2, 0.5))}>
            Zoom out
          </Button>
          <Button size="small" variant="outlined" color="inherit" onClick={() => setView(moved(shown, whole, -0.5))} aria-label="Earlier">
            ←
          </Button>
          <Button size="small" variant="outlined" color="inherit" onClick={() => setView(moved(shown, whole, 0.5))} aria-label="Later">
            →
          </Button>
          <Button size="small" variant="outlined" color="inherit" onClick={() => setView(null)}>
            Show all
          </Button>
          <Choice
            type="checkbox"
            checked={aligned}
            onChange={() => {
              setView(null);
              setAligned(!aligned);
            }}
          >
            Line up at the first burst
          </Choice>
        </div>
      )}
    </>
  );
}

function Shown({
  name,
  one,
  held,
  ...picture
}: {
  name: string;
  one: OneCapture;
  held: HeldCapture;
  zeroS: number;
  view: View;
  whole: View;
  onView: (view: View) => void;
}) {
  const frame = useRef<HTMLDivElement>(null);
  const [problem, setProblem] = useState('');
  const stem = stemOf(held.name);
  const simulated = one.source && 'simulated' in one.source;
  const save = (ending: string, text: string, type: string) => saveFile(`${stem}-bursts.${ending}`, new Blob([text], { type }));
  const savePicture = () => {
    setProblem('');
    pngOf(frame.current!.querySelector('svg')!).then(
      (blob) => saveFile(`${stem}-bursts.png`, blob),
      () => setProblem('The browser could not make the picture. Save the CSV instead.'),
    );
  };
  return (
    <div ref={frame} className={styles.slot}>
      <p>
        <b>{simulated ? 'Simulated source' : held.name}</b>: {held.bursts.length} {held.bursts.length === 1 ? 'burst' : 'bursts'},{' '}
        {qualityWords[held.quality]}
        {held.carrierHz === null ? '' : `, carrier ${(held.carrierHz / 1000).toFixed(2)} kHz`}.{' '}
        <span className="quiet">
          {manyWords(held.samples)} samples at {rateWords(held.sampleRateHz)}, noise {Number(held.noise.toPrecision(2))} V.
        </span>
      </p>
      {(held.limits.length > 0 || held.notes.length > 0) && (
        <ul>
          {held.limits.map((l) => (
            <li key={l}>{limitWords[l]}</li>
          ))}
          {held.notes.map((n) => (
            <li key={n.kind}>
              {noteWords[n.kind]}, {n.count === 1 ? 'once' : `${n.count} times`}, first in line {n.line}
            </li>
          ))}
        </ul>
      )}
      <Picture {...picture} capture={held} drawn={one.drawn} ask={one.view} label={`Capture ${name}`} />
      {held.bursts.length > 0 && <Figures held={held} />}
      <div className={styles.tools}>
        <Button size="small" color="inherit" onClick={() => save('csv', csvOf(held), 'text/csv')}>
          Save CSV
        </Button>
        <Button
          size="small"
          color="inherit"
          onClick={() => save('json', JSON.stringify(simulated ? { simulated, ...held } : held, null, 1), 'application/json')}
        >
          Save JSON
        </Button>
        <Button size="small" color="inherit" onClick={savePicture}>
          Save picture
        </Button>
        {problem && <span role="alert">{problem}</span>}
      </div>
    </div>
  );
}

function Figures({ held: { bursts } }: { held: HeldCapture }) {
  return (
    <details>
      <summary>{bursts.length === 1 ? 'The burst' : `The ${bursts.length} bursts`} in figures</summary>
      <div className={styles.scroll}>
        <table className={styles.figures}>
          <thead>
            <tr>
              <th scope="col">No.</th>
              <th scope="col">Start, ms</th>
              <th scope="col">Length, ms</th>
              <th scope="col">Since the one before, ms</th>
              <th scope="col">Amplitude, V</th>
              <th scope="col">Carrier, kHz</th>
              <th scope="col">Dips</th>
            </tr>
          </thead>
          <tbody>
            {bursts.slice(0, shownRows).map((b, i) => (
              <tr key={b.startS}>
                <th scope="row">{i + 1}</th>
                <td className="mono">{(b.startS * 1000).toFixed(3)}</td>
                <td className="mono">{(b.durationS * 1000).toFixed(3)}</td>
                <td className="mono">{i === 0 ? '' : ((b.startS - bursts[i - 1]!.startS) * 1000).toFixed(3)}</td>
                <td className="mono">{b.amplitude.toPrecision(3)}</td>
                <td className="mono">
                  {(b.carrierHz / 1000).toFixed(3)}
                  {b.carrierUncertaintyHz === null ? '' : ` ± ${(b.carrierUncertaintyHz / 1000).toFixed(3)}`}
                </td>
                <td>{b.notches === null ? 'too noisy' : b.notches === 0 ? 'none' : `${b.notches}, an answer may be there`}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {bursts.length > shownRows && <p className="quiet">{bursts.length - shownRows} more. They are all in the CSV.</p>}
    </details>
  );
}
