import { checkDigit } from './checkDigit';
import { checkVin } from './checkVin';
import { misreads } from './misread';
import { modelYears } from './modelYear';

const year = 2026;

describe('check digit', () => {
  // Worked by hand from tables III and IV of 49 CFR 565.15: 17 ones give the sum of the weights, 89 = 8 · 11 + 1.
  test.each([
    ['11111111111111111', '1'],
    ['00B00000000000000', '1'],
    ['00000000000000000', '0'],
    // 8 · 5 (place 1) = 40 = 3 · 11 + 7
    ['50000000000000000', '7'],
    // 2 · 5 (place 17) = 10: written X
    ['00000000000000005', 'X'],
    // The ninth place itself has no weight.
    ['11111111X11111111', '1'],
  ])('%s has %s', (vin, digit) => expect(checkDigit(vin)).toBe(digit));

  test.each(['I1111111111111111', '1111111111111111', '11111111111111111 '])('a programmer’s error: %j', (vin) =>
    expect(() => checkDigit(vin)).toThrow(RangeError),
  );

  test('agrees with a plain version by the published table, on seeded numbers', () => {
    const table = {
      A: 1,
      B: 2,
      C: 3,
      D: 4,
      E: 5,
      F: 6,
      G: 7,
      H: 8,
      J: 1,
      K: 2,
      L: 3,
      M: 4,
      N: 5,
      P: 7,
      R: 9,
      S: 2,
      T: 3,
      U: 4,
      V: 5,
      W: 6,
      X: 7,
      Y: 8,
      Z: 9,
    } as Record<string, number>;
    const weight = [8, 7, 6, 5, 4, 3, 2, 10, 0, 9, 8, 7, 6, 5, 4, 3, 2];
    const alphabet = '0123456789ABCDEFGHJKLMNPRSTUVWXYZ';
    let seed = 20261125;
    const next = () => (seed = (seed * 1103515245 + 12345) % 2147483648);
    for (let n = 0; n < 500; n += 1) {
      const vin = Array.from({ length: 17 }, () => alphabet[next() % alphabet.length]).join('');
      let sum = 0;
      for (let i = 0; i < 17; i += 1) sum += (/[0-9]/.test(vin[i]!) ? Number(vin[i]) : table[vin[i]!]!) * weight[i]!;
      expect(checkDigit(vin)).toBe('0123456789X'[sum % 11]);
    }
  });
});

describe('checking', () => {
  test('blanks, hyphens and small letters don’t count', () => {
    expect(checkVin(' 11111-1111 1111 1111', year)).toMatchObject({
      vin: '11111111111111111',
      valid: true,
      usable: true,
      problems: [],
      expectedCheckDigit: '1',
    });
    expect(checkVin('00b000001 00000000', year)).toMatchObject({ valid: true, checkDigitRequired: false });
  });

  test.each([
    ['', 'Nothing is typed here. Type the 17 characters.'],
    ['1111111111111111', '1 character missing: it has 17. Read it again.'],
    ['111111111111111111', '1 character too many: it has 17. Read it again.'],
    ['111', '14 characters missing: it has 17. Read it again.'],
    ['1111111111111111O', 'Position 17: O is never used. It is likely 0.'],
    ['I1111111111111111', 'Position 1: I is never used. It is likely 1.'],
    ['1111111111111111?', 'Position 17: "?" is not a letter from A to Z or a digit. Read it again.'],
  ])('%j is refused: %s', (vin, message) => {
    const found = checkVin(vin, year);
    expect(found).toMatchObject({ valid: false, usable: false, expectedCheckDigit: null, years: [], misreads: [] });
    expect(found.problems[0]!.message).toBe(message);
  });

  test('a wrong check digit is usable, and says what would fit and the likeliest slip', () => {
    const right = '00BTG5R36GW004182';
    const fixed = right.slice(0, 8) + checkDigit(right) + right.slice(9);
    expect(checkVin(fixed, year).valid).toBe(true);
    const slip = fixed.replace('00B', '008');
    const found = checkVin(slip, year);
    expect(found).toMatchObject({ valid: false, usable: true });
    expect(found.misreads.map((m) => m.vin)).toContain(fixed);
    expect(found.problems).toHaveLength(1);
    expect(found.problems[0]).toMatchObject({ code: 'checkDigit', place: 9 });
    expect(found.problems[0]!.message).toContain('Most likely slip: position 3 is B, not 8. Not every market uses the check digit');
  });

  test('where the law asks for the digit, it says so', () => {
    const found = checkVin('11111111211111111', year);
    expect(found.checkDigitRequired).toBe(true);
    expect(found.problems[0]!.message).toMatch(/The check digit, position 9, is 2; 1 would fit\. .*Read it again\.$/);
  });

  test('two neighbours swapped are found when nothing looks alike', () => {
    const right = '00B000001' + '00000000';
    const swapped = '0B0' + right.slice(3);
    expect(misreads(swapped)).toContainEqual({ kind: 'swapped', place: 2, found: 'B0', likely: '0B', vin: right });
  });

  test('every slip that is named makes the number right', () => {
    for (const vin of ['008TG5R3XGW004182', '11111111211111111', '5S5S5S5S5S5S5S5S5'])
      for (const m of misreads(vin)) expect(checkVin(m.vin, year).valid).toBe(true);
  });
});

describe('model year', () => {
  const vin = (seventh: string, tenth: string) => `000000${seventh}00${tenth}0000000`;
  test.each([
    ['0', 'A', [1980, 2010]],
    ['R', 'A', [2010, 1980]],
    ['R', 'G', [2016, 1986]],
    ['0', 'Y', [2000]],
    ['0', '9', [2009]],
    ['R', 'V', [2027, 1997]],
    ['R', 'W', [1998]],
    ['0', 'U', []],
    ['0', 'Z', []],
    ['0', '0', []],
  ])('seventh place %s, tenth %s: %j', (seventh, tenth, years) => expect(modelYears(vin(seventh, tenth), year)).toEqual(years));
});
