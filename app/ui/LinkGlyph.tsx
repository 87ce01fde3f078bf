import type { LinkState } from '../../core/chain';

/** The word for each state, for those who don't see the shape. */
export const stateWords: Record<LinkState, string> = { unproven: 'not checked', holds: 'good', doubtful: 'not sure', broken: 'bad' };

/** The state of a link as a shape in ink: solid, dashed, a gap with a fleck, hollow. The same everywhere. */
export function LinkGlyph({ state, height = 16, className }: { state: LinkState; height?: number; className?: string | undefined }) {
  return (
    <svg className={className} viewBox="0 0 100 16" preserveAspectRatio="none" width="100%" height={height} aria-hidden="true" focusable="false">
      <Shape state={state} />
    </svg>
  );
}

/** A small square form of the same shapes, for keys and lines of the ledger. */
export function LinkDot({ state }: { state: LinkState }) {
  return (
    <svg viewBox="0 0 20 12" width="18" height="11" aria-hidden="true" focusable="false" style={{ flex: 'none' }}>
      {state === 'holds' && <rect width="20" height="12" fill="var(--ink)" />}
      {state === 'doubtful' && <path d="M0 0h5v12H0zM7.5 0h5v12h-5zM15 0h5v12h-5z" fill="var(--ink)" />}
      {state === 'unproven' && <rect x="0.75" y="0.75" width="18.5" height="10.5" fill="none" stroke="var(--quiet)" strokeWidth="1.5" />}
      {state === 'broken' && (
        <>
          <path d="M0 0h7v6H0zM13 6h7v6h-7z" fill="var(--ink)" />
          <path d="m8 4 4 1-1 4-3-1z" fill="var(--red)" />
        </>
      )}
    </svg>
  );
}

function Shape({ state }: { state: LinkState }) {
  switch (state) {
    case 'holds':
      return <rect width="100" height="16" fill="var(--ink)" />;
    case 'doubtful':
      return (
        <>
          {Array.from({ length: 8 }, (_, i) => (
            <rect key={i} x={3 + i * 12.1} width="8.5" height="16" fill="var(--ink)" />
          ))}
        </>
      );
    case 'unproven':
      return <rect x="1" y="1" width="98" height="14" fill="none" stroke="var(--quiet)" strokeWidth="1.5" vectorEffect="non-scaling-stroke" />;
    case 'broken':
      return (
        <>
          <path d="M0 0h40v9H0zM60 7h40v9H60z" fill="var(--ink)" />
          <path d="m45 4 8 2-2 7-7-2z" fill="var(--red)" />
        </>
      );
  }
}
