import MenuItem from '@mui/material/MenuItem';
import { Field } from '../intake/parts';

/** For which case one measures; without one it is just reading. */
export function CasePick({
  cases,
  chosen,
  onPick,
}: {
  cases: readonly { id: number; number: string; vehicle: string }[];
  chosen: number | null;
  onPick: (id: string) => void;
}) {
  return (
    <Field
      name="case"
      label="Case"
      value={chosen === null ? '' : String(chosen)}
      put={onPick}
      errors={{}}
      select
      slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
    >
      <MenuItem value="">No case, just measuring</MenuItem>
      {cases.map((c) => (
        <MenuItem key={c.id} value={String(c.id)}>
          {c.number} {c.vehicle}
        </MenuItem>
      ))}
    </Field>
  );
}
