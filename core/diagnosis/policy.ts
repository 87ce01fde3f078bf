import { after, type Model, referring, sum } from './model';
import { Ranking } from './rank';
import { RepairOrder } from './repairOrder';

export type Action = { kind: 'test'; test: number } | { kind: 'repair'; fault: number } | { kind: 'refer' };

/** One action with the expected cost from here to the cure if it is taken. */
export interface Choice {
  action: Action;
  cost: number;
}

/** How much is looked at before an answer is given. Counts, not seconds, so that the answer is the same each time. */
export interface Budget {
  /** Tests weighed in a situation, over all situations; what is not ready by then is not used. */
  weighings: number;
  /** Steps looked ahead with several choices each; beyond them the gated rule goes on alone. 0: only repairs follow a test. */
  depth: number;
  /** Choices followed in the present situation, and in each one below it. */
  breadth: readonly [number, number];
}

/** What the app uses. */
export const usualBudget: Budget = { weighings: 100_000, depth: 2, breadth: [16, 3] };
/** An answer at once, to be replaced by the usual one. */
export const firstBudget: Budget = { weighings: 0, depth: 0, breadth: [16, 3] };

const { min } = Math;
const gain = 1e-9;
/** Tests weighed in each situation that the gated rule goes through alone. */
const followed = 8;
/** A situation that comes up less often than this, seen from the present one, is followed by the gated rule alone. */
const rare = 0.003;
/** How finely the gated rule is followed, one pass after the other: a situation that comes up less often than this goes on with repairs alone. */
const grains = [0.1, 0.03, 0.01, 0.003, 0.001, 0.0001];
/** Steps ahead and grain of each pass: first finer, then further. */
const passes = (depth: number): [ahead: number, grain: number][] =>
  depth < 1
    ? []
    : [...grains.map((g): [number, number] => [1, g]), ...Array.from({ length: depth - 1 }, (_, i): [number, number] => [i + 2, grains.at(-1)!])];
/** Costs closer together than this share count as equal: as long as the gated rule is followed coarsely, and in the end. */
const roughly = 0.005;
const exactly = 0.001;
class OutOfBudget extends Error {}
/** Places of the arrays that a level needs beside one for each outcome. */
const scratch = { repair: 20, test: 21 };

/**
 * What to do next: the action with the lowest expected cost to a cure.
 *
 * The rule underneath is *gated*: a test is made only where it lowers the expected cost of repairs alone (`RepairOrder`), and the one that lowers it most
 * comes first; else the first repair is made, and if it is in vain, tests are weighed again. On it stands lookahead: every action is followed, a
 * step or two with the best few actions of each situation, then with the gated rule to the end, over all outcomes exactly (rollout; D. P. Bertsekas,
 * "Rollout algorithms for discrete optimization", 2013).
 */
export class Policy {
  constructor(
    private readonly model: Model,
    private readonly budget: Budget = usualBudget,
  ) {}

  /**
   * Best first: every action with its expected cost.
   * @param weights of the faults, with "something else" last; need not add up to 1
   * @param open tests that can be made now
   */
  choices(weights: Float64Array, open: readonly number[]): Choice[] {
    if (!(sum(weights) > 0)) return [{ action: { kind: 'refer' }, cost: 0 }];
    const { model, faults, left } = withoutTheUnlikely(this.model, weights);
    const choices = new Lookahead(model, this.budget).choices(left, open);
    return choices.map(({ action, cost }) => ({
      action: action.kind === 'repair' ? { kind: 'repair', fault: faults[action.fault]! } : action,
      cost,
    }));
  }

  /** What to do when nothing more is tested. */
  actNow(weights: Float64Array): Action {
    const fault = new RepairOrder(this.model).first(weights);
    return fault === null ? { kind: 'refer' } : { kind: 'repair', fault };
  }
}

/** Faults of a smaller share than this are left out of a decision, since they would not turn it. */
const unlikely = 0.0002;

