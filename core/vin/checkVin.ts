import { checkDigit, isVinCharacter } from './checkDigit';
import { type Misread, misreads } from './misread';
import { modelYears } from './modelYear';
import { sentences } from './sentences';

export interface VinProblem {
  code: 'empty' | 'length' | 'character' | 'checkDigit';
  /** Place of the character, from 1; absent where it concerns the whole. */
  place?: number;
  message: string;
}

export interface VinCheck {
  /** Without blanks and hyphens, in capitals. */
  vin: string;
  /** 17 characters, all allowed, check digit right. */
  valid: boolean;
  /** Right but for the check digit: usable, since not every market uses it. */
  usable: boolean;
  /** The digit that belongs in the ninth place; null when it cannot be worked out. */
  expectedCheckDigit: string | null;
  /** Whether the market is one whose law asks for the check digit, by the first character. */
  checkDigitRequired: boolean;
  problems: VinProblem[];
  /** What the tenth character may mean, the likelier first. */
  years: number[];
  /** Slips that would explain a wrong check digit, the likeliest first. */
  misreads: Misread[];
}

/** Letters that never stand in an identification number, and what is likely meant. */
const instead: Readonly<Record<string, string>> = { I: '1', O: '0', Q: '0' };

/**
 * Checks a vehicle identification number (ISO 3779: 17 characters, no I, O, Q; check digit by 49 CFR 565.15).
 * @param text as typed; blanks and hyphens don't count, small letters do as capitals
 * @param thisYear for the model year
 */
export function checkVin(text: string, thisYear: number): VinCheck {
  const vin = text.replace(/[\s-]/g, '').toUpperCase();
  const problems: VinProblem[] = [];
  if (vin === '') problems.push({ code: 'empty', message: sentences.empty });
  else if (vin.length !== 17) {
    const off = 17 - vin.length;
    const count = Math.abs(off) === 1 ? '1 character' : `${Math.abs(off)} characters`;
    problems.push({ code: 'length', message: sentences.length(count, off > 0 ? 'missing' : sentences.tooMany) });
  }
  [...vin].forEach((character, i) => {
    if (isVinCharacter(character)) return;
    const likely = instead[character];
    problems.push({
      code: 'character',
      place: i + 1,
      message: likely ? sentences.neverUsed(i + 1, character, likely) : sentences.notAllowed(i + 1, JSON.stringify(character)),
    });
  });
  const readable = problems.length === 0;
  const expectedCheckDigit = readable ? checkDigit(vin) : null;
  // Regions 1 to 5 are North America, where the law asks for it (49 CFR 565).
  const checkDigitRequired = /^[1-5]/.test(vin);
  const wrong = expectedCheckDigit !== null && vin[8] !== expectedCheckDigit;
  const likely = wrong ? misreads(vin) : [];
  if (wrong) {
    const [first] = likely;
    const slip = !first
      ? sentences.noSingleSlip
      : first.kind === 'swapped'
        ? sentences.swapped(first.place, first.place + 1, first.likely, first.found)
        : sentences.misread(first.place, first.likely, first.found);
    problems.push({
      code: 'checkDigit',
      place: 9,
      message: sentences.checkDigit(vin[8], expectedCheckDigit, slip, checkDigitRequired ? sentences.readItAgain : sentences.notEveryMarket),
    });
  }
  return {
    vin,
    valid: readable && !wrong,
    usable: readable,
    expectedCheckDigit,
    checkDigitRequired,
    problems,
    years: readable ? modelYears(vin, thisYear) : [],
    misreads: likely,
  };
}
