import { failed, ok, type Result } from '../units';
import type { Capture } from './capture';
import { coarseCarrier, Demodulator, Drift } from './demodulate';
import type { Kernel } from './kernel';
import { plainKernel } from './plainKernel';
import { sentences } from './sentences';

/** One time in which the coil asks. */
export interface Burst {
  /** From the beginning of the capture, s. */
  startS: number;
  durationS: number;
  /** Of the carrier, V. */
  amplitude: number;
  carrierHz: number;
  /** Standard uncertainty of the carrier, Hz; null where the burst is too short for one. */
  carrierUncertaintyHz: number | null;
  /** Dips of the amplitude inside it: an answer may be there. Null where noise could make as many. */
  notches: number | null;
  /** How deep the deepest is, 0 to 1. */
  depth: number | null;
}

/** What limits a measurement. */
export const limits = ['clipped', 'undersampled', 'hum', 'startsInside', 'endsInside', 'gaps', 'weak'] as const;
export type Limit = (typeof limits)[number];

export interface Measured {
  samples: number;
  sampleRateHz: number;
  lengthS: number;
  /** Noise beside the bursts, V rms. */
  noise: number;
  /** The mean over the bursts, by their certainty; null without one. */
  carrierHz: number | null;
  bursts: Burst[];
  /** Whether the count can be trusted: `notMeasurable` where something is there and too near to the noise to be counted. */
  quality: 'good' | 'limited' | 'nothing' | 'notMeasurable';
  limits: Limit[];
}

/** Shortest capture that is measured, s. */
const shortestS = 0.01;
/** A mean of the drift is taken over so long, s: many periods of a carrier, little of a period of the mains. */
const driftS = 0.25e-3;
/** Above so many times the noise of the envelope a burst may begin; of a million values of noise alone one in a hundred runs has one (Rayleigh: exp(-36/2) each). */
const beginsAt = 6;
/** It goes on above so many times. */
const goesOnAt = 4;
/** A burst stands so many times above the noise; between this and `beginsAt` a count would be a guess. Our own choice, tested at 10 dB and below. */
const countsFrom = 9;
/** One stretch that is too weak or too short may be noise; so many are something. */
const weakFrom = 3;
/** Means over so long tell a carrier from noise long before a single one does, s; and how many times the noise's power they are then. Noise alone is 13 standard deviations below it. */
const [loudS, loudFrom] = [1e-3, 3];
/** Fewer samples to a period show its height badly. */
const fewestPerPeriod = 3.5;
/** Pauses up to this are dips inside a burst, s. */
const dipS = 2e-3;
/** A dip goes below this share of the amplitude. */
const dipShare = 0.75;

/** The envelope's noise from a low quantile, where bursts are not: for Rayleigh's distribution a tenth of the values are below 0.459 of its scale. */
const [quietShare, quietScale] = [0.1, Math.sqrt(-2 * Math.log(0.9))];

interface Region {
  /** Middles of the first and last mean above the limit, samples. */
  from: number;
  to: number;
  peak: number;
}

/** Bursts of a capture: where they are, how strong, and at which frequency. The method and its errors are in docs/burst.md. */
export function measure(capture: Capture, kernel: Kernel = plainKernel()): Result<Measured> {
  const { samples, sampleRateHz, notes } = capture;
  const lengthS = samples.length / sampleRateHz;
  if (lengthS < shortestS) return failed({ code: 'tooShort', path: '', message: sentences.tooShort });
  const drift = new Drift(samples, Math.max(16, Math.round(driftS * sampleRateHz)));
  const coarse = coarseCarrier(samples, sampleRateHz, drift);
  const demodulator = new Demodulator(samples, drift, sampleRateHz, coarse, kernel);
  const scale = noiseOf(demodulator);
  const noise = scale * Math.sqrt(demodulator.length / 2);
  const { regions, weak, loud } = regionsOf(demodulator, scale, Math.round(dipS * sampleRateHz));
  const bursts = measureEach(demodulator, regions, scale);
  // A stretch of these is as long as a mean on either side.
  const margin = (2 * demodulator.length) / sampleRateHz;
  const isBurst = ([begin, end]: [number, number]) =>
    bursts.some((b) => b.startS - margin <= end / sampleRateHz && b.startS + b.durationS + margin >= begin / sampleRateHz);
  const loudElsewhere = !loud.every(isBurst);
  const quality: Limit[] = [];
  const strongest = Math.max(0, ...bursts.map((b) => b.amplitude));
  if (isClipped(capture, regions)) quality.push('clipped');
  if (bursts.length > 0 && sampleRateHz < fewestPerPeriod * coarse) quality.push('undersampled');
  if (strongest > 0 && drift.rms() > strongest / 2) quality.push('hum');
  if (regions[0] && regions[0].from <= 2 * demodulator.length) quality.push('startsInside');
  if (regions.length > 0 && regions.at(-1)!.to >= samples.length - 2 * demodulator.length) quality.push('endsInside');
  if (notes.some((n) => n.kind === 'gap')) quality.push('gaps');
  const unsure = (weak >= weakFrom || loudElsewhere) && bursts.every((b) => b.amplitude < 2 * countsFrom * scale);
  if (unsure) quality.push('weak');
  return ok({
    samples: samples.length,
    sampleRateHz,
    lengthS,
    noise,
    carrierHz: unsure ? null : meanCarrier(bursts),
    bursts: unsure ? [] : bursts,
    quality: unsure ? 'notMeasurable' : bursts.length === 0 ? 'nothing' : quality.length > 0 ? 'limited' : 'good',
    limits: quality,
  });
}

