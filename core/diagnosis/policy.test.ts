import { after, type Model, priorsOf, referring, sum } from './model';
import { solve, statesLimit, statesOf } from './optimum';
import { type Action, costOf, firstBudget, Policy, usualBudget } from './policy';
import { randomModel, regimes } from './randomModel';
import { Ranking } from './rank';
import { RepairOrder } from './repairOrder';
import { generator } from '../units';

const small = { faults: 3, tests: 3, outcomes: [2, 3], reliability: [0.7, 0.95], testCost: [1, 10], repair: [5, 60] } as const;

/** Every order of repairs, one after the other. */
function bestOrder(model: Model, weights: Float64Array): number {
  const walk = (left: readonly number[], w: Float64Array): number => {
    const total = sum(w);
    if (!(total > 0)) return 0;
    return Math.min(
      referring(model, w),
      ...left.map((f) => {
        const next = w.slice();
        next[f] = 0;
        return (
          model.faults[f]!.repair * total +
          walk(
            left.filter((x) => x !== f),
            next,
          )
        );
      }),
    );
  };
  return walk(
    model.faults.map((_, f) => f),
    weights,
  );
}

/** Every way of testing and repairing, by plain recursion. */
function best(model: Model, weights: Float64Array, tests: readonly number[], repairs: readonly number[]): number {
  const total = sum(weights);
  if (!(total > 0)) return 0;
  return Math.min(
    referring(model, weights),
    ...repairs.map((f) => {
      const next = weights.slice();
      next[f] = 0;
      return (
        model.faults[f]!.repair * total +
        best(
          model,
          next,
          tests,
          repairs.filter((x) => x !== f),
        )
      );
    }),
    ...tests.map((t) => {
      const test = model.tests[t]!;
      const rest = tests.filter((x) => x !== t);
      return test.outcomes.reduce((n, _, o) => n + best(model, after(weights, test, o), rest, repairs), test.cost * total);
    }),
  );
}

describe('repairs alone', () => {
  it('tries the better chance for its cost first: by hand', () => {
    // 0.6 / 30 = 0.02 before 0.4 / 40 = 0.01: 30 + 0.4 · 40 = 46, the other way round 40 + 0.6 · 30 = 58.
    const model: Model = {
      faults: [
        { id: 'a', prior: 0.4, repair: 40 },
        { id: 'b', prior: 0.6, repair: 30 },
      ],
      elsePrior: 0,
      refer: null,
      tests: [],
    };
    const order = new RepairOrder(model);
    expect(order.value(priorsOf(model))).toBeCloseTo(46, 10);
    expect(order.first(priorsOf(model))).toBe(1);
  });

  it('hands on where that is cheaper: both sides of the limit', () => {
    const model = (refer: number): Model => ({
      faults: [{ id: 'a', prior: 0.5, repair: 40 }],
      elsePrior: 0.5,
      refer: Float64Array.from([refer, refer]),
      tests: [],
    });
    // Repair first: 40 + 0.5 · refer; hand on at once: refer. Equal at 80.
    expect(new RepairOrder(model(79)).first(priorsOf(model(79)))).toBeNull();
    expect(new RepairOrder(model(81)).first(priorsOf(model(81)))).toBe(0);
    expect(new RepairOrder(model(79)).value(priorsOf(model(79)))).toBeCloseTo(79, 10);
    expect(new RepairOrder(model(81)).value(priorsOf(model(81)))).toBeCloseTo(80.5, 10);
  });

  it('is the best of all orders, on seeded models', () => {
    const random = generator(11);
    for (let i = 0; i < 60; i += 1) {
      const model = randomModel({ ...small, faults: 5 }, random);
      expect(new RepairOrder(model).value(priorsOf(model))).toBeCloseTo(bestOrder(model, priorsOf(model)), 8);
    }
  });
});

describe('the exact solution', () => {
  it('is what plain recursion finds, with and without somebody to hand on to', () => {
    const random = generator(12);
    for (let i = 0; i < 12; i += 1) {
      const drawn = randomModel(small, random);
      const model: Model =
        i % 2 === 0
          ? drawn
          : {
              ...drawn,
              faults: drawn.faults.map((f) => ({ ...f, prior: f.prior * 0.8 })),
              elsePrior: 0.2,
              refer: Float64Array.from([70, 70, 70, 50]),
            };
      const found = solve(model);
      expect(found.cost).toBeCloseTo(best(model, priorsOf(model), [0, 1, 2], [0, 1, 2]), 8);
      const seen = new Map<number, number>();
      expect(costOf(model, priorsOf(model), follow(model, found.action, seen))).toBeCloseTo(found.cost, 8);
    }
  });

  it('refuses what is too large, and says how large', () => {
    const model = randomModel({ ...small, faults: 12, tests: 12 }, generator(1));
    expect(statesOf(model)).toBeGreaterThan(statesLimit);
    expect(() => solve(model)).toThrow(/^\d+ states are too many to solve exactly; at most 67108864\.$/);
  });
});

