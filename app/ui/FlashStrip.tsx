import type { LampSpan } from '../../core/library';

/** When a light is lit, along the time: high where it is lit, low where it is out. Nothing in it moves. */
export function FlashStrip({ spans, className }: { spans: readonly LampSpan[]; className?: string | undefined }) {
  const length = spans.reduce((sum, s) => sum + s.seconds, 0);
  return (
    <svg className={className} viewBox={`0 0 ${length} 1`} preserveAspectRatio="none" aria-hidden="true" focusable="false">
      {spans.map((s, i) => (
        <rect
          key={i}
          x={spans.slice(0, i).reduce((sum, e) => sum + e.seconds, 0)}
          width={s.seconds}
          y={s.lit ? 0 : 0.82}
          height={s.lit ? 1 : 0.18}
          fill={s.lit ? 'var(--lamp)' : 'var(--lamp-off)'}
        />
      ))}
    </svg>
  );
}
