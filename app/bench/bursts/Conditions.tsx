import Button from '@mui/material/Button';
import type { BurstsPage } from './page.server';
import styles from './bursts.module.css';
import type { Taken } from './useCapture';

interface Step {
  taken: Taken;
  say: string;
  how: string;
}
/** Captures of a condition after which the way goes on: two of the key in foil show how much it varies. */
const enough = (s: Step) => (s.taken.condition === 'foil' ? 2 : 1);

/** The way through: first the baselines, each twice, then the key that is asked about. It says what to do now, and how many there are of each. */
export function Conditions({
  d,
  taken,
  onTake,
  like,
}: {
  d: BurstsPage;
  taken: Taken;
  onTake: (to: Taken) => void;
  /** Captures with the same probe, place and number of stored keys. */
  like: BurstsPage['captures'];
}) {
  const keys = d.keys.length > 0 ? d.keys : [null];
  const tag = (key: string | null) => (key === null ? 'a key' : `tag ${key}`);
  const steps: Step[] = [
    {
      taken: { condition: 'foil', key: null },
      say: 'Key in foil',
      how: 'Wrap the key’s head in kitchen foil, with no gap. Start recording, put it in the lock, turn the ignition on.',
    },
    {
      taken: { condition: 'noKey', key: null },
      say: 'No key',
      how: 'Only where the ignition turns on without a key, such as with a mechanical copy. Start recording, turn it on.',
    },
    ...keys.flatMap((key): Step[] => [
      {
        taken: { condition: 'asked', key },
        say: `What about ${tag(key)}?`,
        how: `Take the foil off. Start recording, turn the ignition on with ${tag(key)}.`,
      },
      {
        taken: { condition: 'accepted', key },
        say: `${tag(key)}, accepted`.replace(/^./, (c) => c.toUpperCase()),
        how: 'Only while the light or the engine shows that this key is accepted. It becomes a baseline.',
      },
      {
        taken: { condition: 'refused', key },
        say: `${tag(key)}, answers and is refused`.replace(/^./, (c) => c.toUpperCase()),
        how: 'Only where a key reader reads the key and the car refuses it. It becomes a baseline.',
      },
    ]),
  ];
  const countOf = (s: Step) => like.filter((c) => c.condition === s.taken.condition && (c.key ?? null) === s.taken.key).length;
  const now = steps.find((s) => s.taken.condition === taken.condition && s.taken.key === taken.key);
  // The shortest way: the key in foil, then each key that is asked about.
  const next = steps.find((s) => s !== now && (s.taken.condition === 'foil' || s.taken.condition === 'asked') && countOf(s) < enough(s));
  return (
    <div className={styles.slot}>
      <h2 className="label">What this capture is</h2>
      <div className={styles.steps} role="group" aria-label="What this capture is">
        {steps.map((s) => {
          const count = countOf(s);
          return (
            <button key={s.say} type="button" aria-pressed={s === now} onClick={() => onTake(s.taken)}>
              <span className={styles.mark} aria-hidden="true" />
              <span>{s.say}</span>
              <small data-done={count >= enough(s) || undefined}>{count > 0 ? `${count} saved` : <span className="hidden">none yet</span>}</small>
            </button>
          );
        })}
      </div>
      {now && <p>{now.how}</p>}
      {now && countOf(now) === 1 && enough(now) === 2 && <p className="quiet">Once more: two show how much it varies.</p>}
      {now && next && countOf(now) >= enough(now) && (
        <Button variant="contained" onClick={() => onTake(next.taken)}>
          Next: {next.say}
        </Button>
      )}
    </div>
  );
}
