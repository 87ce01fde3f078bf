import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { volts } from '../core/burst/synthetic.testing';
import { burstAnalyse } from './burst';

const folder = mkdtempSync(join(tmpdir(), 'cli-burst-'));
afterAll(() => rmSync(folder, { recursive: true }));
const made = volts({ bursts: [[0.01, 0.01]], lengthS: 0.03, rateHz: 500_000, snrDb: 30, amplitude: 0.5 });
const file = (name: string, content: string | Uint8Array) => {
  writeFileSync(join(folder, name), content);
  return join(folder, name);
};
const refused = (run: Promise<unknown>) =>
  run.then(
    () => 'done',
    (error: Error) => error.message.replace(folder, ''),
  );

test('a CSV of a scope: what the contract names', async () => {
  const csv = file('a.csv', `seconds,volts\n${Array.from(made, (v, i) => `${i / 500_000},${v.toFixed(5)}`).join('\n')}`);
  const found = await burstAnalyse(csv, '1');
  expect(found).toMatchObject({ samples: 15_000, count: 1, quality: 'good', limits: [] });
  expect(found.sampleRateHz).toBeCloseTo(500_000, 3);
  expect(found.carrierHz! / 125_000).toBeCloseTo(1, 4);
  expect(found.bursts[0]).toMatchObject({
    startMs: expect.closeTo(10, 2),
    durationMs: expect.closeTo(10, 2),
    amplitude: expect.closeTo(0.5, 2),
    notches: 0,
  });
});

test('a WAV with two channels: the one that is asked for', async () => {
  const bytes = new Uint8Array(44 + made.length * 4);
  const view = new DataView(bytes.buffer);
  const text = (at: number, t: string) => [...t].forEach((c, i) => view.setUint8(at + i, c.charCodeAt(0)));
  text(0, 'RIFF');
  text(8, 'WAVEfmt ');
  view.setUint32(16, 16, true);
  view.setUint16(20, 1, true);
  view.setUint16(22, 2, true);
  view.setUint32(24, 500_000, true);
  view.setUint16(34, 16, true);
  text(36, 'data');
  view.setUint32(40, made.length * 4, true);
  made.forEach((v, i) => view.setInt16(46 + i * 4, Math.round(v * 30_000), true));
  const wav = file('b.wav', bytes);
  expect((await burstAnalyse(wav, '1')).quality).not.toBe('good');
  expect(await burstAnalyse(wav, '2')).toMatchObject({ count: 1, quality: 'good' });
});

test('what can’t be used is said with the file and the line', async () => {
  expect(await refused(burstAnalyse(file('c.csv', 'seconds,volts\n0,1\n1,x'), '1'))).toBe(
    '/c.csv: line 3: The volts can’t be read. Write them such as -0.125 or 3.2e-2.',
  );
  expect(await refused(burstAnalyse(file('d.txt', ''), '1'))).toBe('/d.txt: unknown kind of file. Use a .csv (seconds,volts) or a .wav file.');
  expect(await refused(burstAnalyse(join(folder, 'none.csv'), '1'))).toBe('/none.csv: can’t be read. Check the path.');
  expect(await refused(burstAnalyse(file('e.csv', 'seconds,volts\n0,1\n1,1'), '3'))).toBe('--channel 3: write 1 or 2.');
  expect(await refused(burstAnalyse(file('f.csv', 'seconds,volts\n0,1\n1e-5,1'), '1'))).toBe(
    '/f.csv: Too short to measure: capture at least a hundredth of a second.',
  );
});