/** Drives the solution, which asks what was seen, along the weights that `costOf` walks. */
function follow(model: Model, action: ReturnType<typeof solve>['action'], _: Map<number, number>) {
  const start = priorsOf(model);
  return (weights: Float64Array, open: readonly number[]): Action => {
    const made = model.tests.map((__, t) => t).filter((t) => !open.includes(t));
    const tried = [...weights].flatMap((w, f) => (f < model.faults.length && w === 0 ? [f] : []));
    // The outcomes that were seen are those whose product gives these weights.
    const candidates = made.reduce<Map<number, number>[]>(
      (all, t) => all.flatMap((seen) => model.tests[t]!.outcomes.map((___, o) => new Map([...seen, [t, o]]))),
      [new Map()],
    );
    const seen = candidates.find((c) =>
      [...start].every(
        (p, f) => tried.includes(f) || Math.abs([...c].reduce((n, [t, o]) => n * model.tests[t]!.p[o * start.length + f]!, p) - weights[f]!) < 1e-12,
      ),
    )!;
    return action(seen, tried);
  };
}

describe('the policy', () => {
  // The full measurement, over 200 models of each regime, is made by the bench.
  it.each(Object.entries(regimes))('stays close to the optimum, in the regime "%s", with six faults and six tests', (_, regime) => {
    const random = generator(21);
    const ratios = Array.from({ length: 8 }, () => {
      const model = randomModel({ ...regime, faults: 6, tests: 6 }, random);
      const policy = new Policy(model, usualBudget);
      return costOf(model, priorsOf(model), (w, open) => policy.choices(w, open)[0]!.action) / solve(model).cost;
    }).sort((a, b) => a - b);
    expect(ratios[0]).toBeGreaterThanOrEqual(1 - 1e-9);
    expect(ratios[4]).toBeLessThanOrEqual(1.003);
    expect(ratios.at(-1)).toBeLessThanOrEqual(1.03);
  });

  it('answers the same each time, however often it has been asked before', () => {
    const model = randomModel(regimes.noisy, generator(5));
    const open = model.tests.map((_, t) => t);
    const policy = new Policy(model);
    const first = policy.choices(priorsOf(model), open);
    policy.choices(after(priorsOf(model), model.tests[0]!, 0), open.slice(1));
    expect(policy.choices(priorsOf(model), open)).toEqual(first);
    expect(new Policy(model).choices(priorsOf(model), open)).toEqual(first);
  });

  const pair = (tests: Model['tests']): Model => ({
    faults: [
      { id: 'a', prior: 0.5, repair: 100 },
      { id: 'b', prior: 0.5, repair: 100 },
    ],
    elsePrior: 0,
    refer: null,
    tests,
  });
  const tells = (cost: number, sure: number, rank = 0): Model['tests'][number] => ({
    id: `t${rank}`,
    cost,
    outcomes: ['x', 'y'],
    p: Float64Array.from([sure, 1 - sure, 0.5, 1 - sure, sure, 0.5]),
    rank,
  });

  it('makes a test only while it saves more than it costs: both sides', () => {
    // Without it: 100 + 0.5 · 100 = 150. With a sure test: cost + 100.
    const act = (model: Model) => new Policy(model).choices(priorsOf(model), [0])[0]!.action.kind;
    expect(act(pair([tells(49, 1)]))).toBe('test');
    expect(act(pair([tells(51, 1)]))).toBe('repair');
    expect(act(pair([tells(0.01, 0.5)]))).toBe('repair');
  });

  it('prefers the harmless of two tests that are equally good', () => {
    const model = pair([tells(20, 0.99, 100), tells(20, 0.99, 1)]);
    for (const budget of [usualBudget, firstBudget])
      expect(new Policy(model, budget).choices(priorsOf(model), [0, 1])[0]!.action).toEqual({ kind: 'test', test: 1 });
  });

  it('hands on when nothing is left', () => {
    const model: Model = { faults: [{ id: 'a', prior: 0.5, repair: 10 }], elsePrior: 0.5, refer: Float64Array.from([80, 50]), tests: [] };
    expect(new Policy(model).choices(Float64Array.from([0, 1]), [])).toEqual([{ action: { kind: 'refer' }, cost: 50 }]);
    expect(new Policy(model).choices(Float64Array.from([0, 0]), [])[0]!.action.kind).toBe('refer');
  });
});

describe('the ranking in bits', () => {
  it('is the mutual information, counted the plain way', () => {
    const random = generator(31);
    for (let i = 0; i < 20; i += 1) {
      const model = randomModel(regimes.noisy, random);
      const weights = Float64Array.from([...model.faults.map(() => random()), 0]);
      const total = sum(weights);
      const entropy = (w: Float64Array) => [...w].reduce((h, x) => (x > 0 ? h - (x / sum(w)) * Math.log2(x / sum(w)) : h), 0);
      const bits = new Ranking(model).bits(weights);
      model.tests.forEach((test, t) => {
        const left = test.outcomes.reduce((n, _, o) => {
          const w = after(weights, test, o);
          return n + (sum(w) / total) * entropy(w);
        }, 0);
        expect(bits[t]).toBeCloseTo(entropy(weights) - left, 9);
      });
    }
  });
});
