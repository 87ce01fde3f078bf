import TextField, { type TextFieldProps } from '@mui/material/TextField';
import { useState } from 'react';
import type { Quantity } from '../../core/units';
import { understand } from './quantity';

/** A field for a number as people write it: below it stands how it is understood, and what is wrong with it. */
export function QuantityField({
  quantity,
  value,
  onText,
  problem,
  help,
  slotProps,
  ...rest
}: Omit<TextFieldProps, 'value' | 'onChange' | 'error' | 'helperText'> & {
  quantity: Quantity;
  /** Left out: the field keeps its text by itself. */
  value?: string;
  onText?: (text: string) => void;
  /** What the server or the page has against it. */
  problem?: string | undefined;
  help?: string;
}) {
  const [own, setOwn] = useState(String(rest.defaultValue ?? ''));
  const text = value ?? own;
  const read = understand(text, quantity);
  const wrong = problem ?? read.problem;
  return (
    <TextField
      {...rest}
      {...(value === undefined ? {} : { value })}
      onChange={(event) => {
        setOwn(event.target.value);
        onText?.(event.target.value);
      }}
      error={wrong !== undefined}
      helperText={wrong ?? (read.say === undefined ? help : `Understood: ${read.say}`)}
      slotProps={{
        ...slotProps,
        htmlInput: { inputMode: quantity.unit === 's' ? 'text' : 'decimal', maxLength: 20, ...(slotProps?.htmlInput as object | undefined) },
      }}
    />
  );
}
