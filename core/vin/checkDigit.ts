/** Characters of an identification number, with the value each has in the check (49 CFR 565.15(c), table III). I, O and Q are never used. */
const values: Readonly<Record<string, number>> = {
  ...Object.fromEntries([...'0123456789'].map((c) => [c, Number(c)])),
  ...Object.fromEntries([...'ABCDEFGH'].map((c, i) => [c, i + 1])),
  ...Object.fromEntries([...'JKLMN'].map((c, i) => [c, i + 1])),
  P: 7,
  R: 9,
  ...Object.fromEntries([...'STUVWXYZ'].map((c, i) => [c, i + 2])),
};

/** Weight of each place (49 CFR 565.15(c), table IV); the ninth is the check digit itself. */
const weights = [8, 7, 6, 5, 4, 3, 2, 10, 0, 9, 8, 7, 6, 5, 4, 3, 2];

export const isVinCharacter = (character: string): boolean => character in values;

/**
 * The check digit that belongs in the ninth place: the weighted sum modulo 11, with X for ten (49 CFR 565.15(c); ISO 3779 leaves its use to the
 * market).
 * @param vin 17 characters that may stand in an identification number
 * @example checkDigit('11111111111111111') // '1'
 */
export function checkDigit(vin: string): string {
  if (vin.length !== 17 || ![...vin].every(isVinCharacter)) throw new RangeError('checkDigit needs 17 characters without I, O and Q');
  const rest = [...vin].reduce((sum, character, i) => sum + values[character]! * weights[i]!, 0) % 11;
  return rest === 10 ? 'X' : String(rest);
}
