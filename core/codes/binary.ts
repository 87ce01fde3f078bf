import { failed, ok, type Result } from '../units';
import { readCode } from './code';
import { sentences } from './sentences';

const letters = ['P', 'C', 'B', 'U'] as const;

/**
 * The two bytes of a code (ISO 15031-5): two bits for the letter, two for the first digit, then three hexadecimal digits.
 * @param code five characters, such as `P0562`
 * @throws RangeError where it isn't a code
 * @example twoBytes('U0167') // [0xC1, 0x67]
 */
export function twoBytes(code: string): [number, number] {
  const read = readCode(code);
  if (!read || read.code.length !== code.trim().length) throw new RangeError(`"${code}" is not a trouble code`);
  const value = (letters.indexOf(read.code[0] as (typeof letters)[number]) << 14) | (Number(read.code[1]) << 12) | parseInt(read.code.slice(2), 16);
  return [value >> 8, value & 0xff];
}

/** The code of two bytes. @throws RangeError where one is no byte */
export function codeOfBytes(high: number, low: number): string {
  for (const byte of [high, low])
    if (!Number.isInteger(byte) || byte < 0 || byte > 255) throw new RangeError('a byte is a whole number from 0 to 255');
  const rest = (((high & 0x0f) << 8) | low).toString(16).toUpperCase().padStart(3, '0');
  return `${letters[high >> 6]}${(high >> 4) & 3}${rest}`;
}

export interface BinaryCode {
  code: string;
  failureType?: string;
  status?: number;
}

/**
 * Codes from bytes: `two` as ISO 15031-5 sends them, `four` as ISO 14229-1 does, which are two bytes, the failure type and the status. Two zero bytes are
 * no code but what fills a frame, in both forms; a code whose bytes are cut off is refused, not left out.
 */
export function codesOfBytes(bytes: readonly number[], size: 'two' | 'four'): Result<BinaryCode[]> {
  const wide = size === 'two' ? 2 : 4;
  const strange = bytes.findIndex((b) => !Number.isInteger(b) || b < 0 || b > 255);
  if (strange >= 0) return failed({ code: 'byte', path: String(strange), message: sentences.noByte(strange + 1) });
  if (bytes.length % wide !== 0) return failed({ code: 'cutOff', path: String(bytes.length), message: sentences.cutOff(bytes.length, wide) });
  const codes: BinaryCode[] = [];
  for (let i = 0; i < bytes.length; i += wide) {
    const [high, low, type, status] = bytes.slice(i, i + wide) as [number, number, number?, number?];
    if (high === 0 && low === 0) continue;
    codes.push({
      code: codeOfBytes(high, low),
      ...(type === undefined ? {} : { failureType: type.toString(16).toUpperCase().padStart(2, '0') }),
      ...(status === undefined ? {} : { status }),
    });
  }
  return ok(codes);
}

/** The bytes of codes in either form. A failure type that isn't known is 00, a status that isn't known 0. */
export function bytesOfCodes(codes: readonly BinaryCode[], size: 'two' | 'four'): number[] {
  return codes.flatMap(({ code, failureType = '00', status = 0 }) => {
    const pair = twoBytes(code);
    return size === 'two' ? pair : [...pair, parseInt(failureType, 16), status];
  });
}
