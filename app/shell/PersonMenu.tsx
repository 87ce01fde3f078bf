import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useState } from 'react';
import { Link, useSubmit } from 'react-router';
import styles from './Strip.module.css';

export interface ShellPerson {
  name: string;
  initials: string;
  role: string;
  atBay: boolean;
}

/** Who works here, and the ways out. */
export function PersonMenu({ person }: { person: ShellPerson }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const submit = useSubmit();
  const session = (intent: string) => void submit({ intent }, { method: 'post', action: '/session' });
  return (
    <>
      <button
        type="button"
        className={styles.tool}
        aria-label={`${person.initials}: ${person.name}, ${person.role}`}
        aria-haspopup="menu"
        onClick={(event) => setAnchor(event.currentTarget)}
      >
        {person.initials}
      </button>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        <MenuItem component={Link} to="/shop/me" onClick={() => setAnchor(null)}>
          {person.name}, {person.role}
        </MenuItem>
        {person.atBay && <MenuItem onClick={() => session('lock')}>Lock this device</MenuItem>}
        <MenuItem onClick={() => session('signOut')}>Sign out</MenuItem>
      </Menu>
    </>
  );
}
