import { readFileSync, statSync } from 'node:fs';
import { type Alphabet, type Compared, compareEntries, longestEntry } from '../core/copycheck';
import { CannotUse } from './fail';

export interface CopycheckOptions {
  reveal?: boolean;
  length?: string;
  alphabet: Alphabet;
}

/** `copycheck compare`: two entries of one original, from two files. Without --reveal no character of them is printed. */
export function copycheckCompare(fileA: string, fileB: string, options: CopycheckOptions): Compared {
  const length = options.length === undefined ? undefined : lengthOption(options.length);
  const found = compareEntries(read(fileA), read(fileB), { alphabet: options.alphabet, ...(length === undefined ? {} : { length }) });
  if (options.reveal) return found;
  const masked = (text: string) => '•'.repeat(text.length);
  const silent = (problems: Compared['aProblems']) =>
    problems.map((p) => (p.code === 'alphabet' ? { ...p, message: 'A character that isn’t allowed here.' } : p));
  return {
    ...found,
    aProblems: silent(found.aProblems),
    bProblems: silent(found.bProblems),
    differences: found.differences.map((d) => ({ ...d, a: masked(d.a), b: masked(d.b) })),
  };
}

function lengthOption(text: string): number {
  const value = /^\d{1,5}$/.test(text) ? Number(text) : 0;
  if (value >= 1 && value <= longestEntry) return value;
  throw new CannotUse(`--length ${text}: write a whole number from 1 to ${longestEntry}.`);
}

function read(file: string): string {
  try {
    if (statSync(file).size > 4 * longestEntry) throw new CannotUse(`${file}: too large for one entry. Choose the right file.`);
    return readFileSync(file, 'utf8');
  } catch (error) {
    if (error instanceof CannotUse) throw error;
    throw new CannotUse(`${file}: can’t be read. Check the path.`);
  }
}