/** Scale of the envelope's noise, V: from a histogram of its logarithms, so that a capture of any length takes the same room. */
function noiseOf(demodulator: Demodulator): number {
  const [perDecade, lowest, highest] = [400, -9, 4];
  const counts = new Uint32Array(perDecade * (highest - lowest) + 1);
  /** Of a power: half as many as of a height. */
  const perNatural = perDecade / Math.log(10) / 2;
  // Neighbors say the same.
  const step = Math.ceil(demodulator.length / 2);
  let next = step - 1;
  demodulator.scanPowers((powers) => {
    let i = next;
    for (; i < powers.length; i += step) {
      const place = Math.log(Math.max(1e-18, powers[i]!)) * perNatural - lowest * perDecade;
      counts[Math.max(0, Math.min(counts.length - 1, Math.round(place)))]! += 1;
    }
    next = i - powers.length;
  });
  const all = counts.reduce((a, b) => a + b, 0);
  let seen = 0;
  const at = counts.findIndex((n) => (seen += n) >= quietShare * all);
  return 10 ** (at / perDecade + lowest) / quietScale;
}

/**
 * Stretches above the noise, those with short pauses between them together; how many were too weak or too short to be bursts; and where the carrier
 * comes, strong enough to be counted or not.
 */
function regionsOf(demodulator: Demodulator, scale: number, dip: number): { regions: Region[]; weak: number; loud: [number, number][] } {
  const found: Region[] = [];
  const loud = loudStretches(demodulator, scale);
  // In squares, so that no root is taken of each of millions.
  const [begins, goesOn] = [(beginsAt * scale) ** 2, (goesOnAt * scale) ** 2];
  let [from, peak, last] = [-1, 0, 0];
  demodulator.scanPowers((powers, first) => {
    // What is kept from stretch to stretch is slow to reach; here it is local, and put back at the end.
    let [begin, highest, until] = [from, peak, last];
    for (let i = 0; i < powers.length; i += 1) {
      const power = powers[i]!;
      if (begin < 0) {
        if (power < begins) continue;
        begin = until = first + i;
        highest = power;
      } else if (power < goesOn) {
        found.push({ from: begin, to: until, peak: Math.sqrt(highest) });
        begin = -1;
      } else {
        until = first + i;
        if (power > highest) highest = power;
      }
    }
    [from, peak, last] = [begin, highest, until];
    loud.take(powers, first);
  });
  if (from >= 0) found.push({ from, to: last, peak: Math.sqrt(peak) });
  const joined: Region[] = [];
  for (const region of found) {
    const before = joined.at(-1);
    if (before && region.from - before.to <= dip) {
      before.to = region.to;
      before.peak = Math.max(before.peak, region.peak);
    } else joined.push({ ...region });
  }
  const isBurst = (r: Region) => r.to - r.from >= 3 * demodulator.length && r.peak >= countsFrom * scale;
  const regions = joined.filter(isBurst);
  return { regions, weak: joined.length - regions.length, loud: loud.found };
}

