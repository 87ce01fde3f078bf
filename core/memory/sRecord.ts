import { failed, type Problem, type Result } from '../units';
import { Gathered, hex, type MemoryImage, mostAddress, mostBytes, mostProblems, problem } from './image';
import { decodeHex, linesOf, shown, sumOf } from './lines';
import { sentences } from './sentences';

/** Bytes of the address by the digit of the record. */
const addressBytes: Readonly<Record<string, number>> = { 0: 2, 1: 2, 2: 3, 3: 4, 5: 2, 6: 3, 7: 4, 8: 3, 9: 2 };
const [letter, small] = [0x53, 0x73];

/**
 * A file of S-records: header (S0), data (S1 to S3), count (S5, S6), end (S7 to S9). The start address of the end is left out, since a memory has none.
 * Read tolerantly: any line ends, blanks around a record, small letters, no header, no count; each byte is accounted for by count and checksum, but
 * for the digit of the type, which no checksum covers: an end narrower than the data above shows some of those. Gaps stay gaps; the same byte twice is taken
 * once.
 * @returns the image, or up to twenty problems, each with its record, what was expected and what was found
 */
export function readSRecord(file: Uint8Array): Result<MemoryImage> {
  const problems: Problem[] = [];
  const bytes = new Uint8Array(file.length >> 1);
  const gathered = new Gathered(bytes);
  // Where the record's bytes begin among all.
  let at = 0;
  let [record, ended, data, widest] = [0, false, 0, 0];
  const say = (code: string, message: string) => problems.push(problem(code, record, message));
  for (const { from, to } of linesOf(file)) {
    record += 1;
    if (problems.length >= mostProblems) break;
    if (ended) {
      say('afterEnd', sentences.afterEnd);
      break;
    }
    if (file[from] !== letter && file[from] !== small) {
      say('start', sentences.start('S', shown(file[from]!)));
      continue;
    }
    const kind = String.fromCharCode(file[from + 1] ?? 0);
    const wide = addressBytes[kind];
    if (wide === undefined) {
      say('kind', sentences.kind(`S${/[!-~]/.test(kind) ? kind : '?'}`, sentences.recordKinds));
      continue;
    }
    const wrongAt = decodeHex(file, from + 2, to, bytes, at);
    if (wrongAt >= 0) {
      say('digits', sentences.digits(wrongAt - from + 1, shown(file[wrongAt]!)));
      continue;
    }
    const length = Math.max(0, (to - from - 2) >> 1);
    const count = length > 0 ? bytes[at]! : 0;
    if (length !== count + 1 || count < wide + 1) {
      say(
        'count',
        length - 1 < Math.max(count, wide + 1) ? sentences.short(Math.max(count, wide + 1), length - 1) : sentences.long(count, length - 1),
      );
      continue;
    }
    const last = at + length - 1;
    const expected = ~sumOf(bytes, at, last) & 0xff;
    if (bytes[last] !== expected) {
      say('checksum', sentences.checksum(hex(expected, 2), hex(bytes[last]!, 2)));
      continue;
    }
    let address = 0;
    for (let i = at + 1; i <= at + wide; i += 1) address = address * 256 + bytes[i]!;
    const held = at + 1 + wide;
    if (kind >= '5' && last > held) say('size', sentences.size(`S${kind}`, 0, last - held));
    else if (kind === '5' || kind === '6') {
      if (address !== data) say('records', sentences.count(address, data));
    } else if (kind >= '7') {
      ended = true;
      if (widest > wide) say('widths', sentences.widths(wide));
    } else if (kind !== '0') {
      data += 1;
      widest = Math.max(widest, wide);
      const wrong = gathered.add(address, held, last, record);
      if (wrong === 'tooLarge') return failed({ code: 'tooLarge', path: '', message: sentences.tooLarge(mostBytes) });
      if (wrong) say('beyond', sentences.beyond(hex(mostAddress - 1, 8)));
    }
    at += length;
  }
  return gathered.finish('S', problems, { record, data, ended });
}

/** Bytes of a data record. */
const lineBytes = 16;

/** An image as S-records: an empty header, sixteen bytes to a record, addresses as wide as the highest needs, the count, the end. */
export function writeSRecord({ segments }: MemoryImage): string {
  const lines: string[] = [];
  const put = (kind: number, wide: number, address: number, bytes: Uint8Array) => {
    const head = [wide + bytes.length + 1, ...Array.from({ length: wide }, (_, i) => Math.floor(address / 256 ** (wide - 1 - i)) % 256)];
    const sum = [...head, ...bytes].reduce((n, b) => n + b, 0);
    lines.push(`S${kind}${[...head, ...bytes, ~sum & 0xff].map((b) => hex(b, 2)).join('')}`);
  };
  const last = segments.reduce((n, s) => Math.max(n, s.at + s.bytes.length - 1), 0);
  const wide = last < 2 ** 16 ? 2 : last < 2 ** 24 ? 3 : 4;
  put(0, 2, 0, new Uint8Array());
  let data = 0;
  for (const { at, bytes } of segments)
    for (let i = 0; i < bytes.length; i += lineBytes) {
      put(wide - 1, wide, at + i, bytes.subarray(i, i + lineBytes));
      data += 1;
    }
  if (data < 2 ** 16) put(5, 2, data, new Uint8Array());
  else if (data < 2 ** 24) put(6, 3, data, new Uint8Array());
  put(11 - wide, wide, 0, new Uint8Array());
  return `${lines.join('\n')}\n`;
}
