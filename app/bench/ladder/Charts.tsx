import { Line, LineChart, ReferenceArea, ReferenceLine, ResponsiveContainer, Scatter, ScatterChart, XAxis, YAxis } from 'recharts';
import { formatOhms, type LadderStep, type SentReading } from '../../../core/ladder';
import { drawnStretches, thinned } from './thinned';

const tick = { fill: 'var(--quiet)', fontSize: 13, fontFamily: 'JetBrains Mono' };
const label = (value: string, strong: boolean) => ({
  value,
  position: 'right' as const,
  fill: strong ? 'var(--ink)' : 'var(--quiet)',
  fontFamily: 'Barlow Condensed',
  fontSize: 15,
  fontWeight: 600,
});

/** The ladder on a log axis, its windows and gaps, and the readings in their order; or the window of one step close up, where a drift is seen. */
export function LadderChart({
  steps,
  marked,
  readings,
  near,
}: {
  steps: readonly LadderStep[];
  marked: number | null;
  readings: readonly number[];
  near: LadderStep | null;
}) {
  const finite = readings.filter((r) => Number.isFinite(r) && r > 0);
  const [lowest, highest] = [steps[0]!.low, steps.at(-1)!.high];
  const shown = near ? [near] : steps;
  const room = near ? (near.high - near.low) * 0.35 : 0;
  const from = near ? Math.min(near.low, ...finite) - room : Math.min(lowest, ...finite.filter((r) => r > lowest / 20)) * 0.92;
  const to = near ? Math.max(near.high, ...finite) + room : Math.max(highest, ...finite.filter((r) => r < highest * 20)) * 1.08;
  // So many figures fit beside the axis.
  const every = Math.ceil(shown.length / 16);
  const ticks = near ? [near.low, near.nominal, near.high] : steps.filter((_s, i) => i % every === 0).map((s) => s.nominal);
  const points = readings.flatMap((r, i) => (Number.isFinite(r) && r >= from && r <= to ? [{ n: i + 1, ohms: r }] : []));
  const length = Math.max(readings.length, 6);
  return (
    <ResponsiveContainer width="100%" height="100%">
      <ScatterChart margin={{ top: 12, right: 66, bottom: 12, left: 14 }} accessibilityLayer={false}>
        <XAxis type="number" dataKey="n" domain={[0, length + 1]} hide />
        <YAxis
          type="number"
          dataKey="ohms"
          scale={near ? 'linear' : 'log'}
          domain={[from, to]}
          ticks={ticks}
          tickFormatter={formatOhms}
          tick={tick}
          tickLine={false}
          axisLine={false}
          width={84}
          allowDataOverflow
          interval={0}
        />
        {shown.map((s, i) => (
          <ReferenceArea
            key={s.step}
            x1={0}
            x2={length + 1}
            y1={s.low}
            y2={s.high}
            fill={s.step === marked ? 'var(--raised)' : 'var(--surface)'}
            stroke={s.step === marked ? 'var(--green)' : 'var(--line)'}
            strokeWidth={s.step === marked ? 2 : 1}
            fillOpacity={1}
            ifOverflow="hidden"
            {...(near || i % every === 0 || s.step === marked ? { label: label(`value ${s.step}`, s.step === marked) } : {})}
          />
        ))}
        {shown.map((s) => (
          <ReferenceLine key={s.step} y={s.nominal} stroke="var(--line)" strokeDasharray="4 3" ifOverflow="hidden" />
        ))}
        {/* Without a point nothing at all is drawn. */}
        <Scatter data={[{ n: 0, ohms: shown[0]!.nominal }]} fill="none" isAnimationActive={false} />
        <Scatter data={points} fill="var(--ink)" isAnimationActive={false} shape="circle" />
      </ScatterChart>
    </ResponsiveContainer>
  );
}

/** A capture over the time: the value, where it broke, and the marks. What is drawn is bounded, however long it is. */
export function WiggleChart({
  samples,
  marks,
  rest,
  breaks,
}: {
  samples: readonly [number, SentReading][];
  marks: readonly [number, string][];
  rest: number | null;
  breaks: readonly { fromS: number; toS: number }[];
}) {
  const data = thinned(samples).map(([s, ohms]) => ({ s, ohms }));
  const lengthS = Math.max(10, samples.at(-1)?.[0] ?? 0);
  const values = samples.flatMap(([, ohms]) => (ohms === null ? [] : [ohms]));
  const sorted = [...values].sort((a, b) => a - b);
  const [low, high] = [sorted[0] ?? 0, sorted[Math.floor(sorted.length * 0.98)] ?? 1];
  const centre = rest ?? (low + high) / 2;
  const room = Math.max(high - centre, centre - low, centre * 0.02) * 1.3;
  return (
    <ResponsiveContainer width="100%" height="100%">
      <LineChart data={data} margin={{ top: 26, right: 16, bottom: 4, left: 14 }} accessibilityLayer={false}>
        <XAxis dataKey="s" type="number" domain={[0, lengthS]} tick={tick} tickFormatter={(s: number) => `${Math.round(s)} s`} stroke="var(--line)" />
        <YAxis
          domain={[Math.max(0, centre - room), centre + room]}
          tick={tick}
          tickFormatter={formatOhms}
          width={84}
          tickLine={false}
          axisLine={false}
          allowDataOverflow
        />
        {drawnStretches(breaks, lengthS).map(({ fromS, toS }) =>
          toS - fromS < lengthS / 300 ? (
            <ReferenceLine key={`o${fromS}`} x={(fromS + toS) / 2} stroke="var(--red)" strokeWidth={2} />
          ) : (
            <ReferenceArea key={`o${fromS}`} x1={fromS} x2={toS} fill="var(--red)" fillOpacity={0.35} stroke="none" />
          ),
        )}
        {marks.map(([s, say], i) => (
          <ReferenceLine
            key={`${s} ${i}`}
            x={s}
            stroke="var(--quiet)"
            strokeDasharray="3 3"
            label={{ value: say, position: 'top', fill: 'var(--ink)', fontSize: 13 }}
          />
        ))}
        <Line dataKey="ohms" stroke="var(--ink)" strokeWidth={1.5} dot={false} isAnimationActive={false} connectNulls={false} />
      </LineChart>
    </ResponsiveContainer>
  );
}
