// A plain loop over typed arrays that reads a CSV of seconds and volts and finds its bursts: what `npm run bench -- bursts` compares with where there is no C compiler.
// No answers in words, no damaged files, no edges between samples: the short way through, as bench/burst.c is in C.

/** Lowest carrier that is looked for, Hz, and how many samples one spectrum takes. */
const [lowestHz, spectrum] = [20_000, 1024];

const powers = Array.from({ length: 23 }, (_, i) => 10 ** i);

/** The volts of each line, and samples a second. @throws Error at a line that is no pair of numbers in the order of time */
export function readLoop(bytes: Uint8Array): { volts: Float32Array; rateHz: number } {
  const volts = new Float32Array(Math.ceil(bytes.length / 6));
  let count = 0;
  let at = bytes.indexOf(10) + 1;
  let [first, last] = [0, 0];
  const number = (): number => {
    const negative = bytes[at] === 45;
    if (negative) at += 1;
    let [mantissa, shift, point] = [0, 0, 0];
    const from = at;
    for (; at < bytes.length; at += 1) {
      const digit = bytes[at]! - 48;
      if (digit >= 0 && digit <= 9) {
        mantissa = mantissa * 10 + digit;
        shift += point;
      } else if (digit === -2 && point === 0) point = 1;
      else break;
    }
    if (at === from) throw new Error(`Byte ${at} is no number`);
    const value = mantissa / (powers[shift] ?? 10 ** shift);
    return negative ? -value : value;
  };
  while (at < bytes.length) {
    const time = number();
    if (bytes[at] !== 44 || (count > 0 && time < last)) throw new Error(`Byte ${at} is not as it should be`);
    at += 1;
    volts[count] = number();
    at += 1;
    if (count === 0) first = time;
    last = time;
    count += 1;
  }
  return { volts: volts.subarray(0, count), rateHz: (count - 1) / (last - first) };
}

/** Mean of each quarter of a millisecond, taken off each sample. */
function withoutDrift(volts: Float32Array, rateHz: number): Float32Array {
  const block = Math.max(16, Math.round(0.25e-3 * rateHz));
  const out = new Float32Array(volts.length);
  for (let from = 0; from < volts.length; from += block) {
    const to = Math.min(from + block, volts.length);
    let sum = 0;
    for (let i = from; i < to; i += 1) sum += volts[i]!;
    for (let i = from; i < to; i += 1) out[i] = volts[i]! - sum / (to - from);
  }
  return out;
}

/** The strongest frequency of the strongest stretch, by G. Goertzel's recursion (1958), Hz. */
function carrierOf(x: Float32Array, rateHz: number): number {
  let [start, most] = [0, -1];
  for (let from = 0; from + spectrum <= x.length; from += spectrum) {
    let power = 0;
    for (let i = 0; i < spectrum; i += 4) power += x[from + i]! ** 2;
    if (power > most) [start, most] = [from, power];
  }
  let [best, strongest] = [0, -1];
  for (let bin = Math.ceil((lowestHz * spectrum) / rateHz); bin <= 0.42 * spectrum; bin += 1) {
    const twice = 2 * Math.cos((2 * Math.PI * bin) / spectrum);
    let [before, that] = [0, 0];
    for (let i = 0; i < spectrum; i += 1) [before, that] = [x[start + i]! + twice * before - that, before];
    const power = before * before + that * that - twice * before * that;
    if (power > strongest) [best, strongest] = [bin, power];
  }
  return (best * rateHz) / spectrum;
}

/** How many bursts there are: the power of three periods of the carrier, above half of the amplitude, with pauses of up to 2 ms counted as none. */
export function findLoop(volts: Float32Array, rateHz: number): { count: number; carrierHz: number } {
  const x = withoutDrift(volts, rateHz);
  const carrierHz = carrierOf(x, rateHz);
  const length = Math.max(4, Math.round((3 * rateHz) / carrierHz));
  const [ringI, ringQ] = [new Float64Array(length), new Float64Array(length)];
  const heights = new Float32Array(x.length);
  const turn = (2 * Math.PI * carrierHz) / rateHz;
  const [stepC, stepS] = [Math.cos(turn), Math.sin(turn)];
  let [c, s, sumI, sumQ, at, peak] = [1, 0, 0, 0, 0, 0];
  for (let i = 0; i < x.length; i += 1) {
    const [p, q] = [x[i]! * c, -x[i]! * s];
    sumI += p - ringI[at]!;
    sumQ += q - ringQ[at]!;
    ringI[at] = p;
    ringQ[at] = q;
    at = at + 1 === length ? 0 : at + 1;
    const power = sumI * sumI + sumQ * sumQ;
    heights[i] = power;
    if (power > peak) peak = power;
    const turned = c * stepC - s * stepS;
    s = c * stepS + s * stepC;
    c = turned;
    if ((i & 1023) === 1023) [c, s] = [Math.cos(turn * (i + 1)), Math.sin(turn * (i + 1))];
  }
  let count = 0;
  let lastHigh = -Infinity;
  for (let i = 0; i < heights.length; i += 1) {
    if (heights[i]! < peak / 4) continue;
    if (i - lastHigh > 2e-3 * rateHz) count += 1;
    lastHigh = i;
  }
  return { count, carrierHz };
}
