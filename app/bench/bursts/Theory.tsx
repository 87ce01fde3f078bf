import type { Theory as Told } from '../../../core/burst';
import styles from './bursts.module.css';

const [width, height, left, bottom] = [260, 120, 24, 22];

/** The theory about stored keys, marked unproven, with this shop's captures for and against it. */
export function Theory({ theory: { forIt, against, points } }: { theory: Told }) {
  const most = Math.max(4, ...points.map((p) => p.count));
  const keys = Math.max(4, ...points.map((p) => p.storedKeys));
  const x = (k: number) => left + ((width - left - 10) * k) / keys;
  const y = (c: number) => height - bottom - ((height - bottom - 10) * c) / most;
  return (
    <details className={styles.theory}>
      <summary>Does the number of bursts depend on the stored keys? Unproven</summary>
      <p>
        {forIt + against === 0
          ? 'This shop has no vehicle yet that was captured with different numbers of stored keys.'
          : `This shop’s vehicles with different numbers of stored keys: ${forIt} for it, ${against} against.`}
      </p>
      {points.length > 0 && (
        <svg
          viewBox={`0 0 ${width} ${height}`}
          role="img"
          aria-label={points.map((p) => `${p.storedKeys} stored keys, ${p.count} bursts: ${p.times} times`).join('; ')}
        >
          <path d={`M${left} 6V${height - bottom}H${width - 4}`} fill="none" stroke="var(--quiet)" />
          {points.map((p) => (
            <circle
              key={`${p.storedKeys} ${p.count}`}
              cx={x(p.storedKeys)}
              cy={y(p.count)}
              r={3 + Math.min(6, Math.sqrt(p.times))}
              fill="var(--ink)"
            />
          ))}
          <text x={width - 4} y={height - 6} textAnchor="end" fontSize="12" fill="var(--quiet)">
            stored keys, up to {keys}
          </text>
          <text x="0" y="12" fontSize="12" fill="var(--quiet)">
            {most}
          </text>
          <text x="0" y={height - bottom} fontSize="12" fill="var(--quiet)">
            0
          </text>
        </svg>
      )}
      <p className="quiet">
        Bursts against stored keys, each capture a dot, larger where there are several. Until it is proven, only captures with the same number of
        stored keys are compared.
      </p>
    </details>
  );
}
