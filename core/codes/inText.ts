import { readCode } from './code';
import type { Coverage } from './coverage';
import { moduleIn, type ScannedModule } from './modules';
import { type CodeStatus, statusIn } from './status';

/** A code that stands in a text. */
export interface FoundCode {
  /** Five characters in capitals. */
  code: string;
  failureType?: string;
  /** As far as its line says. */
  status?: CodeStatus;
  /** The status byte as two hexadecimal digits, where its line has one. */
  statusByte?: string;
  /** The module that stored it: named before it on its line, in a cell of its own, or in the last heading above. */
  module?: ScannedModule;
  /** Lines of measured values right below it, as written. */
  freezeFrame?: string[];
  /** Characters before it in the text. */
  at: number;
  /** Line from 1. */
  line: number;
}

/** What could be a code if a letter that looks like a digit was meant as one, or if its parts belong together; for a person to confirm. */
export interface GuessedCode {
  text: string;
  code: string;
  at: number;
}

export interface FoundCodes {
  codes: FoundCode[];
  guesses: GuessedCode[];
  /** Who was heard, where the text is a file with a field for it. */
  coverage?: Partial<Record<ScannedModule, Coverage>>;
}

/** A word that may be a code: letters, digits and what looks like them, not within a longer word or number. */
const candidate = /(?<![A-Za-z0-9_.#$-])([PCBUpcbu])([ -]?)([0-9A-Za-z|]{4})(?:([-:]?)([0-9A-Fa-f]{2}))?(?![A-Za-z0-9_])/g;
/** A code and more behind a hyphen or a dot is a part number or a file, not a code. */
const goesOn = /^(?:-[A-Za-z0-9]|\.[A-Za-z0-9])/;

const lookAlikes: Readonly<Record<string, string>> = { O: '0', Q: '0', I: '1', L: '1', '|': '1', Z: '2', S: '5' };

/** The four characters with look-alikes as digits; undefined where they can't be four digits of a code even so. */
function asDigits(four: string): { digits: string; exact: boolean } | undefined {
  const upper = four.toUpperCase();
  let exact = true;
  let digits = '';
  for (const character of upper) {
    if (/[0-9A-F]/.test(character)) digits += character;
    else if (lookAlikes[character] === undefined) return undefined;
    else {
      digits += lookAlikes[character];
      exact = false;
    }
  }
  // A word of letters alone is a word.
  if (!/^[0-3]/.test(digits) || (!exact && upper.replaceAll(/[^0-9]/g, '').length < 2)) return undefined;
  return { digits, exact };
}

/**
 * The trouble codes in lines of text, each with what its line says. One pass over the text.
 * @param start characters before it in a longer text
 * @param above the module that the first lines belong to
 */
export function codesInText(text: string, start = 0, above?: ScannedModule): FoundCodes {
  const codes: FoundCode[] = [];
  const guesses: GuessedCode[] = [];
  let heading = above;
  let last: FoundCode | undefined;
  let at = start;
  text.split('\n').forEach((line, i) => {
    const here = inLine(line, at);
    guesses.push(...here.guesses);
    // What stands before the first code of a line, such as "stored:", belongs to all of it.
    const ofLine = here.codes.length > 0 ? statusIn(line.slice(0, here.codes[0]!.at - at)) : undefined;
    here.codes.forEach((found, k) => {
      const before = line.slice(k === 0 ? 0 : here.codes[k - 1]!.at - at + here.codes[k - 1]!.length, found.at - at);
      const behind = line.slice(found.at - at + found.length, k + 1 < here.codes.length ? here.codes[k + 1]!.at - at : undefined);
      const { length: _, ...code } = found;
      const module = moduleIn(before, 'before') ?? moduleIn(behind, 'cell') ?? heading;
      last = { ...code, ...(statusIn(behind) ?? ofLine), ...(module === undefined ? {} : { module }), line: i + 1 };
      codes.push(last);
    });
    if (here.codes.length === 0 && here.guesses.length === 0) {
      if (last && isMeasured(line)) last.freezeFrame = [...(last.freezeFrame ?? []), line.trim()];
      else {
        heading = line.trim() === '' ? heading : (moduleIn(line, 'heading') ?? heading);
        last = undefined;
      }
    }
    at += line.length + 1;
  });
  return { codes, guesses };
}

/** Codes and guesses of one line, with their places in the whole text. */
function inLine(
  line: string,
  start: number,
): { codes: (Pick<FoundCode, 'code' | 'failureType' | 'at'> & { length: number })[]; guesses: GuessedCode[] } {
  const codes: (Pick<FoundCode, 'code' | 'failureType' | 'at'> & { length: number })[] = [];
  const guesses: GuessedCode[] = [];
  let ended = -1;
  for (const match of line.matchAll(candidate)) {
    const [whole, letter, gap, four, , type] = match as unknown as [string, string, string, string, string | undefined, string | undefined];
    if (goesOn.test(line.slice(match.index + whole.length))) continue;
    // Behind a slash it is part of an address or a number, unless a list of codes goes on there.
    if (line[match.index - 1] === '/' && ended !== match.index - 1) continue;
    const read = asDigits(four);
    if (!read) continue;
    const parsed = readCode(`${letter}${read.digits}${type ?? ''}`);
    if (!parsed) continue;
    const { code, failureType } = parsed;
    ended = match.index + whole.length;
    const place = start + match.index;
    // A space or a hyphen after the letter may be a list: B 1234 is more often a label than a code.
    if (!read.exact || gap !== '') guesses.push({ text: whole, code, at: place });
    else codes.push({ code, ...(failureType === undefined ? {} : { failureType }), at: place, length: whole.length });
  }
  return { codes, guesses };
}

/** A line of a freeze frame: a name, then a figure, with or without a unit. */
const isMeasured = (line: string): boolean =>
  line.length < 80 && /^\s*[A-Za-z][A-Za-z /()%°.-]{1,40}[:=]\s*-?\d+(?:[.,]\d+)?\s*(?!codes?\b|faults?\b|dtcs?\b)[A-Za-z°%/]{0,8}\s*$/i.test(line);
