import { expectedLit, type LampReading } from '../../core/lamp';
import type { LaidLamp } from '../../core/library';
import type { Look } from './look';
import styles from './bench.module.css';

const height = 74;
const top = 26;
const bar = 36;
/** Ticks of the axis that leave room for their figures, seconds. */
const steps = [1, 2, 5, 10, 30, 60, 120];

/**
 * What was seen, along the time; over it, as outlines, when the recognised pattern is lit. Nothing in it moves by itself.
 * @param fit how the pattern fits best: it is drawn so much later and slower
 */
export function TimeLine({
  look,
  pattern,
  fit,
  leastS = 6,
}: {
  look: Pick<Look, 'lit' | 'lengthS'>;
  pattern?: LaidLamp | undefined;
  fit?: LampReading['fit'] | undefined;
  leastS?: number;
}) {
  const span = Math.max(look.lengthS, leastS);
  const width = 1000;
  const x = (s: number) => (s / span) * width;
  const step = steps.find((s) => span / s <= 12) ?? 120;
  const ticks = Array.from({ length: Math.floor(span / step) + 1 }, (_, i) => i * step);
  const outlines = pattern?.segments
    ? expectedLit(pattern, look.lengthS, fit?.tempo).map((l) => ({
        from: Math.min(l.onS + (fit?.lateS ?? 0), look.lengthS),
        to: Math.min(l.offS + (fit?.lateS ?? 0), look.lengthS),
      }))
    : [];
  const lights = look.lit.length;
  return (
    <figure className={styles.timeLine}>
      <svg
        viewBox={`0 0 ${width} ${height}`}
        role="img"
        aria-label={`Timeline of ${look.lengthS.toFixed(1)} s with ${lights} ${lights === 1 ? 'light' : 'lights'}${pattern ? `, the pattern “${pattern.title}” over it` : ''}`}
        preserveAspectRatio="none"
      >
        <rect x="0" y={top + bar} width={x(look.lengthS)} height="2" fill="var(--ink)" />
        <rect x={x(look.lengthS)} y={top + bar} width={width - x(look.lengthS)} height="2" fill="var(--line)" />
        {look.lit.map(([on, off], i) => (
          <rect key={i} x={x(on)} width={Math.max(x(off) - x(on), 2)} y={top} height={bar} fill="var(--lamp)" />
        ))}
        {outlines.map(({ from, to }) => (
          <path
            key={from}
            d={`M${x(from)} ${top + bar}V${top - 8}H${x(to)}V${top + bar}`}
            fill="none"
            stroke="var(--ink)"
            strokeWidth="2"
            vectorEffect="non-scaling-stroke"
          />
        ))}
        {ticks.map((s) => (
          <path key={s} d={`M${x(s)} ${top + bar + 2}v7`} stroke="var(--quiet)" vectorEffect="non-scaling-stroke" />
        ))}
      </svg>
      <div className={styles.ticks} aria-hidden="true">
        {ticks.map((s) => (
          <span key={s} className="mono" style={{ left: `${(s / span) * 100}%` }}>
            {s}
            {s === ticks.at(-1) ? ' s' : ''}
          </span>
        ))}
      </div>
    </figure>
  );
}
