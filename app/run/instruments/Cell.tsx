import Button from '@mui/material/Button';
import { type FormEvent, useState } from 'react';
import { cellIsWeak, freshCell } from '../../../core/procedure';
import { formatQuantity, readQuantity } from '../../../core/units';
import { QuantityField } from '../../ui/QuantityField';
import type { OnResult } from './onResult';
import styles from './instruments.module.css';

const cell = { unit: 'V', min: 0, max: 5 };

/** A key battery, at rest and with a button pressed: what it sags tells more than what it shows. */
export default function Cell({ busy, onResult }: { busy: boolean; onResult: OnResult }) {
  const [typed, setTyped] = useState({ volts: '', pressedVolts: '' });
  const [tried, setTried] = useState(false);
  const read = { volts: readQuantity(typed.volts, cell), pressedVolts: readQuantity(typed.pressedVolts, cell) };
  const found = read.volts.ok && read.pressedVolts.ok ? { volts: read.volts.value, pressedVolts: read.pressedVolts.value } : null;
  const impossible = found !== null && found.pressedVolts > found.volts;
  const record = (event: FormEvent) => {
    event.preventDefault();
    setTried(true);
    if (found && !impossible) onResult('ticked', { result: { kind: 'cell', ...found } });
  };
  const problem = (name: keyof typeof read) => {
    const r = read[name];
    if (tried && !r.ok) return r.problems[0]!.message;
    return name === 'pressedVolts' && impossible ? 'The voltage can’t rise when a button is pressed. Measure again.' : undefined;
  };
  return (
    <form className={styles.part} onSubmit={record} noValidate>
      <div className={styles.pair}>
        <QuantityField
          label="Key battery, not pressed, V"
          quantity={cell}
          value={typed.volts}
          onText={(text) => setTyped((t) => ({ ...t, volts: text }))}
          problem={problem('volts')}
        />
        <QuantityField
          label="With a button pressed, V"
          quantity={cell}
          value={typed.pressedVolts}
          onText={(text) => setTyped((t) => ({ ...t, pressedVolts: text }))}
          problem={problem('pressedVolts')}
        />
      </div>
      <p role="status">
        {found && !impossible
          ? cellIsWeak(found)
            ? `Weak: a fresh one has ${formatQuantity(freshCell.least, 'V')} and sags by ${formatQuantity(freshCell.mostSag, 'V')} at most. Change it, then record what the fresh one shows.`
            : 'Good for a 3 V key battery.'
          : ' '}
      </p>
      <div className={styles.row}>
        <Button type="submit" variant="contained" size="large" loading={busy}>
          Record
        </Button>
      </div>
    </form>
  );
}
