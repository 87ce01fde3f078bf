import { generator } from '../units';
import {
  align,
  compareEntries,
  confusable,
  copyVerdict,
  type Difference,
  differenceWords,
  groupsOfFour,
  readEntry,
  shortDigest,
  spokenGroup,
  alphabets,
} from '.';

const hex = { alphabet: 'hex' } as const;
const compare = (a: string, b: string) => compareEntries(a, b, hex);

describe('an entry', () => {
  test.each([
    ['3fa8 c01d', '3FA8C01D'],
    ['3FA8-C01D', '3FA8C01D'],
    ['3FA8:C01D\n', '3FA8C01D'],
    [' 3FA8—C01D.', '3FA8C01D'],
    ['３ＦＡ８', '3FA8'],
  ])('%j is %s', (raw, text) => expect(readEntry(raw, hex)).toEqual({ text, problems: [] }));

  test.each([
    ['3FO8', 'character 3', 'You typed “O” where only 0 to 9 and A to F is allowed. Did you mean 0?'],
    ['3FА8', 'character 3', 'You typed “А”, a letter of another alphabet, where only 0 to 9 and A to F is allowed. Did you mean A?'],
    ['3FX8', 'character 3', 'You typed “X” where only 0 to 9 and A to F is allowed. Check the original.'],
    ['3F€8', 'character 3', 'You typed “€” where only 0 to 9 and A to F is allowed. Check the original.'],
    ['', '', 'Nothing is typed yet. Type the characters.'],
    ['- -', '', 'Nothing is typed yet. Type the characters.'],
  ])('%j: %s', (raw, path, message) => expect(readEntry(raw, hex).problems).toEqual([expect.objectContaining({ path, message })]));

  test('what is no digit is not taken out, and letters are no decimal digits', () => {
    expect(readEntry('12B4', { alphabet: 'decimal' })).toEqual({
      text: '12B4',
      problems: [{ code: 'alphabet', path: 'character 3', message: 'You typed “B” where only 0 to 9 is allowed. Check the original.' }],
    });
    expect(readEntry('12O4', { alphabet: 'decimal' }).problems[0]!.message).toContain('Did you mean 0?');
  });

  test('an identification number: letters stand for themselves, I, O and Q are asked about', () => {
    const vin = { alphabet: 'identification', length: 17 } as const;
    expect(readEntry('00BTG5R36GW004182', vin)).toEqual({ text: '00BTG5R36GW004182', problems: [] });
    expect(readEntry('0OBTG5R36GW0Q4I82', vin).problems.map((p) => [p.path, p.message])).toEqual([
      ['character 2', 'You typed “O” where only 0 to 9 and A to Z without I, O and Q is allowed. Did you mean 0?'],
      ['character 13', 'You typed “Q” where only 0 to 9 and A to Z without I, O and Q is allowed. Did you mean 0?'],
      ['character 15', 'You typed “I” where only 0 to 9 and A to Z without I, O and Q is allowed. Did you mean 1?'],
    ]);
    // A Cyrillic letter that looks like ours.
    expect(readEntry('Т', { alphabet: 'identification' }).problems[0]!.message).toContain('Did you mean T?');
    expect(compareEntries('00BTG5R36GW004182', '00BTG5R36GU004182', vin).differences).toEqual([
      { kind: 'substituted', at: 11, a: 'W', b: 'U', confusable: null },
    ]);
    expect(compareEntries('00BTM5R36GV004182', '00BTN5R36GU004182', vin).differences.map((d) => d.confusable)).toEqual(['look', 'look']);
    expect(spokenGroup('GW0Z')).toBe('Golf, Whiskey, zero, Zulu');
  });

  test('every character of every alphabet is spelt, and no two alike', () => {
    for (const characters of Object.values(alphabets)) {
      const said = [...characters].map(spokenGroup);
      expect(said.every((word) => word.length > 2)).toBe(true);
      expect(new Set(said).size).toBe(characters.length);
    }
  });

  test('the length: both sides', () => {
    const read = (raw: string) => readEntry(raw, { alphabet: 'hex', length: 4 }).problems.map((p) => p.message);
    expect(read('3FA8')).toEqual([]);
    expect(read('3FA')).toEqual(['3 characters, 1 too few. It must have 4.']);
    expect(read('3FA8C')).toEqual(['5 characters, 1 too many. It must have 4.']);
    expect(readEntry('0'.repeat(20_001), hex).problems).toMatchObject([{ code: 'tooLong' }]);
  });

  test('many wrong characters are not many sentences', () => {
    expect(readEntry('X'.repeat(30), hex).problems).toHaveLength(21);
  });
});

