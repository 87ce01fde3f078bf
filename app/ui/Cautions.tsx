import WarningAmberOutlined from '@mui/icons-material/WarningAmberOutlined';
import { useState } from 'react';
import type { Caution } from '../../core/library';
import styles from './Cautions.module.css';

export interface CautionState {
  shown: Caution[];
  confirmed: boolean;
  confirm: (yes: boolean) => void;
  /** Nothing stands in the way: no hazard to a person, or it was confirmed. */
  clear: boolean;
  needed: boolean;
}

/** The cautions of an act, and whether they have been confirmed where a person can be hurt. */
export function useCautions(ids: readonly string[], known: Readonly<Record<string, Caution>>): CautionState {
  const [confirmed, confirm] = useState(false);
  const shown = ids.flatMap((id) => known[id] ?? []);
  const needed = shown.some((c) => c.confirm);
  return { shown, confirmed, confirm, clear: !needed || confirmed, needed };
}

/** Stands before the act, names each hazard in one line. */
export function Cautions({ state }: { state: CautionState }) {
  if (state.shown.length === 0) return null;
  return (
    <div className={styles.cautions} role="group" aria-label="Cautions">
      <ul>
        {state.shown.map((c) => (
          <li key={c.id} data-hurts={c.confirm || undefined}>
            <WarningAmberOutlined fontSize="small" aria-hidden="true" /> {c.say}
          </li>
        ))}
      </ul>
      {state.needed && (
        <label className={styles.confirm}>
          <input type="checkbox" checked={state.confirmed} onChange={(e) => state.confirm(e.target.checked)} /> All precautions taken
        </label>
      )}
    </div>
  );
}