/** Most stretches that are kept: more are something in any case. */
const mostLoud = 4096;
/** Gathers stretches, of a millisecond or more, whose mean power is above what noise alone can be: of means that share no sample. */
function loudStretches({ length, sampleRateHz }: Demodulator, scale: number) {
  const found: [number, number][] = [];
  const together = Math.max(8, Math.round((loudS * sampleRateHz) / length));
  // The noise's mean power is twice the square of its scale.
  const limit = loudFrom * 2 * scale ** 2 * together;
  let [next, sum, n] = [0, 0, 0];
  return {
    found,
    take(powers: Float64Array, first: number) {
      for (; next < powers.length; next += length) {
        sum += powers[next]!;
        n += 1;
        if (n < together) continue;
        const [begin, end] = [first + next - (together - 1) * length, first + next];
        const before = found.at(-1);
        if (sum > limit)
          if (before && begin - before[1] <= length) before[1] = end;
          else if (found.length < mostLoud) found.push([begin, end]);
        sum = n = 0;
      }
      next -= powers.length;
    },
  };
}

/** Everything about each region, each looked at once more by itself. */
function measureEach(demodulator: Demodulator, regions: readonly Region[], scale: number): Burst[] {
  const { length, sampleRateHz, carrierHz } = demodulator;
  const margin = 2 * length;
  return regions.flatMap((region) => {
    const [from, to] = [region.from - margin, region.to + margin];
    const most = Math.ceil(to - from) + 1;
    const [inPhases, behinds] = [new Float64Array(most), new Float64Array(most)];
    let n = 0;
    let start = 0;
    const late = (length - 1) / 2;
    demodulator.scan(
      ({ inPhase, behind, count, first }) => {
        const begin = Math.max(0, Math.ceil(from - first));
        const end = Math.min(count, Math.floor(to - first) + 1);
        if (begin >= end) return;
        if (n === 0) start = first + begin;
        inPhases.set(inPhase.subarray(begin, end), n);
        behinds.set(behind.subarray(begin, end), n);
        n += end - begin;
      },
      Math.max(0, Math.ceil(from + late)),
      Math.floor(to + late) + 1,
    );
    const filled = { inPhases: inPhases.subarray(0, n), behinds: behinds.subarray(0, n) };
    const burst = n > 0 ? burstOf({ ...filled, first: start, region, length, scale, carrierHz, sampleRateHz }) : null;
    return burst ? [burst] : [];
  });
}

interface Stretch {
  inPhases: Float64Array;
  behinds: Float64Array;
  /** Sample of the first value. */
  first: number;
  region: Region;
  length: number;
  scale: number;
  carrierHz: number;
  sampleRateHz: number;
}

/** The middle of those values above a limit, of every `step`-th one: neighbors share samples and say nearly the same. */
function middleAbove(values: Float64Array, limit: number, step: number): number {
  const kept = new Float64Array(Math.ceil(values.length / step));
  let n = 0;
  for (let i = 0; i < values.length; i += step) {
    if (values[i]! <= limit) continue;
    kept[n] = values[i]!;
    n += 1;
  }
  return kept.subarray(0, n).sort()[n >> 1] ?? 0;
}

function burstOf({ inPhases, behinds, first, region, length, scale, carrierHz, sampleRateHz }: Stretch): Burst | null {
  const [from, to] = [Math.round(region.from - first), Math.round(region.to - first)];
  const heights = new Float64Array(inPhases.length);
  for (let i = 0; i < heights.length; i += 1) heights[i] = Math.sqrt(inPhases[i]! * inPhases[i]! + behinds[i]! * behinds[i]!);
  const inside = heights.subarray(from + length, Math.max(from + length + 1, to - length));
  // Noise adds to the square of what is measured (S. O. Rice, Bell System Technical Journal 23 (1944) 282).
  const amplitude = Math.sqrt(Math.max(0, middleAbove(inside, region.peak / 2, Math.ceil(length / 4)) ** 2 - scale ** 2));
  if (!(amplitude >= countsFrom * scale)) return null;
  const half = amplitude / 2;
  const crossing = (i: number, j: number) => first + i + ((half - heights[i]!) / (heights[j]! - heights[i]!)) * (j - i);
  const rise = heights.findIndex((h) => h >= half);
  const fall = heights.findLastIndex((h) => h >= half);
  const starts = rise > 0 ? crossing(rise - 1, rise) : first + Math.max(0, rise);
  const ends = fall < heights.length - 1 ? crossing(fall + 1, fall) : first + fall;
  const { notches, depth } = dipsOf(heights.subarray(rise + length, Math.max(rise + length, fall - length + 1)), amplitude, scale, length);
  const phase = phaseSlope(inPhases, behinds, { from: rise + length, to: fall - length, step: length, half });
  const perSample = phase && { ...phase, toHz: sampleRateHz / (2 * Math.PI * length) };
  return {
    // A capture's first sample stands at its moment.
    startS: starts / sampleRateHz,
    durationS: (ends - starts) / sampleRateHz,
    amplitude,
    carrierHz: carrierHz + (perSample ? perSample.slope * perSample.toHz : 0),
    carrierUncertaintyHz: perSample ? perSample.uncertainty * perSample.toHz : null,
    notches,
    depth,
  };
}

