import type { Combination } from '../../../core/ladder';
import { formatOhms, inWords } from '../../../core/ladder';

const text = { fill: 'var(--ink)', fontFamily: 'JetBrains Mono', fontSize: 13, textAnchor: 'middle' as const };

/** A resistor lying on a wire from x to x + 96, with its value over it. */
function Part({ x, y, ohms }: { x: number; y: number; ohms: number }) {
  return (
    <g>
      <path d={`M${x} ${y}h18M${x + 78} ${y}h18`} stroke="var(--ink)" strokeWidth="2" fill="none" />
      <rect x={x + 18} y={y - 9} width="60" height="18" rx="2" fill="var(--surface)" stroke="var(--ink)" strokeWidth="2" />
      <text x={x + 48} y={y - 14} {...text}>
        {formatOhms(ohms)}
      </text>
    </g>
  );
}
const wire = (d: string) => <path d={d} stroke="var(--ink)" strokeWidth="2" fill="none" />;

/** How the resistors are joined, drawn between the two terminals of the plug. */
export function Schematic({ combination: { shape, resistors } }: { combination: Pick<Combination, 'shape' | 'resistors'> }) {
  const [a = 0, b = 0, c = 0] = resistors.map((r) => r.ohms);
  const rows = shape === 'parallel3' ? 3 : ['parallel', 'pairAcross', 'pairInLine'].includes(shape) ? 2 : 1;
  const columns = shape === 'series3' ? 3 : ['series', 'pairAcross', 'pairInLine'].includes(shape) ? 2 : 1;
  const width = 60 + columns * 96;
  const height = 30 + rows * 52;
  const y = (row: number) => 46 + row * 52;
  const middle = rows === 1 ? y(0) : (y(0) + y(rows - 1)) / 2;
  const [left, right] = [30, width - 30];
  const bus = (x: number) => wire(`M${x} ${y(0)}V${y(rows - 1)}`);
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      width={width}
      height={height}
      role="img"
      aria-label={`Resistors: ${inWords({ shape, resistors })}`}
      style={{ maxWidth: '100%' }}
    >
      <circle cx="12" cy={middle} r="5" fill="none" stroke="var(--ink)" strokeWidth="2" />
      <circle cx={width - 12} cy={middle} r="5" fill="none" stroke="var(--ink)" strokeWidth="2" />
      {wire(`M17 ${middle}H${left}M${right} ${middle}H${width - 17}`)}
      {(shape === 'one' || shape === 'series' || shape === 'series3') &&
        resistors.map((r, i) => <Part key={i} x={left + i * 96} y={middle} ohms={r.ohms} />)}
      {(shape === 'parallel' || shape === 'parallel3') && (
        <>
          {bus(left)}
          {bus(right)}
          {resistors.map((r, i) => (
            <Part key={i} x={left} y={y(i)} ohms={r.ohms} />
          ))}
        </>
      )}
      {shape === 'pairAcross' && (
        <>
          <Part x={left} y={middle} ohms={c} />
          {bus(left + 96)}
          {bus(right)}
          <Part x={left + 96} y={y(0)} ohms={a} />
          <Part x={left + 96} y={y(1)} ohms={b} />
        </>
      )}
      {shape === 'pairInLine' && (
        <>
          {bus(left)}
          {bus(right)}
          <Part x={left} y={y(0)} ohms={a} />
          <Part x={left + 96} y={y(0)} ohms={b} />
          {wire(`M${left} ${y(1)}H${left + 48}M${left + 144} ${y(1)}H${right}`)}
          <Part x={left + 48} y={y(1)} ohms={c} />
        </>
      )}
    </svg>
  );
}
