import type { Model } from './model';

/** Held here, since looking up a global in the innermost loop is slow under the test runner. */
const unbounded = Infinity;

/**
 * The cheapest way to go on with repairs alone: in the order of chance over cost, until handing on is cheaper. That order is the best one for repairs
 * that each cure one fault and cost the same whether they cure or not (exchange argument; W. E. Smith, "Various optimizers for single-stage
 * production", 1956); with somebody to hand on to it is very nearly so.
 */
export class RepairOrder {
  private readonly order: Int32Array;
  private readonly ratio: Float64Array;
  private handOn = false;
  private readonly count: number;
  private readonly cost: Float64Array;
  private readonly inverse: Float64Array;

  constructor(private readonly model: Model) {
    this.count = model.faults.length;
    this.order = Int32Array.from(model.faults.keys());
    this.ratio = new Float64Array(this.count);
    this.cost = Float64Array.from(model.faults, (f) => f.repair);
    this.inverse = this.cost.map((c) => 1 / c);
  }

  /**
   * Expected cost of repairs alone, times the sum of the weights.
   * @param weights of the faults, with "something else" last; need not add up to 1
   */
  value(weights: Float64Array): number {
    const live = this.sort(weights);
    const { order, cost } = this;
    const { refer } = this.model;
    let left = weights[this.count]!;
    let referred = left > 0 ? (refer ? left * refer[this.count]! : unbounded) : 0;
    let value = referred;
    for (let k = live - 1; k >= 0; k -= 1) {
      const f = order[k]!;
      left += weights[f]!;
      value += cost[f]! * left;
      if (refer) {
        referred += weights[f]! * refer[f]!;
        if (referred < value) value = referred;
      }
    }
    this.handOn = refer !== null && referred <= value;
    return value;
  }

  /** The fault to repair first if nothing more is tested; null: hand on at once. */
  first(weights: Float64Array): number | null {
    this.value(weights);
    if (this.handOn) return null;
    const first = this.order[0]!;
    return weights[first]! > 0 ? first : null;
  }

  /** Sorts by chance over cost and returns how many faults are left. The order of the last call is nearly right for the next one. */
  private sort(weights: Float64Array): number {
    const { order, ratio, inverse, count } = this;
    for (let f = 0; f < count; f += 1) ratio[f] = weights[f]! * inverse[f]!;
    let live = 0;
    for (let k = 0; k < count; k += 1) {
      const f = order[k]!;
      const r = ratio[f]!;
      if (r > 0) live += 1;
      let at = k;
      while (at > 0 && ratio[order[at - 1]!]! < r) {
        order[at] = order[at - 1]!;
        at -= 1;
      }
      order[at] = f;
    }
    return live;
  }
}
