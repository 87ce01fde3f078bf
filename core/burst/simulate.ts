import { generator } from '../units';

/** What the made-up vehicle of the simulated source has at its coil. */
export const simulatedConditions = ['foil', 'noKey', 'accepted', 'refused'] as const;
export type SimulatedCondition = (typeof simulatedConditions)[number];

/** Samples a second, and seconds of one simulated capture. */
export const [simulatedRateHz, simulatedLengthS] = [1_000_000, 1.2];

/** Number, length (ms) and spacing (ms) of the bursts, and whether an answer dips into them. Made up: no vehicle was measured for them. */
const patterns: Readonly<Record<SimulatedCondition, { count: number; lengthMs: number; spacingMs: number; dips: boolean }>> = {
  foil: { count: 7, lengthMs: 31, spacingMs: 118, dips: false },
  noKey: { count: 7, lengthMs: 31, spacingMs: 118, dips: false },
  accepted: { count: 1, lengthMs: 47, spacingMs: 0, dips: true },
  refused: { count: 4, lengthMs: 47, spacingMs: 160, dips: true },
};
/** A strange probe: volts of the carrier, of the noise, of the hum, and its frequencies. */
const [volts, noise, hum, carrierHz, humHz] = [0.42, 0.02, 0.03, 125_050, 60];
/** Bits of an answer are so long, ms, and take away so much. */
const [bitMs, depth] = [0.512, 0.35];
const root3 = Math.sqrt(3);
/** Samples of noise that are taken in their order. */
const block = 4096;

/** One whole round of a tone that comes back to the same sample after so many: looked up, since a capture has a million and more. */
const round = (hz: number, length: number) => Float32Array.from({ length }, (_, i) => Math.sin((2 * Math.PI * hz * i) / simulatedRateHz));

/**
 * The simulated source: gives its samples piece by piece, as a scope that streams does. Bursts move by some parts in a hundred from one seed to the next.
 * @param seed a whole number; the same one gives the same capture
 */
export function simulatedCapture(condition: SimulatedCondition, seed: number) {
  const next = generator(seed);
  const { count, lengthMs, spacingMs, dips } = patterns[condition];
  const about = (value: number) => value * (1 + 0.01 * (next() - 0.5));
  const firstMs = 60 + 40 * next();
  const bursts = Array.from({ length: count }, (_, i) => {
    const from = firstMs + i * about(spacingMs);
    return { from, to: from + about(lengthMs), bits: Array.from({ length: 64 }, () => next() < 0.5) };
  });
  const total = simulatedRateHz * simulatedLengthS;
  const [carrier, mains] = [round(carrierHz, 20_000), round(humHz, 50_000)];
  const late = Math.floor(carrier.length * next());
  // Noise: sums of four even draws, which have a variance of a third; a stretch of them, begun elsewhere in each block.
  const quiet = Float32Array.from({ length: 1 << 16 }, () => noise * root3 * (next() + next() + next() + next() - 2));
  let [i, at, from] = [0, 0, 0];
  return {
    /** The next samples, `most` of them at most; empty at the end. */
    read(most: number): Float32Array {
      const out = new Float32Array(Math.max(0, Math.min(most, total - i)));
      for (let j = 0; j < out.length; j += 1, i += 1) {
        const ms = (i / simulatedRateHz) * 1000;
        while (at < bursts.length && ms >= bursts[at]!.to) at += 1;
        const burst = bursts[at];
        if (i % block === 0) from = Math.floor(quiet.length * next());
        let v = hum * mains[i % mains.length]! + quiet[(from + i) % quiet.length]!;
        if (burst && ms >= burst.from) {
          // An answer begins a third into the burst.
          const bit = Math.floor((ms - burst.from - lengthMs / 3) / bitMs);
          const held = dips && bit >= 0 && burst.bits[bit % burst.bits.length] ? 1 - depth : 1;
          v += volts * held * carrier[(i + late) % carrier.length]!;
        }
        out[j] = v;
      }
      return out;
    },
    total,
  };
}
