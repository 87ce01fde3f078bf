import { compileKernel } from '../../wasm/build.mjs';
import { generator } from '../units';
import { burstCsvReader, type Kernel, type KernelExports, measure, plainKernel, Samples, wasmKernel } from '.';
import { volts } from './synthetic.testing';

let fast: () => Kernel;
beforeAll(async () => {
  const compiled = new WebAssembly.Module((await compileKernel()) as BufferSource);
  fast = () => wasmKernel(new WebAssembly.Instance(compiled).exports as unknown as KernelExports);
});

/** Everything that is made of a file: samples to the bit, notes and rate; what is measured; or what is wrong. */
function madeOf(bytes: Uint8Array, kernel: Kernel, cut: number) {
  const reader = burstCsvReader(kernel);
  for (let at = 0; at < bytes.length; at += cut) {
    const problem = reader.push(bytes.subarray(at, at + cut));
    if (problem) return { problem };
  }
  const result = reader.end();
  if (!result.ok) return result;
  const { samples, ...capture } = result.value;
  const bits = samples.pieces().map((piece) => Buffer.from(piece.slice().buffer).toString('base64'));
  return { capture, bits, measured: measure(result.value, kernel) };
}

/** Numbers as scopes write them, and some as they don't. */
function written(value: number, next: () => number): string {
  const which = next();
  if (which < 0.9) return value.toFixed(6);
  if (which < 0.92) return value.toFixed(Math.floor(14 * next()));
  if (which < 0.94) return value.toExponential(8);
  if (which < 0.96) return ` ${value}`;
  if (which < 0.97) return value.toFixed(12);
  if (which < 0.98) return `+${Math.abs(value).toFixed(3)}`;
  return String(value).replace(/^(-?)0\./, '$1.');
}

test('a thousand seeded files: the same to the last bit by WebAssembly and by plain TypeScript', () => {
  // One of each for all of them, as the page's worker reads one file after the other.
  const [plainOne, fastOne] = [plainKernel(), fast()];
  const told = { problem: 0, bursts: 0, notes: 0, alone: 0 };
  for (let seed = 1; seed <= 1000; seed += 1) {
    const next = generator(seed);
    const [delimiter, newline] = [[',', ';', '\t'][Math.floor(3 * next())], next() < 0.8 ? '\n' : '\r\n'];
    const odd = next() < 0.3;
    const alone = next() < 0.2;
    const rateHz = 200_000 + Math.floor(200_000 * next());
    const bursts = next() < 0.7 ? [[0.003, 0.005] as [number, number]] : [];
    const v = volts({ rateHz, lengthS: 0.0105 + 0.001 * next(), bursts, snrDb: 8 + 20 * next(), carrierHz: 40_000 + 40_000 * next(), seed });
    let text = alone ? `volts${delimiter}${rateHz} Hz${newline}` : `seconds${delimiter}volts${newline}`;
    v.forEach((volt, i) => {
      const t = i / rateHz + (odd && next() < 0.001 ? (next() - 0.3) / rateHz : 0);
      const number = odd ? written(volt, next) : volt.toFixed(6);
      text += alone ? `${number}${newline}` : `${t.toFixed(9)}${delimiter}${number}${newline}`;
    });
    if (next() < 0.1) text = text.slice(0, Math.floor(text.length * next()));
    if (next() < 0.05) text = text.replace('7', 'x');
    const bytes = new TextEncoder().encode(text);
    const cut = next() < 0.5 ? 1 << 18 : 1 + Math.floor(bytes.length * next());
    const plain = madeOf(bytes, plainOne, cut);
    expect([seed, madeOf(bytes, fastOne, cut)]).toEqual([seed, plain]);
    if ('problem' in plain) told.problem += 1;
    else if ('capture' in plain) {
      told.bursts += Number(plain.measured.ok && plain.measured.value.bursts.length > 0);
      told.notes += Number(plain.capture!.notes.length > 0);
      told.alone += Number(alone);
    }
  }
  // The files are of all kinds, or the comparison says little.
  expect(told.problem).toBeGreaterThan(20);
  expect(told.bursts).toBeGreaterThan(500);
  expect(told.notes).toBeGreaterThan(100);
  expect(told.alone).toBeGreaterThan(100);
});

test('numbers at the edges of the window of sixteen bytes, each in both', () => {
  const numbers = [
    '0',
    '-0',
    '5.',
    '.5',
    '-.5',
    '123456789012345',
    '1234567890123456',
    '0.1234567890123',
    '0.12345678901234',
    '-12345678.1234567',
    '1.2.3',
    '-',
    '.',
    '--1',
  ];
  for (const number of numbers) {
    const bytes = new TextEncoder().encode(`volts,1000000 Hz\n0\n${number}\n1\n`);
    const [plain, quick] = [plainKernel(), fast()].map((kernel) => {
      const reader = burstCsvReader(kernel);
      reader.push(bytes);
      const end = reader.end();
      return end.ok ? Array.from(end.value.samples.pieces()[0]!) : end;
    });
    expect([number, quick]).toEqual([number, plain]);
    if (Number.isFinite(Number(number))) expect(plain).toEqual([0, Math.fround(Number(number)), 1]);
    else expect(plain).toMatchObject({ ok: false });
  }
});

test('a carrier so low that the mean is longer than the table of the kernel is measured all the same', () => {
  const rateHz = 10_000_000;
  const v = volts({ rateHz, lengthS: 0.03, carrierHz: 25_000, bursts: [[0.005, 0.015]], snrDb: 30 });
  const capture = { samples: Samples.of(v), sampleRateHz: rateHz, startS: 0, notes: [] };
  const [plain, quick] = [measure(capture, plainKernel()), measure(capture, fast())];
  expect(quick).toEqual(plain);
  if (!plain.ok) throw new Error('not measured');
  const [burst] = plain.value.bursts;
  expect(plain.value.bursts).toHaveLength(1);
  // Two periods of the carrier at either edge.
  expect(Math.abs(burst!.startS - 0.005)).toBeLessThan(80e-6);
  expect(Math.abs(burst!.durationS - 0.015)).toBeLessThan(160e-6);
  expect(burst!.amplitude).toBeCloseTo(1, 1);
  expect(Math.abs(burst!.carrierHz - 25_000)).toBeLessThan(20);
});
