/** Codes of the tenth place in order from 1980 (49 CFR 565.15(d), table VII): no I, O, Q, U, Z and no zero; the row repeats after 30 years. */
const codes = 'ABCDEFGHJKLMNPRSTVWXY123456789';

/**
 * Model years that the tenth character may mean, the likelier first. By 49 CFR 565 a letter in the seventh place of a light vehicle means 2010 or
 * later, a digit an earlier round; other markets need not keep to it, nor use the tenth place for the year at all.
 * @param thisYear the present year: at most the next model year is possible
 */
export function modelYears(vin: string, thisYear: number): number[] {
  const at = codes.indexOf(vin[9] ?? '?');
  if (at < 0) return [];
  const years = [1980 + at, 2010 + at, 2040 + at].filter((year) => year <= thisYear + 1);
  const late = /[A-Z]/.test(vin[6] ?? '');
  return years.sort((a, b) => Number(b >= 2010 === late) - Number(a >= 2010 === late) || b - a);
}
