import { type Candidate, cantSee, held, identify, modelOf } from '../core/identify';
import type { Feature } from '../core/library';
import { shippedContent } from './shipped.testing';
import { generator } from '../core/units';
import { often } from './often.testing';

const { library, errors } = shippedContent();
const families: Candidate[] = [...library.families.values()];
const { features } = library;
const model = modelOf(features, families);

const { floor } = Math;

function draw(shares: Readonly<Record<string, number>>, random: () => number): string {
  let left = random() * Object.values(shares).reduce((a, b) => a + b, 0);
  for (const [value, share] of Object.entries(shares)) if ((left -= share) < 0) return value;
  return Object.keys(shares).at(-1)!;
}

/** A vehicle of the family, and a person who looks at it: sometimes mistaken, sometimes unable to see. */
function look(family: Candidate, feature: Feature, random: () => number, unseen: number): string {
  if (random() < unseen) return cantSee;
  const values = Object.keys(feature.values);
  return random() < feature.error ? values[floor(random() * values.length)]! : draw(family.features[feature.id]!, random);
}

const draws = often(2000, 500);

/** Answers questions as a person at a vehicle of the family would, until it is sure or nothing is left to ask. */
function interview(family: Candidate, random: () => number, { unseen = 0, wrongAt = -1, seen = {} as Record<string, string> }) {
  let held = -1;
  let leader = '';
  for (let questions = 0; ; questions += 1) {
    const now = identify(model, seen);
    const [first, second] = now.families as [(typeof now.families)[0], (typeof now.families)[0]];
    if (held < 0 && (now.state === 'sure' || now.state === 'confirm')) [held, leader] = [questions, first.id];
    if (now.state === 'sure' || now.ask === null) {
      // With nothing left to look at, the right pair is as far as one gets: the service information that nobody has would settle it.
      const pair = first.p + second.p >= 0.9 && [first.id, second.id].includes(family.id);
      return {
        questions: held < 0 ? questions : held,
        right: held < 0 ? pair : leader === family.id,
        wrongHeld: now.state === 'sure' && first.id !== family.id,
        untilSure: questions,
      };
    }
    const feature = features.find((f) => f.id === now.ask!.id)!;
    seen[feature.id] = look(family, feature, random, unseen);
    if (questions === wrongAt) {
      const others = Object.keys(feature.values).filter((v) => v !== seen[feature.id]);
      seen[feature.id] = others[floor(random() * others.length)]!;
    }
  }
}

const quantile = (list: number[], q: number) => [...list].sort((a, b) => a - b)[Math.min(list.length - 1, floor(list.length * q))]!;

test('content is in order, and every family says something of every question', () => {
  expect(errors).toEqual([]);
  expect(families).toHaveLength(14);
  for (const family of families) expect(Object.keys(family.features).sort()).toEqual(features.map((f) => f.id).sort());
});

function figures(seed: number, how: (random: () => number) => Parameters<typeof interview>[2]) {
  const table = families.map((family, i) => {
    const random = generator(seed + i);
    const outcomes = Array.from({ length: draws }, () => interview(family, random, how(random)));
    const asked = outcomes.map((o) => o.questions);
    return {
      family: family.id,
      median: quantile(asked, 0.5),
      most: quantile(asked, 0.95),
      right: outcomes.filter((o) => o.right).length / draws,
      wrongHeld: outcomes.filter((o) => o.wrongHeld).length / draws,
      untilSure: quantile(
        outcomes.map((o) => o.untilSure),
        0.5,
      ),
    };
  });
  if (process.env.SHOW_FIGURES) console.table(table);
  return table;
}

test(`${draws} vehicles of each family, a tenth of the answers “can’t see”: at most 4 questions in the median, 8 in 95 %`, () => {
  for (const row of figures(often(1000, 400), () => ({ unseen: 0.1 }))) {
    expect(row).toEqual({ ...row, median: Math.min(row.median, 4), most: Math.min(row.most, 8) });
    expect([row.family, row.right > 0.95]).toEqual([row.family, true]);
  }
});

test('one wrong answer among the first four: a wrong family is held in at most 2 % of the draws', () => {
  for (const row of figures(often(5000, 1500), (random) => ({ wrongAt: floor(random() * 4) })))
    expect(row).toEqual({ ...row, wrongHeld: Math.min(row.wrongHeld, 0.02) });
});

