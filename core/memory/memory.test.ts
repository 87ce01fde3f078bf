import { generator } from '../units';
import {
  byteCount,
  formOf,
  type MemoryImage,
  mostBytes,
  readIntelHex,
  readMemory,
  readRaw,
  readSRecord,
  writeIntelHex,
  writeRaw,
  writeSRecord,
} from '.';
import { often } from '../../content/often.testing';

const text = (t: string) => new TextEncoder().encode(t);
const one = (at: number, ...bytes: number[]): MemoryImage => ({ segments: [{ at, bytes: Uint8Array.from(bytes) }] });
const told = (image: MemoryImage) => image.segments.map((s) => `${s.at.toString(16)}: ${[...s.bytes].map((b) => b.toString(16)).join(' ')}`);
const hexSays = (t: string) => {
  const read = readIntelHex(text(t));
  return read.ok ? told(read.value) : read.problems.map((p) => `${p.path}: ${p.message}`);
};
const recordSays = (t: string) => {
  const read = readSRecord(text(t));
  return read.ok ? told(read.value) : read.problems.map((p) => `${p.path}: ${p.message}`);
};
/** The examples below are the ones of the two formats' published descriptions, checked by hand. */
const end = ':00000001FF';

test.each<[string, string, string[]]>([
  ['a record', `:0300300002337A1E\n${end}`, ['30: 2 33 7a']],
  ['small letters, blanks, Windows lines, a mark of UTF-8', `\ufeff  :0300300002337a1e \r\n\r\n${end}\r\n`, ['30: 2 33 7a']],
  ['a linear base', `:020000040001F9\n:01000000AA55\n${end}`, ['10000: aa']],
  ['a segment base', `:020000021000EC\n:01000000AA55\n${end}`, ['10000: aa']],
  [
    'a start address is left out',
    `:040000050000010000F6\n:0400000500000000F7\n:01000000AA55\n${end}`,
    ['record 1: It has 5 bytes; its own count says 4. Read the memory again.'],
  ],
  ['gaps stay, neighbors join', `:01000000AA55\n:01000100BB43\n:01000400CC2F\n${end}`, ['0: aa bb', '4: cc']],
  ['the same byte twice is one', `:02000000AABB99\n:01000100BB43\n${end}`, ['0: aa bb']],
  [
    'two bytes for one address',
    `:02000000AABB99\n:01000100BC42\n${end}`,
    ['record 2: The byte at 0001 is BC here and BB in a record above. Read the memory again.'],
  ],
  ['a checksum', `:0300300002337A1F\n${end}`, ['record 1: The checksum is 1F; 1E would fit. A byte was changed on its way: read the memory again.']],
  ['cut off', `:0300300002\n${end}`, ['record 1: It has 0 bytes; its own count says 3. The line was cut off: read the memory again.']],
  ['no digit', `:03003G0002337A1E\n${end}`, ['record 1: Character 7 is “G”, not a hexadecimal digit. Read the memory again.']],
  ['half a byte', `:0300300002337A1\n${end}`, ['record 1: Character 16 is “1”, not a hexadecimal digit. Read the memory again.']],
  ['another beginning', `0300300002337A1E\n${end}`, ['record 1: It begins with “0”, not with “:”. Remove the line, or read the memory again.']],
  ['an unknown type', `:01000006AA4F\n${end}`, ['record 1: Records of type 06 are not known. Known types: 00 to 05.']],
  ['a base of another size', `:0100000401FA\n${end}`, ['record 1: A record of type 04 holds 2 bytes; this one holds 1. Read the memory again.']],
  [
    'no end',
    ':0300300002337A1E\n',
    ['record 1: The record that ends the file is missing, so what follows may be missing too. Read the memory again.'],
  ],
  [
    'more behind the end',
    `:01000000AA55\n${end}\n:01000100BB43`,
    ['record 3: It comes after the record that ends the file. Only one file at a time: remove what follows.'],
  ],
  ['the end alone', end, [': The file has records and no byte of memory. Read the memory again.']],
  ['nothing', ' \n ', [': The file has no record. Each begins with “:”.']],
  [
    'beyond the last address',
    `:02000004FFFFFC\n:02FFFF00AABB9B\n${end}`,
    ['record 2: It goes beyond the last address, FFFFFFFF. This is not a memory file of this kind.'],
  ],
  [
    'every problem with its record',
    `:01000000AA54\n:01000000AA55\nx\n${end}`,
    [
      'record 1: The checksum is 54; 55 would fit. A byte was changed on its way: read the memory again.',
      'record 3: It begins with “x”, not with “:”. Remove the line, or read the memory again.',
    ],
  ],
])('Intel HEX, %s', (_name, file, expected) => expect(hexSays(file)).toEqual(expected));

