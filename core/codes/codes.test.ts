import { generator } from '../units';
import { bytesOfCodes, codeOfBytes, codesOfBytes, twoBytes } from './binary';
import { readCode } from './code';
import type { CodeList } from './documents';
import { explainCode } from './explain';
import { lintCodes } from './lintCodes';
import { parseCodes } from './schema';
import { bitsOf, byteOf, statusBits, statusOf } from './status';

describe('a code taken apart', () => {
  test.each([
    ['P0562', 'powertrain', 'standard'],
    ['P1562', 'powertrain', 'maker'],
    ['P2562', 'powertrain', 'standard'],
    ['P33FF', 'powertrain', 'maker'],
    ['P3400', 'powertrain', 'standard'],
    ['P39FF', 'powertrain', 'standard'],
    ['P3A00', 'powertrain', 'reserved'],
    ['C0040', 'chassis', 'standard'],
    ['C1040', 'chassis', 'maker'],
    ['C2040', 'chassis', 'maker'],
    ['C3040', 'chassis', 'reserved'],
    ['B0001', 'body', 'standard'],
    ['B2810', 'body', 'maker'],
    ['B3810', 'body', 'reserved'],
    ['U0167', 'network', 'standard'],
    ['U1167', 'network', 'maker'],
    ['U2167', 'network', 'maker'],
    ['U3003', 'network', 'standard'],
  ])('%s', (code, system, owner) => expect(readCode(code)).toEqual({ code, system, owner }));

  test('with its failure type, in any form it is written', () => {
    for (const text of ['P0562-16', 'p0562:16', 'P056216', ' P0562-16 ']) expect(readCode(text)).toMatchObject({ code: 'P0562', failureType: '16' });
    for (const text of ['', 'P', 'P056', 'P4562', 'X0562', 'P05G2', 'PO562', 'P0562-1', 'P0562-161', 'P0562 16', 'P05622'])
      expect(readCode(text)).toBeUndefined();
  });
});

describe('binary forms', () => {
  test('known pairs (ISO 15031-5: the letter in the two highest bits)', () => {
    expect(twoBytes('P0562')).toEqual([0x05, 0x62]);
    expect(twoBytes('C0040')).toEqual([0x40, 0x40]);
    expect(twoBytes('B2810')).toEqual([0xa8, 0x10]);
    expect(twoBytes('U0167')).toEqual([0xc1, 0x67]);
    expect(codeOfBytes(0xff, 0xff)).toBe('U3FFF');
    expect(() => twoBytes('P4562')).toThrow(RangeError);
    expect(() => twoBytes('P0562-16')).toThrow(RangeError);
    expect(() => codeOfBytes(256, 0)).toThrow(RangeError);
  });

  test('all 65,536 pairs there and back', () => {
    for (let value = 0; value < 65_536; value += 1) {
      const [high, low] = twoBytes(codeOfBytes(value >> 8, value & 0xff));
      if ((high << 8) + low !== value) throw new Error(`pair ${value}`);
    }
  });

  test('lists in both forms; zeros only fill; what is cut off or no byte is refused', () => {
    expect(codesOfBytes([0x05, 0x62, 0, 0, 0xc1, 0x67], 'two')).toEqual({ ok: true, value: [{ code: 'P0562' }, { code: 'U0167' }] });
    const four = [0x05, 0x62, 0x16, 0x2f, 0, 0, 0, 0, 0xc1, 0x00, 0x87, 0x08];
    const codes = [
      { code: 'P0562', failureType: '16', status: 0x2f },
      { code: 'U0100', failureType: '87', status: 8 },
    ];
    expect(codesOfBytes(four, 'four')).toEqual({ ok: true, value: codes });
    expect(bytesOfCodes(codes, 'four')).toEqual([...four.slice(0, 4), ...four.slice(8)]);
    expect(bytesOfCodes([{ code: 'P0562' }], 'four')).toEqual([0x05, 0x62, 0, 0]);
    expect(bytesOfCodes(codes, 'two')).toEqual([0x05, 0x62, 0xc1, 0x00]);
    const says = (bytes: number[], size: 'two' | 'four') => {
      const read = codesOfBytes(bytes, size);
      return read.ok ? '' : read.problems[0]!.message;
    };
    expect(says([5, 0x62, 1], 'two')).toBe('3 bytes are no whole number of trouble codes of 2 bytes. Read them again to the end.');
    expect(says([5, 0x62], 'four')).toBe('2 bytes are no whole number of trouble codes of 4 bytes. Read them again to the end.');
    expect(says([5, 256], 'two')).toBe('Byte 2 is not a whole number from 0 to 255. Correct it.');
    expect(codesOfBytes([], 'four')).toEqual({ ok: true, value: [] });
  });

  test('2,000 random lists of bytes: read and written again they are the same, or refused', () => {
    const random = generator(7);
    for (let i = 0; i < 2000; i += 1) {
      const bytes = Array.from({ length: Math.floor(random() * 24) }, () => Math.floor(random() * 256));
      for (const size of ['two', 'four'] as const) {
        const read = codesOfBytes(bytes, size);
        expect(read.ok).toBe(bytes.length % (size === 'two' ? 2 : 4) === 0);
        if (read.ok && !read.value.some((c) => c.code === 'P0000')) {
          const back = bytesOfCodes(read.value, size);
          if (back.length === bytes.length) expect(back).toEqual(bytes);
        }
      }
    }
  });
});

