import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { type FormEvent, useState } from 'react';
import type { RunView } from '../../core/procedure';
import { formatQuantity } from '../../core/units';
import styles from './run.module.css';

/** A measured value, typed: comma or point. The limits are said before it is sent, and the server checks them again. */
export function ValueEntry({ value, busy, onRecord }: { value: NonNullable<RunView['value']>; busy: boolean; onRecord: (value: number) => void }) {
  const [typed, setTyped] = useState('');
  const [error, setError] = useState('');
  const record = (event: FormEvent) => {
    event.preventDefault();
    const number = Number(typed.trim().replace(',', '.').replace(/\s*v$/i, ''));
    if (typed.trim() === '' || !Number.isFinite(number))
      return setError(`Type the measured value in ${value.unit}, for example ${formatQuantity((value.min + value.max) / 2, '')}.`);
    if (number < value.min || number > value.max)
      return setError(
        `That cannot be meant. Type a value from ${formatQuantity(value.min, value.unit)} to ${formatQuantity(value.max, value.unit)}.`,
      );
    setError('');
    onRecord(number);
  };
  return (
    <form onSubmit={record} className={styles.value} noValidate>
      <TextField
        label={`Measured, ${value.unit}${value.required ? `, ${value.required}` : ''}`}
        value={typed}
        onChange={(e) => setTyped(e.target.value)}
        error={error !== ''}
        helperText={error || (value.last === undefined ? ' ' : `Last recorded: ${formatQuantity(value.last, value.unit)}`)}
        autoFocus
        slotProps={{ htmlInput: { inputMode: 'decimal', className: 'mono', maxLength: 12, style: { fontSize: 32 } } }}
      />
      <Button type="submit" variant="contained" size="large" loading={busy}>
        Record
      </Button>
    </form>
  );
}
