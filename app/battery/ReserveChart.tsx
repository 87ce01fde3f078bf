import { Area, ComposedChart, Line, ReferenceLine, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import type { course } from '../../core/reserve';

const tick = { fill: 'var(--quiet)', fontSize: 13, fontFamily: 'JetBrains Mono' };

/** Volts under load over the minutes: the middle as a line, what nine of ten such batteries lie between as a band, and the limit. */
export default function ReserveChart({ points, limitVolts }: { points: ReturnType<typeof course>; limitVolts: number }) {
  const data = points.map(({ minute, low, middle, high }) => ({ minute, middle, band: [low, high] }));
  const volts = points.flatMap((p) => [p.low, p.high]);
  const from = Math.floor(Math.max(Math.min(limitVolts - 0.2, ...volts), limitVolts - 1.5) * 5) / 5;
  const to = Math.ceil(Math.max(limitVolts + 0.2, ...volts) * 5) / 5;
  return (
    <ResponsiveContainer width="100%" height="100%">
      <ComposedChart data={data} margin={{ top: 16, right: 40, bottom: 4, left: 4 }} accessibilityLayer={false}>
        <XAxis
          dataKey="minute"
          type="number"
          domain={[0, points.at(-1)!.minute]}
          tick={tick}
          tickFormatter={(m: number) => `${Math.round(m)} min`}
          stroke="var(--line)"
        />
        <YAxis
          domain={[from, to]}
          tick={tick}
          tickFormatter={(v: number) => `${v.toFixed(1)} V`}
          width={72}
          tickLine={false}
          axisLine={false}
          allowDataOverflow
        />
        <Area dataKey="band" stroke="none" fill="var(--steel)" fillOpacity={0.3} isAnimationActive={false} />
        <Line dataKey="middle" stroke="var(--ink)" strokeWidth={2} dot={false} isAnimationActive={false} />
        <ReferenceLine
          y={limitVolts}
          stroke="var(--red)"
          strokeWidth={2}
          label={{ value: `limit ${limitVolts} V`, position: 'insideBottomLeft', fill: 'var(--ink)', fontSize: 14 }}
        />
      </ComposedChart>
    </ResponsiveContainer>
  );
}
