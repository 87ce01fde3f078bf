import { generator } from '../units';
import {
  agrees,
  type BurstFeatures,
  burstVerdict,
  burstWavReader,
  compareBursts,
  conditionWords,
  featuresOf,
  type KnownCapture,
  measure,
  Pyramid,
  Samples,
  simulatedCapture,
  type SimulatedCondition,
  simulatedConditions,
  simulatedRateHz,
  theoryOf,
  wavOf,
} from '.';
import { synthetic } from './synthetic.testing';

const capture = (count: number, lengthMs: number | null = 30, spacingMs: number | null = count > 1 ? 120 : null): BurstFeatures => ({
  count,
  lengthMs: count === 0 ? null : lengthMs,
  spacingMs,
});
const foil = [capture(7), capture(7, 30.2, 119), capture(7, 29.9, 121)];
const accepted = [capture(1, 47), capture(1, 47.3)];
const baselines = [
  { condition: 'foil', captures: foil },
  { condition: 'accepted', captures: accepted },
];

describe('comparing with baselines', () => {
  test('what a capture is known by: count, and medians of lengths and of spacings', () => {
    const measured = measure(
      synthetic({
        lengthS: 0.2,
        bursts: [
          [0.01, 0.02],
          [0.05, 0.03],
          [0.1, 0.02],
        ],
      }),
    );
    const found = featuresOf(measured.ok ? measured.value : (undefined as never))!;
    expect(found.count).toBe(3);
    expect(found.lengthMs).toBeCloseTo(20, 2);
    expect(found.spacingMs).toBeCloseTo(45, 2);
    expect(featuresOf({ bursts: [], quality: 'nothing' })).toEqual({ count: 0, lengthMs: null, spacingMs: null });
    expect(featuresOf({ bursts: [], quality: 'notMeasurable' })).toBeNull();
  });

  test('like one, like the other, like none; the chances add up to 1', () => {
    const like = (...captures: BurstFeatures[]) => compareBursts(captures, baselines);
    expect(like(capture(7, 30.1, 120))).toMatchObject({ verdict: 'foil', more: 0, matches: [{ condition: 'foil' }, {}, {}] });
    expect(like(capture(1, 47.1)).verdict).toBe('accepted');
    expect(like(capture(3, 80, 260)).verdict).toBe('none');
    expect(like(capture(0)).matches[0]!.condition).toBe('none');
    for (const c of [capture(7), capture(1, 46), capture(3, 80, 260), capture(6, 31, 130)])
      expect(like(c).matches.reduce((sum, m) => sum + m.p, 0)).toBeCloseTo(1, 12);
  });

  test('one more or one fewer burst of the same length is still foil; the wrong length is not', () => {
    expect(compareBursts([capture(8, 30, 120)], baselines).verdict).toBe('foil');
    const { matches } = compareBursts([capture(7, 60, 240)], baselines);
    expect(matches[0]!.condition).toBe('none');
    expect(matches.find((m) => m.condition === 'foil')!.p).toBeLessThan(0.02);
  });

  test('without baselines nothing is settled, and nobody knows how many more', () => {
    expect(compareBursts([capture(7)], [])).toEqual({ matches: [{ condition: 'none', p: 1 }], verdict: null, more: 0 });
  });

  test('baselines that look alike are not told apart by more captures; slightly different ones are', () => {
    const twins = [
      { condition: 'foil', captures: foil },
      { condition: 'noKey', captures: foil },
    ];
    const { matches, verdict, more } = compareBursts([capture(7)], twins);
    expect([verdict, more]).toEqual([null, null]);
    expect(matches[0]!.p).toBeCloseTo(matches[1]!.p, 12);
    // 30 and 31 ms, each with its spread: one capture does not settle it, some do, and as many as were said.
    const near = [
      { condition: 'a', captures: [capture(2, 30), capture(2, 30.6), capture(2, 29.4)] },
      { condition: 'b', captures: [capture(2, 31.5), capture(2, 32.1), capture(2, 30.9)] },
    ];
    const one = compareBursts([capture(2, 30)], near);
    expect(one.verdict).toBeNull();
    expect(one.more).toBeGreaterThan(1);
    const enough = Array.from({ length: 1 + one.more! }, () => capture(2, 30));
    expect(compareBursts(enough, near).verdict).toBe('a');
    expect(compareBursts(enough.slice(1), near).verdict).toBeNull();
  });

  // Vehicles drawn at random, each with three baselines of one to four captures, and a capture of one of them: what is called settled at 95 % has to be right as often.
  test('what is settled is right in 95 of 100, over 2,000 vehicles made up', () => {
    const next = generator(1124);
    const normal = () => Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next());
    let [settled, right] = [0, 0];
    for (let vehicle = 0; vehicle < 2000; vehicle += 1) {
      const draw = (own: { count: number; length: number; spacing: number }) => {
        const count = next() < 0.9 ? own.count : Math.max(1, own.count + (next() < 0.5 ? 1 : -1));
        return capture(count, own.length * Math.exp(0.03 * normal()), count > 1 ? own.spacing * Math.exp(0.03 * normal()) : null);
      };
      const kinds = ['a', 'b', 'c'].map((condition) => ({
        condition,
        own: { count: 1 + Math.floor(6 * next()), length: 25 + 15 * next(), spacing: 100 + 40 * next() },
      }));
      const known = kinds.map(({ condition, own }) => ({
        condition,
        captures: Array.from({ length: 1 + Math.floor(4 * next()) }, () => draw(own)),
      }));
      const asked = kinds[Math.floor(3 * next())]!;
      const { verdict } = compareBursts([draw(asked.own)], known);
      if (verdict === null) continue;
      settled += 1;
      if (verdict === asked.condition) right += 1;
    }
    expect(settled).toBeGreaterThan(1000);
    expect(right / settled).toBeGreaterThan(0.95);
  });
});

