import type { Samples } from './capture';
import { type Kernel, longestMean, stretchLength, tableLength } from './kernel';

/** Means over blocks of a capture, taken for what is no carrier: drift of the probe and hum of the mains. */
export class Drift {
  readonly means: Float32Array;

  /** @param block samples to a mean */
  constructor(
    samples: Samples,
    readonly block: number,
  ) {
    const n = Math.max(1, Math.ceil(samples.length / block));
    this.means = new Float32Array(n);
    let [i, sum, inBlock, k] = [0, 0, 0, 0];
    for (const piece of samples.pieces())
      for (let j = 0; j < piece.length; j += 1) {
        sum += piece[j]!;
        inBlock += 1;
        i += 1;
        if (inBlock === block || i === samples.length) {
          this.means[k] = sum / inBlock;
          k += 1;
          sum = inBlock = 0;
        }
      }
  }

  /** Drawn out straight between the middles of the blocks. @param i sample */
  at(i: number): number {
    const place = (i + 0.5) / this.block - 0.5;
    const k = Math.max(0, Math.min(this.means.length - 1, Math.floor(place)));
    const next = Math.min(this.means.length - 1, k + 1);
    const share = Math.max(0, Math.min(1, place - k));
    return this.means[k]! * (1 - share) + this.means[next]! * share;
  }

  /** The straight line that the drift is from a sample on: its value there, how much it changes each sample, and the sample from which on it is another one. */
  lineFrom(i: number): [value: number, slope: number, until: number] {
    const place = (i + 0.5) / this.block - 0.5;
    const last = this.means.length - 1;
    if (place < 0) return [this.means[0]!, 0, Math.ceil(this.block / 2 - 0.5)];
    const k = Math.floor(place);
    if (k >= last) return [this.means[last]!, 0, Infinity];
    const change = this.means[k + 1]! - this.means[k]!;
    return [this.means[k]! + change * (place - k), change / this.block, Math.ceil((k + 1.5) * this.block - 0.5)];
  }

  /** How much it moves, root of the mean square about its own mean, V. */
  rms(): number {
    const mean = this.means.reduce((a, b) => a + b, 0) / this.means.length;
    return Math.sqrt(this.means.reduce((a, b) => a + (b - mean) ** 2, 0) / this.means.length);
  }
}

/** Lowest carrier that is looked for, Hz: below it is hum and what the blocks of the drift take away. */
const lowestHz = 20_000;
/** Values of one spectrum, and how many of the loudest stretches are added up. */
const [spectrumLength, loudest] = [1024, 4];
/** At faster rates samples are taken together before, so that a spectrum's values stay 2 to 4 kHz apart: its length is what a low carrier is told by, Hz. */
const spectrumHz = 2_000_000;

/**
 * The loudest frequency of the loudest stretches: Goertzel's recurrence over each frequency of the discrete Fourier transform behind a Hann window (G. Goertzel,
 * American Mathematical Monthly 65 (1958) 34), the peak of the sum by a parabola through the logarithms.
 * @returns Hz; between two frequencies of the transform it is right to about a tenth of their distance. Up to 0.42 of the sample rate; at 4 MS/s and more up to 840 kHz
 */
export function coarseCarrier(samples: Samples, rateHz: number, drift: Drift): number {
  const together = Math.max(1, Math.floor(rateHz / spectrumHz));
  const sampleRateHz = rateHz / together;
  const length = Math.min(spectrumLength, Math.floor(samples.length / together));
  const starts = loudestStretches(samples, drift, length * together);
  const window = Float64Array.from({ length }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / length));
  const from = Math.max(2, Math.ceil((lowestHz * length) / sampleRateHz));
  const to = Math.floor(0.42 * length);
  const power = new Float64Array(Math.max(0, to - from + 1));
  for (const start of starts) {
    const x = new Float64Array(length);
    samples.stretch(start, start + length * together).forEach((v, i) => (x[Math.floor(i / together)]! += v - drift.at(start + i)));
    for (let i = 0; i < length; i += 1) x[i]! *= window[i]!;
    for (let bin = from; bin <= to; bin += 1) {
      const twice = 2 * Math.cos((2 * Math.PI * bin) / length);
      let [before, beforeThat] = [0, 0];
      for (let i = 0; i < length; i += 1) {
        const now = x[i]! + twice * before - beforeThat;
        beforeThat = before;
        before = now;
      }
      power[bin - from]! += before * before + beforeThat * beforeThat - twice * before * beforeThat;
    }
  }
  if (power.length < 3) return sampleRateHz / 8;
  let best = 1;
  for (let i = 1; i < power.length - 1; i += 1) if (power[i]! > power[best]!) best = i;
  const [a, b, c] = [power[best - 1]!, power[best]!, power[best + 1]!].map((p) => Math.log(Math.max(p, Number.MIN_VALUE))) as [
    number,
    number,
    number,
  ];
  const bend = a - 2 * b + c;
  const off = bend < 0 ? Math.max(-0.5, Math.min(0.5, (0.5 * (a - c)) / bend)) : 0;
  return ((from + best + off) * sampleRateHz) / length;
}

