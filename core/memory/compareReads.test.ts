import { generator } from '../units';
import { compareReads, type MemoryImage } from '.';

const random = generator(5);
const bytes = Uint8Array.from({ length: 4096 }, () => Math.floor(random() * 256));
const image = (b: Uint8Array, at = 0): MemoryImage => ({ segments: [{ at, bytes: b }] });
const changed = (change: (b: Uint8Array) => void): MemoryImage => {
  const copy = Uint8Array.from(bytes);
  change(copy);
  return image(copy);
};

test('equal, and over other addresses', () => {
  expect(compareReads(image(bytes), image(Uint8Array.from(bytes)))).toEqual({
    says: 'same',
    text: 'Both reads are equal, byte for byte.',
    differing: 0,
    ranges: [],
    more: false,
  });
  expect(compareReads(image(bytes), image(bytes.subarray(1)))).toMatchObject({
    says: 'length',
    text: 'The reads cover different addresses: 4096 bytes and 4095 bytes. Check range and chip kind, then read again.',
  });
  expect(compareReads(image(bytes), image(bytes, 16)).says).toBe('length');
});

test.each([1, -1, 16, 64, -64])('moved by %d', (by) => {
  const moved = changed((b) => b.forEach((_, i) => (b[i] = bytes[i - by] ?? 0xff)));
  expect(compareReads(image(bytes), moved)).toMatchObject({ says: 'shift', moved: by, text: expect.stringContaining(`moved by ${by} bytes`) });
});

test('moved farther than is looked for is no move; a memory of one value fits under any and is none', () => {
  expect(
    compareReads(
      image(bytes),
      changed((b) => b.forEach((_, i) => (b[i] = bytes[i - 65] ?? 0))),
    ).says,
  ).toBe('scattered');
  expect(compareReads(image(new Uint8Array(4096)), image(new Uint8Array(4096).fill(0xff))).says).not.toBe('shift');
});

test.each<[number, 0 | 1]>([
  [0, 0],
  [3, 1],
  [7, 0],
  [7, 1],
])('bit %d always %d in the second read, or in the first', (bit, value) => {
  const stuck = changed((b) => b.forEach((_, i) => (b[i] = value === 1 ? b[i]! | (1 << bit) : b[i]! & ~(1 << bit))));
  for (const [a, b] of [
    [image(bytes), stuck],
    [stuck, image(bytes)],
  ] as const)
    expect(compareReads(a, b)).toMatchObject({
      says: 'line',
      line: { bit, value },
      text: expect.stringContaining(`data line ${bit}, which reads ${value}`),
    });
});

test('a few bytes in one bit may be chance; two bits are no line', () => {
  const few = changed((b) => {
    for (let i = 0; i < 7; i += 1) b[i * 500] = b[i * 500]! ^ 4;
  });
  expect(compareReads(image(bytes), few).says).toBe('scattered');
  const two = changed((b) => b.forEach((_, i) => (b[i] = b[i]! & ~(i % 2 === 0 ? 1 : 2))));
  expect(compareReads(image(bytes), two).says).toBe('scattered');
});

test('close together, and here and there: both sides of the limit', () => {
  const at = (last: number) =>
    changed((b) => {
      b[100] = b[100]! ^ 0xff;
      b[last] = b[last]! ^ 0xff;
    });
  expect(compareReads(image(bytes), at(611))).toMatchObject({
    says: 'together',
    differing: 2,
    ranges: [
      { at: 100, length: 1 },
      { at: 611, length: 1 },
    ],
    text: '2 bytes differ, all of them from 0064 to 0263. Did something write in between? Else a contact failed for a moment.',
  });
  expect(compareReads(image(bytes), at(612))).toMatchObject({ says: 'scattered', text: expect.stringContaining('2 bytes differ here and there') });
});

test('in a small memory, close together is within an eighth of it', () => {
  const small = new Uint8Array(256);
  const at = (last: number) => {
    const other = small.slice();
    other[10] = 1;
    other[last] = 1;
    return compareReads(image(small), image(other)).says;
  };
  expect([at(41), at(42)]).toEqual(['together', 'scattered']);
});
