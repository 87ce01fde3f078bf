// Measures reading and measuring of a capture for `npm run bench -- bursts`: a CSV of two million samples, as the worker of the page reads it. Makes the file when asked
// to; otherwise prints JSON.
import { closeSync, openSync, readSync, writeSync } from 'node:fs';
import { burstCsvReader, measure } from '../core/burst';
import { generator } from '../core/units';

const [, , what, path, size] = process.argv as string[];
const pieceBytes = 1 << 20;

/** A capture at a million samples a second: a burst of 30 ms each 200 ms, noise, hum; six digits after the point. */
function make(file: string, bytes: number): void {
  const next = generator(24);
  const out = openSync(file, 'w');
  let text = 'seconds,volts\n';
  let written = 0;
  for (let i = 0; written + text.length < bytes; i += 1) {
    const t = i / 1e6;
    const inBurst = t % 0.2 >= 0.05 && t % 0.2 < 0.08;
    const v = (inBurst ? 0.4 * Math.cos(2 * Math.PI * 125_040 * t) : 0) + 0.03 * (next() + next() - 1) + 0.02 * Math.sin(2 * Math.PI * 60 * t);
    text += `${t.toFixed(6)},${v.toFixed(6)}\n`;
    if (text.length > pieceBytes) {
      written += writeSync(out, text);
      text = '';
    }
  }
  writeSync(out, text);
  closeSync(out);
}

function once(file: string) {
  const reader = burstCsvReader();
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
  const measured = measure(capture.value);
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
else console.log(JSON.stringify([once(path!), once(path!), once(path!)]));
