// Measures reading and measuring of a capture for `npm run bench -- bursts`: a CSV of two million samples, as the worker of the page reads it. Makes the file when asked
// to; otherwise prints JSON: by WebAssembly (`time`) or by its twin in plain TypeScript (`plain`).
import { closeSync, openSync, readSync, writeSync } from 'node:fs';
import { burstCsvReader, type Kernel, type KernelExports, measure, plainKernel, wasmKernel } from '../core/burst';
import { generator } from '../core/units';
import { compileKernel } from '../wasm/build.mjs';

const [, , what, path, size] = process.argv as string[];
const pieceBytes = 1 << 20;

/** A capture at a million samples a second: a burst of 30 ms each 200 ms, noise, hum; six digits after the point. The volts of one second are made, and come again each second. */
function make(file: string, bytes: number): void {
  const next = generator(24);
  const second = Array.from({ length: 1_000_000 }, (_, i) => {
    const t = i / 1e6;
    const inBurst = t % 0.2 >= 0.05 && t % 0.2 < 0.08;
    const v = (inBurst ? 0.4 * Math.cos(2 * Math.PI * 125_040 * t) : 0) + 0.03 * (next() + next() - 1) + 0.02 * Math.sin(2 * Math.PI * 60 * t);
    return `.${String(i).padStart(6, '0')},${v.toFixed(6)}\n`;
  });
  const out = openSync(file, 'w');
  let text = 'seconds,volts\n';
  let written = 0;
  for (let s = 0; written < bytes; s += 1)
    for (let i = 0; i < second.length && written < bytes; i += 1) {
      text += s + second[i]!;
      if (text.length < pieceBytes) continue;
      written += writeSync(out, text);
      text = '';
    }
  closeSync(out);
}

function once(file: string, kernel: Kernel) {
  const reader = burstCsvReader(kernel);
  const piece = new Uint8Array(pieceBytes);
  const open = openSync(file, 'r');
  const began = performance.now();
  for (let n = readSync(open, piece); n > 0; n = readSync(open, piece)) {
    const problem = reader.push(piece.subarray(0, n));
    if (problem) throw new Error(problem.message);
  }
  const capture = reader.end();
  if (!capture.ok) throw new Error(capture.problems[0]!.message);
  const wasRead = performance.now();
  const measured = measure(capture.value, kernel);
  if (!measured.ok) throw new Error(measured.problems[0]!.message);
  const { samples, bursts, carrierHz } = measured.value;
  closeSync(open);
  return {
    readMs: wasRead - began,
    measureMs: performance.now() - wasRead,
    samples,
    count: bursts.length,
    carrierHz,
    startMs: bursts[0]!.startS * 1000,
    durationMs: bursts[0]!.durationS * 1000,
  };
}

if (what === 'make') make(path!, Number(size));
else {
  const compiled = new WebAssembly.Module((await compileKernel()) as BufferSource);
  const kernel = what === 'plain' ? plainKernel() : wasmKernel(new WebAssembly.Instance(compiled).exports as unknown as KernelExports);
  console.log(JSON.stringify([once(path!, kernel), once(path!, kernel), once(path!, kernel)]));
}
