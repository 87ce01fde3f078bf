import type { Layout, LayoutChecksum } from './layout';

/**
 * What a checksum ought to be over the bytes as they are.
 * CRC: the polynomial x^16 + x^12 + x^5 + 1 of ITU-T V.41, beginning with FFFF, highest bit first; check value of "123456789" is 29B1.
 * @param memory the whole memory
 * @param from where its places count from: 0, or the beginning of its slot
 */
export function calculateChecksum(memory: Uint8Array, checksum: LayoutChecksum, from: number, order: Layout['order']): Uint8Array {
  const [first, last] = [from + checksum.over.at, from + checksum.over.at + checksum.over.bytes];
  const [ownFirst, ownLast] = [from + checksum.at, from + checksum.at + checksum.bytes];
  let value = checksum.kind === 'crc16' ? 0xffff : 0;
  for (let i = first; i < last; i += 1) {
    if (i >= ownFirst && i < ownLast) continue;
    const byte = memory[i]!;
    if (checksum.kind === 'sum') value = (value + byte) % 2 ** (8 * checksum.bytes);
    else if (checksum.kind === 'xor') value ^= byte;
    else value = ((value << 8) & 0xffff) ^ crcOf[(value >> 8) ^ byte]!;
  }
  const bytes = bytesOfNumber(value, checksum.bytes, order);
  return checksum.inverted ? bytes.map((b) => b ^ 0xff) : bytes;
}

const crcOf = Uint16Array.from({ length: 256 }, (_, byte) => {
  let value = byte << 8;
  for (let i = 0; i < 8; i += 1) value = value & 0x8000 ? (value << 1) ^ 0x1021 : value << 1;
  return value & 0xffff;
});

/** @param value whole, 0 at least, below 2^48 */
export function bytesOfNumber(value: number, length: number, order: Layout['order']): Uint8Array {
  const bytes = new Uint8Array(length);
  for (let i = 0, rest = value; i < length; i += 1, rest = Math.floor(rest / 256)) bytes[order === 'low' ? i : length - 1 - i] = rest % 256;
  return bytes;
}

/** @param bytes at most six */
export function numberOfBytes(bytes: Uint8Array, order: Layout['order']): number {
  return (order === 'high' ? [...bytes] : [...bytes].reverse()).reduce((n, b) => n * 256 + b, 0);
}
