import { generator } from '../units';
import { historyPrior, searchSteps, withReading } from '.';

const times = { tryS: 60, lockoutS: 300 };

test('the likelier first; expected and worst time worked out', () => {
  const found = searchSteps(
    [
      { step: 1, p: 0.2 },
      { step: 2, p: 0.5 },
      { step: 3, p: 0.3 },
    ],
    times,
  )!;
  expect(found.order).toEqual([2, 3, 1]);
  // 0.5 × 60 + 0.3 × (120 + 300) + 0.2 × (180 + 600)
  expect(found.expectedSeconds).toBeCloseTo(30 + 126 + 156, 9);
  expect(found.worstSeconds).toBe(3 * 60 + 2 * 300);
  expect(found.chances).toEqual([0.5, 0.3, 0.2]);
});

test('refused values are left out and the rest grows surer; nothing is left after the last', () => {
  const steps = [1, 2, 3].map((step) => ({ step, p: 1 / 3 }));
  expect(searchSteps(steps, times, [1])).toEqual({ order: [2, 3], chances: [0.5, 0.5], expectedSeconds: 0.5 * 60 + 0.5 * 420, worstSeconds: 420 });
  expect(searchSteps(steps, times, [1, 2, 3])).toBeNull();
  expect(searchSteps(steps, times)!.order).toEqual([1, 2, 3]);
  expect(
    searchSteps(
      steps.map((s) => ({ ...s, p: 0 })),
      times,
    )!.chances,
  ).toEqual([1 / 3, 1 / 3, 1 / 3]);
});

test('seeded: no order of up to six steps takes less time', () => {
  const draw = generator(8);
  const orders = (left: number[]): number[][] =>
    left.length === 0 ? [[]] : left.flatMap((x) => orders(left.filter((y) => y !== x)).map((rest) => [x, ...rest]));
  for (let round = 0; round < 60; round += 1) {
    const steps = Array.from({ length: 1 + Math.floor(draw() * 6) }, (_none, i) => ({ step: i + 1, p: draw() }));
    const sum = steps.reduce((s, x) => s + x.p, 0);
    const t = { tryS: 1 + draw() * 100, lockoutS: draw() * 600 };
    const expected = (order: number[]) => order.reduce((s, step, i) => s + (steps[step - 1]!.p / sum) * ((i + 1) * t.tryS + i * t.lockoutS), 0);
    const best = Math.min(...orders(steps.map((s) => s.step)).map(expected));
    expect(searchSteps(steps, t)!.expectedSeconds).toBeCloseTo(best, 6);
  }
});

test('a history of a shop, and a doubtful reading on top of it', () => {
  expect(historyPrior([0, 0, 0, 0])).toEqual([0.25, 0.25, 0.25, 0.25]);
  expect(historyPrior([2, 0, 1])).toEqual([0.5, 1 / 6, 1 / 3]);
  const joint = withReading([0.5, 0.3, 0.2], [0, 0.6, 0.3]);
  expect(joint.reduce((s, p) => s + p, 0)).toBeCloseTo(1, 9);
  expect(joint[1]).toBeGreaterThan(joint[2]!);
  expect(joint[0]).toBeGreaterThan(0);
  expect(withReading([0.5, 0.5], [0, 0])).toEqual([0.5, 0.5]);
});