describe('what it says', () => {
  const known = (condition: KnownCapture['condition'], captures: BurstFeatures[], key: string | null = null): KnownCapture[] =>
    captures.map((c) => ({ ...c, condition, key }));

  test('in foil and without a key mean the same, and settle it together', () => {
    const both = [...known('foil', foil), ...known('noKey', foil), ...known('accepted', accepted, 'A')];
    const said = burstVerdict([capture(7)], both);
    expect(said).toMatchObject({ answer: 'nothing', more: 0, by: 'vehicle', head: 'Nothing answered.' });
    expect(said.matches.slice(0, 2).map((m) => m.condition)).toEqual(['foil', 'noKey']);
    expect(burstVerdict([capture(1, 47)], both)).toMatchObject({ answer: 'accepted', head: 'Like an accepted key.' });
    expect(burstVerdict([capture(3, 80, 260)], both)).toMatchObject({ answer: 'none', head: 'Like none of the baselines.' });
    expect(burstVerdict([capture(0)], both)).toMatchObject({ answer: 'none', head: 'No burst.', more: 0 });
  });

  test('without a capture in foil only the rule of thumb is left, said to be one', () => {
    for (const [count, head] of [
      [0, 'No burst.'],
      [1, 'One burst.'],
      [5, '5 bursts.'],
    ] as const) {
      const said = burstVerdict([capture(count)], known('accepted', accepted, 'A'));
      expect(said).toMatchObject({ answer: null, by: null, head });
      expect(said.text).toMatch(/^Rule of thumb: .* weak hint/);
    }
  });

  test('captures of other vehicles of the model stand in while this one has none in foil, and are said to be a weak hint; its own take their place', () => {
    const others = [...known('foil', foil), ...known('accepted', accepted)].map((k) => ({ ...k, ofModel: true as const }));
    const said = burstVerdict([capture(7)], others);
    expect(said).toMatchObject({ answer: 'nothing', more: 0, by: 'model', head: 'By other vehicles of this model: nothing answered.' });
    expect(said.text).toMatch(/ That is a weak hint, for each vehicle has its own habits\. Take a capture with a key in foil/);
    // What this vehicle has besides counts with them.
    expect(burstVerdict([capture(3, 80, 260)], [...others, ...known('accepted', [capture(3, 80, 260)], 'B')])).toMatchObject({
      answer: 'accepted',
      by: 'model',
    });
    // Once it has a capture in foil, others don't count any more.
    const own = burstVerdict([capture(7)], [...others, ...known('foil', [capture(4, 60, 200), capture(4, 60, 200)])]);
    expect(own).toMatchObject({ answer: 'none', by: 'vehicle' });
    expect(own.matches.map((m) => m.condition).sort()).toEqual(['foil', 'none']);
  });

  test('what the rule of thumb and a comparison both mean', () => {
    const answers = ['accepted', 'nothing', 'refused', 'none'] as const;
    expect((['one', 'several', 'noBurst'] as const).map((rule) => answers.filter((a) => agrees(rule, a)))).toEqual([
      ['accepted'],
      ['nothing', 'refused'],
      ['none'],
    ]);
  });

  test('conditions in words', () => {
    expect(['foil', 'noKey', 'accepted:A', 'refused:B', 'accepted', 'refused', 'none'].map(conditionWords)).toEqual([
      'key in foil',
      'no key',
      'tag A, accepted',
      'tag B, refused',
      'accepted key',
      'refused key',
      'none of them',
    ]);
  });
});

