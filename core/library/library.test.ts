import {
  type Condition,
  closedBecause,
  effects,
  evaluateExpression,
  type FactLookup,
  fillText,
  formatParams,
  effectWords,
  gates,
  holds,
  flashesPerSecond,
  lampTimeline,
  mainFirst,
  parseExpression,
  placeholdersIn,
  resolveParams,
  warnedBecause,
  withKeys,
} from '.';
import type { Family, Profile } from './documents';

describe('expressions', () => {
  test.each([
    [60, 60],
    ['$dwell', 560],
    ['$dwell + 60', 620],
    ['$dwell-90', 470],
    ['$dwell +0.5', 560.5],
    ['$dwell min', 33600],
    ['$dwell  min - 30', 33570],
  ])('%s is %d', (expression, value) => expect(evaluateExpression(expression, { dwell: 560 })).toBe(value));

  test.each([
    'dwell',
    '$dwell * 2',
    '$Dwell',
    '$dwell + $off',
    '$dwell + -3',
    '$dwellmin + x',
    '$dwell h',
    '$dwell + 3 min',
    '',
    '60',
    Number.NaN,
    Infinity,
  ])('%s is no expression', (text) => expect(parseExpression(text)).toBeUndefined());

  test('a missing parameter is a programmer’s error and names it', () => {
    expect(() => evaluateExpression('$gone', {})).toThrow('Parameter "gone" of expression "$gone" is not a number');
    expect(() => evaluateExpression('$cut', { cut: 'fuel' })).toThrow('Parameter "cut"');
  });
});

describe('conditions', () => {
  const known: Record<string, string | number | boolean> = {
    'answer lit': 'lit',
    'counter rounds': 3,
    'changed cover': true,
    'changed water': false,
  };
  const facts: FactLookup = (subject, name) => known[`${subject} ${name}`];
  test.each<[Condition, boolean]>([
    [{ answer: 'lit', is: 'lit' }, true],
    [{ answer: 'lit', is: 'dark' }, false],
    [{ answer: 'unknown', is: 'lit' }, false],
    [{ counter: 'rounds', atLeast: 3 }, true],
    [{ counter: 'rounds', atLeast: '$cycles' }, true],
    [{ counter: 'rounds', gt: '$cycles' }, false],
    [{ counter: 'rounds', gt: 2 }, true],
    [{ counter: 'rounds', lt: 3 }, false],
    [{ counter: 'rounds', lt: 4 }, true],
    [{ changed: 'cover' }, true],
    [{ changed: 'water' }, false],
    [{ changed: 'fire' }, false],
    [{ param: 'cut', is: 'fuel' }, true],
    [{ not: { answer: 'lit', is: 'lit' } }, false],
    [{ all: [{ changed: 'cover' }, { changed: 'water' }] }, false],
    [{ any: [{ changed: 'cover' }, { changed: 'water' }] }, true],
  ])('%j is %s', (condition, expected) => expect(holds(condition, facts, { cycles: 3, cut: 'fuel' })).toBe(expected));
});

describe('what a test does, in words', () => {
  const lockout = (status: 'verified' | 'typical') => ({
    lockout: { name: 'lockout', label: 'L', unit: 'min', value: 7, status, source: 's', usual: '1 to 30 min' },
  });
  test.each([
    ['lockout', lockout('verified'), 'May start a lockout (7 min): wait for it to end before the next try.'],
    ['lockout', lockout('typical'), 'May start a lockout (7 min, typical): wait for it to end before the next try.'],
    ['lockout', {}, 'May start a lockout: wait for it to end before the next try.'],
    ['none', lockout('verified'), 'No lasting effect.'],
  ] as const)('%s', (effect, params, words) => expect(effectWords(effect, params)).toBe(words));
});

describe('gates', () => {
  const record = { authority: false, keysAbsent: ['B'] };
  test('everything but none and lockout needs authority on record', () => {
    expect(effects.filter((e) => !gates[e].authority)).toEqual(['none', 'lockout', 'alarm']);
    for (const effect of effects) expect([effect, closedBecause(effect, record).length]).toEqual([effect, gates[effect].authority ? 1 : 0]);
    for (const effect of effects) expect(closedBecause(effect, { ...record, authority: true })).toEqual([]);
  });
  test('parts without a vehicle need the identity of their sender as well', () => {
    const sent = { authority: true, keysAbsent: [], senderMissing: true };
    expect(closedBecause('writes', sent)).toEqual([
      'The parts came without a vehicle, and the sender’s identity is not on record. Check it, then record it.',
    ]);
    expect(closedBecause('none', sent)).toEqual([]);
    expect(closedBecause('writes', { ...sent, senderMissing: false })).toEqual([]);
    expect(closedBecause('writes', { ...sent, authority: false })).toHaveLength(2);
  });
  test('only what replaces keys warns of absent ones', () => {
    expect(effects.filter((e) => warnedBecause(e, record).length > 0)).toEqual(['replacesKeys']);
    expect(warnedBecause('replacesKeys', { authority: true, keysAbsent: [] })).toEqual([]);
  });
});

