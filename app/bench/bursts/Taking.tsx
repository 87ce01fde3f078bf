import Button from '@mui/material/Button';
import { useRef, useState, useSyncExternalStore } from 'react';
import { type SimulatedCondition, simulatedConditions } from '../../../core/burst';
import { Field, Pick } from '../../intake/parts';
import { Choice } from '../../ui/Choice';
import styles from './bursts.module.css';
import type { Far, OneCapture } from './useCapture';

const conditionWords: Readonly<Record<SimulatedCondition, string>> = {
  foil: 'Key in foil',
  noKey: 'No key',
  accepted: 'A key that is accepted',
  refused: 'A key that is refused',
};

function HowFar({ name, far, what }: { name: string; far: Far; what: 'file' | 'simulated' }) {
  const share = useSyncExternalStore(far.subscribe, far.get, far.get);
  return (
    <>
      <progress {...(share === null ? {} : { value: share })} aria-label={`Capture ${name}`} />
      <span>{share === null ? 'Measuring …' : what === 'file' ? 'Reading the file …' : 'Recording from the simulated source …'}</span>
    </>
  );
}

/** Takes one capture in: a file that is chosen or dropped, or the simulated source; long ones show how far they are, and can be left. */
export function Taking({ one, name }: { one: OneCapture; name: string }) {
  const input = useRef<HTMLInputElement>(null);
  const [channel, setChannel] = useState<1 | 2>(1);
  const [wav, setWav] = useState<File | null>(null);
  const take = (file: File, from: 1 | 2) => {
    // Which channel is asked once a WAV file is there.
    setWav(/\.wav$/i.test(file.name) ? file : null);
    setChannel(from);
    one.read(file, from);
  };
  const { state } = one;
  if (state.kind === 'reading')
    return (
      <div className={styles.tools} role="status">
        <HowFar name={name} far={state.far} what={state.what} />
        <Button color="inherit" size="small" onClick={one.clear}>
          Cancel
        </Button>
      </div>
    );
  return (
    <div
      className={styles.drop}
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        const file = event.dataTransfer.files[0];
        if (file) take(file, 1);
      }}
    >
      <input
        ref={input}
        type="file"
        accept=".csv,.wav"
        className="hidden"
        tabIndex={-1}
        aria-label={`File of capture ${name}`}
        onChange={(event) => {
          const file = event.currentTarget.files?.[0];
          if (file) take(file, 1);
          event.currentTarget.value = '';
        }}
      />
      <div className={styles.tools}>
        <Button variant={state.kind === 'held' || name !== 'A' ? 'outlined' : 'contained'} onClick={() => input.current?.click()}>
          {state.kind === 'held' ? 'Read another file' : name === 'A' ? 'Read a file of the scope' : 'Read a second file, to compare'}
        </Button>
        {wav &&
          ([1, 2] as const).map((c) => (
            <Choice key={c} type="radio" name={`channel ${name}`} checked={channel === c} onChange={() => take(wav, c)}>
              channel {c}
            </Choice>
          ))}
      </div>
      <small className="quiet">CSV (seconds,volts) or WAV. Or drop it here.</small>
      {state.kind === 'problem' && (
        <p role="alert" className={styles.problem}>
          {state.message}
        </p>
      )}
    </div>
  );
}

/** The simulated source, plainly marked: what it should have at its coil is chosen, or kept hidden to practice. */
export function SimulatedSource({ one }: { one: OneCapture }) {
  const [what, setWhat] = useState<SimulatedCondition | 'hidden'>('foil');
  const { source } = one;
  const [shown, setShown] = useState(false);
  const start = () => {
    setShown(false);
    one.simulate(what === 'hidden' ? simulatedConditions[Math.floor(Math.random() * simulatedConditions.length)]! : what, what === 'hidden');
  };
  return (
    <details>
      <summary>Practice with a simulated source</summary>
      <section className={styles.sim} aria-label="Simulated source">
        <b>Simulated source: no real vehicle</b>
        <Pick
          name="simulated"
          label="At its antenna coil"
          value={what}
          put={(v) => setWhat(v as SimulatedCondition | 'hidden')}
          errors={{}}
          options={{ ...conditionWords, hidden: 'Hidden, find out' }}
          size="small"
        />
        <Button variant="outlined" disabled={one.state.kind === 'reading'} onClick={start}>
          Record from it
        </Button>
        {source && 'simulated' in source && source.hidden && (
          <p role="status">
            {shown ? (
              <>It was: {conditionWords[source.simulated].toLowerCase()}.</>
            ) : (
              <Button size="small" color="inherit" onClick={() => setShown(true)}>
                Show what it was
              </Button>
            )}
          </p>
        )}
      </section>
    </details>
  );
}

/** Probe, place and number of stored keys: only like is compared with like. */
export function SetupFields({
  setup,
  put,
}: {
  setup: { probe: string; place: string; storedKeys: string };
  put: (setup: { probe: string; place: string; storedKeys: string }) => void;
}) {
  return (
    <>
      <Field name="probe" label="Probe" value={setup.probe} put={(probe) => put({ ...setup, probe })} errors={{}} max={60} size="small" />
      <div className={styles.pair}>
        <Field name="place" label="Place" value={setup.place} put={(place) => put({ ...setup, place })} errors={{}} max={60} size="small" />
        <Field
          name="storedKeys"
          label="Stored keys"
          value={setup.storedKeys}
          put={(storedKeys) => put({ ...setup, storedKeys: storedKeys.replace(/\D/g, '').slice(0, 2) })}
          errors={{}}
          size="small"
          slotProps={{ htmlInput: { inputMode: 'numeric' } }}
        />
      </div>
      <small className="quiet">Captures are compared only with the same probe, place and number of stored keys.</small>
    </>
  );
}