test('by eye alone, without any service information, it is harder, and still mostly right', () => {
  const table = figures(9000, () => ({ unseen: 0.1, seen: { service: cantSee } }));
  for (const row of table) expect(row).toEqual({ ...row, median: Math.min(row.median, 8), wrongHeld: Math.min(row.wrongHeld, 0.06) });
  expect(table.reduce((sum, r) => sum + r.right, 0) / table.length).toBeGreaterThan(0.9);
});

test('every vehicle of the demo world is found by what its page says is seen, without the service information', () => {
  for (const profile of library.profiles.values()) {
    const seen: Record<string, string> = { service: cantSee };
    let now = identify(model, seen);
    for (; now.ask && now.state !== 'sure'; now = identify(model, seen)) seen[now.ask.id] = profile.seen?.[now.ask.id] ?? cantSee;
    expect([profile.id, now.state, now.families[0]!.id]).toEqual([profile.id, 'sure', profile.family]);
    expect(Object.keys(seen).length).toBeLessThanOrEqual(12);
  }
});

describe('identify', () => {
  test('knows nothing before the first answer, and asks for the service information first', () => {
    const now = identify(model, {});
    expect(now.families.map((f) => f.p)).toEqual(families.map(() => expect.closeTo(1 / 14, 10)));
    expect(now).toMatchObject({ state: 'open', ask: { id: 'service' } });
  });
  test('service information alone is likely, not sure: a look at the vehicle cross-checks it', () => {
    const now = identify(model, { service: 'cylinder' });
    expect(now.families[0]!.p).toBeGreaterThan(held);
    expect(now).toMatchObject({ state: 'confirm', ask: { id: expect.any(String) } });
    const crossed = identify(model, { service: 'cylinder', keyKind: 'plain', stops: 'dies' });
    expect(crossed).toMatchObject({ state: 'sure', ask: null });
    expect(crossed.families[0]!.id).toBe('cylinder');
  });
  test('a look that contradicts the service information takes the certainty away', () => {
    const now = identify(model, { service: 'cylinder', keyKind: 'pushFob', entry: 'button' });
    expect(now.state).not.toBe('sure');
    expect(now.families.find((f) => f.id === 'cylinder')!.p).toBeLessThan(0.5);
  });
  test('what can’t be seen changes nothing but is not asked again', () => {
    const before = identify(model, { keyKind: 'chipHead' });
    const after = identify(model, { keyKind: 'chipHead', [before.ask!.id]: cantSee });
    expect(after.families).toEqual(before.families);
    expect(after.ask!.id).not.toBe(before.ask!.id);
  });
  test('the two transponder families are a pair that the service information or the mark parts', () => {
    const seen = {
      vehicle: 'car',
      keyKind: 'chipHead',
      entry: 'turn',
      around: 'plainLock',
      lampPlace: 'cluster',
      lampOn: 'stays',
      stops: 'cranks',
      words: 'none',
    };
    const now = identify(model, seen);
    expect(
      now.families
        .slice(0, 2)
        .map((f) => f.id)
        .sort(),
    ).toEqual(['transponder-attempt', 'transponder-dwell']);
    expect(now.state).toBe('pair');
    expect(now.ask!.id).toBe('service');
    expect(identify(model, { ...seen, service: cantSee }).ask!.id).toBe('begins');
    expect(identify(model, { ...seen, service: cantSee, begins: cantSee }).ask!.id).toBe('mark');
  });
  test('probabilities are those of Bayes’ rule, worked out by hand', () => {
    const feature: Feature = { id: 'x', ask: 'X?', error: 0.1, lookedUp: false, values: { a: 'A', b: 'B' } };
    const two: Candidate[] = [
      { id: 'p', title: 'P', features: { x: { a: 1 } } },
      { id: 'q', title: 'Q', features: { x: { a: 0.2, b: 0.8 } } },
    ];
    // P(a|p) = 0.9 + 0.05; P(a|q) = 0.9 * 0.2 + 0.05.
    const now = identify(modelOf([feature], two), { x: 'a' });
    expect(now.families[0]).toEqual({ id: 'p', title: 'P', p: expect.closeTo(0.95 / (0.95 + 0.23), 12) });
  });
  test('without families there is nothing to identify', () => expect(() => modelOf(features, [])).toThrow(RangeError));
});
