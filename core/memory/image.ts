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

/** What a file of records holds, as it is read: stretches that grow while one record follows the other. */
export class Gathered {
  readonly #parts: { at: number; bytes: Uint8Array; record: number }[] = [];
  #bytes = 0;
  /** @returns false where the image gets too large or leaves the addresses of 32 bits */
  add(at: number, bytes: Uint8Array, record: number): 'tooLarge' | 'beyond' | undefined {
    if (at + bytes.length > mostAddress) return 'beyond';
    if ((this.#bytes += bytes.length) > mostBytes) return 'tooLarge';
    if (bytes.length > 0) this.#parts.push({ at, bytes, record });
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
    const parts = this.#parts.toSorted((a, b) => a.at - b.at || a.record - b.record);
    const segments: MemoryImage['segments'] = [];
    let from = 0;
    while (from < parts.length) {
      let [to, end] = [from + 1, parts[from]!.at + parts[from]!.bytes.length];
      while (to < parts.length && parts[to]!.at <= end) {
        end = Math.max(end, parts[to]!.at + parts[to]!.bytes.length);
        to += 1;
      }
      const { at } = parts[from]!;
      const bytes = new Uint8Array(end - at);
      let filled = at;
      for (const part of parts.slice(from, to)) {
        for (let i = part.at; i < Math.min(filled, part.at + part.bytes.length); i += 1)
          if (bytes[i - at] !== part.bytes[i - part.at])
            return failed(problem('overlap', part.record, sentences.overlap(hex(i, 4), hex(part.bytes[i - part.at]!, 2), hex(bytes[i - at]!, 2))));
        bytes.set(part.bytes, part.at - at);
        filled = Math.max(filled, part.at + part.bytes.length);
      }
      segments.push({ at, bytes });
      from = to;
    }
    return ok({ segments });
  }
}

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
