import { failed, type Result } from '../units';
import { type MemoryImage, mostBytes, readRaw } from './image';
import { readIntelHex } from './intelHex';
import { sentences } from './sentences';
import { readSRecord } from './sRecord';

/** The three forms of memory files. */
export type MemoryForm = 'raw' | 'intelHex' | 'sRecord';

/** Most characters of a file of records: a record of one byte takes fourteen and more, and no tool writes those throughout. */
export const mostFileBytes = 4 * mostBytes;

/** The form of a file, by the end of its name. */
export function formOf(name: string): MemoryForm {
  if (/\.(hex|ihx|ihex)$/i.test(name)) return 'intelHex';
  return /\.(s19|s28|s37|srec|mot)$/i.test(name) ? 'sRecord' : 'raw';
}

/**
 * A memory file of any of the three forms.
 * @param at address of the first byte of a raw file, which has none of its own
 */
export function readMemory(file: Uint8Array, form: MemoryForm, at = 0): Result<MemoryImage> {
  if (file.length > mostFileBytes) return failed({ code: 'tooLarge', path: '', message: sentences.tooLarge(mostFileBytes) });
  if (form === 'raw') return readRaw(file, at);
  return form === 'intelHex' ? readIntelHex(file) : readSRecord(file);
}