describe('the status byte', () => {
  test('bits, both ways', () => {
    expect(bitsOf(0x2f)).toEqual(['testFailed', 'testFailedThisCycle', 'pending', 'confirmed', 'failedSinceClear']);
    expect(bitsOf(0)).toEqual([]);
    expect(bitsOf(255)).toEqual([...statusBits]);
    for (let value = 0; value < 256; value += 1) expect(byteOf(bitsOf(value))).toBe(value);
    for (const value of [-1, 256, 1.5, NaN]) expect(() => bitsOf(value)).toThrow(RangeError);
  });
  test('in one word', () => expect([0x09, 0x08, 0x04, 0x50, 0x0c].map(statusOf)).toEqual(['present', 'stored', 'pending', undefined, 'stored']));
});

const listOf = (change: object = {}): CodeList => {
  const parsed = parseCodes({
    kind: 'codes',
    id: 'public',
    version: 1,
    source: 'Made up for a test.',
    checked: null,
    title: 'Public',
    topics: {
      power: { title: 'Power', relevance: 'may', why: 'Power first.', tests: ['battery', 'gone'] },
      spark: { title: 'Spark', relevance: 'later', why: 'Once it cranks.' },
    },
    ranges: [{ from: 'P0300', to: 'P03FF', topic: 'spark', title: 'ignition and misfire' }],
    codes: { P0562: { text: 'System voltage low', topic: 'power' } },
    ...change,
  });
  if (!parsed.ok) throw new Error(parsed.problems.map((p) => `${p.path}: ${p.message}`).join(' '));
  return parsed.value;
};

describe('what a code says', () => {
  const maker = listOf({
    id: 'tarn',
    maker: 'Tarn',
    profiles: ['tarn-gantry'],
    topics: {},
    ranges: [],
    codes: { P1611: { text: 'Password not learned', topic: 'power' } },
  });
  const lists = [listOf(), maker];

  test('a listed one, with failure type, group, reason and the tests that the system type has', () => {
    expect(explainCode('P0562-16', lists, { tests: new Set(['battery']) })).toEqual({
      code: 'P0562',
      system: 'powertrain',
      generic: true,
      failureType: '16',
      failureText: 'circuit voltage too low',
      text: 'System voltage low',
      known: true,
      relevance: 'may',
      why: 'Power first.',
      tests: ['battery'],
    });
  });

  test('one that stands nowhere is explained by its structure and gets no meaning', () => {
    expect(explainCode('P0399', lists)).toMatchObject({
      text: 'Powertrain trouble code of the public standard, ignition and misfire. Its text is not in this library.',
      known: false,
      relevance: 'later',
      why: 'Once it cranks.',
      tests: [],
    });
    expect(explainCode('U0999', lists)).toMatchObject({
      text: 'Network trouble code of the public standard. Its text is not in this library.',
      relevance: 'may',
    });
    expect(explainCode('C3001', lists)).toMatchObject({ text: 'C3001 is in a range that has no meaning yet. Read it again.', generic: true });
    expect(explainCode('P0562-EE', lists)).toMatchObject({ failureText: 'failure type EE, which is not in this library' });
    expect(explainCode('nothing', lists)).toBeUndefined();
    expect(explainCode('__proto__', lists)).toBeUndefined();
  });

  test('a maker’s own code is told for vehicles of that maker only', () => {
    expect(explainCode('P1611', lists, { profile: 'tarn-gantry' })).toMatchObject({ text: 'Password not learned', known: true, generic: false });
    for (const profile of ['other', undefined])
      expect(explainCode('P1611', lists, profile === undefined ? {} : { profile })).toMatchObject({
        text: 'Powertrain trouble code of the vehicle’s maker. Only the service information of this vehicle says what it means.',
        known: false,
        relevance: 'may',
        tests: [],
      });
  });
});

describe('lists of codes', () => {
  const bad = (change: object) => {
    try {
      listOf(change);
      return '';
    } catch (error) {
      return (error as Error).message;
    }
  };
  test('public and makers’ codes stay apart, stretches run forward, codes have their form', () => {
    expect(bad({ codes: { P1611: { text: 'x', topic: 'power' } } })).toBe(
      'codes.P1611: P1611 is a maker’s own code, and each maker means something else by it. Put it into a list that names the maker.',
    );
    expect(bad({ maker: 'Tarn' })).toBe('codes.P0562: P0562 is a public code. Put it into a list without a maker.');
    expect(bad({ ranges: [{ from: 'P0400', to: 'P0300', topic: 'spark', title: 'x' }] })).toBe(
      'ranges[0]: From P0400 to P0300 runs backwards. Write the smaller one first.',
    );
    expect(bad({ codes: { P4: { text: 'x', topic: 'power' } } })).not.toBe('');
  });
  test('names that lead nowhere, and a code in two lists', () => {
    const own = listOf({
      profiles: ['nobody'],
      ranges: [{ from: 'P0300', to: 'P03FF', topic: 'gone', title: 'x' }],
      codes: { P0562: { text: 'x', topic: 'lost' } },
    });
    const twin = listOf({ id: 'twin' });
    const said = lintCodes(own, [own, twin], { tests: new Set(['battery']), profiles: new Set(['tarn-gantry']) });
    expect(said.map((p) => `${p.path}: ${p.message}`)).toEqual([
      'topics.power.tests[1]: No system type has a test "gone". Name one of the library.',
      'ranges[0].topic: Topic "gone" is not in any list of trouble codes. Add it to topics, or name another.',
      'profiles[0]: Profile "nobody" does not exist. Name one of the library.',
      'codes.P0562.topic: Topic "lost" is not in any list of trouble codes. Add it to topics, or name another.',
      'codes.P0562: P0562 is also in "twin". Leave one of them out.',
    ]);
  });
});