test('a key that is here and left out is lost like one at home', () => {
  const all = { authority: true, keysAbsent: ['H'], keysHere: ['A', 'B', 'C'].map((tag) => ({ tag, role: tag === 'A' ? 'main' : 'user' })) };
  const some = withKeys(all, ['C', 'A']);
  expect(some.keysHere!.map((k) => k.tag)).toEqual(['C', 'A']);
  expect(warnedBecause('replacesKeys', some)).toEqual([
    'Not here: tag H. A key that is not presented will no longer start the vehicle. Wait for it, or tell the customer first.',
    'Left out: tag B. A key that is not presented will no longer start the vehicle. Add it, or tell the customer first.',
  ]);
  expect(warnedBecause('addsKey', some)).toEqual([]);
  expect(withKeys(all, ['A', 'B', 'C']).keysLeftOut).toEqual([]);
});

describe('warnings before stored keys are replaced', () => {
  const warned = (...keysHere: [tag: string, role: string][]) =>
    warnedBecause('replacesKeys', { authority: true, keysAbsent: [], keysHere: keysHere.map(([tag, role]) => ({ tag, role })) }).map(
      (w) => w.split('.')[0],
    );
  test.each<[string, [string, string][], string[]]>([
    [
      'main and user',
      [
        ['A', 'main'],
        ['B', 'user'],
      ],
      [],
    ],
    ['one main key', [['A', 'main']], ['Only tag A will be left']],
    [
      'only valet keys',
      [
        ['A', 'valet'],
        ['B', 'valet'],
      ],
      ['Only a valet key is here'],
    ],
    [
      'roles not known',
      [
        ['A', 'unknown'],
        ['B', 'unknown'],
      ],
      ['No key is marked as main or master; tag A would be first'],
    ],
    [
      'master and user',
      [
        ['A', 'user'],
        ['B', 'master'],
      ],
      [],
    ],
    ['one valet key', [['A', 'valet']], ['Only tag A will be left', 'Only a valet key is here']],
    ['none', [], []],
  ])('%s', (_what, keys, expected) => expect(warned(...keys)).toEqual(expected));
});

describe('texts and parameters', () => {
  test('a name without a word stays visible', () =>
    expect(fillText('Tag {key} within {swapMax}, {gone}', { key: 'B', swapMax: '14 s' })).toBe('Tag B within 14 s, {gone}'));
  test('names are found in order', () => expect(placeholdersIn('{a} {b} {not a name} {a}')).toEqual(['a', 'b', 'a']));

  const family = {
    source: 'general',
    params: {
      dwell: { label: 'Dwell', unit: 's', min: 400, max: 900, default: 630 },
      cut: { label: 'Cut', oneOf: ['fuel', 'starter'], default: 'fuel' },
    },
  } as unknown as Family;
  test('without a profile everything is typical', () => {
    const params = resolveParams(family);
    expect(params.dwell).toEqual({
      name: 'dwell',
      label: 'Dwell',
      unit: 's',
      value: 630,
      status: 'typical',
      source: 'typical for the system type: general',
      usual: '6:40 to 15:00',
    });
    expect(params.cut).toMatchObject({ value: 'fuel', usual: 'fuel or starter' });
  });
  test('a profile’s number is verified and carries its source and person', () => {
    const profile = { values: { dwell: { value: 560, source: 'sheet 7', by: 'Ines Marrow' } } } as unknown as Profile;
    expect(resolveParams(family, profile).dwell).toMatchObject({ value: 560, status: 'verified', source: 'sheet 7 (Ines Marrow)' });
    expect(formatParams(resolveParams(family, profile), ['dwell', 'cut', 'none']).map((p) => p.value)).toEqual(['9:20', 'fuel']);
  });
  test('the main key first, then by tag', () => {
    expect(
      mainFirst([
        { tag: 'C', role: 'user' },
        { tag: 'A', role: 'valet' },
        { tag: 'B', role: 'main' },
      ]).map((k) => k.tag),
    ).toEqual(['B', 'A', 'C']);
  });
});

describe('lamp time lines', () => {
  test('groups repeat until the length is filled, to the very end', () => {
    const spans = lampTimeline([{ on: 2 }, { repeat: [{ on: 0.5 }, { off: 0.5 }] }], 4);
    expect(spans).toEqual([
      { lit: true, seconds: 2.5 },
      { lit: false, seconds: 0.5 },
      { lit: true, seconds: 0.5 },
      { lit: false, seconds: 0.5 },
    ]);
  });
  test.each([
    ['steady', [{ on: 3 }, { off: 3 }], 1],
    ['dark', [{ off: 3 }], 0],
    ['three a second', [{ repeat: [{ on: 0.2 }, { off: 0.8 / 6 }] }], 3],
    ['four a second', [{ repeat: [{ on: 0.12 }, { off: 0.13 }] }], 4],
    ['two close together, then a pause', [{ repeat: [{ on: 0.1 }, { off: 0.1 }, { on: 0.1 }, { off: 0.9 }] }], 2],
  ])('flashes in a second, %s: %#', (_what, segments, most) => expect(flashesPerSecond(lampTimeline(segments, 8))).toBe(most));
  test('a pattern longer than the length is cut', () => expect(lampTimeline([{ on: 10 }], 8)).toEqual([{ lit: true, seconds: 8 }]));
  test('a shorter one stays short', () =>
    expect(lampTimeline([{ on: 1 }, { off: 2 }], 8)).toEqual([
      { lit: true, seconds: 1 },
      { lit: false, seconds: 2 },
    ]));
});