/** The model without the faults that hardly come into question; `faults` gives the numbers of those that stay. */
function withoutTheUnlikely(model: Model, weights: Float64Array): { model: Model; faults: number[]; left: Float64Array } {
  const least = sum(weights) * unlikely;
  const faults = model.faults.flatMap((_, f) => (weights[f]! > least ? [f] : []));
  const columns = [...faults, model.faults.length];
  const width = model.faults.length + 1;
  const pick = (from: Float64Array, start: number) => columns.map((c) => from[start + c]!);
  return {
    faults,
    left: Float64Array.from(pick(weights, 0)),
    model: {
      ...model,
      faults: faults.map((f) => model.faults[f]!),
      refer: model.refer && Float64Array.from(pick(model.refer, 0)),
      tests: model.tests.map((t) => ({ ...t, p: Float64Array.from(t.outcomes.flatMap((_, o) => pick(t.p, o * width))) })),
    },
  };
}

/** One decision: the actions of one situation, followed. */
class Lookahead {
  private readonly repairs: RepairOrder;
  private readonly ranking: Ranking;
  private readonly bits: Float64Array;
  private readonly stack: Float64Array[][] = [];
  private weighed = 0;
  private root = 0;
  private grain = 0;

  constructor(
    private readonly model: Model,
    private readonly budget: Budget,
  ) {
    this.repairs = new RepairOrder(model);
    this.ranking = new Ranking(model);
    this.bits = new Float64Array(model.tests.length);
  }

  choices(weights: Float64Array, open: readonly number[]): Choice[] {
    const total = sum(weights);
    this.weighed = -open.length;
    this.root = total;
    const order = this.shallow(weights, total, open, 0);
    let answer = this.weigh(weights, total, open, 0, order);
    const promising = order.slice(0, this.budget.breadth[0]);
    try {
      for (const [depth, grain] of passes(this.budget.depth)) {
        this.grain = grain;
        answer = this.weigh(weights, total, open, depth, promising);
      }
    } catch (error) {
      if (!(error instanceof OutOfBudget)) throw error;
    }
    return answer.map((c) => ({ ...c, cost: c.cost / total }));
  }

  /** Tests in the order of what they and repairs alone would cost. */
  private shallow(weights: Float64Array, total: number, open: readonly number[], depth: number): number[] {
    return open
      .map((test) => ({ test, cost: this.testThenRepairs(weights, total, test, depth) }))
      .sort((a, b) => a.cost - b.cost || this.model.tests[a.test]!.rank - this.model.tests[b.test]!.rank)
      .map((t) => t.test);
  }

  /** The few tests that tell most for their cost: only they are weighed where the gated rule goes on alone. */
  private telling(weights: Float64Array, open: readonly number[]): readonly number[] {
    if (open.length <= followed) return open;
    const bits = this.ranking.bits(weights, this.bits);
    const worth = open.map((t) => bits[t]! / (this.model.tests[t]!.cost + 1));
    const limit = [...worth].sort((a, b) => b - a)[followed - 1]!;
    return open.filter((_, i) => worth[i]! >= limit);
  }

  private weigh(weights: Float64Array, total: number, open: readonly number[], ahead: number, order: readonly number[]): Choice[] {
    const first = this.repairs.first(weights);
    const acted: Choice =
      first === null
        ? { action: { kind: 'refer' }, cost: referring(this.model, weights) }
        : { action: { kind: 'repair', fault: first }, cost: this.followRepair(weights, total, first, open, 0, ahead) };
    const tests = order.map((test): Choice => ({ action: { kind: 'test', test }, cost: this.followTest(weights, total, test, open, 0, ahead) }));
    // What is equal within what the estimate is off by is equal: acting comes before a test that saves nothing, the harmless test before the other, and
    // then the one that tells most by itself.
    const choices = [acted, ...tests];
    const slack = ahead === 0 || this.grain > grains.at(-1)! ? roughly : exactly;
    const equal = Math.min(...choices.map((c) => c.cost)) * (1 + slack);
    const rank = ({ action }: Choice) => (action.kind === 'test' ? this.model.tests[action.test]!.rank : -1);
    const byItself = (c: Choice) => choices.indexOf(c);
    return [
      ...choices.filter((c) => c.cost <= equal).sort((a, b) => rank(a) - rank(b) || byItself(a) - byItself(b)),
      ...choices.filter((c) => c.cost > equal).sort((a, b) => a.cost - b.cost),
    ];
  }

