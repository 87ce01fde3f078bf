import { failed, type Problem, type Result } from '../units';
import { Gathered, hex, type MemoryImage, mostAddress, mostBytes, mostProblems, problem } from './image';
import { decodeHex, linesOf, shown, sumOf } from './lines';
import { sentences } from './sentences';

/** Bytes that a record of each type holds besides its address; undefined: any number. */
const sizes: Readonly<Record<number, number | undefined>> = { 0: undefined, 1: 0, 2: 2, 3: 4, 4: 2, 5: 4 };
const colon = 0x3a;

/**
 * A file of Intel HEX records (Intel, Hexadecimal Object File Format Specification, revision A): data (00), end (01), segment (02) and linear (04) base
 * address; start addresses (03, 05) are read and left out, since a memory has none. Read tolerantly: any line ends, blanks around a record, small letters;
 * each byte is accounted for by count and checksum. Gaps stay gaps; the same byte twice is taken once.
 * @returns the image, or up to twenty problems, each with its record, what was expected and what was found
 */
export function readIntelHex(file: Uint8Array): Result<MemoryImage> {
  const problems: Problem[] = [];
  const bytes = new Uint8Array(file.length >> 1);
  const gathered = new Gathered(bytes);
  // Where the record's bytes begin among all.
  let at = 0;
  let [record, base, ended, data] = [0, 0, false, 0];
  const say = (code: string, message: string) => problems.push(problem(code, record, message));
  for (const { from, to } of linesOf(file)) {
    record += 1;
    if (problems.length >= mostProblems) break;
    if (ended) {
      say('afterEnd', sentences.afterEnd);
      break;
    }
    if (file[from] !== colon) {
      say('start', sentences.start(':', shown(file[from]!)));
      continue;
    }
    const wrongAt = decodeHex(file, from + 1, to, bytes, at);
    if (wrongAt >= 0) {
      say('digits', sentences.digits(wrongAt - from + 1, shown(file[wrongAt]!)));
      continue;
    }
    const length = (to - from - 1) >> 1;
    const count = length > 0 ? bytes[at]! : 0;
    if (length !== count + 5) {
      say('count', length < count + 5 ? sentences.short(count, length - 5) : sentences.long(count, length - 5));
      continue;
    }
    const last = at + length - 1;
    const expected = -sumOf(bytes, at, last) & 0xff;
    if (bytes[last] !== expected) {
      say('checksum', sentences.checksum(hex(expected, 2), hex(bytes[last]!, 2)));
      continue;
    }
    const kind = bytes[at + 3]!;
    if (!(kind in sizes)) say('kind', sentences.kind(hex(kind, 2), sentences.intelKinds));
    else if (sizes[kind] !== undefined && sizes[kind] !== count) say('size', sentences.size(hex(kind, 2), sizes[kind], count));
    else if (kind === 1) ended = true;
    else if (kind === 2) base = ((bytes[at + 4]! << 8) | bytes[at + 5]!) * 16;
    else if (kind === 4) base = ((bytes[at + 4]! << 8) | bytes[at + 5]!) * 65_536;
    else if (kind === 0) {
      data += 1;
      const wrong = gathered.add(base + ((bytes[at + 1]! << 8) | bytes[at + 2]!), at + 4, last, record);
      if (wrong === 'tooLarge') return failed({ code: 'tooLarge', path: '', message: sentences.tooLarge(mostBytes) });
      if (wrong) say('beyond', sentences.beyond(hex(mostAddress - 1, 8)));
    }
    at += length;
  }
  return gathered.finish(':', problems, { record, data, ended });
}

/** Bytes of a data record, as most tools write them. */
const lineBytes = 16;

/** An image as Intel HEX: sixteen bytes to a record, none across a border of 64 KiB, a linear base address wherever it changes, the end. */
export function writeIntelHex({ segments }: MemoryImage): string {
  const lines: string[] = [];
  const put = (address: number, kind: number, bytes: Uint8Array) => {
    const head = [bytes.length, (address >> 8) & 0xff, address & 0xff, kind];
    const sum = [...head, ...bytes].reduce((n, b) => n + b, 0);
    lines.push(`:${[...head, ...bytes, -sum & 0xff].map((b) => hex(b, 2)).join('')}`);
  };
  let base = 0;
  for (const { at, bytes } of segments)
    for (let i = 0; i < bytes.length;) {
      const address = at + i;
      const high = Math.floor(address / 65_536);
      if (high !== base) {
        put(0, 4, Uint8Array.of(high >> 8, high & 0xff));
        base = high;
      }
      const size = Math.min(lineBytes, bytes.length - i, 65_536 - (address % 65_536));
      put(address % 65_536, 0, bytes.subarray(i, i + size));
      i += size;
    }
  put(0, 1, new Uint8Array());
  return `${lines.join('\n')}\n`;
}
