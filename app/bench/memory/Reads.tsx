import Button from '@mui/material/Button';
import { useRef } from 'react';
import { byteCount } from '../../../core/memory';
import { Choice } from '../../ui/Choice';
import type { Memory, Role, SimulatedReader } from './useMemory';
import bench from '../bench.module.css';
import styles from '../../memory/memory.module.css';

const roles: Record<Role, { title: string; say: string }> = {
  first: { title: 'First read', say: '' },
  second: { title: 'Second read', say: 'Contacts lifted and put on again in between.' },
  after: { title: 'Read back', say: 'After the write.' },
  older: { title: 'An older file', say: 'Before it is written back: what would be lost?' },
};
const number = new Intl.NumberFormat('en-US');

/** Which reads there are, each from a file or from the simulated reader. */
export function Reads({ m, sim }: { m: Memory; sim: SimulatedReader | null }) {
  return (
    <ol className={styles.reads}>
      {(Object.keys(roles) as Role[]).map((role) => (
        <li key={role}>
          <OneRead role={role} m={m} sim={sim} />
        </li>
      ))}
    </ol>
  );
}

function OneRead({ role, m, sim }: { role: Role; m: Memory; sim: SimulatedReader | null }) {
  const input = useRef<HTMLInputElement>(null);
  const { title, say } = roles[role];
  const read = m.reads[role];
  const share = m.reading[role];
  return (
    <>
      <b>{title}</b>
      {say && !read && <small className="quiet">{say}</small>}
      {read && (
        <small className="mono">
          {read.name}, {number.format(byteCount(read.image))} bytes
        </small>
      )}
      {share !== undefined ? (
        <span className={styles.tools}>
          <progress value={share} aria-label={`Reading ${title.toLowerCase()}`} />
          <Button size="small" color="inherit" onClick={() => m.cancel(role)}>
            Cancel
          </Button>
        </span>
      ) : (
        <span className={styles.tools}>
          <Button variant="outlined" color="inherit" aria-label={`${title}: choose a file`} onClick={() => input.current?.click()}>
            File
          </Button>
          {sim && role !== 'older' && (
            <Button variant="outlined" color="inherit" aria-label={`${title}: read the simulated box`} onClick={() => m.put(role, sim.read())}>
              Simulated
            </Button>
          )}
          {read && (
            <Button color="inherit" aria-label={`${title}: remove`} onClick={() => m.remove(role)}>
              Remove
            </Button>
          )}
        </span>
      )}
      {m.problems[role] && (
        <p role="alert" className={bench.problem}>
          {m.problems[role]}
        </p>
      )}
      <input
        ref={input}
        type="file"
        className="hidden"
        tabIndex={-1}
        aria-label={`${title}, file`}
        onChange={(event) => {
          const file = event.currentTarget.files?.[0];
          if (file) m.take(role, file);
          event.currentTarget.value = '';
        }}
      />
    </>
  );
}

const contacts = { clean: 'Clean contacts', dirty: 'Dirty contacts', line: 'One data line open', moved: 'Wrong start address' } as const;

/** What the simulated reader does at the next read and write. */
export function SimulatedBox({ sim }: { sim: SimulatedReader }) {
  return (
    <section className={styles.sim} aria-label="Simulated programmer">
      <b>Simulated programmer: no real box</b>
      <fieldset className={bench.row}>
        <legend>At the next read</legend>
        {Object.entries(contacts).map(([id, say]) => (
          <Choice
            key={id}
            type="radio"
            name="contact"
            value={id}
            checked={sim.contact === id}
            onChange={() => sim.setContact(id as keyof typeof contacts)}
          >
            {say}
          </Choice>
        ))}
      </fieldset>
      <Choice type="checkbox" name="lost" checked={sim.lost} onChange={(e) => sim.setLost(e.target.checked)}>
        Power lost in the middle of the next write
      </Choice>
      <Button variant="outlined" color="inherit" onClick={sim.another}>
        Another box
      </Button>
    </section>
  );
}
