import { formatUncertain, formatOhms, type Wiring } from '../../../core/ladder';
import styles from './ladder.module.css';
import { groupsOf, type Sheet } from './sheet';

/** Two values side by side, and between them what contacts and wires add: drawn as the way of the current. */
export function ColumnPicture({ sheet, found, allowed }: { sheet: Sheet; found: Wiring | null; allowed: number | undefined }) {
  const own = groupsOf(sheet).flatMap((g) => g.readings);
  const value = (m: { n: number; mean: number; u: number } | undefined, n: number) =>
    m && m.n > 0 ? formatUncertain(m.mean, m.u) : n > 0 ? 'keep reading' : 'not read yet';
  const middle = found?.series
    ? `+${formatOhms(found.series.ohms)} in series`
    : found?.parallel
      ? `${formatOhms(found.parallel.ohms)} leakage`
      : found
        ? verdictWords[found.verdict]
        : '';
  return (
    <div className={styles.column}>
      <svg viewBox="0 0 560 150" role="img" aria-label={`Key, contacts and wiring. ${found ? found.text : 'Not compared yet.'}`}>
        <g fill="none" stroke="var(--ink)" strokeWidth="2">
          <rect x="30" y="45" width="60" height="26" rx="3" fill="var(--surface)" />
          <path d="M60 45V25H250M60 71V111H250" />
          <path d="M310 25H500V58M310 111H500V78" />
          <rect x="480" y="58" width="40" height="20" rx="3" fill="var(--surface)" />
          {found?.verdict === 'open' || found?.verdict === 'jumping' ? (
            <path d="M250 25l26 -12M310 25H284" />
          ) : found?.series ? (
            <>
              <path d="M250 25H262M298 25H310" />
              <rect x="262" y="16" width="36" height="18" rx="2" fill="var(--surface)" stroke="var(--red)" />
            </>
          ) : (
            <path d="M250 25H310" />
          )}
          <path d="M250 111H310" />
          {(found?.parallel || found?.verdict === 'short') && (
            <>
              <path d="M280 25V52M280 86V111" stroke="var(--red)" strokeDasharray="4 3" />
              <rect x="270" y="52" width="20" height="34" rx="2" fill="var(--surface)" stroke="var(--red)" />
            </>
          )}
        </g>
        <g fill="var(--ink)" fontFamily="Barlow Condensed" fontSize="17" fontWeight="600" textAnchor="middle">
          <text x="60" y="138">
            key
          </text>
          <text x="280" y="138">
            contacts and wires
          </text>
          <text x="500" y="138">
            connector
          </text>
        </g>
      </svg>
      <dl>
        <div>
          <dt>The key alone</dt>
          <dd className="mono">{value(found?.key, own.length)}</dd>
        </div>
        <div>
          <dt>Between</dt>
          <dd className="mono">{middle || '—'}</dd>
        </div>
        <div>
          <dt>At the steering-column connector</dt>
          <dd className="mono">{value(found?.column, sheet.column.length)}</dd>
        </div>
      </dl>
      {allowed !== undefined && <p className="quiet">Good contacts and wires add at most {formatOhms(allowed)} on this vehicle.</p>}
    </div>
  );
}
const verdictWords = { equal: 'equal', series: '', parallel: '', open: 'open', short: 'shorted', jumping: 'jumping', unclear: 'not clear' } as const;

export function ColumnVerdict({ sheet, found }: { sheet: Sheet; found: Wiring | null }) {
  const own = groupsOf(sheet).length > 0;
  if (!found)
    return (
      <>
        <h2>{own ? 'Now at the steering-column connector' : 'Measure the key alone first'}</h2>
        <p className="quiet">
          {own
            ? 'Unplug the module, put the key in, and measure at the steering-column connector, lock side: five readings, nothing moved.'
            : 'Measure it on the first tab, with the same meter and leads.'}
        </p>
      </>
    );
  return (
    <>
      <h2>{headWords[found.verdict]}</h2>
      <p className={styles.said}>{found.text}</p>
      {found.verdict === 'equal' && <p className="quiet">Equal at rest doesn’t clear a wire that breaks where it bends: see the next tab.</p>}
    </>
  );
}
const headWords = {
  equal: 'Equal.',
  series: 'Added series resistance.',
  parallel: 'Leakage.',
  open: 'Open.',
  short: 'Shorted.',
  jumping: 'Intermittent.',
  unclear: 'Not clear yet.',
} as const;
