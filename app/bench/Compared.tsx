import Button from '@mui/material/Button';
import { useState } from 'react';
import { groupsOfFour, spokenGroup } from '../../core/copycheck';
import bench from './bench.module.css';
import styles from './copyCheck.module.css';

/** The value in groups of four, with the places that differ marked; read aloud one group after the other. */
export function Compared({
  first,
  reveal,
  equal,
  differences,
}: {
  first: string;
  reveal: boolean;
  equal: boolean;
  differences: readonly { at: number }[];
}) {
  const groups = groupsOfFour(first);
  const [at, setAt] = useState(0);
  const wrong = new Set(differences.map((d) => Math.ceil(d.at / 4) - 1));
  const say = (i: number) => {
    setAt(i);
    speechSynthesis.cancel();
    const words = new SpeechSynthesisUtterance(spokenGroup(groups[i] ?? ''));
    words.lang = 'en';
    words.rate = 0.8;
    speechSynthesis.speak(words);
  };
  return (
    <div className={styles.entry}>
      <h2>{equal ? 'What both entries say' : 'First entry, where they differ'}</h2>
      <ol className={styles.large} aria-label="Groups of four">
        {groups.slice(0, 400).map((g, i) => (
          <li key={i} className="mono" data-wrong={wrong.has(i) || undefined} data-now={(reveal && i === at) || undefined}>
            {reveal ? g : '•'.repeat(g.length)}
          </li>
        ))}
      </ol>
      {reveal ? (
        <div className={styles.aloud} role="group" aria-label="Read back aloud">
          <p>
            Group {at + 1} of {groups.length}: <b>{spokenGroup(groups[at] ?? '')}</b>
          </p>
          <div className={bench.row}>
            <Button variant="outlined" onClick={() => say(at)}>
              Say it
            </Button>
            <Button variant="outlined" disabled={at + 1 >= groups.length} onClick={() => say(at + 1)}>
              Say the next group
            </Button>
            <Button variant="text" color="inherit" disabled={at === 0} onClick={() => say(at - 1)}>
              Previous group
            </Button>
          </div>
          <small className="quiet">Anyone nearby can hear it. Follow along in the original while it is read out.</small>
        </div>
      ) : (
        <p className="quiet">Hidden: this secret can be used to steal the car. Show the characters to read them back aloud.</p>
      )}
    </div>
  );
}
