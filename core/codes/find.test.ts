import { generator } from '../units';
import { findCodes, mostCharacters } from './find';
import type { FoundCode } from './inText';
import { readCode } from './code';

/** Each code with what its line says, in one line. */
const brief = ({ code, failureType, module, status, statusByte }: FoundCode) =>
  [failureType === undefined ? code : `${code}-${failureType}`, module, status, statusByte].filter((part) => part !== undefined).join(' ');
const found = (text: string) => findCodes(text).codes.map(brief);
const guessed = (text: string) => findCodes(text).guesses.map((g) => `${g.text} ${g.code}`);

/** Texts as they are pasted; written before the finder was run on them, apart from those that say why they are here. */
const texts: [name: string, text: string, codes: string[], guesses: string[]][] = [
  ['one code', 'P0562', ['P0562'], []],
  ['nothing', 'The engine cranks and doesn’t start. Battery 12.4 V.', [], []],
  [
    'a report by modules',
    'Engine control module (ECM)\n  P0562-16  System voltage low   stored\n  P0633  Immobilizer key not programmed - present\nBody control module: 2 codes\n  U0100 Lost communication with ECM\n  B2810 history\nInstrument cluster\n  No codes\n',
    ['P0562-16 engine stored', 'P0633 engine present', 'U0100 body', 'B2810 body stored'],
    [],
  ],
  [
    'a table',
    'module,code,status\nBCM,U0167,stored\nECM,P0513,current\n"U0426","pending","ABS"\n',
    ['U0167 body stored', 'P0513 engine present', 'U0426 brakes pending'],
    [],
  ],
  ['telegraphic', 'p0335 p0340 stored; u0001 act. B2810:49', ['P0335', 'P0340 stored', 'U0001', 'B2810-49'], []],
  ['three bytes run together', 'P056216 U010087', ['P0562-16', 'U0100-87'], []],
  [
    'status bytes',
    'P0562 status: 0x09\nP0563 [28]\nP0560 (0x04)\nP0561 status 50',
    ['P0562 present 09', 'P0563 stored 28', 'P0560 pending 04', 'P0561 50'],
    [],
  ],
  [
    'words that deny come first',
    'P0615 not present\nP0616 no longer present\nP0617 inactive\nP0504 not confirmed',
    ['P0615 stored', 'P0616 stored', 'P0617 stored', 'P0504 pending'],
    [],
  ],
  ['one word for a whole line', 'Stored: P0513, P0633 and U0168', ['P0513 stored', 'P0633 stored', 'U0168 stored'], []],
  [
    'what is no code',
    'Part P0562A31-7, drawing B1234.pdf, box C0123-XYZ, VIN 00BTG5R36GW004182, P4567, PBEEF, U05, C01234, plate 4-18-THB, #B1234, 1P0562',
    [],
    [],
  ],
  ['at the edges', '(P0562),P0563;"U0100"\tB2810.\nC0040', ['P0562', 'P0563', 'U0100', 'B2810', 'C0040'], []],
  ['look-alikes are guesses', 'PO562 and P05l3, UO1OO, P0S62, PI234', [], ['PO562 P0562', 'P05l3 P0513', 'P0S62 P0562', 'PI234 P1234']],
  ['a code in parts is a guess', 'P 0562, B-1234 bay', [], ['P 0562 P0562', 'B-1234 B1234']],
  [
    'behind a slash only in a list of codes',
    'docs/B1234/C0040 P0562/P0563 https://x.test/U0100/ P0562 / P0563',
    ['P0562', 'P0563', 'P0562', 'P0563'],
    [],
  ],
  ['words are no codes', 'BOSS POOL COIL COOL UBOOT PILOT CLOSE', [], []],
  ['a description names another module', 'BCM: U0155 Lost communication with instrument cluster', ['U0155 body'], []],
  ['Windows line ends', 'ECM\r\nP0562 stored\r\n\r\nBCM\r\nU0100\r\n', ['P0562 engine stored', 'U0100 body'], []],
  ['the same code twice counts twice', 'P0562\nP0562', ['P0562', 'P0562'], []],
];

