import { generator } from '../units';
import { type Capture, Samples } from './capture';

export interface Synthetic {
  rateHz?: number;
  lengthS?: number;
  carrierHz?: number;
  amplitude?: number;
  /** Signal to noise of a sample inside a burst, dB: power of the carrier over that of the noise; left out: no noise. */
  snrDb?: number;
  /** Start and length of each burst, s. */
  bursts?: [number, number][];
  /** Drift of the floor, V peak, and its frequency, Hz. */
  hum?: [number, number];
  /** Beyond this the scope shows no more, V. */
  clip?: number;
  /** Dips inside each burst: from its start, length, and how deep (1: to nothing), s. */
  dips?: [number, number, number][];
  seed?: number;
}

/** Volts of a capture that is made up, from seeded noise (G. E. P. Box, M. E. Muller 1958). */
export function volts(s: Synthetic): Float64Array {
  const { rateHz = 1e6, lengthS = 0.1, carrierHz = 125_000, amplitude = 1, bursts = [], dips = [], seed = 1 } = s;
  const next = generator(seed);
  const sigma = s.snrDb === undefined ? 0 : amplitude / Math.SQRT2 / 10 ** (s.snrDb / 20);
  const phase = 2 * Math.PI * next();
  return Float64Array.from({ length: Math.round(rateHz * lengthS) }, (_, i) => {
    const t = i / rateHz;
    const burst = bursts.find(([from, length]) => t >= from && t < from + length);
    let x = 0;
    if (burst) {
      const dip = dips.find(([from, length]) => t - burst[0] >= from && t - burst[0] < from + length);
      x = amplitude * (1 - (dip?.[2] ?? 0)) * Math.cos(2 * Math.PI * carrierHz * t + phase);
    }
    if (sigma > 0) x += sigma * Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next());
    if (s.hum) x += s.hum[0] * Math.sin(2 * Math.PI * s.hum[1] * t + 1);
    return s.clip === undefined ? x : Math.max(-s.clip, Math.min(s.clip, x));
  });
}

export const synthetic = (s: Synthetic): Capture => ({ samples: Samples.of(volts(s)), sampleRateHz: s.rateHz ?? 1e6, startS: 0, notes: [] });
