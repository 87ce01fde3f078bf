import { type Kernel, type LineState, longestMean, pieceBytes, stretchLength, tableLength } from './kernel';

const [newline, carriage, minus, dot, nought] = [10, 13, 45, 46, 48];
/** Powers of ten that a double holds exactly: a quotient with them is rounded once (W. D. Clinger, PLDI 1990, the simple case). */
const exact = Array.from({ length: 16 }, (_, i) => 10 ** i);
/** Digits up to which a whole number is exact in a double. */
const mostDigits = 15;

/** The loops in plain TypeScript. */
export function plainKernel(): Kernel {
  const ring = new Float64Array(2 * longestMean);
  const samples = new Float32Array(stretchLength);
  const table = new Float64Array(2 * tableLength);
  const sums = new Float64Array(2);
  const powers = new Float64Array(stretchLength);
  const volts = new Float32Array(pieceBytes / 2);
  let bytes: Uint8Array = new Uint8Array(0);
  return {
    pieceBytes,
    hold: (piece) => void (bytes = piece),
    lines: (from, state, within, most) => readLines(bytes, volts, from, state, within, most),
    samples,
    table,
    ring,
    sums,
    powers,
    mix(from, n, place, length, ringPlace, near, slope, scale) {
      // Each by itself: a loop over millions of samples keeps them in registers.
      let sumI = sums[0]!;
      let sumQ = sums[1]!;
      let drift = near;
      let t = 2 * place;
      let r = 2 * ringPlace;
      for (let i = from; i < from + n; i += 1) {
        const x = samples[i]! - drift;
        drift += slope;
        const p = x * table[t]!;
        const q = x * table[t + 1]!;
        sumI += p - ring[r]!;
        sumQ += q - ring[r + 1]!;
        ring[r] = p;
        ring[r + 1] = q;
        r = r + 2 === 2 * length ? 0 : r + 2;
        t += 2;
        powers[i] = (sumI * sumI + sumQ * sumQ) * scale;
      }
      sums[0] = sumI;
      sums[1] = sumQ;
    },
  };
}

function readLines(
  bytes: Uint8Array,
  volts: Float32Array,
  from: number,
  state: LineState,
  within: number,
  most: number,
): ReturnType<Kernel['lines']> {
  const { delimiter, timed } = state;
  const end = bytes.length;
  let begin = from;
  let { last, sumS, steps } = state;
  let n = 0;
  plain: while (n < most) {
    let i = begin;
    let at = 0;
    let value: number;
    for (let column = timed ? 0 : 1; ; column += 1) {
      const negative = bytes[i] === minus;
      if (negative) i += 1;
      const start = i;
      let behind = -1;
      // Up to nine digits in whole numbers of 32 bits, which are several times as fast; the rare ones with more once again.
      let small = 0;
      for (; i < end; i += 1) {
        const c = bytes[i]! - nought;
        if (c >= 0 && c <= 9) small = (Math.imul(small, 10) + c) | 0;
        else if (behind < 0 && c === dot - nought) behind = i + 1;
        else break;
      }
      const digits = i - start - (behind < 0 ? 0 : 1);
      if (digits === 0 || digits > mostDigits) break plain;
      let mantissa = small;
      if (digits > 9) {
        mantissa = 0;
        for (let k = start; k < i; k += 1) if (bytes[k] !== dot) mantissa = mantissa * 10 + (bytes[k]! - nought);
      }
      if (behind >= 0) mantissa /= exact[i - behind]!;
      value = negative ? -mantissa : mantissa;
      if (column === 1) break;
      if (i >= end || bytes[i] !== delimiter) break plain;
      at = value;
      i += 1;
    }
    if (i < end && bytes[i] === carriage) i += 1;
    if (i >= end || bytes[i] !== newline) break;
    if (timed) {
      const here = at - last;
      const step = steps > 0 ? sumS / steps : here;
      if (!(here > 0 && Math.abs(here - step) <= within * step)) break;
      sumS += here;
      steps += 1;
      last = at;
    }
    volts[n] = value;
    n += 1;
    begin = i + 1;
  }
  Object.assign(state, { last, sumS, steps });
  return { volts: volts.subarray(0, n), end: begin };
}