  private followRepair(weights: Float64Array, total: number, fault: number, open: readonly number[], depth: number, ahead: number): number {
    const without = this.room(depth, scratch.repair);
    without.set(weights);
    without[fault] = 0;
    return this.model.faults[fault]!.repair * total + this.look(without, open, depth + 1, ahead - 1);
  }

  private followTest(weights: Float64Array, total: number, test: number, open: readonly number[], depth: number, ahead: number): number {
    const { cost, outcomes } = this.model.tests[test]!;
    const rest = open.filter((t) => t !== test);
    let value = cost * total;
    for (let o = 0; o < outcomes.length; o += 1)
      value += this.look(after(weights, this.model.tests[test]!, o, this.room(depth, o)), rest, depth + 1, ahead - 1);
    return value;
  }

  /** The lowest expected cost from here on, times the sum of the weights, with `ahead` steps that consider every choice. */
  private look(weights: Float64Array, open: readonly number[], depth: number, ahead: number): number {
    const total = sum(weights);
    if (!(total > 0)) return 0;
    if (ahead < 0 || open.length === 0 || total < this.root * this.grain) return this.repairs.value(weights);
    this.weighed += min(open.length, followed);
    if (this.weighed > this.budget.weighings) throw new OutOfBudget();
    const first = this.repairs.first(weights);
    if (ahead === 0 || total < this.root * rare) {
      const test = this.gated(weights, total, open, depth);
      if (test !== null) return this.followTest(weights, total, test, open, depth, 1);
      if (first === null) return referring(this.model, weights);
      return this.followRepair(weights, total, first, open, depth, 1);
    }
    let best = first === null ? referring(this.model, weights) : this.followRepair(weights, total, first, open, depth, ahead);
    for (const test of this.shallow(weights, total, this.telling(weights, open), depth).slice(0, this.budget.breadth[1]))
      best = min(best, this.followTest(weights, total, test, open, depth, ahead));
    return best;
  }

  private gated(weights: Float64Array, total: number, open: readonly number[], depth: number): number | null {
    let best = this.repairs.value(weights) * (1 - gain);
    let chosen: number | null = null;
    for (const test of this.telling(weights, open)) {
      const cost = this.testThenRepairs(weights, total, test, depth);
      if (cost < best) [best, chosen] = [cost, test];
    }
    return chosen;
  }

  private testThenRepairs(weights: Float64Array, total: number, test: number, depth: number): number {
    const { cost, outcomes } = this.model.tests[test]!;
    const into = this.room(depth, scratch.test);
    let value = cost * total;
    for (let o = 0; o < outcomes.length; o += 1) value += this.repairs.value(after(weights, this.model.tests[test]!, o, into));
    return value;
  }

  private room(depth: number, at: number): Float64Array {
    const level = (this.stack[depth] ??= []);
    return (level[at] ??= new Float64Array(this.model.faults.length + 1));
  }
}

/** Expected cost of following a policy from the priors to the cure, over every outcome exactly. */
export function costOf(model: Model, start: Float64Array, choose: (weights: Float64Array, open: readonly number[]) => Action): number {
  const walk = (weights: Float64Array, open: readonly number[]): number => {
    const total = sum(weights);
    if (!(total > 0)) return 0;
    const action = choose(weights, open);
    if (action.kind === 'refer') return referring(model, weights);
    if (action.kind === 'repair') {
      const left = weights.slice();
      left[action.fault] = 0;
      return model.faults[action.fault]!.repair * total + walk(left, open);
    }
    const test = model.tests[action.test]!;
    const rest = open.filter((t) => t !== action.test);
    return test.outcomes.reduce((cost, _, o) => cost + walk(after(weights, test, o), rest), test.cost * total);
  };
  return walk(
    start,
    model.tests.map((_, i) => i),
  );
}
