import Button from '@mui/material/Button';
import { useRef, useState } from 'react';
import { formatOhms, mostReadings, oddUnits, parseReadings, received, type SentReading, sent } from '../../../core/ladder';
import { useKeys } from '../../ui/keys';
import styles from './ladder.module.css';
import type { ListedMeter } from './useMeter';

/** Readings in their order, the field in which the next one is typed, and the other ways in: paste, file, meter. */
export function Readings({
  name,
  readings,
  put,
  refuse,
  meter,
  busy,
  problem,
  onRead,
}: {
  name: string;
  readings: readonly SentReading[];
  /** @param typed something was typed, pasted or came from a file */
  put: (readings: SentReading[], typed: boolean) => void;
  /** Why nothing may be typed here now; empty: it may. */
  refuse: string;
  meter: ListedMeter | undefined;
  busy: boolean;
  /** What the meter said instead of a reading. */
  problem: string;
  onRead: () => void;
}) {
  const [typed, setTyped] = useState('');
  const [errors, setErrors] = useState<string[]>([]);
  const file = useRef<HTMLInputElement>(null);
  const box = useRef<HTMLInputElement>(null);
  const take = (text: string): boolean => {
    if (refuse !== '') {
      setErrors([refuse]);
      return false;
    }
    const read = parseReadings(text);
    if (!read.ok) {
      setErrors(read.problems.map((p) => [p.path, p.message].filter(Boolean).join(': ')));
      return false;
    }
    if (readings.length + read.value.length > mostReadings) {
      setErrors([`More than ${mostReadings} readings. Clear some first.`]);
      return false;
    }
    setErrors([]);
    put([...readings, ...read.value.map(sent)], true);
    return true;
  };
  const add = () => {
    if (typed.trim() !== '' && take(typed)) setTyped('');
  };
  const odd = new Map(oddUnits(readings.map(received)).map((o) => [o.index, o.factor]));
  useKeys(readings.length > 0 ? [{ keys: 'u', shown: 'u', say: 'undo the last reading', act: () => put(readings.slice(0, -1), false) }] : []);
  const shown = readings.length > 40 ? readings.slice(-40) : readings;
  const first = readings.length - shown.length;
  return (
    <div
      className={styles.readings}
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        const dropped = event.dataTransfer.files[0];
        if (dropped) void dropped.text().then(take);
      }}
    >
      {first > 0 && <p className="quiet">{first} earlier readings not shown.</p>}
      <ol aria-label={name} start={first + 1}>
        {shown.map((r, i) => (
          <li key={first + i} data-odd={odd.has(first + i) || undefined}>
            <span className="mono">{first + i + 1}</span>
            <span className="mono">{r === null ? 'overload' : formatOhms(r)}</span>
            <button
              type="button"
              aria-label={`Remove reading ${first + i + 1}`}
              onClick={() =>
                put(
                  readings.filter((_r, k) => k !== first + i),
                  false,
                )
              }
            >
              ×
            </button>
            {odd.has(first + i) && <small>Off from the others by a factor of ten: wrong unit?</small>}
          </li>
        ))}
      </ol>
      <input
        ref={box}
        className={styles.entry}
        aria-label={`${name}: next reading`}
        placeholder="type ohms, Enter"
        value={typed}
        inputMode="text"
        autoComplete="off"
        maxLength={60}
        aria-invalid={errors.length > 0}
        aria-describedby={errors.length > 0 ? 'reading-errors' : undefined}
        onChange={(event) => setTyped(event.target.value)}
        onKeyDown={(event) => {
          if (event.key !== 'Enter') return;
          event.preventDefault();
          add();
        }}
        onPaste={(event) => {
          const text = event.clipboardData.getData('text');
          if (!/[\n;\t]/.test(text.trim())) return;
          event.preventDefault();
          take(text);
        }}
      />
      <div id="reading-errors" role="alert">
        {[...errors, ...(problem ? [problem] : [])].slice(0, 5).map((e) => (
          <p key={e} className={styles.problem}>
            {e}
          </p>
        ))}
      </div>
      <div className={styles.ways}>
        <Button size="small" variant="outlined" onClick={add} disabled={typed.trim() === ''}>
          Add
        </Button>
        {meter && (
          <Button size="small" variant="outlined" onClick={onRead} loading={busy}>
            Read the meter
          </Button>
        )}
        <Button size="small" variant="text" color="inherit" onClick={() => file.current?.click()}>
          From file
        </Button>
        {readings.length > 0 && (
          <Button size="small" variant="text" color="inherit" onClick={() => put([], false)}>
            Clear
          </Button>
        )}
        <input
          ref={file}
          type="file"
          accept=".csv,.txt"
          className="hidden"
          tabIndex={-1}
          aria-label={`${name}: file of readings`}
          onChange={(event) => {
            const chosen = event.currentTarget.files?.[0];
            if (chosen) void chosen.text().then(take);
            event.currentTarget.value = '';
          }}
        />
      </div>
      <small className="quiet">1180, 1.18k or OL. Or paste a list, or drop a file, one reading per line.</small>
    </div>
  );
}
