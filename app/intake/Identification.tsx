import Button from '@mui/material/Button';
import { useEffect } from 'react';
import { Link, useFetcher } from 'react-router';
import { checkVin } from '../../core/vin';
import { useNow, useTimes } from '../ui/clock';
import styles from './intake.module.css';
import type { knownVehicle } from '../../server/cases/caseList';
import { Field } from './parts';

/** Pause after the last key before the vehicle is looked for, milliseconds. */
const pauseMs = 400;

/** The identification number with its live check, and what this shop knows of the vehicle. */
export function Identification({
  identification,
  plate,
  put,
  errors,
  but,
}: {
  identification: string;
  plate: string;
  put: (value: string) => void;
  errors: Record<string, string>;
  but?: number;
}) {
  const year = new Date(useNow()).getUTCFullYear();
  const check = checkVin(identification, year);
  const typed = check.vin.length;
  const done = typed >= 17;
  const wrong = check.problems.filter((p) => p.code !== 'empty' && (done || p.code === 'character'));
  return (
    <div className={styles.vin}>
      <Field
        name="identification"
        label="VIN"
        value={identification}
        put={put}
        errors={errors}
        help={typed === 0 ? '17 characters, as on the vehicle.' : `${typed} of 17`}
        max={24}
        slotProps={{ htmlInput: { autoCapitalize: 'characters', spellCheck: false, className: 'mono' } }}
      />
      <div className={styles.vinSays} role="status">
        {check.valid && (
          <p>Check digit right.{check.years.length > 0 && ` Model year ${check.years.slice(0, 2).join(', or ')}, from the tenth character.`}</p>
        )}
        {wrong.map((p) => (
          <p key={p.message} className={styles.warn}>
            {p.message}
          </p>
        ))}
        {check.misreads.slice(0, 3).map((m) => (
          <Button key={m.vin} size="small" variant="outlined" onClick={() => put(m.vin)} aria-label={`Use ${m.vin}`}>
            <span className="mono">
              {m.vin.slice(0, m.place - 1)}
              <b>{m.likely}</b>
              {m.vin.slice(m.place - 1 + m.likely.length)}
            </span>
          </Button>
        ))}
        {!check.valid && check.usable && check.years.length > 0 && (
          <p className="quiet">Model year {check.years.slice(0, 2).join(', or ')}, from the tenth character.</p>
        )}
      </div>
      <KnownVehicle identification={check.vin} plate={plate.trim()} {...(but === undefined ? {} : { but })} />
    </div>
  );
}

function KnownVehicle({ identification, plate, but }: { identification: string; plate: string; but?: number }) {
  const { load, data } = useFetcher<typeof knownVehicle>({ key: 'known' });
  const { day } = useTimes();
  const enough = identification.length >= 8 || plate.length >= 4;
  useEffect(() => {
    if (!enough) return;
    const timer = setTimeout(
      () => void load(`/cases/known?${new URLSearchParams({ identification, plate, ...(but ? { but: String(but) } : {}) })}`),
      pauseMs,
    );
    return () => clearTimeout(timer);
  }, [enough, identification, plate, but, load]);
  if (!enough || !data || data.length === 0) return null;
  return (
    <div className={styles.known} role="status">
      <p>This vehicle was here before:</p>
      <ul>
        {data.map((c) => (
          <li key={c.id}>
            <Link to={`/cases/${c.id}`} target="_blank" rel="noreferrer">
              Case {c.number}
            </Link>{' '}
            {day(c.openedAt)}: {c.outcome ?? c.words}
          </li>
        ))}
      </ul>
    </div>
  );
}
