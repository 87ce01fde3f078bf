import { shippedContent } from '../../content/shipped.testing';
import {
  type Classification,
  classify,
  type Conditions,
  keyPrior,
  ladderVerdict,
  oddUnits,
  oneRange,
  otherUnit,
  reach,
  stepSpread,
  type Steps,
} from '.';
import { type SimulatedKey, KeyMaker } from './keys.testing';
import { expectedScatter, systematic } from './uncertainty';
import { often } from '../../content/often.testing';

const ladders = [...shippedContent().library.ladders.values()];
const twelve = ladders.find((l) => l.id === 'veskar-twelve')!;
const conditions: Conditions = { meter: oneRange('M', { percent: 0.5, digits: 2, resolutionOhms: 1 }), leadOhms: 0.4, temperatureC: 20 };
const read = (...readings: number[]) => classify(readings, twelve, conditions);

describe('verdicts', () => {
  test.each<[string, number[], string, number | null]>([
    ['in the middle of value 6', [1399, 1401, 1400], 'step', 6],
    ['the same one reading', [1399], 'step', 6],
    ['between values 6 and 7', [1600, 1601, 1600], 'between', null],
    ['below the lowest', [250, 250, 251], 'between', null],
    ['above the highest', [9000, 9010, 9004], 'between', null],
    ['overloads only', [Infinity, Infinity, Infinity], 'open', null],
    ['numbers far above the chart that scatter', [152_000, 310_000, 97_000, 240_000], 'open', null],
    ['the same, and an overload among them', [152_000, Infinity, 97_000, 240_000], 'open', null],
    ['two numbers far above it', [210_000, 120_000], 'open', null],
    ['one far above it, one in the chart', [210_000, 1400], 'unstable', null],
    ['next to nothing', [0.3, 0.2, 0.4], 'short', null],
    ['zero', [0, 0], 'short', null],
    ['it jumps', [1400, 1500, 1300, 1450], 'unstable', null],
    ['half of them open', [1400, Infinity, 1402, Infinity], 'unstable', null],
    ['one tip slipped off', [1400, 1401, Infinity, 1400, 1399], 'step', 6],
  ])('%s', (_name, readings, verdict, step) => {
    const c = read(...readings);
    expect([c.verdict, c.step?.step ?? null]).toEqual([verdict, step]);
    const sum = [...c.steps, ...c.others].reduce((s, x) => s + x.p, 0);
    expect(sum).toBeCloseTo(1, 9);
    expect(c.p).toBe(Math.max(...c.steps.map((s) => s.p), ...c.others.map((o) => o.p)));
  });

  test('at an edge it is half inside, half between, on both sides of it', () => {
    const [inside, edge, outside] = [1471, 1480.4, 1489].map((r) => read(r, r, r)) as [Classification, Classification, Classification];
    expect(inside.steps[5]!.p).toBeGreaterThan(edge.steps[5]!.p);
    expect(edge.steps[5]!.p).toBeGreaterThan(0.5);
    expect(edge.steps[5]!.p).toBeLessThan(0.9);
    expect(outside.steps[5]!.p).toBeLessThan(0.5);
    expect(edge.margin).toMatchObject({ edge: 'high', step: 6, ohms: expect.closeTo(0, 6) });
    expect(inside.margin!.ohms).toBeGreaterThan(0);
    expect(outside.margin!.ohms).toBeLessThan(0);
    expect(inside.margin!.sigmas).toBeCloseTo(inside.margin!.ohms / inside.u, 9);
  });

  test('a thousand readings, and a ladder of one step or of two hundred', () => {
    expect(
      classify(
        Array.from({ length: 1000 }, (_none, i) => 1400 + (i % 3)),
        twelve,
        conditions,
      ),
    ).toMatchObject({ verdict: 'step', n: 1000 });
    expect(
      classify(
        Array.from({ length: 1000 }, (_none, i) => (i % 2 ? 1400 : Infinity)),
        twelve,
        conditions,
      ).verdict,
    ).toBe('unstable');
    expect(classify([1000, 1001], { steps: [{ step: 1, nominal: 1000, low: 950, high: 1050 }] }, conditions)).toMatchObject({
      verdict: 'step',
      p: expect.closeTo(0.999, 3),
    });
    const many: Steps = {
      steps: Array.from({ length: 200 }, (_none, i) => ({ step: i + 1, nominal: 100 * 1.03 ** i, low: 99 * 1.03 ** i, high: 101 * 1.03 ** i })),
    };
    const fine = { ...conditions, meter: oneRange('fine', { percent: 0.05, digits: 1, resolutionOhms: 0.01 }) };
    expect(classify([100.4 * 1.03 ** 120, 100.4 * 1.03 ** 120], many, fine).step?.step).toBe(121);
  });

  test('the history of a shop shifts a doubtful value, and never a clear one', () => {
    const seldom = twelve.steps.map((s) => (s.step === 6 ? 0.001 : 1));
    const doubtful = [1478, 1478];
    expect(classify(doubtful, twelve, conditions, seldom).steps[5]!.p).toBeLessThan(read(...doubtful).steps[5]!.p);
    expect(classify([1400, 1401, 1400], twelve, conditions, seldom).step?.step).toBe(6);
  });

  test('without a reading there is nothing to tell', () => expect(() => read()).toThrow('A key can’t be identified without a reading.'));
});

