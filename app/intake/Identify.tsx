import Button from '@mui/material/Button';
import { useMemo } from 'react';
import { type Candidate, cantSee, identify, type Identification, modelOf } from '../../core/identify';
import type { Feature } from '../../core/library';
import { formatChance } from '../../core/units';
import { AnswerDrawing } from '../drawings/AnswerDrawing';
import styles from './Identify.module.css';

const words: Record<Identification['state'], string> = {
  sure: 'Everything seen points to this one.',
  confirm: 'Likely, but only one answer says so. One more confirms it.',
  pair: 'Two are left.',
  open: 'Several are still possible.',
};
/** The question that comes first. */
const firstAsked = 'keyKind';
/** Families less likely than this are not worth a line. */
const least = 0.02;
/** Most lines shown before it is clear. */
const most = 4;

/** Finds the system by what can be seen: one question at a time, the most telling first. What was answered can be taken back in any order. */
export function Identify({
  features,
  families,
  seen,
  put,
  choose,
  open = false,
}: {
  features: Feature[];
  families: Candidate[];
  seen: Record<string, string>;
  put: (seen: Record<string, string>) => void;
  choose: (family: string) => void;
  /** Shown open from the start, where finding out is what the page is for. */
  open?: boolean;
}) {
  const model = useMemo(() => modelOf(features, families), [features, families]);
  const now = identify(model, seen);
  // The key is in the hand, and its look tells much: it comes before the question that would tell a little more.
  const key = seen[firstAsked] === undefined ? features.find((f) => f.id === firstAsked) : undefined;
  const asked = key ?? (now.ask && features.find((f) => f.id === now.ask!.id));
  const answered = features.filter((f) => seen[f.id] !== undefined);
  const told = now.families[0]!.p > (1 + least) / families.length;
  const shown = !told ? [] : now.families.filter((f) => f.p >= least).slice(0, most);
  return (
    <details className={styles.identify} open={open || answered.length > 0 || undefined}>
      <summary>Find out which system it is</summary>
      <div className={styles.body}>
        {asked ? (
          <fieldset className={styles.question}>
            <legend>{asked.ask}</legend>
            <p className="quiet">{key ? 'Start with the key in your hand.' : now.ask!.why}</p>
            <div className={styles.answers}>
              {[...Object.entries(asked.values), [cantSee, 'Don’t know'] as const].map(([value, say]) => (
                <Button key={value} variant="outlined" onClick={() => put({ ...seen, [asked.id]: value })} sx={{ gap: 1.5 }}>
                  <AnswerDrawing question={asked.id} value={value} />
                  {say}
                </Button>
              ))}
            </div>
          </fieldset>
        ) : (
          now.state !== 'sure' && <p>Nothing is left to check. Choose what fits best; the tests will show if it is wrong.</p>
        )}
        {shown.length > 0 && (
          <div role="status">
            <p className={styles.state}>{words[now.state]}</p>
            <ol className={styles.families}>
              {shown.map((f, i) => (
                <li key={f.id}>
                  <span className="mono">{formatChance(f.p)}</span>
                  <span>{f.title}</span>
                  <Button
                    size="small"
                    variant={i === 0 && now.state === 'sure' ? 'contained' : 'text'}
                    onClick={() => choose(f.id)}
                    aria-label={`Use this one: ${f.title}`}
                  >
                    Use this one
                  </Button>
                </li>
              ))}
            </ol>
          </div>
        )}
        {answered.length > 0 && (
          <ul className={styles.seen} aria-label="Seen so far">
            {answered.map((f) => (
              <li key={f.id}>
                <span className="quiet">{f.ask}</span> {f.values[seen[f.id]!] ?? 'Can’t see'}
                <Button
                  size="small"
                  variant="text"
                  aria-label={`Undo: ${f.ask}`}
                  onClick={() => put(Object.fromEntries(Object.entries(seen).filter(([id]) => id !== f.id)))}
                >
                  Undo
                </Button>
              </li>
            ))}
          </ul>
        )}
      </div>
    </details>
  );
}