describe('two entries', () => {
  const only = (a: string, b: string): Difference => {
    const { differences } = compare(a, b);
    expect(differences).toHaveLength(1);
    return differences[0]!;
  };
  test('equal, however they are grouped', () => {
    expect(compare('3FA8 C01D', '3fa8-c01d')).toEqual({ equal: true, aProblems: [], bProblems: [], differences: [] });
  });
  test('a wrong one, with how it came about', () => {
    expect(only('3FA8C01D', '3FABC01D')).toEqual({ kind: 'substituted', at: 4, a: '8', b: 'B', confusable: 'look' });
    expect(only('3FA8C01D', '3FA8C01B')).toEqual({ kind: 'substituted', at: 8, a: 'D', b: 'B', confusable: 'sound' });
    expect(only('3FA8C01D', '3FA8C017')).toEqual({ kind: 'substituted', at: 8, a: 'D', b: '7', confusable: null });
  });
  test('a missing and an extra one don’t make the rest wrong', () => {
    expect(only('3FA8C01D', '3FA8C1D')).toEqual({ kind: 'missing', at: 6, a: '0', b: '', confusable: null });
    expect(only('3FA8C01D', '3FA89C01D')).toEqual({ kind: 'extra', at: 5, a: '', b: '9', confusable: null });
    expect(only('3FA8C01D', '3FA8C01D9')).toEqual({ kind: 'extra', at: 9, a: '', b: '9', confusable: null });
    expect(only('3FA8C01D', 'FA8C01D')).toEqual({ kind: 'missing', at: 1, a: '3', b: '', confusable: null });
    expect(compare('00012', '0012').differences).toMatchObject([{ kind: 'missing', a: '0' }]);
  });
  test('neighbours that changed places', () => {
    expect(only('3FA8C01D', '3FA8C10D')).toEqual({ kind: 'swapped', at: 6, a: '01', b: '10', confusable: null });
    expect(only('12', '21')).toEqual({ kind: 'swapped', at: 1, a: '12', b: '21', confusable: null });
  });
  test('several at once', () => {
    expect(compare('3FA8C01D55E2', '3FABC10D5E2').differences.map((d) => d.kind)).toEqual(['substituted', 'swapped', 'missing']);
  });
  test('agreeing on something that can’t be right is not equal', () => {
    const both = compareEntries('3FA8', '3FA8', { alphabet: 'hex', length: 5 });
    expect(both.equal).toBe(false);
    expect(copyVerdict(both).head).toBe('Equal, but both wrong.');
  });
  test('10,000 characters with slips far apart, and two that have nothing in common', () => {
    const draw = generator(12);
    const digits = (n: number) => Array.from({ length: n }, () => '0123456789ABCDEF'[Math.floor(draw() * 16)]).join('');
    const a = digits(10_000);
    const b = `${a.slice(0, 20)}${a.slice(21, 5000)}9${a.slice(5000, 9990)}${a.slice(9991)}`;
    const found = align(a, b);
    expect(found.length).toBeLessThanOrEqual(3);
    expect(found.map((d) => d.kind).sort()).toEqual(['extra', 'missing', 'missing']);
    expect(align(a, digits(10_000)).length).toBe(200);
  });
  test('seeded: never more slips than were made, the same number as a plain table finds, and applied they give the second entry', () => {
    const draw = generator(31);
    const of = (n: number) => Math.floor(draw() * n);
    const letter = () => '0123456789ABCDEF'[of(16)]!;
    for (let round = 0; round < 600; round += 1) {
      const a = Array.from({ length: 1 + of(30) }, letter).join('');
      let b = a;
      const slips = of(4);
      for (let i = 0; i < slips; i += 1) {
        const at = of(b.length + 1);
        const kind = of(4);
        if (kind === 0) b = b.slice(0, at) + letter() + b.slice(at + 1);
        else if (kind === 1) b = b.slice(0, at) + b.slice(at + 1);
        else if (kind === 2) b = b.slice(0, at) + letter() + b.slice(at);
        else b = b.slice(0, at) + (b[at + 1] ?? '') + (b[at] ?? '') + b.slice(at + 2);
      }
      const found = align(a, b);
      const say = `seed 31, round ${round}: ${a} ${b} ${JSON.stringify(found)}`;
      expect([say, weigh(found)]).toEqual([say, plainDistance(a, b)]);
      expect([say, apply(a, found)]).toEqual([say, b]);
    }
  });
});