/** Where the stretches of that length begin in which most happens about the drift. */
function loudestStretches(samples: Samples, drift: Drift, length: number): number[] {
  const stretches: { start: number; power: number }[] = [];
  for (let start = 0; start + length <= samples.length; start += length) {
    const x = samples.stretch(start, start + length);
    let power = 0;
    for (let i = 0; i < length;) {
      const [value, slope, until] = drift.lineFrom(start + i);
      const end = Math.min(length, until - start);
      let near = value;
      for (; i < end; i += 4, near += 4 * slope) power += (x[i]! - near) * (x[i]! - near);
    }
    stretches.push({ start, power });
    // Few are kept of a long capture.
    if (stretches.length > 4096) {
      stretches.sort((a, b) => b.power - a.power);
      stretches.length = loudest;
    }
  }
  return stretches
    .sort((a, b) => b.power - a.power)
    .slice(0, loudest)
    .map((s) => s.start);
}

/** How many periods of the carrier are taken together. */
const periods = 3;

/** A stretch of a capture mixed down: the parts in phase and a quarter behind, V of amplitude. */
export interface Mixed {
  inPhase: Float64Array;
  behind: Float64Array;
  /** How many of the values are filled. */
  count: number;
  /** The sample in whose middle the first one stands (halves at even lengths); the next ones follow sample by sample. */
  first: number;
}

/** Samples after which the turning pointer is set anew: its recurrence loses length and phase slowly. */
const pointerLength = 1024;
/** Samples after which the sums are taken anew. */
const sumLength = 1 << 20;

/**
 * Mixes a capture down with the carrier and takes the mean over three periods: what is left is half of the amplitude and the phase, and nothing of the carrier itself.
 * An edge becomes straight over that length and passes half its height where it was.
 */
export class Demodulator {
  /** Samples that are taken together. */
  readonly length: number;

  constructor(
    private readonly samples: Samples,
    private readonly drift: Drift,
    readonly sampleRateHz: number,
    readonly carrierHz: number,
    private readonly kernel: Kernel,
  ) {
    this.length = Math.max(4, Math.round((periods * sampleRateHz) / carrierHz));
  }

