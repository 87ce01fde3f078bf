import { shippedContent } from '../../content/shipped.testing';
import { resolveParams, valuesOf } from '../library';
import { generator } from '../units';
import { often } from '../../content/often.testing';
import {
  casesIn,
  differencesOf,
  exchangeFile,
  experienceOf,
  isOff,
  type Lesson,
  lineOf,
  noTallies,
  outcomesOf,
  saidTenths,
  type Tallies,
  talliesOf,
  tenthOf,
  withLesson,
} from '.';
import { mostExchangeBytes, readExchange } from './schema';

const family = shippedContent().library.families.get('ring')!;
const params = valuesOf(resolveParams(family));
const lesson = (more: Partial<Lesson> = {}): Lesson => ({
  cause: 'coilOpen',
  line: 'orrin thimble',
  tests: [],
  fixes: [],
  said: null,
  missed: false,
  options: [],
  stayed: null,
  ...more,
});
const sum = (lessons: readonly Lesson[]): Tallies => lessons.reduce((t, l) => withLesson(t, l), noTallies());
const many = (n: number, more: Partial<Lesson> = {}) => Array.from({ length: n }, () => lesson(more));

test.each([
  ['Tarn Gantry pickup, gray', 'tarn gantry'],
  ['  Orrin   THIMBLE 2 ', 'orrin thimble'],
  ['Veskar Almanac (saloon)', 'veskar almanac'],
  ['Mirrow', 'mirrow'],
  ['2019', ''],
  ['', ''],
])('the line of "%s" is "%s"', (vehicle, line) => expect(lineOf(vehicle)).toBe(line));

test.each<[string, string, string, string | undefined, boolean | null]>([
  ['what such a vehicle shows', 'lamp', 'refused', undefined, false],
  ['what it hardly shows', 'lamp', 'accepted', undefined, true],
  ['an outcome that is none', 'lamp', 'gone', undefined, null],
  ['a test that is none', 'gone', 'refused', undefined, null],
])('an answer is judged by the proven cause: %s', (_what, id, outcome, key, off) =>
  expect(isOff(family, params, 'coilOpen', undefined, { id: '1', test: id, outcome, ...(key ? { key } : {}) })).toBe(off),
);
test('a key that was not the faulty one shows what a sound one does', () => {
  const at = (key: string, outcome: string) => isOff(family, params, 'chipDead', 'A', { id: '1', test: 'lamp', outcome, key });
  expect([at('A', 'refused'), at('A', 'accepted'), at('B', 'accepted'), at('B', 'refused')]).toEqual([false, true, false, true]);
});

test('sums grow by a lesson and are exactly as before without it, in seeded orders', () => {
  const draw = generator(20261130);
  const pick = <T>(...all: T[]): T => all[Math.floor(draw() * all.length)]!;
  const made = Array.from({ length: often(400, 120) }, () =>
    lesson({
      cause: pick('coilOpen', 'chipDead', null),
      line: pick('a b', 'c d', ''),
      tests: Array.from({ length: Math.floor(draw() * 4) }, () => ({
        test: pick('lamp', 'otherKey', 'coilField'),
        off: pick(true, false, null),
        tenths: pick(null, Math.floor(draw() * 300)),
      })),
      fixes: draw() < 0.5 ? [{ fault: pick('coilOpen', 'chipDead'), tenths: Math.floor(draw() * 900) }] : [],
      said: draw() < 0.7 ? { hundredths: Math.floor(draw() * 101), right: draw() < 0.5 } : null,
      missed: draw() < 0.2,
      options: draw() < 0.5 ? [{ kind: pick('fix', 'key'), within: draw() < 0.5 }] : [],
      stayed: pick(true, false, null),
    }),
  );
  const all = sum(made);
  expect(casesIn(all)).toBe(made.filter((l) => l.cause !== null).length);
  // One by one out again, in another order.
  const left = [...made].sort(() => draw() - 0.5);
  let tallies = all;
  while (left.length > 0) {
    tallies = withLesson(tallies, left.pop()!, -1);
    if (left.length % 20 === 0) expect(tallies).toEqual(sum(left));
  }
  expect(tallies).toEqual(noTallies());
});

test('outcomes of options are shrunk towards what a price promises: nine of ten, with the weight of twenty', () => {
  const went = outcomesOf({ fix: { n: 10, within: 5 }, key: { n: 200, within: 200 }, part: { n: 0, within: 0 } });
  expect(went).toEqual({
    fix: { n: 10, within: 5, p: expect.closeTo(23 / 30, 9) },
    key: { n: 200, within: 200, p: expect.closeTo(218 / 220, 9) },
  });
  expect(outcomesOf({})).toEqual({});
});

test.each([
  [0, 0],
  [9, 0],
  [10, 1],
  [89, 8],
  [90, 9],
  [100, 9],
])('%d hundredths are tenth %d', (hundredths, tenth) => expect(tenthOf(hundredths)).toBe(tenth));

