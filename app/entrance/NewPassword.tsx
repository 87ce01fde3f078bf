import TextField from '@mui/material/TextField';

/** The two fields of a new password. */
export function NewPassword({ errors }: { errors: Record<string, string> }) {
  return (
    <>
      <TextField
        name="password"
        label="Password"
        type="password"
        autoComplete="new-password"
        required
        error={'password' in errors}
        helperText={errors.password ?? 'At least 12 characters. Several words that only you put together are best.'}
        slotProps={{ htmlInput: { maxLength: 200 } }}
      />
      <TextField
        name="again"
        label="Password again"
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
