import { combineKeys, combineStatements } from '../chain';
import type { Family } from '../library';
import { assess, type CaseFacts, type EvidenceEntry, standing } from '.';

/** A family of three links and a few tests, small enough to work out by hand. */
const family = {
  chain: [
    { id: 'key', title: 'Key', perKey: true, how: '' },
    { id: 'immobilizer', title: 'Immobilizer', perKey: true, how: '' },
    { id: 'release', title: 'Release', perKey: false, how: '' },
    { id: 'lock', title: 'Lock', perKey: false, how: '', when: { param: 'lock', is: 'yes' } },
  ],
  tests: [
    {
      id: 'lamp',
      title: 'Light',
      perKey: true,
      outcomes: {
        accepted: {
          say: '',
          says: [
            { link: 'immobilizer', state: 'holds', weight: 'direct' },
            { link: 'release', state: 'doubtful', weight: 'hint', when: { any: [{ changed: 'ecm' }, { symptom: 'startsAndDies' }] } },
          ],
        },
        refused: {
          say: '',
          says: [
            { link: 'immobilizer', state: 'broken', weight: 'direct' },
            { link: 'key', state: 'doubtful', weight: 'hint' },
          ],
        },
      },
    },
    {
      id: 'read',
      title: 'Read',
      perKey: true,
      outcomes: { reads: { say: '', says: [{ link: 'key', state: 'holds', weight: 'direct' }] }, silent: { say: '', says: [] } },
    },
    {
      id: 'live',
      title: 'Live',
      perKey: false,
      outcomes: {
        yes: { say: '', says: [{ link: 'release', state: 'holds', weight: 'direct' }] },
        no: { say: '', says: [{ link: 'release', state: 'broken', weight: 'direct' }] },
      },
    },
    { id: 'engine', title: 'Engine', perKey: true, outcomes: { runs: { say: '', says: [], provesAll: true }, silent: { say: '', says: [] } } },
  ],
  verdicts: [
    { id: 'release', when: { link: 'release', is: 'doubtful' }, kind: 'look', say: 'release' },
    { id: 'leave', when: { evidence: 'lamp', is: 'accepted' }, kind: 'leave', say: 'leave' },
  ],
  next: [
    { test: 'lamp', why: 'first' },
    { procedure: 'relearn', why: 'learn', when: { all: [{ changed: 'ecm' }, { not: { run: 'relearn', is: 'finished' } }] } },
    { verify: true, why: 'verify', when: { run: 'relearn', is: 'finished' } },
    { test: 'read', again: true, why: 'each', when: { evidence: 'lamp', is: 'refused' } },
    { test: 'live', why: 'ask', when: { link: 'release', is: 'doubtful' } },
  ],
} as unknown as Family;
const facts: CaseFacts = { changed: [], symptoms: [], keys: ['A', 'B'], runs: {}, verified: false };
const seen = (...list: [test: string, outcome: string, key?: string][]): EvidenceEntry[] =>
  list.map(([test, outcome, key], i) => ({ id: `e${i}`, test, outcome, ...(key ? { key } : {}) }));
const look = (evidence: EvidenceEntry[], more: Partial<CaseFacts> = {}) => assess(family, {}, { ...facts, ...more }, evidence);
const states = (evidence: EvidenceEntry[], more: Partial<CaseFacts> = {}) =>
  Object.fromEntries(look(evidence, more).links.map((l) => [l.id, l.state]));
const nextOf = (evidence: EvidenceEntry[], more: Partial<CaseFacts> = {}) =>
  look(evidence, more).next.map((p) => (p.kind === 'test' ? `${p.test.id}${p.key ? ` ${p.key}` : ''}` : p.kind));

test('without evidence every link is unproven, and a link whose condition does not hold is not in the chain', () => {
  expect(states([])).toEqual({ key: 'unproven', immobilizer: 'unproven', release: 'unproven' });
  expect(assess(family, { lock: 'yes' }, facts, []).links.map((l) => l.id)).toContain('lock');
});

describe('accepted', () => {
  test('clears immobilizer and, when nothing was swapped, leaves release alone and the immobilizer with it', () => {
    const evidence = seen(['lamp', 'accepted', 'A']);
    expect(states(evidence)).toMatchObject({ immobilizer: 'holds', release: 'unproven' });
    expect(look(evidence).verdict?.id).toBe('leave');
  });
  test.each([
    ['a module was swapped', { changed: ['ecm'] }],
    ['it starts and dies', { symptoms: ['startsAndDies'] }],
  ])('leaves release doubtful when %s', (_why, more) => {
    const evidence = seen(['lamp', 'accepted', 'A']);
    expect(states(evidence, more)).toMatchObject({ immobilizer: 'holds', release: 'doubtful' });
    expect(look(evidence, more).verdict?.id).toBe('release');
  });
});