describe('words', () => {
  const say = (...readings: number[]) => ladderVerdict(read(...readings), twelve);
  test('a step, near the edge, drifting', () => {
    expect(say(1399, 1401, 1400)).toEqual({ head: 'Value 6.', text: 'Sure (99.9 %). 80 Ω above the lower edge: over 10 times the uncertainty.' });
    expect(say(1341, 1341, 1342).head).toBe('Value 6, but low in its window.');
    expect(say(1461, 1461, 1460).head).toBe('Value 6, but high in its window.');
    expect(say(1391, 1389, 1387, 1385, 1383, 1381).text).toContain(
      'The readings drift down by 10 Ω in 6: warm fingers, or a contact that is settling.',
    );
    expect(say(1400).text).toContain('One reading can’t show a loose contact: take five.');
  });
  test('no step', () => {
    expect(say(1600, 1601, 1600).head).toBe('Between values 6 and 7.');
    expect(say(250, 250, 251).head).toBe('Below the lowest value.');
    expect(say(9000, 9010, 9004).head).toBe('Above the highest value.');
    expect(say(Infinity, Infinity, Infinity, Infinity)).toEqual({
      head: 'Open.',
      text: 'Sure (98.7 %). Clean the resistor chip, press the tips on its contacts, and measure the other direction. If it is still open, the chip is broken.',
    });
    expect(say(1400, 1500, 1300, 1450).text).toContain('The readings spread by 85 Ω, far more than the meter explains.');
  });
  test('kilohm typed as ohm is pointed out', () => {
    expect(say(1.4, 1.401, 1.399).text).toContain('1.4 kΩ would be value 6: wrong unit?');
    expect(otherUnit(1.4, twelve)).toMatchObject({ factor: 1000, step: 6 });
    expect(otherUnit(1400, twelve)).toBeNull();
    expect(otherUnit(0, twelve)).toBeNull();
    expect(oddUnits([1400, 1.401, 1399, Infinity])).toEqual([{ index: 1, factor: 1000 }]);
    expect(oddUnits([1400, 1.4])).toEqual([]);
    expect(oddUnits([1400, 1500, 1300])).toEqual([]);
  });
});

