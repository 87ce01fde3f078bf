import Button from '@mui/material/Button';
import { type FormEvent, useEffect, useRef, useState } from 'react';
import type { RunView } from '../../core/procedure';
import { formatQuantity, readQuantity } from '../../core/units';
import { QuantityField } from '../ui/QuantityField';
import styles from './run.module.css';

/** A measured value, typed. The limits are said before it is sent, and the server checks them again. */
export default function ValueEntry({
  value,
  busy,
  onRecord,
}: {
  value: NonNullable<RunView['value']>;
  busy: boolean;
  onRecord: (value: number) => void;
}) {
  const [typed, setTyped] = useState('');
  const [error, setError] = useState('');
  const field = useRef<HTMLInputElement>(null);
  // Ready to be typed into, without moving the instruction out of sight on a small screen.
  useEffect(() => field.current?.focus({ preventScroll: true }), []);
  const { unit, min, max, whole = false } = value;
  const record = (event: FormEvent) => {
    event.preventDefault();
    const read = readQuantity(typed, { unit, min, max, whole });
    setError(read.ok ? '' : read.problems[0]!.message);
    if (read.ok) onRecord(read.value);
  };
  return (
    <form onSubmit={record} className={styles.value} noValidate>
      <QuantityField
        quantity={{ unit, min, max, whole }}
        label={`${unit === '' ? 'Number' : `Measured, ${unit}`}${value.required ? `, ${value.required}` : ''}`}
        value={typed}
        onText={(text) => {
          setTyped(text);
          setError('');
        }}
        problem={error || undefined}
        help={value.last === undefined ? ' ' : `Last recorded: ${formatQuantity(value.last, unit)}`}
        inputRef={field}
        slotProps={{ htmlInput: { className: 'mono', style: { fontSize: 32 } } }}
      />
      <Button type="submit" variant="contained" size="large" loading={busy}>
        Record
      </Button>
    </form>
  );
}
