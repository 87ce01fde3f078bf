// Measures reading and measuring of a capture for `npm run bench -- bursts`: a CSV of two million samples, as the worker of the page reads it. Makes the file when asked
// to; otherwise prints JSON: by WebAssembly (`time`), by its twin in plain TypeScript (`plain`), by a plain loop over typed arrays (`loop`), or the memory that the longest
// capture takes (`memory`).
import { closeSync, openSync, readFileSync, readSync, writeSync } from 'node:fs';
import { burstCsvReader, type Kernel, type KernelExports, measure, mostSamples, plainKernel, Pyramid, wasmKernel } from '../core/burst';
import { generator } from '../core/units';
import { compileKernel } from '../wasm/build.mjs';
import { findLoop, readLoop } from './benchBurstsLoop';

const [, , what, path, size] = process.argv as string[];
const pieceBytes = 1 << 20;

/** Lines of the seconds of a capture at a million samples a second, one after the other: a burst of 30 ms each 200 ms, noise, hum; six digits after the point. The volts of one second are made, and come again each second. */
function secondsOf(): (second: number) => string[] {
  const next = generator(24);
  const made = Array.from({ length: 1_000_000 }, (_, i) => {
    const t = i / 1e6;
    const inBurst = t % 0.2 >= 0.05 && t % 0.2 < 0.08;
    const v = (inBurst ? 0.4 * Math.cos(2 * Math.PI * 125_040 * t) : 0) + 0.03 * (next() + next() - 1) + 0.02 * Math.sin(2 * Math.PI * 60 * t);
    return `.${String(i).padStart(6, '0')},${v.toFixed(6)}\n`;
  });
  return (second) => made.map((line) => second + line);
}
const header = 'seconds,volts\n';

function make(file: string, bytes: number): void {
  const second = secondsOf();
  const out = openSync(file, 'w');
  let text = header;
  let written = 0;
  for (let s = 0; written < bytes; s += 1)
    for (const line of second(s)) {
      text += line;
      if (text.length < pieceBytes) continue;
      written += writeSync(out, text);
      text = '';
      if (written >= bytes) break;
    }
  closeSync(out);
}

/** The lines of one second, with three digits before the point, and where each begins. */
function oneSecond() {
  const lines = new TextEncoder().encode(
    secondsOf()(0)
      .map((line) => `00${line}`)
      .join(''),
  );
  const starts = new Uint32Array(1_000_000);
  for (let i = 0, n = 1; i < lines.length - 1; i += 1) if (lines[i] === 10) starts[n++] = i + 1;
  return { lines, starts };
}

/**
 * The longest capture there may be, read, measured and made ready for drawing as the page's worker does it: bytes that it holds then, and the most on the way, above what is there
 * without one. Its file is the same second again and again, with other digits before the point: what the bench itself holds stays the same.
 */
function memory(kernel: Kernel) {
  const clear = () => [0, 1].forEach(() => globalThis.gc!());
  const held = () => {
    clear();
    const { heapUsed, external } = process.memoryUsage();
    return heapUsed + external;
  };
  const { lines, starts } = oneSecond();
  const before = held();
  let most = 0;
  const reader = burstCsvReader(kernel);
  reader.push(new TextEncoder().encode(header));
  for (let s = 0; s < mostSamples / 1e6; s += 1) {
    for (const at of starts) for (let digit = 0; digit < 3; digit += 1) lines[at + digit] = 48 + (Math.floor(s / 10 ** (2 - digit)) % 10);
    for (let at = 0; at < lines.length; at += pieceBytes) {
      const problem = reader.push(lines.subarray(at, at + pieceBytes));
      if (problem) throw new Error(problem.message);
    }
    most = Math.max(most, held() - before);
  }
  const capture = reader.end();
  if (!capture.ok) throw new Error(capture.problems[0]!.message);
  const measured = measure(capture.value, kernel);
  if (!measured.ok) throw new Error(measured.problems[0]!.message);
  const pyramid = new Pyramid(capture.value.samples);
  const heldBytes = held() - before;
  const { samples, bursts } = measured.value;
  // The bench's own stay until here.
  const own = lines[0]! + starts[0]!;
  return { samples, bursts: bursts.length, drawn: pyramid.view(0, samples, 1).high[0], own, heldBytes, mostBytes: Math.max(most, heldBytes) };
}

function loop(file: string) {
  const began = performance.now();
  const { volts, rateHz } = readLoop(readFileSync(file));
  const wasRead = performance.now();
  return { readMs: wasRead - began, ...findLoop(volts, rateHz), measureMs: performance.now() - wasRead, samples: volts.length };
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
else if (what === 'loop') console.log(JSON.stringify([loop(path!), loop(path!), loop(path!)]));
else {
  const compiled = new WebAssembly.Module((await compileKernel()) as BufferSource);
  const kernel = what === 'plain' ? plainKernel() : wasmKernel(new WebAssembly.Instance(compiled).exports as unknown as KernelExports);
  console.log(JSON.stringify(what === 'memory' ? memory(kernel) : [once(path!, kernel), once(path!, kernel), once(path!, kernel)]));
}
