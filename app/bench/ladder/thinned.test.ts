import type { SentReading } from '../../../core/ladder';
import { generator } from '../../../core/units';
import { drawnStretches, mostPoints, mostStretches, thinned } from './thinned';

const capture = (n: number, seed = 1): [number, SentReading][] => {
  const draw = generator(seed);
  return Array.from({ length: n }, (_, i) => [i / 30, draw() < 0.02 ? null : 1180 + draw() * 10]);
};

test('few samples are all drawn', () => {
  const few = capture(mostPoints);
  expect(thinned(few)).toBe(few);
});

test.each([401, 1000, 2000, 20_000])('%d samples are at most %#', (n) => {
  const samples = capture(n);
  const drawn = thinned(samples);
  expect(drawn.length).toBeLessThanOrEqual(mostPoints);
  expect([...drawn].sort((a, b) => a[0] - b[0])).toEqual(drawn);
  const closed = (of: readonly [number, SentReading][]) => of.flatMap(([, ohms]) => (ohms === null ? [] : [ohms]));
  // What sticks out stays, and nothing is made up.
  expect([Math.min(...closed(drawn)), Math.max(...closed(drawn))]).toEqual([Math.min(...closed(samples)), Math.max(...closed(samples))]);
  expect(drawn.every((s) => samples.includes(s))).toBe(true);
});

test('one open reading among thousands is drawn', () => {
  const samples = Array.from({ length: 2000 }, (_, i): [number, SentReading] => [i / 30, i === 1234 ? null : 1180]);
  expect(thinned(samples).filter(([, ohms]) => ohms === null)).toEqual([[1234 / 30, null]]);
});

test('stretches are bounded, and each lies in one that is drawn', () => {
  const stretches = Array.from({ length: 900 }, (_, i) => ({ fromS: i / 15, toS: i / 15 + 0.03 }));
  const drawn = drawnStretches(stretches, 60);
  expect(drawn.length).toBeLessThanOrEqual(mostStretches);
  for (const s of stretches) expect(drawn.some((d) => d.fromS <= s.fromS && d.toS >= s.toS)).toBe(true);
  expect(
    drawnStretches(
      [
        { fromS: 1, toS: 2 },
        { fromS: 30, toS: 30 },
      ],
      60,
    ),
  ).toHaveLength(2);
});

test('few breaks are drawn one by one, also where a sound reading is all that parts them', () => {
  const stretches = Array.from({ length: 40 }, (_, i) => ({ fromS: i, toS: i + 0.8 }));
  expect(drawnStretches(stretches, 60)).toEqual(stretches);
});
