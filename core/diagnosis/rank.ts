import { type Model, rowEntropy, sum } from './model';

const { log2, max } = Math;

/**
 * What each test would tell of the fault, in bits: the entropy of its outcomes less the mean entropy of its rows (mutual information; Cover and Thomas,
 * "Elements of Information Theory", 2nd ed., section 2.4). The rows' entropies are counted once, so that a ranking is one pass of multiply-adds and
 * one logarithm for each outcome.
 */
export class Ranking {
  private readonly rowEntropy: Float64Array[];

  constructor(private readonly model: Model) {
    this.rowEntropy = model.tests.map((test) => rowEntropy(test, model.faults.length + 1));
  }

  /**
   * Bits of each test, 0 or more.
   * @param weights of the faults, "something else" last; need not add up to 1
   */
  bits(weights: Float64Array, into: Float64Array = new Float64Array(this.model.tests.length)): Float64Array {
    const width = weights.length;
    const total = sum(weights);
    for (let t = 0; t < this.model.tests.length; t += 1) {
      const { p, outcomes } = this.model.tests[t]!;
      const entropy = this.rowEntropy[t]!;
      let given = 0;
      for (let f = 0; f < width; f += 1) given += weights[f]! * entropy[f]!;
      let mixed = 0;
      for (let o = 0; o < outcomes.length; o += 1) {
        let chance = 0;
        const from = o * width;
        for (let f = 0; f < width; f += 1) chance += weights[f]! * p[from + f]!;
        if (chance > 0) mixed -= (chance / total) * log2(chance / total);
      }
      into[t] = max(0, mixed - given / total);
    }
    return into;
  }
}
