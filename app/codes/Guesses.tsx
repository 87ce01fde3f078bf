import Button from '@mui/material/Button';
import type { findCodes } from '../../core/codes';
import styles from './codes.module.css';

/** What could be a code: a person says whether it is one. */
export function Guesses({
  guesses,
  onConfirm,
}: {
  guesses: ReturnType<typeof findCodes>['guesses'];
  onConfirm: (guess: { text: string; code: string; at: number }) => void;
}) {
  if (guesses.length === 0) return null;
  return (
    <section aria-label="Could be trouble codes" className={styles.guesses}>
      <p>These could be trouble codes, misread. Check them against the report:</p>
      <ul>
        {guesses.slice(0, 20).map((g) => (
          <li key={g.at}>
            “{g.text}”{' '}
            <Button variant="outlined" onClick={() => onConfirm(g)}>
              It is {g.code}
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
