import { useState } from 'react';
import { later } from '../ui/later';
import type { ShellPerson } from './PersonMenuItems';
import styles from './Strip.module.css';

const Items = later('PersonMenuItems', () => import('./PersonMenuItems'));

/** Who works here, and the ways out. */
export function PersonMenu({ person }: { person: ShellPerson }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
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
      <Items shown={anchor !== null} person={person} anchor={anchor} close={() => setAnchor(null)} />
    </>
  );
}
