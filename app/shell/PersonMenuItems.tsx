import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { Link, useSubmit } from 'react-router';

export interface ShellPerson {
  name: string;
  initials: string;
  role: string;
  atBay: boolean;
}

export default function PersonMenuItems({ person, anchor, close }: { person: ShellPerson; anchor: HTMLElement | null; close: () => void }) {
  const submit = useSubmit();
  const session = (intent: string) => void submit({ intent }, { method: 'post', action: '/session' });
  return (
    <Menu anchorEl={anchor} open={anchor !== null} onClose={close}>
      <MenuItem component={Link} to="/shop/me" onClick={close}>
        {person.name}, {person.role}
      </MenuItem>
      {person.atBay && <MenuItem onClick={() => session('lock')}>Lock this device</MenuItem>}
      <MenuItem onClick={() => session('signOut')}>Sign out</MenuItem>
    </Menu>
  );
}
