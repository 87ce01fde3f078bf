import TextField from '@mui/material/TextField';

/** The two fields of a new passphrase. */
export function NewPassphrase({ errors }: { errors: Record<string, string> }) {
  return (
    <>
      <TextField
        name="passphrase"
        label="Passphrase"
        type="password"
        autoComplete="new-password"
        required
        error={'passphrase' in errors}
        helperText={errors.passphrase ?? 'At least 12 characters. Several words that only you put together are best.'}
        slotProps={{ htmlInput: { maxLength: 200 } }}
      />
      <TextField
        name="again"
        label="Passphrase again"
        type="password"
        autoComplete="new-password"
        required
        error={'again' in errors}
        helperText={errors.again}
        slotProps={{ htmlInput: { maxLength: 200 } }}
      />
    </>
  );
}
