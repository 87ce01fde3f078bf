import styles from './Strokes.module.css';

/** Decibans of one stroke. */
const perStroke = 2;
const most = 12;

/** A weight of evidence as strokes: to the right of the hairline for, to the left against. What one stroke is worth stands in docs/diagnosis.md. */
export function Strokes({ decibans }: { decibans: number }) {
  const n = Math.round(Math.abs(decibans) / perStroke);
  const drawn = Math.min(n, most);
  const side = decibans < 0 ? -1 : 1;
  if (n === 0) return null;
  const words = `${n} ${n === 1 ? 'stroke' : 'strokes'} ${decibans > 0 ? 'for' : 'against'}`;
  return (
    <span className={styles.strokes}>
      <svg viewBox="-52 0 104 14" width="104" height="14" aria-hidden="true" focusable="false">
        <path d="M0 0v14" stroke="var(--line)" strokeWidth="1" />
        {Array.from({ length: drawn }, (_, i) => (
          <path key={i} d={`M${side * (4 + i * 4)} 1v12`} stroke="var(--ink)" strokeWidth="2" />
        ))}
      </svg>
      <span className={styles.number}>{n > most ? `${n} strokes` : ''}</span>
      <span className="hidden">{words}</span>
    </span>
  );
}