describe('the picture', () => {
  test('each column has the lowest and highest of its samples, as a plain loop finds them', () => {
    const next = generator(7);
    for (let round = 0; round < 60; round += 1) {
      const values = Float32Array.from({ length: 1 + Math.floor(next() * 40_000) }, () => next() - 0.5);
      const pyramid = new Pyramid(Samples.of(values));
      const from = Math.floor(next() * values.length);
      const to = from + 1 + Math.floor(next() * (values.length - from));
      const columns = 1 + Math.floor(next() * 300);
      const { low, high } = pyramid.view(from, to, columns);
      for (let c = 0; c < columns; c += 1) {
        const start = Math.min(values.length - 1, Math.floor(from + (c * (to - from)) / columns));
        const own = values.subarray(start, Math.max(start + 1, Math.min(values.length, Math.ceil(from + ((c + 1) * (to - from)) / columns))));
        expect([low[c], high[c]]).toEqual([Math.min(...own), Math.max(...own)]);
      }
    }
  });
});

test('the theory of stored keys: for it where the count moved on one vehicle, against it where it stayed, nothing where it was not tried', () => {
  const seen = (vehicle: string, storedKeys: number, count: number, condition = 'foil') => ({ vehicle, condition, storedKeys, count });
  const moved = [seen('a', 2, 5), seen('a', 3, 6), seen('a', 3, 6)];
  const stayed = [seen('b', 2, 7), seen('b', 4, 7), seen('b', 4, 9), seen('b', 4, 7)];
  const untried = [seen('c', 2, 7), seen('c', 2, 8), seen('d', 1, 1), seen('d', 2, 4, 'noKey')];
  expect(theoryOf([...moved, ...stayed, ...untried])).toEqual({
    forIt: 1,
    against: 1,
    points: [
      { storedKeys: 1, count: 1, times: 1 },
      { storedKeys: 2, count: 4, times: 1 },
      { storedKeys: 2, count: 5, times: 1 },
      { storedKeys: 2, count: 7, times: 2 },
      { storedKeys: 2, count: 8, times: 1 },
      { storedKeys: 3, count: 6, times: 2 },
      { storedKeys: 4, count: 7, times: 2 },
      { storedKeys: 4, count: 9, times: 1 },
    ],
  });
  expect(theoryOf([])).toEqual({ forIt: 0, against: 0, points: [] });
});

test('a capture goes through WAV and comes back as it was', () => {
  const values = Float32Array.from({ length: 300_000 }, (_, i) => Math.sin(i) * 0.3);
  const samples = new Samples();
  for (let i = 0; i < values.length; i += 7001) samples.pushAll(values.subarray(i, i + 7001));
  const reader = burstWavReader();
  for (const part of wavOf(samples, 999_999.7)) expect(reader.push(part)).toBeUndefined();
  const read = reader.end();
  if (!read.ok) throw new Error(read.problems[0]!.message);
  expect(read.value.sampleRateHz).toBe(1_000_000);
  expect(read.value.samples.stretch(0, values.length)).toEqual(values);
});

describe('the simulated source', () => {
  const measured = (condition: SimulatedCondition, seed: number, piece: number) => {
    const source = simulatedCapture(condition, seed);
    const samples = new Samples();
    for (let part = source.read(piece); part.length > 0; part = source.read(piece)) part.forEach((v) => samples.push(v));
    expect(samples.length).toBe(source.total);
    const result = measure({ samples, sampleRateHz: simulatedRateHz, startS: 0, notes: [] });
    return result.ok ? result.value : (undefined as never);
  };
  test('in pieces of any size it gives the same capture, and each condition is measured as what it is', () => {
    const read = (piece: number) => {
      const source = simulatedCapture('refused', 3);
      const all: number[] = [];
      for (let part = source.read(piece); part.length > 0 && all.length < 200_000; part = source.read(piece)) all.push(...part);
      return all.slice(0, 200_000);
    };
    expect(read(1000)).toEqual(read(7777));
    const known: KnownCapture[] = simulatedConditions
      .filter((c) => c !== 'noKey')
      .map((condition) => ({ ...featuresOf(measured(condition, 1, 65_536))!, condition, key: null }));
    const [accepted, nothing] = [measured('accepted', 9, 65_536), measured('noKey', 9, 65_536)];
    expect([accepted.quality, nothing.quality]).toEqual(['good', 'good']);
    expect(burstVerdict([featuresOf(accepted)!], known).answer).toBe('accepted');
    expect(burstVerdict([featuresOf(nothing)!], known).answer).toBe('nothing');
    // An answer dips into the bursts.
    expect(accepted.bursts[0]!.notches).toBeGreaterThan(5);
    expect(nothing.bursts.every((b) => b.notches === 0)).toBe(true);
  });
});
