import { type Kernel, longestMean, pieceBytes, stretchLength, tableLength } from './kernel';

/** What an instance of wasm/burst.ts exports. */
export interface KernelExports {
  memory: { readonly buffer: ArrayBuffer };
  start(): void;
  inputAt(): number;
  stateAt(): number;
  voltsAt(): number;
  samplesAt(): number;
  tableAt(): number;
  ringAt(): number;
  sumsAt(): number;
  powerAt(): number;
  lines(from: number, to: number, delimiter: number, timed: number, within: number, most: number): number;
  mix(from: number, n: number, place: number, length: number, ring: number, near: number, slope: number, scale: number): void;
}

/** The loops in WebAssembly, over an instance that is this kernel's alone. */
export function wasmKernel(own: KernelExports): Kernel {
  own.start();
  const { buffer } = own.memory;
  const input = new Uint8Array(buffer, own.inputAt(), pieceBytes);
  const state = new Float64Array(buffer, own.stateAt(), 4);
  const volts = new Float32Array(buffer, own.voltsAt(), pieceBytes / 2);
  let held = 0;
  return {
    pieceBytes,
    hold(bytes) {
      input.set(bytes);
      held = bytes.length;
    },
    lines(from, at, within, most) {
      state[0] = at.last;
      state[1] = at.sumS;
      state[2] = at.steps;
      const n = own.lines(from, held, at.delimiter, Number(at.timed), within, most);
      [at.last, at.sumS, at.steps] = [state[0]!, state[1]!, state[2]!];
      return { volts: volts.subarray(0, n), end: state[3]! };
    },
    samples: new Float32Array(buffer, own.samplesAt(), stretchLength),
    table: new Float64Array(buffer, own.tableAt(), 2 * tableLength),
    ring: new Float64Array(buffer, own.ringAt(), 2 * longestMean),
    sums: new Float64Array(buffer, own.sumsAt(), 2),
    powers: new Float64Array(buffer, own.powerAt(), stretchLength),
    mix: (from, n, place, length, ring, near, slope, scale) => own.mix(from, n, place, length, ring, near, slope, scale),
  };
}
