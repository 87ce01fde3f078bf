import { compareBytes } from './bytes';
import { generator } from '../units';

const bytes = (...b: number[]) => Uint8Array.from(b);

test.each([
  ['equal', bytes(1, 2, 3), bytes(1, 2, 3), { equal: true, differing: 0, ranges: [], more: false }],
  ['both empty', bytes(), bytes(), { equal: true, differing: 0, ranges: [], more: false }],
  ['one byte', bytes(1, 2, 3), bytes(1, 9, 3), { equal: false, differing: 1, ranges: [{ at: 1, length: 1 }], more: false }],
  ['longer', bytes(1, 2), bytes(1, 2, 0, 0), { equal: false, differing: 2, ranges: [{ at: 2, length: 2 }], more: false }],
  [
    'close ones are one stretch, at the limit two',
    bytes(0, 0, 0, 0, 0, 0, 0, 0, 0, 0),
    bytes(1, 0, 0, 0, 1, 0, 0, 0, 0, 1),
    {
      equal: false,
      differing: 3,
      ranges: [
        { at: 0, length: 5 },
        { at: 9, length: 1 },
      ],
      more: false,
    },
  ],
])('%s', (_name, a, b, expected) => expect(compareBytes(a, b)).toEqual(expected));

test('of many stretches the first are named, and all bytes are counted (200 seeded pairs against a plain count)', () => {
  const next = generator(5);
  for (let n = 0; n < 200; n += 1) {
    const a = Uint8Array.from({ length: Math.floor(next() * 400) }, () => Math.floor(next() * 4));
    const b = Uint8Array.from({ length: Math.floor(next() * 400) }, (_x, i) => (next() < 0.8 ? (a[i] ?? 0) : Math.floor(next() * 4)));
    const most = 1 + Math.floor(next() * 6);
    const found = compareBytes(a, b, most);
    const plain = Array.from({ length: Math.max(a.length, b.length) }, (_x, i) => a[i] !== b[i]);
    expect(found.differing).toBe(plain.filter(Boolean).length);
    expect(found.equal).toBe(found.differing === 0);
    expect(found.ranges.length).toBeLessThanOrEqual(most);
    const inside = (i: number) => found.ranges.some((r) => i >= r.at && i < r.at + r.length);
    if (!found.more) plain.forEach((differs, i) => differs && expect(inside(i)).toBe(true));
    for (const { at, length } of found.ranges) expect([plain[at], plain[at + length - 1]]).toEqual([true, true]);
  }
});
