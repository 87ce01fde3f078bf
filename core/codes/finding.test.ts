import { shippedContent } from '../../content/shipped.testing';
import { codesRead, communicationCodes } from './finding';
import { findCodes } from './find';
import { scanOf } from './scan';

const { library } = shippedContent();
const read = (text: string, coverage = {}) =>
  codesRead(scanOf(findCodes(text).codes, { engine: 'answered', ...coverage }), 'immobilizer', library.codes);

test.each([
  ['', 'none'],
  ['P0351 present', 'none'],
  ['U0184', 'none'],
  ['P0562 stored', 'onlyStored'],
  ['P0562 stored\nP0513 stored', 'onlyStored'],
  ['P0562', 'power'],
  ['P0562 pending', 'power'],
  // The most telling one that is present counts.
  ['P0513 stored\nP0562 present', 'power'],
  ['P0562 present\nP0513 present', 'key'],
  ['U0100 present\nP0615 present', 'lost'],
  ['P0615 present', 'starter'],
  ['P0504', 'switches'],
  ['P0633', 'immobilizer'],
  ['P0601 present', 'memory'],
])('%j shows %s', (text, shown) => expect(read(text)).toBe(shown));

test('a scan in which neither the immobilizer nor the ECM answered shows nothing', () => {
  expect(read('P0513', { engine: 'silent' })).toBeUndefined();
  expect(read('P0513', { engine: 'notAsked' })).toBeUndefined();
  expect(read('', { engine: 'silent', immobilizer: 'answered' })).toBe('none');
});

test.each([
  ['', []],
  ['P0562 present', []],
  ['U0100 present\nU0100\nU3003 pending', ['U0100', 'U3003']],
  ['U0100 stored', []],
])('communication codes that are there in %j: %j', (text, codes) => expect(communicationCodes({ codes: findCodes(text).codes })).toEqual(codes));

test('every outcome is one of the test that a scan answers, in every system type that has it', () => {
  for (const family of library.families.values()) {
    const test = family.tests.find((t) => t.id === 'codesRead');
    expect([family.id, Object.keys(test?.outcomes ?? {}).sort()]).toEqual([
      family.id,
      ['immobilizer', 'key', 'lost', 'memory', 'none', 'onlyStored', 'power', 'starter', 'switches'],
    ]);
    expect(test!.recorded).toBe(true);
  }
});