describe('what a case starts with', () => {
  it('is the shop’s causes, the line’s from eight cases on, slips and minutes', () => {
    const tallies = sum([
      ...many(7, { line: 'a b' }),
      ...many(8, { line: 'c d', cause: 'chipDead' }),
      lesson({ tests: [{ test: 'lamp', off: true, tenths: 25 }], fixes: [{ fault: 'coilOpen', tenths: 400 }] }),
    ]);
    expect(experienceOf(tallies, [], 'a b')).toEqual({
      proven: { coilOpen: 8, chipDead: 8 },
      learned: {
        line: {},
        slips: { lamp: { n: 1, off: 1 } },
        testMinutes: { lamp: { n: 1, sum: 2.5 } },
        fixMinutes: { coilOpen: { n: 1, sum: 40 } },
      },
    });
    expect(experienceOf(tallies, [], 'c d').learned.line).toEqual({ chipDead: 8 });
  });
  it.each([
    [40, 10],
    [80, 20],
    [800, 20],
  ])('%d cases of other shops weigh as %d own ones', (n, weight) =>
    expect(experienceOf(noTallies(), [{ causes: { coilOpen: n } }], '').proven.coilOpen).toBeCloseTo(weight, 9),
  );
});

describe('differences from the content', () => {
  it('are said when they are more than chance, with their limits, and not before', () => {
    const few = differencesOf(family, sum(many(3)));
    const lots = differencesOf(family, sum(many(60)));
    expect(few.filter((d) => d.id === 'coilOpen')).toEqual([]);
    expect(lots.find((d) => d.id === 'coilOpen')).toMatchObject({
      kind: 'cause',
      here: 1,
      n: 60,
      say: expect.stringMatching(/^“Antenna coil or its wire open” was the cause in 60 of 60 cases here; the content says \d+ %\.$/),
    });
    for (const d of lots) expect([d.id, d.content < d.low || d.content > d.high]).toEqual([d.id, true]);
  });
  it('of a shop that is as the content says are found in one of a hundred at most (seeded)', () => {
    const draw = generator(4);
    const faults = family.faults!;
    const total = faults.reduce((n, f) => n + f.prior, 0) / (1 - family.elsewhere!.prior);
    const shops = often(400, 60);
    let wrong = 0;
    for (let shop = 0; shop < shops; shop += 1) {
      const causes: Record<string, number> = {};
      for (let i = 0; i < 50; i += 1) {
        let left = draw() * total;
        const f = faults.find((x) => (left -= x.prior) < 0)?.id ?? 'somethingElse';
        causes[f] = (causes[f] ?? 0) + 1;
      }
      if (differencesOf(family, { ...noTallies(), causes }).length > 0) wrong += 1;
    }
    expect(wrong / shops).toBeLessThanOrEqual(0.03);
  });
  it('slips and minutes too, from enough of them', () => {
    const timed = (n: number, tenths: number) => sum(many(n, { tests: [{ test: 'lamp', off: true, tenths }] }));
    const ids = (t: Tallies) => differencesOf(family, t).flatMap((d) => (d.kind === 'slip' || d.kind === 'testMinutes' ? [d.kind] : []));
    expect(ids(timed(2, 90))).toEqual([]);
    expect(ids(timed(30, 90))).toEqual(['slip', 'testMinutes']);
    expect(ids(timed(30, 10))).toEqual(['slip']);
  });
});

test('of what was said, how much was so, tenth by tenth with its limits', () => {
  const tenths = saidTenths([sum([...many(9, { said: { hundredths: 85, right: true } }), lesson({ said: { hundredths: 84, right: false } })])]);
  expect(tenths[8]).toMatchObject({ from: 80, to: 90, n: 10, right: 9 });
  // 9 of 10: 55.5 to 99.7 % (Clopper and Pearson).
  expect(tenths[8]!.low).toBeCloseTo(0.555, 3);
  expect(tenths[8]!.high).toBeCloseTo(0.9975, 3);
  expect(tenths[0]).toMatchObject({ n: 0, low: 0, high: 1 });
});

describe('from shop to shop', () => {
  const file = exchangeFile('Saltmarsh Auto Electric', '2026-11-30', { ring: sum(many(6, { tests: [{ test: 'lamp', off: false, tenths: 20 }] })) });
  it('goes out without vehicle lines, options or what was said, and is read again', () => {
    expect(file).not.toContain('thimble');
    const read = readExchange(file);
    expect(read).toMatchObject({ ok: true, value: { shop: 'Saltmarsh Auto Electric', families: { ring: { causes: { coilOpen: 6 } } } } });
    if (read.ok) expect(talliesOf(read.value.families.ring!).lines).toEqual({});
  });
  it.each<[string, string, string]>([
    ['no JSON', 'x', 'This is not JSON. Choose a file that another shop has exported under Shop, What we learned.'],
    ['too large', ' '.repeat(mostExchangeBytes + 1), 'The file is larger than 500 kB. Choose the right file.'],
    [
      'another form',
      '{"form":"x","version":1,"shop":"","exportedAt":"2026-11-30","families":{}}',
      'The file has "x". Use one of: bloodstone learned.',
    ],
    ['more mistakes than answers', file.replace('"off": 0', '"off": 7'), expect.any(String) as never],
    ['a fraction', file.replace('"coilOpen": 6', '"coilOpen": 6.5'), expect.any(String) as never],
  ])('refuses %s', (_what, text, message) => expect(readExchange(text)).toMatchObject({ ok: false, problems: [{ message }] }));
  it('damaged files never crash it (seeded)', () => {
    const draw = generator(77);
    for (let i = 0; i < often(5000, 400); i += 1) {
      const at = Math.floor(draw() * file.length);
      const broken = draw() < 0.5 ? file.slice(0, at) + String.fromCharCode(32 + Math.floor(draw() * 90)) + file.slice(at + 1) : file.slice(0, at);
      const read = readExchange(broken);
      if (!read.ok) expect(read.problems[0]!.message.length).toBeGreaterThan(10);
    }
  });
});
