import { sentences } from './sentences';

/** A line of a file of records: its bytes between blanks, and which line it is, from 1. */
export interface Line {
  from: number;
  to: number;
  number: number;
}

const [lf, cr, space, tab] = [10, 13, 32, 9];

/** Lines with something in them, whatever ends them; a mark of UTF-8 at the beginning is none of it. */
export function* linesOf(file: Uint8Array): Generator<Line> {
  let from = file[0] === 0xef && file[1] === 0xbb && file[2] === 0xbf ? 3 : 0;
  let number = 1;
  while (from < file.length) {
    let to = from;
    while (to < file.length && file[to] !== lf && file[to] !== cr) to += 1;
    let [first, end] = [from, to];
    while (first < end && (file[first] === space || file[first] === tab)) first += 1;
    while (end > first && (file[end - 1] === space || file[end - 1] === tab)) end -= 1;
    if (end > first) yield { from: first, to: end, number };
    from = to + (file[to] === cr && file[to + 1] === lf ? 2 : 1);
    number += 1;
  }
}

const values = new Int8Array(256).fill(-1);
for (let i = 0; i < 16; i += 1) {
  values[i.toString(16).charCodeAt(0)] = i;
  values[i.toString(16).toUpperCase().charCodeAt(0)] = i;
}

/**
 * Bytes written as two hexadecimal digits each, put into `into` from `at` on.
 * @returns -1, or the place of the first character that is no such digit; the last one where a digit is left over
 */
export function decodeHex(file: Uint8Array, from: number, to: number, into: Uint8Array, at: number): number {
  const end = to - ((to - from) % 2);
  for (let i = from, k = at; i < end; i += 2, k += 1) {
    const [high, low] = [values[file[i]!]!, values[file[i + 1]!]!];
    if (high < 0) return i;
    if (low < 0) return i + 1;
    into[k] = (high << 4) | low;
  }
  return end === to ? -1 : to - 1;
}

/** The same as bytes of their own. @returns them, or the place of what is no digit */
export function hexBytes(file: Uint8Array, from: number, to: number): Uint8Array | number {
  const bytes = new Uint8Array((to - from) >> 1);
  const wrong = decodeHex(file, from, to, bytes, 0);
  return wrong < 0 ? bytes : wrong;
}

/** Bytes from one place to another, added up. */
export function sumOf(bytes: Uint8Array, from: number, to: number): number {
  let sum = 0;
  for (let i = from; i < to; i += 1) sum += bytes[i]!;
  return sum;
}

/** A character as a sentence names it. */
export const shown = (byte: number): string => (byte > space && byte < 127 ? `“${String.fromCharCode(byte)}”` : sentences.control(byte));
