import type { TestDefinition } from '../library';
import { heldTags } from './custody';
import { checkFit } from './fit';
import { abilityEntries, type AbilityEntry, gridCell, type GridEvidence, isJudged, latestSeen } from './grid';

const tests = [
  {
    id: 'engine',
    perKey: true,
    outcomes: {
      dies: { say: '', says: [], abilities: { cranks: 'yes', runs: 'no' } },
      runs: { say: '', says: [], abilities: { cranks: 'yes', runs: 'yes' } },
      odd: { say: '', says: [] },
    },
  },
] as unknown as TestDefinition[];
const line = (id: string, at: number, outcome: string | null, more: Partial<GridEvidence> = {}): GridEvidence => ({
  id,
  test: 'engine',
  outcome,
  key: 'A',
  replaces: null,
  runId: null,
  by: 'x',
  occurredAt: at,
  ...more,
});
const judged = (
  at: number,
  source: AbilityEntry['source'],
  result: AbilityEntry['result'] = 'yes',
  ability: AbilityEntry['ability'] = 'runs',
  key = 'A',
): AbilityEntry => ({ key, ability, result, source, by: 'x', at });

describe('the grid', () => {
  test('tests fill it with what they show of the key they were done with', () => {
    expect(abilityEntries([], [line('1', 5, 'dies')], tests).map((e) => [e.ability, e.result, e.source, e.at])).toEqual([
      ['cranks', 'yes', 'test', 5],
      ['runs', 'no', 'test', 5],
    ]);
    expect(abilityEntries([], [line('1', 5, 'runs', { runId: 3 })], tests).map((e) => e.source)).toEqual(['run', 'run']);
  });
  test.each<[string, GridEvidence[]]>([
    ['a line that was corrected, and its withdrawal', [line('1', 5, 'dies'), line('2', 6, null, { replaces: '1' })]],
    ['no key', [line('1', 5, 'dies', { key: null })]],
    ['an unknown test', [line('1', 5, 'dies', { test: 'gone' })]],
    ['an unknown outcome', [line('1', 5, 'gone')]],
    ['an outcome that shows nothing', [line('1', 5, 'odd')]],
  ])('%s fills nothing', (_what, evidence) => expect(abilityEntries([], evidence, tests)).toEqual([]));
  test('a correction counts in place of the line it names', () => {
    expect(gridCell(abilityEntries([], [line('1', 5, 'dies'), line('2', 6, 'runs', { replaces: '1' })], tests), 'A', 'runs')).toMatchObject({
      before: { result: 'yes', at: 6 },
      now: null,
    });
  });
  test('told and seen are kept apart; of what was seen the first and the latest', () => {
    const entries = abilityEntries(
      [judged(1, 'told'), judged(9, 'seen'), judged(7, 'seen', 'cannotJudge'), judged(8, 'seen', 'no', 'runs', 'B')],
      [line('1', 5, 'dies')],
      tests,
    );
    expect(gridCell(entries, 'A', 'runs')).toMatchObject({
      told: { at: 1, result: 'yes' },
      before: { at: 5, result: 'no' },
      now: { at: 9, result: 'yes' },
    });
    expect(gridCell(entries, 'A', 'doors')).toEqual({ told: null, before: null, now: null });
    expect(latestSeen(entries, 'B', 'runs')?.result).toBe('no');
    expect(latestSeen([judged(1, 'told')], 'A', 'runs')).toBeUndefined();
  });
  test.each<[string, AbilityEntry[], string[], number, boolean]>([
    ['both keys at the moment', [judged(5, 'seen'), judged(6, 'seen', 'no', 'runs', 'B')], ['A', 'B'], 5, true],
    ['one of them a moment too early', [judged(4, 'seen'), judged(6, 'seen', 'no', 'runs', 'B')], ['A', 'B'], 5, false],
    ['told is no sight', [judged(6, 'told')], ['A'], 5, false],
    ['no key at all', [judged(6, 'seen')], [], 5, false],
    ['one key missing', [judged(6, 'seen')], ['A', 'B'], 0, false],
  ])('judged: %s', (_what, entries, keys, since, whole) => expect(isJudged(entries, keys, ['runs'], since)).toBe(whole));
});

describe('custody', () => {
  test.each<[string, [string, 'received' | 'returned', number][], string[]]>([
    ['nothing', [], []],
    [
      'received',
      [
        ['A', 'received', 1],
        ['B', 'received', 2],
      ],
      ['A', 'B'],
    ],
    [
      'returned',
      [
        ['A', 'received', 1],
        ['A', 'returned', 2],
      ],
      [],
    ],
    [
      'received again',
      [
        ['A', 'received', 1],
        ['B', 'received', 2],
        ['A', 'returned', 3],
        ['A', 'received', 4],
      ],
      ['B', 'A'],
    ],
    [
      'out of order',
      [
        ['A', 'returned', 2],
        ['A', 'received', 1],
      ],
      [],
    ],
  ])('%s', (_what, lines, held) => expect(heldTags(lines.map(([tag, act, at]) => ({ tag, act, at })))).toEqual(held));
});

describe('the fit of a new key', () => {
  const spec = { kinds: ['chipHead' as const], chips: ['notched wedge'], bands: ['421 MHz'], memories: ['blank' as const] };
  const good = { kind: 'chipHead' as const, chip: ' Notched  WEDGE', band: '421 mhz', memory: 'blank' as const };
  test('everything fits, whatever the spelling', () => expect(checkFit(good, spec).map((r) => r.verdict)).toEqual(['fits', 'fits', 'fits', 'fits']));
  test.each<[string, object, string]>([
    [
      'kind',
      { kind: 'pellet' },
      'Kind: key with a resistor chip in the blade is wrong for this vehicle. It needs blade key, chip in the head. Order the other kind.',
    ],
    [
      'chip',
      { chip: 'round bead' },
      'Chip: round bead is wrong for this vehicle. It needs notched wedge. Don’t learn or write it: it will not be accepted.',
    ],
    [
      'band',
      { band: '387 MHz' },
      'Band: 387 MHz is wrong for this vehicle. It needs 421 MHz. It may start the vehicle, but its remote will not work.',
    ],
    [
      'memory',
      { memory: 'locked' },
      'Memory: locked is wrong for this vehicle. It needs blank. A chip that belongs to another vehicle can’t be learned here.',
    ],
  ])('a wrong %s', (what, change, say) => {
    const remarks = checkFit({ ...good, ...change }, spec);
    expect(remarks.filter((r) => r.verdict !== 'fits')).toEqual([{ what, verdict: 'doesNotFit', say }]);
  });
  test('what is not known is said, of the key and of the vehicle', () => {
    expect(checkFit({ kind: 'unknown', chip: '', band: '', memory: 'unknown' }, spec).map((r) => r.verdict)).toEqual([
      'notKnown',
      'notKnown',
      'notKnown',
      'notKnown',
    ]);
    expect(checkFit(good, null).map((r) => r.verdict)).toEqual(['notKnown', 'notKnown', 'notKnown', 'notKnown']);
    expect(checkFit(good, null)[1]!.say).toBe(
      'Chip: the library doesn’t say what this vehicle needs. Look it up in the service information before you order.',
    );
  });
  test('the model’s own list counts before its family’s', () => {
    expect(checkFit(good, { kinds: ['pellet'], memories: ['blank'] }, { kinds: ['chipHead'] }).map((r) => r.verdict)).toEqual([
      'fits',
      'notKnown',
      'notKnown',
      'fits',
    ]);
  });
});