const weigh = (found: Difference[]) => found.reduce((s, d) => s + (d.kind === 'substituted' && d.confusable ? 9 : 10), 0);

/** The same costs over the whole table. */
function plainDistance(a: string, b: string): number {
  const t = Array.from({ length: a.length + 1 }, () => Array<number>(b.length + 1).fill(0));
  for (let i = 0; i <= a.length; i += 1)
    for (let j = 0; j <= b.length; j += 1) {
      if (i === 0 || j === 0) {
        t[i]![j] = 10 * (i + j);
        continue;
      }
      const [x, y] = [a[i - 1]!, b[j - 1]!];
      t[i]![j] = Math.min(t[i - 1]![j]! + 10, t[i]![j - 1]! + 10, t[i - 1]![j - 1]! + (x === y ? 0 : confusable(x, y) ? 9 : 10));
      if (i > 1 && j > 1 && x !== a[i - 2] && x === b[j - 2] && a[i - 2] === y) t[i]![j] = Math.min(t[i]![j]!, t[i - 2]![j - 2]! + 10);
    }
  return t[a.length]![b.length]!;
}

function apply(a: string, found: Difference[]): string {
  let result = '';
  let at = 1;
  for (const d of found) {
    result += a.slice(at - 1, d.at - 1) + d.b;
    at = d.at + d.a.length;
  }
  return result + a.slice(at - 1);
}

test('characters are named only where they may be seen', () => {
  const [one] = compare('3FA8C01D', '3FABC01D').differences;
  expect(differenceWords(one!, true)).toBe('In group 1, character 4: 8 in the first, B in the second. They look alike.');
  expect(differenceWords(one!, false)).toBe('In group 1, character 4: two different characters. They look alike.');
  const words = (a: string, b: string) => differenceWords(compare(a, b).differences[0]!, false);
  expect(words('3FA8C01D', '3FA8C1D')).toBe('In group 2, character 2: a character is missing in the second.');
  expect(words('3FA8C01D', '3FA89C01D')).toBe('Before group 2, character 1: a character is one too many in the second.');
  expect(words('3FA8C01D', '3FA8C10D')).toBe('In group 2, character 2: two neighbors are swapped.');
});

test('groups, spoken words, and a digest with its reference value', () => {
  expect(groupsOfFour('3FA8C0')).toEqual(['3FA8', 'C0']);
  expect(groupsOfFour('')).toEqual([]);
  expect(spokenGroup('3FA9')).toBe('three, Foxtrot, Alfa, niner');
  // SHA-256 of "abc", FIPS 180-4: BA7816BF 8F01CFEA …
  expect(shortDigest('abc')).toBe('BA78 16BF');
  expect(shortDigest('3FA8C01D')).not.toBe(shortDigest('3FA8C01E'));
  expect([confusable('8', 'B'), confusable('B', '8'), confusable('D', 'E'), confusable('A', '8'), confusable('7', '8')]).toEqual([
    'look',
    'look',
    'sound',
    'sound',
    null,
  ]);
});