test('direct evidence overrules a hint, whichever came first; the latest direct one counts', () => {
  expect(states(seen(['lamp', 'refused', 'A'], ['read', 'reads', 'A'])).key).toBe('holds');
  expect(states(seen(['read', 'reads', 'A'], ['lamp', 'refused', 'A'])).key).toBe('holds');
  expect(states(seen(['lamp', 'refused', 'A'], ['lamp', 'accepted', 'A'])).immobilizer).toBe('holds');
});

test('keys that disagree leave a link doubtful, each key keeps its own state', () => {
  const immobilizer = look(seen(['lamp', 'refused', 'A'], ['lamp', 'accepted', 'B'])).links.find((l) => l.id === 'immobilizer');
  expect(immobilizer).toMatchObject({
    state: 'doubtful',
    keys: [
      { tag: 'A', state: 'broken' },
      { tag: 'B', state: 'holds' },
    ],
  });
});

test('a repeated test with the same key counts once', () => {
  const token = look(seen(['lamp', 'refused', 'A'], ['lamp', 'refused', 'A'])).links.find((l) => l.id === 'key')!;
  expect(token.because.map((b) => b.evidence)).toEqual(['e1']);
});

test('an engine that runs proves every link for that moment', () =>
  expect(states(seen(['live', 'no'], ['engine', 'runs', 'A']))).toEqual({ key: 'holds', immobilizer: 'holds', release: 'holds' }));

test('a corrected entry is gone, a withdrawn one too', () => {
  const evidence: EvidenceEntry[] = [...seen(['lamp', 'refused', 'A']), { id: 'fix', test: 'lamp', outcome: 'accepted', key: 'A', replaces: 'e0' }];
  expect(states(evidence)).toMatchObject({ immobilizer: 'holds', key: 'unproven' });
  const withdrawn: EvidenceEntry[] = [...seen(['lamp', 'refused', 'A']), { id: 'gone', test: 'lamp', outcome: null, key: 'A', replaces: 'e0' }];
  expect(standing(withdrawn)).toEqual([]);
  expect(states(withdrawn)).toMatchObject({ immobilizer: 'unproven' });
});

describe('what comes next', () => {
  test('the lamp first', () => expect(nextOf([])).toEqual(['lamp A']));
  test('a refused lamp asks for each key in turn', () => {
    expect(nextOf(seen(['lamp', 'refused', 'A']))).toEqual(['read A']);
    expect(nextOf(seen(['lamp', 'refused', 'A'], ['read', 'silent', 'A']))).toEqual(['read B']);
  });
  test('when nothing is left it says so', () => expect(nextOf(seen(['lamp', 'accepted', 'A']))).toEqual(['nothing']));
  test('a swapped module leads to the relearn, a finished one to the verification, a verified case to the hand-over', () => {
    expect(nextOf(seen(['lamp', 'accepted', 'A']), { changed: ['ecm'] })).toEqual(['procedure', 'live']);
    expect(nextOf(seen(['lamp', 'accepted', 'A']), { changed: ['ecm'], runs: { relearn: 'finished' } })[0]).toBe('verify');
    expect(nextOf(seen(['lamp', 'accepted', 'A']), { changed: ['ecm'], runs: { relearn: 'finished' }, verified: true })[0]).toBe('handOver');
  });
});

test('combining by hand', () => {
  expect(combineStatements([])).toBe('unproven');
  expect(
    combineStatements([
      { state: 'holds', weight: 'hint' },
      { state: 'doubtful', weight: 'hint' },
    ]),
  ).toBe('doubtful');
  expect(
    combineStatements([
      { state: 'doubtful', weight: 'hint' },
      { state: 'holds', weight: 'hint' },
    ]),
  ).toBe('doubtful');
  expect(combineStatements([{ state: 'broken', weight: 'hint' }])).toBe('broken');
  expect(combineKeys(['unproven', 'unproven'])).toBe('unproven');
  expect(combineKeys(['unproven', 'holds'])).toBe('holds');
  expect(combineKeys(['broken', 'holds'])).toBe('doubtful');
});