describe('codes in a text', () => {
  test.each(texts)('%s', (_name, text, codes, guesses) => {
    expect({ codes: found(text), guesses: guessed(text) }).toEqual({ codes, guesses });
  });

  test('where each stands', () => {
    const text = 'ECM\n  P0562, U0100\nP O';
    expect(findCodes(text).codes.map(({ code, at, line }) => [code, at, line, text.slice(at, at + 5)])).toEqual([
      ['P0562', 6, 2, 'P0562'],
      ['U0100', 13, 2, 'U0100'],
    ]);
  });

  test('measured values below a code belong to it, headings and other codes end them', () => {
    const { codes } = findCodes(
      'P0562 stored\n  Engine speed: 0 rpm\n  Battery voltage: 11.4 V\nBody control module: 2 codes\nCoolant: 20 °C\nU0100\nLoad = 12 %\n\nSpeed: 3 km/h',
    );
    expect(codes.map((c) => [c.code, c.module, c.freezeFrame])).toEqual([
      ['P0562', undefined, ['Engine speed: 0 rpm', 'Battery voltage: 11.4 V']],
      ['U0100', 'body', ['Load = 12 %']],
    ]);
  });

  test('a megabyte is read, one character more is not', () => {
    expect(findCodes('P0562 '.repeat(160_000)).codes).toHaveLength(160_000);
    expect(findCodes(' '.repeat(mostCharacters)).codes).toEqual([]);
    expect(() => findCodes(' '.repeat(mostCharacters + 1))).toThrow(RangeError);
  });

  test('100,000 hostile texts: nothing breaks, nothing is invented, nothing is missed that stands by itself', () => {
    const random = generator(20);
    const pieces = [
      'P',
      'C',
      'B',
      'U',
      'p',
      'u',
      '0',
      '1',
      '3',
      '4',
      'A',
      'F',
      'G',
      'O',
      'I',
      'l',
      'S',
      '|',
      '-',
      ':',
      ' ',
      '\n',
      '\r',
      '\t',
      ',',
      '.',
      '/',
      '[',
      '2F',
      'ECM',
      'stored',
      'not ',
      'P0562',
      'U010087',
      '\u0000',
      '\ud800',
      '０',
      'é',
    ];
    for (let i = 0; i < 100_000; i += 1) {
      let text = '';
      for (let k = 1 + Math.floor(random() * 14); k > 0; k -= 1) text += pieces[Math.floor(random() * pieces.length)]!;
      const { codes, guesses } = findCodes(text);
      for (const c of codes) {
        const written = text.slice(c.at).toUpperCase();
        const whole = c.failureType === undefined ? c.code : `${c.code}${/^.{5}[-:]/s.exec(written) ? written[5] : ''}${c.failureType}`;
        if (!written.startsWith(whole)) throw new Error(`${JSON.stringify(text)}: invented ${whole}`);
      }
      for (const g of guesses)
        if (text.slice(g.at, g.at + g.text.length) !== g.text || !readCode(g.code)) throw new Error(`${JSON.stringify(text)}: ${g.text}`);
      // The naive way: words between blanks that are five characters of a code and no more.
      const naive = text.split(/[\n\t, ]/).filter((word) => /^[PCBU][0-3][0-9A-F]{3}$/i.test(word));
      const words = codes.filter((c) => c.failureType === undefined).map((c) => c.code);
      for (const word of naive) {
        const at = words.indexOf(word.toUpperCase());
        // A letter and a blank before it make a guess of it.
        if (at < 0 && !guesses.some((g) => g.text.includes(word))) throw new Error(`${JSON.stringify(text)}: missed ${word}`);
        if (at >= 0) words.splice(at, 1);
      }
    }
  });

  test('long lines of one sign take no longer for each character than short ones', () => {
    for (const text of [
      'P'.repeat(300_000),
      'P0'.repeat(150_000),
      ' '.repeat(300_000),
      'stored '.repeat(40_000),
      'P0562 ECM '.repeat(30_000),
      'a:1'.repeat(100_000),
    ]) {
      const before = performance.now();
      findCodes(text);
      expect(performance.now() - before).toBeLessThan(3000);
    }
  });
});
