import { checkDigit } from './checkDigit';

/** Characters that are taken for each other on a plate, a photo or in handwriting; the likeliest first. */
const lookAlikes = [
  '8B',
  '5S',
  '2Z',
  '0D',
  '6G',
  '1L',
  '1T',
  '7T',
  '7Z',
  'UV',
  'VY',
  'MN',
  'CG',
  'EF',
  'PR',
  'KX',
  'HN',
  '3B',
  '4A',
  '9P',
  '38',
  '17',
  '1J',
  '0C',
  '0U',
  'BR',
  'WN',
];

/** One change that makes the check digit right. Places count from 1. */
export interface Misread {
  kind: 'misread' | 'swapped';
  place: number;
  found: string;
  likely: string;
  vin: string;
}

/**
 * Single slips that would explain a wrong check digit, the likeliest first: one character taken for one that looks like it, then two
 * neighbours swapped.
 * @param vin 17 allowed characters whose check digit is wrong
 */
export function misreads(vin: string): Misread[] {
  const fits = (candidate: string) => checkDigit(candidate) === candidate[8];
  const found: (Misread & { rank: number })[] = [];
  [...vin].forEach((character, i) => {
    lookAlikes.forEach((pair, rank) => {
      const other = pair[0] === character ? pair[1]! : pair[1] === character ? pair[0]! : undefined;
      if (other === undefined || (i === 8 && !/[0-9X]/.test(other))) return;
      const candidate = vin.slice(0, i) + other + vin.slice(i + 1);
      if (fits(candidate)) found.push({ kind: 'misread', place: i + 1, found: character, likely: other, vin: candidate, rank });
    });
    const next = vin[i + 1];
    if (next === undefined || next === character) return;
    const candidate = vin.slice(0, i) + next + character + vin.slice(i + 2);
    if (/[0-9X]/.test(candidate[8]!) && fits(candidate))
      found.push({ kind: 'swapped', place: i + 1, found: character + next, likely: next + character, vin: candidate, rank: lookAlikes.length });
  });
  return found.sort((a, b) => a.rank - b.rank || a.place - b.place).map(({ rank: _rank, ...misread }) => misread);
}