  /**
   * Goes through a part of the capture, stretch by stretch; nothing is kept but one of them. One loop with nothing but numbers in it: a capture has millions of samples.
   * @param each gets a stretch, which is used again afterwards
   * @param from the first mean ends at this sample, or where one can
   * @param to the last mean ends before this sample
   */
  scan(each: (mixed: Mixed) => void, from = 0, to = this.samples.length): void {
    const { length, drift, samples } = this;
    const turn = (2 * Math.PI * this.carrierHz) / this.sampleRateHz;
    const [stepC, stepS] = [Math.cos(turn), Math.sin(turn)];
    const [ringI, ringQ] = [new Float64Array(length), new Float64Array(length)];
    const mixed: Mixed = { inPhase: new Float64Array(stretchLength), behind: new Float64Array(stretchLength), count: 0, first: 0 };
    const { inPhase, behind } = mixed;
    const begin = Math.max(0, from - length + 1);
    const firstEnd = begin + length - 1;
    const scale = 2 / length;
    // Each by itself: a loop over millions of samples keeps them in registers.
    let c = 1;
    let s = 0;
    let sumI = 0;
    let sumQ = 0;
    let i = begin;
    let at = 0;
    let count = 0;
    let near = 0;
    let slope = 0;
    let lineEnd = begin;
    let pointerEnd = begin;
    let sumEnd = begin + sumLength;
    mixed.first = firstEnd - (length - 1) / 2;
    let base = 0;
    for (const piece of samples.pieces()) {
      const last = Math.min(base + piece.length, to);
      while (i < last) {
        if (i === pointerEnd) {
          pointerEnd = i - (i % pointerLength) + pointerLength;
          c = Math.cos((turn * i) % (2 * Math.PI));
          s = Math.sin((turn * i) % (2 * Math.PI));
          if (i >= sumEnd) {
            // Sums of differences drift; they are taken anew now and then.
            sumEnd = i + sumLength;
            sumI = ringI.reduce((a, b) => a + b, 0);
            sumQ = ringQ.reduce((a, b) => a + b, 0);
          }
        }
        if (i >= lineEnd) {
          const line = drift.lineFrom(i);
          near = line[0];
          slope = line[1];
          lineEnd = line[2];
        }
        // Up to the next of these nothing is asked any more.
        const stop = Math.min(last, pointerEnd, lineEnd, i < firstEnd ? firstEnd : i + stretchLength - count);
        const kept = i >= firstEnd;
        for (let j = i - base; i < stop; j += 1, i += 1) {
          const x = piece[j]! - near;
          near += slope;
          const p = x * c;
          const q = -x * s;
          sumI += p - ringI[at]!;
          sumQ += q - ringQ[at]!;
          ringI[at] = p;
          ringQ[at] = q;
          at = at + 1 === length ? 0 : at + 1;
          if (kept) {
            inPhase[count] = scale * sumI;
            behind[count] = scale * sumQ;
            count += 1;
          }
          const turned = c * stepC - s * stepS;
          s = c * stepS + s * stepC;
          c = turned;
        }
        if (count === stretchLength) {
          mixed.count = count;
          each(mixed);
          mixed.first += count;
          count = 0;
        }
      }
      base += piece.length;
      if (base >= to) break;
    }
    if (count > 0) {
      mixed.count = count;
      each(mixed);
    }
  }
  /**
   * The power alone, of the whole capture, stretch by stretch. The phase is counted from the beginning of the kernel's table, and the products are turned when the table
   * begins anew, so no pointer has to go round with the samples.
   * @param each gets powers, V² of amplitude, which are used again afterwards; and the middle of the first mean, as in `Mixed`
   */
  scanPowers(each: (powers: Float64Array, first: number) => void): void {
    const { length, samples, drift, kernel } = this;
    if (length > longestMean) return this.#scanLong(each);
    const turn = (2 * Math.PI * this.carrierHz) / this.sampleRateHz;
    for (let i = 0; i < tableLength; i += 1) {
      kernel.table[2 * i] = Math.cos(turn * i);
      kernel.table[2 * i + 1] = -Math.sin(turn * i);
    }
    kernel.ring.fill(0);
    kernel.sums.fill(0);
    const [cos, sin] = [Math.cos(turn * tableLength), Math.sin(turn * tableLength)];
    const scale = 4 / length ** 2;
    let base = 0;
    for (const piece of samples.pieces()) {
      for (let at = 0; at < piece.length; at += stretchLength) {
        const begin = base + at;
        const n = Math.min(stretchLength, piece.length - at);
        kernel.samples.set(piece.subarray(at, at + n));
        for (let i = 0; i < n;) {
          const place = (begin + i) % tableLength;
          if (place === 0 && begin + i > 0) turnRing(kernel, length, cos, sin);
          const [near, slope, until] = drift.lineFrom(begin + i);
          const end = Math.min(n, i + tableLength - place, until - begin);
          kernel.mix(i, end - i, place, length, (begin + i) % length, near, slope, scale);
          i = end;
        }
        const skipped = Math.max(0, length - 1 - begin);
        if (skipped < n) each(kernel.powers.subarray(skipped, n), begin + skipped - (length - 1) / 2);
      }
      base += piece.length;
    }
  }

  /** The same for means that are longer than the kernel's. */
  #scanLong(each: (powers: Float64Array, first: number) => void): void {
    const powers = new Float64Array(stretchLength);
    this.scan(({ inPhase, behind, count, first }) => {
      for (let i = 0; i < count; i += 1) powers[i] = inPhase[i]! * inPhase[i]! + behind[i]! * behind[i]!;
      each(powers.subarray(0, count), first);
    });
  }
}

/** Products of the last samples, told from the beginning of the table that comes now; their sums are taken anew, so that no error grows. */
function turnRing({ ring, sums }: Kernel, length: number, cos: number, sin: number): void {
  let [sumI, sumQ] = [0, 0];
  for (let r = 0; r < 2 * length; r += 2) {
    const [i, q] = [ring[r]!, ring[r + 1]!];
    sumI += ring[r] = i * cos - q * sin;
    sumQ += ring[r + 1] = i * sin + q * cos;
  }
  sums[0] = sumI;
  sums[1] = sumQ;
}