const [head, last] = ['S0030000FC', 'S9030000FC'];
test.each<[string, string, string[]]>([
  [
    'a file of 16-bit addresses',
    `${head}\nS1137AF00A0A0D0000000000000000000000000061\nS5030001FB\n${last}`,
    [`7af0: a a d ${Array.from({ length: 13 }, () => '0').join(' ')}`],
  ],
  ['24 and 32 bits', `S205010000AA4F\nS30600020000BB3C\nS70500000000FA`, ['10000: aa', '20000: bb']],
  ['small letters and no header', 's1040000aa51\ns9030000fc', ['0: aa']],
  ['a checksum', `S1040000AA52\n${last}`, ['record 1: The checksum is 52; 51 would fit. A byte was changed on its way: read the memory again.']],
  ['a count that differs', `S1040000AA51\nS5030002FA\n${last}`, ['record 2: It counts 2 data records; 1 are above it. Read the memory again.']],
  ['an unknown type', `S4030000FC\n${last}`, ['record 1: Records of type S4 are not known. Known types: S0 to S3 and S5 to S9.']],
  ['cut off', `S1040000\n${last}`, ['record 1: It has 2 bytes; its own count says 4. The line was cut off: read the memory again.']],
  [
    'too short for its address',
    `S10100FE\n${last}`,
    ['record 1: It has 2 bytes; its own count says 3. The line was cut off: read the memory again.'],
  ],
  [
    'an end narrower than the data',
    'S30600020000BB3C\nS9030000FC',
    ['record 2: It ends a file of 2-byte addresses, and there are wider ones above. Read the memory again.'],
  ],
  ['no end', 'S1040000AA51', ['record 1: The record that ends the file is missing, so what follows may be missing too. Read the memory again.']],
  ['no record', '', [': The file has no record. Each begins with “S”.']],
  [
    'the end with bytes in it',
    'S1040000AA51\nS9040000AA51',
    ['record 2: A record of type S9 holds 0 bytes; this one holds 1. Read the memory again.'],
  ],
])('S-record, %s', (_name, file, expected) => expect(recordSays(file)).toEqual(expected));

test('raw files: from any address, neither empty nor too large; only one stretch goes out', () => {
  expect(readRaw(Uint8Array.of(1, 2), 0x100)).toEqual({ ok: true, value: one(0x100, 1, 2) });
  expect(readRaw(new Uint8Array())).toMatchObject({ problems: [{ code: 'empty', message: 'The file is empty. Read the memory again.' }] });
  expect(readRaw(new Uint8Array(mostBytes)).ok).toBe(true);
  expect(readRaw(new Uint8Array(mostBytes + 1))).toMatchObject({ problems: [{ code: 'tooLarge' }] });
  expect(writeRaw(one(4, 9))).toEqual(Uint8Array.of(9));
  expect(writeRaw({ segments: [...one(0, 1).segments, ...one(4, 2).segments] })).toBeUndefined();
  expect(['a.BIN', 'b.hex', 'c.s19', 'd.mot', 'e'].map(formOf)).toEqual(['raw', 'intelHex', 'sRecord', 'sRecord', 'raw']);
});

/** The same stretches with the same bytes. */
function expectEqual(read: ReturnType<typeof readSRecord>, image: MemoryImage): void {
  if (!read.ok) throw new Error(JSON.stringify(read.problems));
  expect(read.value.segments.map((s) => [s.at, s.bytes.length])).toEqual(image.segments.map((s) => [s.at, s.bytes.length]));
  expect(read.value.segments.every((s, i) => Buffer.compare(s.bytes, image.segments[i]!.bytes) === 0)).toBe(true);
}

/** Reads Intel HEX and S-records as simply as can be: no check, every byte into a map of addresses. */
function naive(file: string): Map<number, number> {
  const bytes = new Map<number, number>();
  let base = 0;
  for (const line of file.split('\n')) {
    const [, hex = ''] = /^(?::|S[0-9])([0-9A-F]+)$/.exec(line) ?? [];
    const all = (hex.match(/../g) ?? []).map((h) => parseInt(h, 16));
    const put = (address: number, data: number[]) => data.forEach((b, i) => bytes.set(address + i, b));
    if (line.startsWith(':') && all[3] === 4) base = (all[4]! * 256 + all[5]!) * 65_536;
    if (line.startsWith(':') && all[3] === 0) put(base + all[1]! * 256 + all[2]!, all.slice(4, -1));
    const wide = Number(/^S([123])/.exec(line)?.[1] ?? 0) + 1;
    if (wide > 1)
      put(
        all.slice(1, 1 + wide).reduce((n, b) => n * 256 + b, 0),
        all.slice(1 + wide, -1),
      );
  }
  return bytes;
}

