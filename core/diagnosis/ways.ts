import type { Compiled } from './compile';
import { after, type Model, sum } from './model';
import { firstBudget, Policy } from './policy';
import { RepairOrder } from './repairOrder';

/** What some share of such cases costs until the vehicle is fixed or handed on, from here on. */
export interface Spent {
  /** Share of such cases, above 0. */
  p: number;
  minutes: number;
  /** Parts and outside work, in the shop's currency. */
  money: number;
}

/** Two ways to go on. The shares of each add up to 1; the least minutes first. */
export interface Ways {
  /** No more tests: fixes alone, in the order that is cheapest in the mean, then handing on. */
  act: Spent[];
  /** A test first wherever it lowers the mean cost, then fixes. */
  test: Spent[];
  /** Of each likely hypothesis, by its id: what comes on top of its own fix where that is made first; nothing in as many cases as it is the cause. */
  after: Record<string, Spent[]>;
}

/** Branches of the tests that come up less often than this go on with fixes alone, as do all once so many situations were looked at. Our own choice. */
const rare = 0.01;
const mostSituations = 400;
/** What comes after a fix is followed for hypotheses of so much at least. */
const likely = 0.05;

type Cost = Omit<Spent, 'p'>;
interface Costs {
  repair: readonly Cost[];
  test: readonly Cost[];
  refer: Cost;
}

/** Handing on where the family doesn't say; as `compile` takes it. */
const usualReferral: Cost = { minutes: 60, money: 150 };

function costsOf({ hypotheses, tests, family }: Pick<Compiled, 'hypotheses' | 'tests' | 'family'>): Costs {
  return {
    repair: hypotheses.map(({ fault }) => ({ minutes: fault.cure.minutes, money: fault.cure.money ?? 0 })),
    test: tests.map(({ test }) => ({ minutes: test.minutes, money: test.money ?? 0 })),
    refer: family.elsewhere ? { minutes: family.elsewhere.minutes, money: family.elsewhere.money } : usualReferral,
  };
}

/**
 * What it may cost to go on with fixes alone, and with tests first: every outcome followed, with its share. Penalties (hazard, effect) decide the order and
 * are not paid by anybody. Tests that only another one opens are not among those that are made.
 * @param weights of the faults, "something else" last
 * @param open tests that can be made now
 */
export function waysOn(
  compiled: Pick<Compiled, 'hypotheses' | 'tests' | 'family'>,
  model: Model,
  weights: Float64Array,
  open: readonly number[],
): Ways {
  const costs = costsOf(compiled);
  const root = sum(weights);
  const act: Spent[] = [];
  fixesAlone(model, costs, weights, { minutes: 0, money: 0 }, act);
  const onTop: Ways['after'] = {};
  compiled.hypotheses.forEach(({ id }, f) => {
    if (weights[f]! < root * likely) return;
    const more: Spent[] = [{ p: weights[f]!, minutes: 0, money: 0 }];
    fixesAlone(model, costs, without(weights, f), { minutes: 0, money: 0 }, more);
    onTop[id] = gathered(more);
  });
  const test: Spent[] = [];
  const policy = new Policy(model, firstBudget);
  let looked = 0;
  const go = (left: Float64Array, still: readonly number[], so: Cost): void => {
    const total = sum(left);
    if (!(total > 0)) return;
    looked += 1;
    if (total < root * rare || looked > mostSituations) return fixesAlone(model, costs, left, so, test);
    const { action } = policy.choices(left, still)[0]!;
    if (action.kind === 'refer') {
      test.push({ p: total, ...plus(so, costs.refer) });
      return;
    }
    if (action.kind === 'repair') {
      const then = plus(so, costs.repair[action.fault]!);
      test.push({ p: left[action.fault]!, ...then });
      return go(without(left, action.fault), still, then);
    }
    const made = model.tests[action.test]!;
    const rest = still.filter((t) => t !== action.test);
    for (let o = 0; o < made.outcomes.length; o += 1) go(after(left, made, o), rest, plus(so, costs.test[action.test]!));
  };
  go(weights, open, { minutes: 0, money: 0 });
  return { act: gathered(act), test: gathered(test), after: onTop };
}

function fixesAlone(model: Model, costs: Costs, weights: Float64Array, so: Cost, into: Spent[]): void {
  const order = new RepairOrder(model);
  let left = weights;
  let spent = so;
  for (;;) {
    const total = sum(left);
    if (!(total > 0)) return;
    const fault = order.first(left);
    if (fault === null) {
      into.push({ p: total, ...plus(spent, costs.refer) });
      return;
    }
    spent = plus(spent, costs.repair[fault]!);
    into.push({ p: left[fault]!, ...spent });
    left = without(left, fault);
  }
}

const plus = (a: Cost, b: Cost): Cost => ({ minutes: a.minutes + b.minutes, money: a.money + b.money });

function without(weights: Float64Array, fault: number): Float64Array {
  const left = weights.slice();
  left[fault] = 0;
  return left;
}

/** Equal costs together, shares adding up to 1, in the order of minutes and money. */
function gathered(spent: readonly Spent[]): Spent[] {
  const all = spent.reduce((n, s) => n + s.p, 0);
  const by = new Map<string, Spent>();
  for (const s of spent) {
    if (s.p <= 0) continue;
    const minutes = Math.round(s.minutes * 10) / 10;
    const money = Math.round(s.money * 100) / 100;
    const name = `${minutes} ${money}`;
    const known = by.get(name);
    if (known) known.p += s.p / all;
    else by.set(name, { p: s.p / all, minutes, money });
  }
  return [...by.values()].sort((a, b) => a.minutes - b.minutes || a.money - b.money);
}
