import Button from '@mui/material/Button';
import { useState } from 'react';
import { Link } from 'react-router';
import { AddToCase, useAddToCase } from '../AddToCase';
import type { BurstsPage } from './page.server';
import { useTrials } from '../useTrials';
import styles from './bursts.module.css';

/** Does the field come: the repeat test of the coil, beside the bursts, since people look at both at once. What is counted here is counted there. */
export function Coil({ d: { chosen, field, keys } }: { d: BurstsPage }) {
  const trials = useTrials(chosen?.id ?? null, field !== null);
  const [key, setKey] = useState<string | null>(keys[0] ?? null);
  const adding = useAddToCase('coil', JSON.stringify(trials.counted));
  const hit = field?.hit ?? (trials.counted.hit || 'signal');
  return (
    <section aria-labelledby="coil" className={styles.slot}>
      <h2 id="coil" className="label">
        Does the field come?
      </h2>
      {field && <p>{field.do}</p>}
      <div className={styles.tools} data-rapid>
        <Button variant="outlined" size="large" onClick={() => trials.look(true, key, '')}>
          {hit.charAt(0).toUpperCase() + hit.slice(1)}
        </Button>
        <Button variant="outlined" size="large" onClick={() => trials.look(false, key, '')}>
          No {hit}
        </Button>
        <span className="mono" role="status" aria-label="Count">
          {trials.hits} of {trials.made}
        </span>
        {trials.made > 0 && (
          <Button size="small" color="inherit" onClick={trials.back}>
            Undo
          </Button>
        )}
      </div>
      {keys.length > 1 && (
        <div className={styles.tools} role="group" aria-label="Key used for the field">
          {keys.map((tag) => (
            <Button
              key={tag}
              size="small"
              color="inherit"
              variant={tag === key ? 'outlined' : 'text'}
              aria-pressed={tag === key}
              onClick={() => setKey(tag)}
            >
              tag {tag}
            </Button>
          ))}
        </div>
      )}
      <p className={styles.away}>
        <Link to={`/bench/trials${chosen ? `?case=${chosen.id}` : ''}`}>What the checks rule out</Link>
      </p>
      {chosen && trials.made > 0 && (
        <AddToCase
          adding={adding}
          chosen={chosen}
          ready
          onAdd={() =>
            adding.add({
              kind: 'trials',
              case: chosen.id,
              raw: { what: field?.title || trials.counted.what || 'Antenna coil field', hit, looks: trials.counted.looks },
            })
          }
        />
      )}
    </section>
  );
}
