import type { Problem } from '../units';
import { sentences } from './sentences';

/** `identification`: what may stand in a vehicle's identification number (ISO 3779). */
export const alphabets = {
  hex: '0123456789ABCDEF',
  decimal: '0123456789',
  identification: '0123456789ABCDEFGHJKLMNPRSTUVWXYZ',
} as const satisfies Record<string, string>;
export type Alphabet = keyof typeof alphabets;
export const alphabetWords: Readonly<Record<Alphabet, string>> = {
  hex: sentences.hex,
  decimal: '0 to 9',
  identification: sentences.identification,
};

/** What an entry must be. */
export interface Form {
  alphabet: Alphabet;
  /** Characters; left out: nobody said. */
  length?: number;
}

/** Longer entries are no code that a person copies. */
export const longestEntry = 20_000;

/** An entry with what it is made of. */
export interface Entry {
  /** The characters that count, in capitals; what is not of the alphabet stays in, so that places don't shift. */
  text: string;
  problems: Problem[];
}

/** Letters of other alphabets that look like ours, and what people type for a digit. */
const lookAlikes: Readonly<Record<string, string>> = {
  А: 'A',
  В: 'B',
  С: 'C',
  Е: 'E',
  О: '0',
  З: '3',
  Б: '6',
  К: 'K',
  М: 'M',
  Н: 'H',
  Р: 'P',
  Т: 'T',
  У: 'Y',
  Х: 'X',
  Α: 'A',
  Β: 'B',
  Ε: 'E',
  Ο: '0',
  Ζ: 'Z',
  Η: 'H',
  Κ: 'K',
  Μ: 'M',
  Ν: 'N',
  Ρ: 'P',
  Τ: 'T',
  Υ: 'Y',
  Χ: 'X',
  O: '0',
  I: '1',
  L: '1',
  S: '5',
  Z: '2',
  G: '6',
  Q: '0',
};

/**
 * Reads an entry: blanks, line ends, dashes, dots, colons and underscores that group it are left out, small letters count as capitals, and full-width
 * digits as plain ones. Everything else that is not of the alphabet is a problem with its place (from 1, among the characters that count), and what it may
 * have been meant as. An entry is never corrected in silence.
 */
export function readEntry(raw: string, { alphabet, length }: Form): Entry {
  const problems: Problem[] = [];
  const characters = [...raw.normalize('NFKC').replace(/^\ufeff/, '')]
    .filter((c) => !/[\s\u200b-\u200d\u2060\-‐‑‒–—−_.:,]/.test(c))
    .map((c) => c.toUpperCase());
  const allowed: string = alphabets[alphabet];
  const wrong = characters.flatMap((c, i) => (allowed.includes(c) ? [] : [{ c, at: i + 1 }]));
  for (const { c, at } of wrong.slice(0, 20)) {
    const meant = lookAlikes[c];
    const kind = /^[A-Z]$/.test(c) ? `“${c}”` : /^\p{L}$/u.test(c) ? sentences.foreignLetter(c) : `“${c}”`;
    problems.push({
      code: 'alphabet',
      path: sentences.characterAt(at),
      message: sentences.wrongCharacter(
        kind,
        alphabetWords[alphabet],
        meant && allowed.includes(meant) ? sentences.wasMeant(meant) : sentences.checkTheOriginal,
      ),
    });
  }
  if (wrong.length > 20) problems.push({ code: 'alphabet', path: '', message: sentences.manyWrong(wrong.length - 20) });
  if (characters.length === 0) problems.push({ code: 'empty', path: '', message: sentences.empty });
  else if (characters.length > longestEntry)
    problems.push({ code: 'tooLong', path: '', message: sentences.tooLong(characters.length, longestEntry) });
  else if (length !== undefined && characters.length !== length) {
    const off = characters.length - length;
    problems.push({
      code: 'length',
      path: '',
      message: sentences.length(characters.length, Math.abs(off), off > 0 ? 'many' : 'few', length),
    });
  }
  return { text: characters.slice(0, longestEntry).join(''), problems };
}

/** In groups of four. @example groupsOfFour("3FA8C0") // ["3FA8", "C0"] */
export const groupsOfFour = (text: string): string[] => text.match(/.{1,4}/gsu) ?? [];