/** The chance of value 6 by plain sums over resistance and the meter's error, without a clever choice of points. */
function naiveStep6(readings: number[]): number {
  const { shortBelow, openAbove } = reach(twelve);
  const values = readings.map((r) => r - 0.4);
  const density = (ohms: number) =>
    keyPrior.worn / Math.log(openAbove / shortBelow) / ohms +
    twelve.steps.reduce((s, t) => {
      const z = (ohms - t.nominal) / stepSpread(t);
      return s + ((keyPrior.step / twelve.steps.length) * Math.exp(-0.5 * z * z)) / (stepSpread(t) * Math.sqrt(2 * Math.PI));
    }, 0);
  let [inside, all] = [0, 0];
  const mean = values.reduce((s, x) => s + x, 0) / values.length;
  for (let ohms = mean - 60; ohms < mean + 60; ohms += 0.05) {
    const { half, other } = systematic(ohms, conditions, twelve);
    const scatter = expectedScatter(ohms, conditions.meter);
    let likelihood = 0;
    for (let e = -0.99; e < 1; e += 0.02)
      for (let z = -3; z <= 3; z += 0.5) {
        const centre = ohms + e * half + z * other;
        const q = 4 * scatter ** 2 + values.reduce((s, x) => s + (x - centre) ** 2, 0);
        likelihood += Math.exp(-0.5 * z * z) * q ** (-(4 + values.length) / 2) * (4 * scatter ** 2) ** 2;
      }
    const p = density(ohms) * likelihood;
    all += p;
    if (ohms >= 1320 && ohms <= 1480) inside += p;
  }
  return inside / all;
}

test.each([[[1478, 1477]], [[1485, 1486, 1485]], [[1483]], [[1325, 1324]]])('agrees with plain sums: %j', (readings) => {
  const c = read(...readings);
  const between = c.others.find((o) => o.verdict === 'between')!.p;
  expect(c.steps[5]!.p / (c.steps[5]!.p + between)).toBeCloseTo(naiveStep6(readings), 2);
});

const isRight = (c: Classification, key: SimulatedKey) => c.verdict === key.truth && (c.verdict !== 'step' || c.step!.step === key.step);

describe.each(ladders.map((l) => [l.id, l] as const))('simulated keys of %s', (id, ladder) => {
  test('10,000 of them, every fifth at an edge of a window: verdicts at 0.99 and more are wrong in at most one of a thousand', () => {
    const maker = new KeyMaker(20261 + id.length, ladder, conditions);
    let [sure, wrong] = [0, 0];
    for (let i = 0; i < 10_000; i += 1) {
      const n = 3 + (i % 4);
      const step = ladder.steps[Math.floor(maker.even() * ladder.steps.length)]!;
      const { half } = systematic(step.nominal, conditions, ladder);
      const edge = (maker.even() < 0.5 ? step.low : step.high) + maker.even(-3, 3) * half;
      const key = i % 5 === 0 ? maker.steady(edge, n) : maker.key(n);
      const c = classify(key.readings, ladder, conditions);
      if (c.p < 0.99) continue;
      sure += 1;
      if (!isRight(c, key)) wrong += 1;
    }
    expect(sure).toBeGreaterThan(8000);
    expect(wrong / sure).toBeLessThanOrEqual(0.001);
  });
});

/** Whole: 2,000; a part has more room for chance. */
const verdicts = often(2000, 600);
test('of many verdicts between 0.93 and 0.97 on keys of the stated prior, 93 to 97 % are right', () => {
  let [found, right] = [0, 0];
  for (let round = 0; found < verdicts; round += 1) {
    const ladder = ladders[round % ladders.length]!;
    const maker = new KeyMaker(900 + round, ladder, conditions);
    for (let i = 0; i < 2000; i += 1) {
      const key = maker.key(1 + (i % 4));
      const mean = key.readings.reduce((s, r) => s + r, 0) / key.readings.length;
      // Nothing but what was read decides whether a key is looked at: well inside a window and steady it is surer than 0.97 anyway.
      const spread = Math.max(...key.readings) - Math.min(...key.readings);
      const heart = ladder.steps.some((s) => mean > s.low + (s.high - s.low) * 0.3 && mean < s.high - (s.high - s.low) * 0.3);
      if (heart && key.readings.length > 1 && spread < mean * 0.004) continue;
      const c = classify(key.readings, ladder, conditions);
      if (c.p < 0.93 || c.p > 0.97) continue;
      found += 1;
      if (isRight(c, key)) right += 1;
    }
  }
  expect(found).toBeGreaterThanOrEqual(verdicts);
  const room = often(0, 0.01);
  expect(right / found).toBeGreaterThanOrEqual(0.93 - room);
  expect(right / found).toBeLessThanOrEqual(0.97 + room);
});
