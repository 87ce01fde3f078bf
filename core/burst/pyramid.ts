import type { Samples } from './capture';

/** Samples to a pair of the finest level, and pairs of a level to one of the next. */
const [finest, factor] = [64, 16];

/** The lowest and highest value of each column of a picture. */
export interface Columns {
  low: Float32Array;
  high: Float32Array;
}

/**
 * Lowest and highest values of a capture over longer and longer stretches, so that a picture of any stretch costs a few thousand steps. It takes one fifteenth more than an
 * eighth of a byte for each sample.
 */
export class Pyramid {
  readonly #levels: Columns[] = [];

  constructor(private readonly samples: Samples) {
    const first = { low: new Float32Array(Math.ceil(samples.length / finest)), high: new Float32Array(Math.ceil(samples.length / finest)) };
    let i = 0;
    let [low, high] = [Infinity, -Infinity];
    for (const piece of samples.pieces())
      for (let j = 0; j < piece.length; j += 1, i += 1) {
        const v = piece[j]!;
        if (v < low) low = v;
        if (v > high) high = v;
        if (i % finest === finest - 1 || i === samples.length - 1) {
          const at = (i / finest) | 0;
          [first.low[at], first.high[at]] = [low, high];
          [low, high] = [Infinity, -Infinity];
        }
      }
    this.#levels.push(first);
    for (let last: Columns = first; last.low.length > factor; last = this.#levels.at(-1)!) this.#levels.push(coarser(last));
  }

  /** @returns for each of `columns` columns the lowest and highest of the samples in it; `from` and `to` in samples, `to` above `from` */
  view(from: number, to: number, columns: number): Columns {
    const out: Columns = { low: new Float32Array(columns), high: new Float32Array(columns) };
    const each = (to - from) / columns;
    for (let c = 0; c < columns; c += 1) {
      const start = Math.max(0, Math.min(this.samples.length - 1, Math.floor(from + c * each)));
      const end = Math.max(start + 1, Math.min(this.samples.length, Math.ceil(from + (c + 1) * each)));
      [out.low[c], out.high[c]] = this.#between(start, end);
    }
    return out;
  }

  /** Lowest and highest from `from` up to `to`: single samples up to the next pair, then ever longer stretches, and back. */
  #between(from: number, to: number): [number, number] {
    let [low, high] = [Infinity, -Infinity];
    let i = from;
    while (i < to) {
      let level = -1;
      let size = 1;
      for (let l = 0, s = finest; l < this.#levels.length && i % s === 0 && i + s <= to; l += 1, s *= factor) [level, size] = [l, s];
      if (level < 0) {
        const v = this.samples.at(i);
        if (v < low) low = v;
        if (v > high) high = v;
      } else {
        const at = i / size;
        const { low: lows, high: highs } = this.#levels[level]!;
        if (lows[at]! < low) low = lows[at]!;
        if (highs[at]! > high) high = highs[at]!;
      }
      i += size;
    }
    return [low, high];
  }
}

function coarser({ low, high }: Columns): Columns {
  const length = Math.ceil(low.length / factor);
  const out = { low: new Float32Array(length).fill(Infinity), high: new Float32Array(length).fill(-Infinity) };
  for (let i = 0; i < low.length; i += 1) {
    const at = (i / factor) | 0;
    if (low[i]! < out.low[at]!) out.low[at] = low[i]!;
    if (high[i]! > out.high[at]!) out.high[at] = high[i]!;
  }
  return out;
}