test('2,000 seeded images are written and read back equal, by a reader of the test’s own as well', () => {
  const random = generator(11);
  const below = (n: number) => Math.floor(random() * n);
  for (let n = 0; n < often(2000, 500); n += 1) {
    let at = below(2 ** [4, 16, 17, 25, 31][below(5)]!);
    const image: MemoryImage = {
      segments: Array.from({ length: 1 + below(3) }, () => {
        const segment = { at, bytes: Uint8Array.from({ length: 1 + below(70) }, () => below(256)) };
        at += segment.bytes.length + 1 + below(70_000);
        return segment;
      }),
    };
    for (const [write, read] of [
      [writeIntelHex, readIntelHex],
      [writeSRecord, readSRecord],
    ] as const) {
      const file = write(image);
      expectEqual(read(text(file)), image);
      const bytes = naive(file);
      expect(bytes.size).toBe(byteCount(image));
      expect(image.segments.every((s) => s.bytes.every((b, i) => bytes.get(s.at + i) === b))).toBe(true);
    }
  }
});

test('100,000 hostile files of the three forms: no crash, no hang; each problem has a place and a sentence', () => {
  const random = generator(12);
  const below = (n: number) => Math.floor(random() * n);
  const pieces = [
    ':',
    'S1',
    'S3',
    'S9',
    's',
    '00',
    'FF',
    '01',
    '04',
    '0',
    'g',
    '\n',
    '\r',
    ' ',
    ':00000001FF\n',
    'S9030000FC\n',
    ':0300300002337A1E\n',
    'S1040000AA51\n',
    '\u0000',
    'é',
  ];
  for (let i = 0; i < 100_000; i += 1) {
    let file = '';
    for (let k = below(14); k > 0; k -= 1) file += pieces[below(pieces.length)]!;
    const bytes = text(file);
    // A good file with one byte changed, dropped or doubled, every third time.
    if (i % 3 === 0 && bytes.length > 0) bytes[below(bytes.length)] = below(256);
    for (const form of ['intelHex', 'sRecord', 'raw'] as const) {
      const read = readMemory(bytes, form);
      if (read.ok) continue;
      if (
        read.problems.length === 0 ||
        read.problems.length > 20 ||
        read.problems.some((p) => !/\.$|”\.$/.test(p.message) || !/^(record \d+)?$/.test(p.path))
      )
        throw new Error(`${form} ${JSON.stringify(file)}: ${JSON.stringify(read.problems)}`);
    }
  }
});

test('a changed byte of a written file is never taken for good', () => {
  const random = generator(13);
  for (let n = 0; n < 3000; n += 1) {
    const image = one(Math.floor(random() * 60_000), ...Array.from({ length: 20 }, () => Math.floor(random() * 256)));
    for (const [write, read] of [
      [writeIntelHex, readIntelHex],
      [writeSRecord, readSRecord],
    ] as const) {
      const file = text(write(image));
      const at = Math.floor(random() * file.length);
      const digit = '0123456789ABCDEF'.charCodeAt(Math.floor(random() * 16));
      // No checksum of an S-record covers the digit of its type.
      const typed = read === readSRecord && file[at - 1] === 'S'.charCodeAt(0);
      if (file[at] === digit || file[at] === 10 || typed) continue;
      file[at] = digit;
      const again = read(file);
      if (again.ok) expect(again.value).toEqual(image);
    }
  }
});

test('large files: 1 MB in each form', () => {
  const bytes = Uint8Array.from({ length: 2 ** 20 }, (_, i) => (i * 7919) >> 3);
  const image: MemoryImage = { segments: [{ at: 0, bytes }] };
  expectEqual(readIntelHex(text(writeIntelHex(image))), image);
  expectEqual(readSRecord(text(writeSRecord(image))), image);
  // More than an image may hold, in as few characters as that takes.
  const line = `:FF000000${'00'.repeat(255)}01\n`;
  expect(readIntelHex(text(line.repeat(Math.ceil(mostBytes / 255) + 1)))).toMatchObject({ problems: [{ code: 'tooLarge', path: '' }] });
});
