/** The four systems of trouble codes, by their letter. */
export const systemsByLetter = { P: 'powertrain', C: 'chassis', B: 'body', U: 'network' } as const;
export type CodeSystem = (typeof systemsByLetter)[keyof typeof systemsByLetter];

/** Who gives a code its meaning: the public standard, the maker of the vehicle, or nobody yet. */
export type CodeOwner = 'standard' | 'maker' | 'reserved';

/** A trouble code taken apart. */
export interface TroubleCode {
  /** Five characters in capitals, such as `P0562`. */
  code: string;
  system: CodeSystem;
  owner: CodeOwner;
  /** Two hexadecimal digits that say how it failed, where the code has them. */
  failureType?: string;
}

/** The letter, a digit from 0 to 3, three hexadecimal digits (ISO 15031-6, SAE J2012); then, where it is there, the failure type byte. */
const form = /^([PCBU])([0-3][0-9A-F]{3})(?:[-:]?([0-9A-F]{2}))?$/;

/**
 * A code as written, in capitals or not, with its failure type behind a hyphen, a colon or nothing.
 * @returns undefined where it isn't one; look-alikes such as the letter O are not read as digits
 * @example readCode('p0562-16') // { code: 'P0562', system: 'powertrain', owner: 'standard', failureType: '16' }
 */
export function readCode(text: string): TroubleCode | undefined {
  const found = form.exec(text.trim().toUpperCase());
  if (!found) return undefined;
  const [, letter, digits, failureType] = found as unknown as [string, keyof typeof systemsByLetter, string, string | undefined];
  return {
    code: `${letter}${digits}`,
    system: systemsByLetter[letter],
    owner: ownerOf(letter, digits),
    ...(failureType === undefined ? {} : { failureType }),
  };
}

/**
 * Who gives a code its meaning (SAE J2012): P0, P2 and P34 to P39 the standard, P1 and P30 to P33 the maker; B0 and C0 the standard, B1, B2, C1 and C2
 * the maker, B3 and C3 nobody yet; U0 and U3 the standard, U1 and U2 the maker. P3A to P3F are reserved too.
 */
function ownerOf(letter: keyof typeof systemsByLetter, digits: string): CodeOwner {
  const [first, second] = [Number(digits[0]), parseInt(digits[1]!, 16)];
  if (letter === 'P' && first === 3) return second <= 3 ? 'maker' : second <= 9 ? 'standard' : 'reserved';
  if (letter === 'P') return first === 1 ? 'maker' : 'standard';
  if (first === 0) return 'standard';
  if (first === 3) return letter === 'U' ? 'standard' : 'reserved';
  return 'maker';
}
