import MenuItem from '@mui/material/MenuItem';

export interface System {
  value: string;
  title: string;
  note: string;
}

/** The lines of a list of systems; a select wants them as its own children, so this is no component. */
export const systemOptions = (systems: readonly System[]) =>
  systems.map((s) => (
    <MenuItem key={s.value} value={s.value}>
      {s.title}, {s.note}
    </MenuItem>
  ));
