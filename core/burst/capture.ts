import type { Problem, Result } from '../units';

/** What is odd about the times of a capture, with the line of the file where it was seen first. */
export interface TimeNote {
  kind: 'gap' | 'repeat' | 'uneven';
  line: number;
  /** How often. */
  count: number;
}

/** A capture of the probe: volts at even steps of time. */
export interface Capture {
  samples: Samples;
  sampleRateHz: number;
  /** Time of the first sample, s. */
  startS: number;
  notes: TimeNote[];
}

/** Reads a file piece by piece, whatever its length. */
export interface CaptureReader {
  /** @returns what is wrong, and where; nothing more may be pushed then */
  push(bytes: Uint8Array): Problem | undefined;
  end(): Result<Capture>;
}

/** Most samples of one capture. */
export const mostSamples = 200_000_000;
/** Most bytes of a packed capture that are sealed with a case: sealing and storing hold the server's thread, and a second or two is enough for a baseline. */
export const mostPacked = 6 * 1024 * 1024;

/** Samples to a piece, a power of two: a quarter of a million are a megabyte. */
const pieceLength = 1 << 18;

/** Volts in the order in which they were taken, four bytes each, in pieces: no second copy is made while they grow. */
export class Samples {
  readonly #pieces: Float32Array[] = [];
  /** The piece that is being filled. */
  #last = new Float32Array(0);
  #length = 0;

  get length(): number {
    return this.#length;
  }

  push(volts: number): void {
    const at = this.#length & (pieceLength - 1);
    if (at === 0) this.#pieces.push((this.#last = new Float32Array(pieceLength)));
    this.#last[at] = volts;
    this.#length += 1;
  }

  /** Several at once. */
  pushAll(volts: Float32Array): void {
    for (let done = 0; done < volts.length;) {
      const at = this.#length & (pieceLength - 1);
      if (at === 0) this.#pieces.push((this.#last = new Float32Array(pieceLength)));
      const n = Math.min(pieceLength - at, volts.length - done);
      this.#last.set(volts.subarray(done, done + n), at);
      this.#length += n;
      done += n;
    }
  }

  /** @param i from 0, below `length` */
  at(i: number): number {
    return this.#pieces[(i / pieceLength) | 0]![i % pieceLength]!;
  }

  /** The pieces in their order, the last one as far as it is filled. */
  pieces(): Float32Array[] {
    return this.#pieces.map((piece, i) => piece.subarray(0, Math.min(pieceLength, this.#length - i * pieceLength)));
  }

  /** The stretch from `from` up to `to`, copied into an array of its own. */
  stretch(from: number, to: number): Float32Array {
    const out = new Float32Array(Math.max(0, to - from));
    for (let i = from; i < to;) {
      const piece = this.#pieces[(i / pieceLength) | 0]!;
      const at = i % pieceLength;
      const n = Math.min(pieceLength - at, to - i);
      out.set(piece.subarray(at, at + n), i - from);
      i += n;
    }
    return out;
  }

  /** @param volts any numbers, each taken as it is */
  static of(volts: ArrayLike<number>): Samples {
    const samples = new Samples();
    for (let i = 0; i < volts.length; i += 1) samples.push(volts[i]!);
    return samples;
  }
}
