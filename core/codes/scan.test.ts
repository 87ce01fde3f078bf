import { type Coverage, coverages } from './coverage';
import { findCodes } from './find';
import { compareScans, coverageNotes, type Scan, scanOf, whoAnswered } from './scan';

const scan = (text: string, coverage: Scan['coverage'] = {}) => scanOf(findCodes(text).codes, coverage);
const names = (codes: Scan['codes']) => codes.map((c) => c.code);

test('a scan keeps each code once for its module and failure type, without its place; whose codes were read has answered', () => {
  expect(scan('ECM\nP0562 stored\nP0562 present\nP0562-16\nBCM\nP0562', { engine: 'silent', immobilizer: 'silent' })).toEqual({
    codes: [
      { code: 'P0562', status: 'stored', module: 'engine' },
      { code: 'P0562', failureType: '16', module: 'engine' },
      { code: 'P0562', module: 'body' },
    ],
    coverage: { engine: 'answered', immobilizer: 'silent', body: 'answered' },
  });
});

test('before and after: gone, still there, new, and not known where the module was not heard again', () => {
  const before = scan('ECM\nP0562\nP0633\nBCM\nU0100\nB1000');
  const after = scan('ECM\nP0562\nP0685', { body: 'silent' });
  const { gone, still, added, unknown } = compareScans(before, after);
  expect([names(gone), names(still), names(added), names(unknown)]).toEqual([['P0633'], ['P0562'], ['P0685'], ['U0100', 'B1000']]);
  // A module that only one of the two names is no difference; another one is.
  expect(names(compareScans(scan('P0562'), scan('ECM P0562')).still)).toEqual(['P0562']);
  expect(names(compareScans(scan('BCM P0562'), scan('ECM P0562')).added)).toEqual(['P0562']);
  expect(names(compareScans(scan('P0562-16'), scan('P0562-11')).added)).toEqual(['P0562']);
  // Nobody said which module: what isn't there again is gone.
  expect(names(compareScans(scan('P0562'), scan('P0633')).gone)).toEqual(['P0562']);
});

test('what it means who was heard', () => {
  expect(coverageNotes(scan('ECM P0562'), 'immobilizer')).toEqual(['immobilizerNotAsked']);
  expect(coverageNotes(scan('P0562'), 'immobilizer')).toEqual(['immobilizerNotAsked', 'engineNotAsked']);
  expect(coverageNotes(scan('ECM P0562', { immobilizer: 'silent' }), 'immobilizer')).toEqual(['immobilizerSilent']);
  expect(coverageNotes(scan('', { immobilizer: 'answered', engine: 'silent' }), 'immobilizer')).toEqual(['engineSilent', 'noCodes']);
  expect(coverageNotes(scan('', { immobilizer: 'answered', engine: 'answered' }), 'immobilizer')).toEqual(['noCodes']);
  expect(coverageNotes(scan('', { immobilizer: 'silent', engine: 'silent' }), 'immobilizer')).toEqual(['allSilent']);
  // One silent module says nothing of all.
  expect(coverageNotes(scan('', { immobilizer: 'silent' }), 'immobilizer')).toEqual(['immobilizerSilent', 'engineNotAsked', 'noCodes']);
  // Where the ECM is the immobilizer it is named once.
  expect(coverageNotes(scan('BCM U0100', { engine: 'silent' }), 'engine')).toEqual(['engineSilent'].map(() => 'immobilizerSilent'));
});

test('which outcome of "who answers" it shows: only where both were asked and one of them answered', () => {
  const shown = (immobilizer: Coverage, engine: Coverage) => whoAnswered({ coverage: { immobilizer, engine } }, 'immobilizer');
  const table = coverages.flatMap((a) => coverages.map((b) => [a, b, shown(a, b)]));
  expect(table.filter(([, , outcome]) => outcome !== undefined)).toEqual([
    ['answered', 'answered', 'all'],
    ['answered', 'silent', 'engineMissing'],
    ['silent', 'answered', 'immobilizerMissing'],
  ]);
  expect(whoAnswered({ coverage: { engine: 'answered' } }, 'immobilizer')).toBeUndefined();
  // Where the ECM is the immobilizer.
  expect(whoAnswered({ coverage: { engine: 'answered' } }, 'engine')).toBe('all');
  expect(whoAnswered({ coverage: { engine: 'silent' } }, 'engine')).toBeUndefined();
});
