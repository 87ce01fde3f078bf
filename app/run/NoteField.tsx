import TextField from '@mui/material/TextField';
import type { Ref } from 'react';
import { maxReason } from '../../core/procedure';

/** What was done and where the result is, for a step that has no instrument. */
export default function NoteField({
  note,
  put,
  missing,
  field,
}: {
  note: string;
  put: (text: string) => void;
  missing: boolean;
  field: Ref<HTMLTextAreaElement>;
}) {
  return (
    <TextField
      label="Note: what was done, and where the result is saved"
      value={note}
      onChange={(e) => put(e.target.value)}
      error={missing}
      helperText={
        missing
          ? 'Write it in a few words. It goes into the report.'
          : 'There is no instrument for this step yet: do it with your tool, then tick it here. Never write a secret into the note.'
      }
      multiline
      maxRows={3}
      inputRef={field}
      sx={{ maxWidth: 820 }}
      slotProps={{ htmlInput: { maxLength: maxReason } }}
    />
  );
}
