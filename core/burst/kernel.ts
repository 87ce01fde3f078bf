/** What lines of a CSV are read by, and where reading stands. */
export interface LineState {
  /** Code of the sign between the columns. */
  delimiter: number;
  /** Seconds and volts, or volts alone. */
  timed: boolean;
  /** Seconds of the last sample. */
  last: number;
  /** Sum of the steps that are no gaps, s, and how many they are: their mean says best how long a step is. */
  sumS: number;
  steps: number;
}

/**
 * The two loops over every byte and every sample of a capture. There are two of them that do the same operations in the same order: WebAssembly (wasm/burst.ts) and plain
 * TypeScript (plainKernel.ts), which is used where there is no WebAssembly.
 */
export interface Kernel {
  /** Bytes that are held at a time. */
  readonly pieceBytes: number;
  /** Holds a piece of a file, `pieceBytes` at most. */
  hold(bytes: Uint8Array): void;
  /**
   * Reads lines as nearly every one is, from a place of the piece on: numbers of a few digits with a point, nothing around them, each time a step after the one before. It stops
   * before the first line that is otherwise or not whole.
   * @param within how much a step may differ from the mean of the others, in steps
   * @param most samples at most, from 1
   * @returns the volts, good until the next call, and where it stopped
   */
  lines(from: number, state: LineState, within: number, most: number): { volts: Float32Array; end: number };

  /** Volts of one stretch, `stretchLength` at most, put there before they are mixed. */
  readonly samples: Float32Array;
  /** The carrier over `tableLength` samples: cosine and negative sine of each. */
  readonly table: Float64Array;
  /** Products of the last samples, in pairs, and their sums. */
  readonly ring: Float64Array;
  readonly sums: Float64Array;
  /** What `mix` has made of each sample of the stretch. */
  readonly powers: Float64Array;
  /**
   * Takes the drift off samples of the stretch, mixes them down with the table, and gives `scale` times the power of the sum over `length` of them that ends at each.
   * @param from, n samples of the stretch
   * @param place in the table, of the first of them; the table goes on as far as they do
   * @param length samples of a sum, `longestMean` at most
   * @param ring place in the ring of the product that the first one takes the place of
   * @param near drift at the first of them, V, and how it changes from sample to sample
   */
  mix(from: number, n: number, place: number, length: number, ring: number, near: number, slope: number, scale: number): void;
}

/** The same in wasm/burst.ts. */
export const [pieceBytes, stretchLength, tableLength, longestMean] = [1 << 18, 8192, 2048, 1024];
