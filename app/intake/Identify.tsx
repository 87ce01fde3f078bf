import Button from '@mui/material/Button';
import { useMemo } from 'react';
import { type Candidate, cantSee, identify, type Identification, modelOf } from '../../core/identify';
import type { Feature } from '../../core/library';
import styles from './Identify.module.css';

const words: Record<Identification['state'], string> = {
  sure: 'This is it, by all that was seen.',
  confirm: 'Likely, but one answer alone carries it. One more look confirms it.',
  pair: 'Two are left.',
  open: 'Several are still possible.',
};
/** Families less likely than this are not worth a line. */
const least = 0.02;
/** Most lines shown before it is clear. */
const most = 4;
const percent = (p: number) => (p > 0.995 ? 'over 99 %' : `${Math.round(p * 100)} %`);

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
  const asked = now.ask && features.find((f) => f.id === now.ask!.id);
  const answered = features.filter((f) => seen[f.id] !== undefined);
  const told = now.families[0]!.p > (1 + least) / families.length;
  const shown = !told ? [] : now.families.filter((f) => f.p >= least).slice(0, most);
  return (
    <details className={styles.identify} open={open || answered.length > 0 || undefined}>
      <summary>Find out which system it is</summary>
      <div className={styles.body}>
        {asked ? (
          <fieldset className={styles.question}>
            <legend>{now.ask!.question}</legend>
            <p className="quiet">{now.ask!.why}</p>
            <div className={styles.answers}>
              {[...Object.entries(asked.values), [cantSee, 'Can’t see, don’t know'] as const].map(([value, say]) => (
                <Button key={value} variant="outlined" onClick={() => put({ ...seen, [asked.id]: value })}>
                  {say}
                </Button>
              ))}
            </div>
          </fieldset>
        ) : (
          now.state !== 'sure' && <p>Nothing is left to look at. Choose what fits best; the tests will tell when it was wrong.</p>
        )}
        {shown.length > 0 && (
          <div role="status">
            <p className={styles.state}>{words[now.state]}</p>
            <ol className={styles.families}>
              {shown.map((f, i) => (
                <li key={f.id}>
                  <span className="mono">{percent(f.p)}</span>
                  <span>{f.title}</span>
                  <Button
                    size="small"
                    variant={i === 0 && now.state === 'sure' ? 'contained' : 'text'}
                    onClick={() => choose(f.id)}
                    aria-label={`Use it: ${f.title}`}
                  >
                    Use it
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
                  aria-label={`Take back: ${f.ask}`}
                  onClick={() => put(Object.fromEntries(Object.entries(seen).filter(([id]) => id !== f.id)))}
                >
                  Take back
                </Button>
              </li>
            ))}
          </ul>
        )}
      </div>
    </details>
  );
}