/** Dips inside a burst that noise does not make. */
function dipsOf(inside: Float64Array, amplitude: number, scale: number, length: number): Pick<Burst, 'notches' | 'depth'> {
  if ((1 - dipShare) * amplitude < 5 * scale) return { notches: null, depth: null };
  let [notches, below, lowest] = [0, 0, amplitude];
  for (let i = 0; i < inside.length; i += 1) {
    const h = inside[i]!;
    if (h < dipShare * amplitude) {
      below += 1;
      lowest = Math.min(lowest, h);
      if (below === length) notches += 1;
    } else below = 0;
  }
  return { notches, depth: notches > 0 ? 1 - lowest / amplitude : 0 };
}

/**
 * The slope of the phase over means that share no sample, by least squares weighted with the power (S. A. Tretter, IEEE Transactions on Information Theory 31
 * (1985) 832: at these strengths as good as the bound of Cramér and Rao).
 * @returns radians to a step, and its standard uncertainty from what is left over
 */
function phaseSlope(
  inPhases: Float64Array,
  behinds: Float64Array,
  { from, to, step, half }: { from: number; to: number; step: number; half: number },
): { slope: number; uncertainty: number } | null {
  const points: { k: number; phase: number; weight: number }[] = [];
  let last = 0;
  for (let i = from, k = 0; i <= to; i += step, k += 1) {
    const weight = inPhases[i]! ** 2 + behinds[i]! ** 2;
    if (weight < half ** 2) continue;
    const raw = Math.atan2(behinds[i]!, inPhases[i]!);
    const phase = points.length === 0 ? raw : last + wrapped(raw - last);
    points.push({ k, phase, weight });
    last = phase;
  }
  if (points.length < 4) return null;
  const sum = (of: (p: (typeof points)[number]) => number) => points.reduce((n, p) => n + of(p), 0);
  const all = sum((p) => p.weight);
  const [k0, phase0] = [sum((p) => p.weight * p.k) / all, sum((p) => p.weight * p.phase) / all];
  const spread = sum((p) => p.weight * (p.k - k0) ** 2);
  const slope = sum((p) => p.weight * (p.k - k0) * (p.phase - phase0)) / spread;
  const left = sum((p) => p.weight * (p.phase - phase0 - slope * (p.k - k0)) ** 2) / (points.length - 2);
  return { slope, uncertainty: Math.sqrt(left / spread) };
}

const wrapped = (angle: number): number => angle - 2 * Math.PI * Math.round(angle / (2 * Math.PI));

function meanCarrier(bursts: readonly Burst[]): number | null {
  const sure = bursts.filter((b) => b.carrierUncertaintyHz !== null && b.carrierUncertaintyHz > 0);
  if (sure.length === 0) return bursts[0]?.carrierHz ?? null;
  const weight = (b: Burst) => 1 / b.carrierUncertaintyHz! ** 2;
  const all = sure.reduce((n, b) => n + weight(b), 0);
  return sure.reduce((n, b) => n + weight(b) * b.carrierHz, 0) / all;
}

/** One value in a hundred of the loudest stretch follows another one at the same highest or lowest value: a carrier comes there only for a moment. */
function isClipped({ samples }: Capture, regions: readonly Region[]): boolean {
  const loudest = [...regions].sort((a, b) => b.peak - a.peak)[0];
  if (!loudest) return false;
  const from = Math.max(0, Math.floor(loudest.from));
  const x = samples.stretch(from, Math.min(samples.length, from + 4096, Math.ceil(loudest.to)));
  const [high, low] = [Math.max(...x), Math.min(...x)];
  const stays = x.reduce((n, y, i) => n + Number(i > 0 && y === x[i - 1] && (y === high || y === low)), 0);
  return stays > x.length / 100;
}
