import { failed, type Problem, type Result, ok } from '../units';
import { sentences } from './sentences';

/** A memory as a file has it: stretches of bytes with their addresses, in order, none touching another. What was not in the file is in no stretch. */
export interface MemoryImage {
  segments: { at: number; bytes: Uint8Array }[];
}

/** Most bytes of an image, and of a raw file. */
export const mostBytes = 16 * 2 ** 20;
/** Addresses are of 32 bits. */
export const mostAddress = 2 ** 32;
/** Problems that are told; more say the same. */
export const mostProblems = 20;

export const byteCount = ({ segments }: MemoryImage): number => segments.reduce((n, s) => n + s.bytes.length, 0);

/** What a file of records holds, as it is read: stretches of the bytes that its digits say, one record after the other. */
export class Gathered {
  readonly #parts: Part[] = [];
  #bytes = 0;
  /** @param store every byte of every record, one record after the other */
  constructor(private readonly store: Uint8Array) {}
  /** @param from its first byte in the store, up to `to` @returns undefined where it fits; else why not */
  add(at: number, from: number, to: number, record: number): 'tooLarge' | 'beyond' | undefined {
    const length = to - from;
    if (at + length > mostAddress) return 'beyond';
    if ((this.#bytes += length) > mostBytes) return 'tooLarge';
    if (length > 0) this.#parts.push({ at, from, length, record });
    return undefined;
  }
  /** The image once every record is read, or what was wrong: no record, no end, no byte. @param first what each record begins with */
  finish(first: string, problems: Problem[], { record, data, ended }: { record: number; data: number; ended: boolean }): Result<MemoryImage> {
    if (record === 0) return failed({ code: 'noRecord', path: '', message: sentences.noRecord(first) });
    if (problems.length > 0) return failed(...problems);
    if (!ended) return failed(problem('noEnd', record, sentences.noEnd));
    return data === 0 ? failed({ code: 'noData', path: '', message: sentences.noData }) : this.image();
  }
  /** Puts the parts in order of their addresses. The same byte twice is taken once; two different ones for one address are refused. */
  image(): Result<MemoryImage> {
    const { store } = this;
    // Most files are in order: sorting them again would cost more than reading them.
    const inOrder = this.#parts.every((p, i) => i === 0 || this.#parts[i - 1]!.at <= p.at);
    const parts = inOrder ? this.#parts : this.#parts.toSorted((a, b) => a.at - b.at || a.record - b.record);
    const segments: MemoryImage['segments'] = [];
    let first = 0;
    while (first < parts.length) {
      let [next, end] = [first + 1, endOf(parts[first]!)];
      while (next < parts.length && parts[next]!.at <= end) {
        end = Math.max(end, endOf(parts[next]!));
        next += 1;
      }
      const { at } = parts[first]!;
      const bytes = new Uint8Array(end - at);
      let filled = at;
      for (let p = first; p < next; p += 1) {
        const part = parts[p]!;
        for (let i = 0; i < part.length; i += 1) {
          const [place, byte] = [part.at + i, store[part.from + i]!];
          if (place < filled && byte !== bytes[place - at])
            return failed(problem('overlap', part.record, sentences.overlap(hex(place, 4), hex(byte, 2), hex(bytes[place - at]!, 2))));
          bytes[place - at] = byte;
        }
        filled = Math.max(filled, endOf(part));
      }
      segments.push({ at, bytes });
      first = next;
    }
    return ok({ segments });
  }
}

/** One record's bytes: their address, and where in the store they are. */
interface Part {
  at: number;
  from: number;
  length: number;
  record: number;
}
const endOf = ({ at, length }: Part): number => at + length;

/** A number in hexadecimal digits, at least so many. */
export const hex = (value: number, digits: number): string => value.toString(16).toUpperCase().padStart(digits, '0');

export const problem = (code: string, record: number, message: string): Problem => ({ code, path: sentences.record(record), message });

/**
 * A file that is the memory byte for byte, from one address on.
 * @param at address of its first byte
 */
export function readRaw(file: Uint8Array, at = 0): Result<MemoryImage> {
  if (file.length === 0) return failed({ code: 'empty', path: '', message: sentences.emptyRaw });
  if (file.length > mostBytes) return failed({ code: 'tooLarge', path: '', message: sentences.tooLarge(mostBytes) });
  return ok({ segments: [{ at, bytes: file }] });
}

/** The bytes of an image as one stretch. @returns undefined where they are not one: a raw file can't say what is missing between */
export const writeRaw = ({ segments }: MemoryImage): Uint8Array | undefined => (segments.length === 1 ? segments[0]!.bytes : undefined);
