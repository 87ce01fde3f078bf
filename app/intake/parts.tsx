import MenuItem from '@mui/material/MenuItem';
import TextField, { type TextFieldProps } from '@mui/material/TextField';
import { useState } from 'react';
import type { Quantity } from '../../core/units';
import { Choice } from '../ui/Choice';
import { QuantityField } from '../ui/QuantityField';
import choiceStyles from '../ui/Choice.module.css';

/** How every part of the intake shows and changes its fields. */
export interface Section<T> {
  value: T;
  put: <K extends keyof T>(name: K, value: T[K]) => void;
  errors: Record<string, string>;
}

type FieldProps = Omit<TextFieldProps, 'onChange' | 'value' | 'name'> & {
  name: string;
  value: string;
  put: (value: string) => void;
  errors: Record<string, string>;
  help?: string;
  max?: number;
  /** What is wrong is found while one types, not when the form is sent. */
  live?: boolean;
  /** It takes a number. */
  quantity?: Quantity;
};

export function Field({ name, value, put, errors, help, max, quantity, live = false, slotProps, ...rest }: FieldProps) {
  // What was wrong is said until the field is changed: a corrected one keeps no error.
  const [said, setSaid] = useState<{ errors: unknown; value: string } | null>(null);
  const found = errors[name];
  if (!live && found !== undefined && said?.errors !== errors) setSaid({ errors, value });
  const problem = live || said?.errors !== errors || said.value === value ? found : undefined;
  if (quantity)
    return <QuantityField {...rest} {...{ name, value, quantity, problem }} {...(help ? { help } : {})} onText={put} slotProps={slotProps ?? {}} />;
  return (
    <TextField
      {...rest}
      name={name}
      value={value}
      onChange={(event) => put(event.target.value)}
      error={problem !== undefined}
      helperText={problem ?? help}
      slotProps={{ ...slotProps, htmlInput: { maxLength: max, ...(slotProps?.htmlInput as object | undefined) } }}
    />
  );
}

/** One of a list, or nothing. */
export function Pick({ options, none, ...field }: Omit<FieldProps, 'select'> & { options: Readonly<Record<string, string>>; none?: string }) {
  return (
    <Field {...field} select>
      {none !== undefined && <MenuItem value="">{none}</MenuItem>}
      {Object.entries(options).map(([id, say]) => (
        <MenuItem key={id} value={id}>
          {say}
        </MenuItem>
      ))}
    </Field>
  );
}

/** Several of a list may be true. */
export function Several({
  legend,
  name,
  options,
  value,
  put,
}: {
  legend: string;
  name: string;
  options: Readonly<Record<string, string>>;
  value: string[];
  put: (value: string[]) => void;
}) {
  return (
    <fieldset className={choiceStyles.group}>
      <legend>{legend}</legend>
      {Object.entries(options).map(([id, say]) => (
        <Choice
          key={id}
          type="checkbox"
          name={name}
          value={id}
          checked={value.includes(id)}
          onChange={(event) => put(event.target.checked ? [...value, id] : value.filter((v) => v !== id))}
        >
          {say}
        </Choice>
      ))}
    </fieldset>
  );
}
