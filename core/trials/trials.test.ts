import { generator } from '../units';
import { assessTrials, differByChance, trialsVerdict } from '.';

describe('limits after Clopper and Pearson', () => {
  // Two-sided 95 % limits of a proportion as tables of the binomial distribution print them (for example Geigy Scientific Tables, vol. 2, 8th ed., p. 89 on).
  test.each([
    [0, 10, 0, 0.3085],
    [1, 10, 0.0025, 0.445],
    [5, 10, 0.1871, 0.8129],
    [9, 10, 0.555, 0.9975],
    [10, 10, 0.6915, 1],
    [2, 20, 0.0123, 0.317],
    [3, 20, 0.0321, 0.3789],
    [10, 20, 0.272, 0.728],
    [5, 50, 0.0333, 0.2181],
    [50, 100, 0.3983, 0.6017],
    [0, 100, 0, 0.0362],
  ])('%d of %d: %d to %d', (hits, trials, low, high) => {
    const a = assessTrials(hits, trials);
    expect(a.low).toBeCloseTo(low, 4);
    expect(a.high).toBeCloseTo(high, 4);
    expect(a.rate).toBe(hits / trials);
  });

  test('what n trials without a miss still allow: 1 − 0.05^(1/n)', () => {
    expect(assessTrials(2, 2).missUpper).toBeCloseTo(0.7764, 4);
    expect(assessTrials(15, 15).missUpper).toBeCloseTo(0.181, 3);
    expect(assessTrials(59, 59).missUpper).toBeCloseTo(0.0495, 4);
    expect(assessTrials(0, 0)).toEqual({ rate: null, low: 0, high: 1, missUpper: 1, furtherCleanTrials: 59 });
    expect(assessTrials(0, 5).missUpper).toBe(1);
    expect(assessTrials(4, 5).missUpper).toBeCloseTo(0.6574, 4);
  });

  test('how many more without a miss: both sides of the limit', () => {
    expect(assessTrials(15, 15).furtherCleanTrials).toBe(44);
    expect(assessTrials(58, 58).furtherCleanTrials).toBe(1);
    expect(assessTrials(59, 59).furtherCleanTrials).toBe(0);
    expect(assessTrials(0, 0, { confidence: 0.9, target: 0.1 }).furtherCleanTrials).toBe(22);
    // One miss: 93 trials are the fewest that rule more than 5 % out (tables of acceptance sampling).
    expect(assessTrials(9, 10).furtherCleanTrials).toBe(83);
    expect(assessTrials(92, 93).furtherCleanTrials).toBe(0);
    expect(assessTrials(91, 92).furtherCleanTrials).toBe(1);
  });

  test('what can’t be counts is refused', () => {
    expect(() => assessTrials(3, 2)).toThrow("3 hits of 2 trials can't be counts.");
    expect(() => assessTrials(1.5, 2)).toThrow(RangeError);
    expect(() => assessTrials(1, 2, { confidence: 1 })).toThrow('Confidence and target must be between 0 and 1.');
  });

  test('seeded: at the limits the tail of the binomial distribution, summed plainly, is what it should be', () => {
    const draw = generator(4);
    const tail = (n: number, from: number, to: number, p: number) => {
      let sum = 0;
      for (let k = from; k <= to; k += 1) {
        let c = 1;
        for (let i = 1; i <= k; i += 1) c *= ((n - k + i) / i) * p;
        sum += c * (1 - p) ** (n - k);
      }
      return sum;
    };
    for (let round = 0; round < 200; round += 1) {
      const n = 1 + Math.floor(draw() * 60);
      const k = Math.floor(draw() * (n + 1));
      const confidence = 0.8 + 0.19 * draw();
      const a = assessTrials(k, n, { confidence, target: 0.01 + 0.2 * draw() });
      if (k > 0) expect(tail(n, k, n, a.low)).toBeCloseTo((1 - confidence) / 2, 6);
      if (k < n) expect(tail(n, 0, k, a.high)).toBeCloseTo((1 - confidence) / 2, 6);
      if (k > 0) expect(tail(n, 0, n - k, a.missUpper)).toBeCloseTo(1 - confidence, 6);
    }
  });
});

describe('whether two keys differ', () => {
  test('published values of Fisher’s exact test', () => {
    // The lady tasting tea, three of four cups right: 34 of 70 (Fisher 1935; two-sided).
    expect(differByChance({ hits: 3, trials: 4 }, { hits: 1, trials: 4 })).toBeCloseTo(34 / 70, 9);
    // Criminal twins: 10 of 13 against 2 of 17 (Fisher 1962): 0.0005367.
    expect(differByChance({ hits: 10, trials: 13 }, { hits: 2, trials: 17 })).toBeCloseTo(0.0005367, 7);
    expect(differByChance({ hits: 3, trials: 3 }, { hits: 0, trials: 3 })).toBeCloseTo(0.1, 9);
    expect(differByChance({ hits: 5, trials: 5 }, { hits: 5, trials: 5 })).toBeCloseTo(1, 9);
    expect(differByChance({ hits: 0, trials: 0 }, { hits: 5, trials: 5 })).toBe(1);
  });
});

describe('in words', () => {
  test('always, and how much that is worth', () => {
    expect(trialsVerdict([{ name: 'tag A', hits: 15, trials: 15 }], 'signal')).toMatchObject({
      state: 'always',
      byChance: null,
      head: 'Signal, 15 of 15.',
      text: 'A miss rate of up to 18 % is still possible (95 %). 44 more without a miss would rule out more than 5 %.',
    });
    expect(trialsVerdict([{ name: 'tag A', hits: 59, trials: 59 }], 'signal').text).toContain('More than 5 % misses are ruled out.');
  });
  test('never, sometimes, nothing yet', () => {
    expect(trialsVerdict([{ name: 'tag A', hits: 0, trials: 10 }], 'signal')).toMatchObject({
      state: 'never',
      head: 'No signal, 0 of 10.',
      text: 'A hit rate of up to 31 % is still possible (95 %). Check the instrument on something that works before you trust a “no”.',
    });
    expect(trialsVerdict([{ name: 'tag A', hits: 7, trials: 10 }], 'signal')).toMatchObject({ state: 'sometimes', head: 'Signal 7 of 10 times.' });
    expect(trialsVerdict([], 'signal')).toMatchObject({ state: 'none', head: 'Nothing counted yet.', rate: null });
  });
  test('keys that differ, and keys that only look like it', () => {
    const two = (a: number, b: number) =>
      trialsVerdict(
        [
          { name: 'the learned key', hits: a, trials: 10 },
          { name: 'the unlearned key', hits: b, trials: 10 },
        ],
        'signal',
      );
    expect(two(10, 2)).toMatchObject({ differ: ['the learned key', 'the unlearned key'] });
    expect(two(10, 2).text).toContain('It differs between the learned key and the unlearned key more than chance explains');
    expect(two(10, 8)).toMatchObject({ differ: null });
    expect(two(10, 8).text).toContain('The keys don’t differ by more than chance.');
  });
});
