import { readFileSync } from 'node:fs';
import { explainCode, type ExplainedCode, findCodes, type FoundCodes, mostCharacters } from '../core/codes';
import { CannotUse } from './fail';
import { library } from './library';

/** `codes find`: the trouble codes in a text file, or in what comes in where the file is `-`. */
export function codesFind(file: string): FoundCodes {
  let text: string;
  try {
    text = readFileSync(file === '-' ? 0 : file, 'utf8');
  } catch {
    throw new CannotUse(`${file}: This file can’t be read. Check its name and that it may be read.`);
  }
  if (text.length > mostCharacters)
    throw new CannotUse(`${file}: ${text.length} characters are more than the ${mostCharacters} allowed. Split the file.`);
  return findCodes(text);
}

/** `codes explain`: what each code says; with a profile also its maker's own codes, and the tests of its system type. */
export function codesExplain(folders: string[], codes: string[], options: { profile?: string }): ExplainedCode[] {
  const read = library(folders);
  const profile = options.profile === undefined ? undefined : read.profiles.get(options.profile);
  if (options.profile !== undefined && !profile)
    throw new CannotUse(`--profile: "${options.profile}" does not exist. Use one of: ${[...read.profiles.keys()].join(', ')}.`);
  const tests = profile && new Set(read.families.get(profile.family)!.tests.map((t) => t.id));
  return codes.map((code) => {
    const explained = explainCode(code, read.codes, profile && tests ? { profile: profile.id, tests } : {});
    if (!explained) throw new CannotUse(`"${code}" is not a trouble code. Write P, C, B or U and four digits, such as P0562 or P0562-16.`);
    return explained;
  });
}
