import type { LaidLamp } from '../core/library';
import { expectedLit, type Recording } from '../core/lamp';

/**
 * A person who taps along with a lamp, held while it is lit. The noise is not the reader's: a delay of 0.15 to 0.35 s that drifts, jitter of 0.05 to
 * 0.12 s from Student's t with four degrees of freedom (heavy tails), 3 % of the flashes missed, 3 % tapped twice, a lamp whose tempo is 3 % off at
 * most and drifts.
 */
export function tapAlong(pattern: LaidLamp, lengthS: number, random: () => number): Recording {
  const normal = () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
  const student = () => normal() / Math.sqrt((normal() ** 2 + normal() ** 2 + normal() ** 2 + normal() ** 2) / 4);
  const between = (low: number, high: number) => low + (high - low) * random();
  const [delay, drift, jitter, tempo, tempoDrift] = [
    between(0.15, 0.35),
    between(-0.06, 0.06),
    between(0.05, 0.12),
    between(0.97, 1.03),
    between(-0.01, 0.01),
  ];
  const late = (at: number) => at * (1 + (tempoDrift * at) / lengthS) + delay + (drift * at) / lengthS + (jitter / Math.SQRT2) * student();
  const taps: { onS: number; offS: number }[] = [];
  const shortest = 0.04;
  for (const { onS, offS } of expectedLit(pattern, lengthS, tempo)) {
    if (random() < 0.03) continue;
    const on = Math.max(late(onS), (taps.at(-1)?.offS ?? -1) + 0.02, 0);
    const off = offS >= lengthS ? Infinity : Math.max(late(offS), on + shortest);
    if (on >= lengthS) continue;
    if (random() < 0.03) {
      const middle = on + (Math.min(off, lengthS) - on) * between(0.3, 0.7);
      taps.push({ onS: on, offS: Math.max(middle - 0.05, on + 0.02) }, { onS: middle + 0.05, offS: Math.max(off, middle + 0.07) });
    } else taps.push({ onS: on, offS: off });
  }
  const litAtEnd = (taps.at(-1)?.offS ?? 0) >= lengthS;
  return { lengthS, litAtEnd, lit: taps.filter((t) => t.onS < lengthS).map((t) => ({ onS: t.onS, offS: Math.min(t.offS, lengthS) })) };
}
