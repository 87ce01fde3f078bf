/**
 * A diagnosis as numbers: which faults there may be, what each repair and each test costs, and how likely each outcome of a test is under each fault.
 * Everything here is in one unit of cost; where it comes from (minutes, money, hazard) is the business of whoever builds the model.
 */
export interface Model {
  faults: readonly ModelFault[];
  /** What it costs in the end to hand the vehicle on, by what is wrong with it, "something else" last; it ends the work. Null: there is nobody. */
  refer: Float64Array | null;
  /** Share of vehicles whose trouble is none of the faults; it is cured only by handing on. */
  elsePrior: number;
  tests: readonly ModelTest[];
}

export interface ModelFault {
  id: string;
  /** Share before anything is seen, above 0; faults and "something else" add up to 1. */
  prior: number;
  /** Cost of the repair, above 0. It cures exactly this fault; a repair of a fault that is not there costs the same and rules the fault out. */
  repair: number;
}

export interface ModelTest {
  id: string;
  /** Cost of making it once, 0 or more. */
  cost: number;
  outcomes: readonly string[];
  /**
   * Probability of outcome o under fault f at `p[o * width + f]`; the last column, f = number of faults, is "something else". Columns add up to 1.
   */
  p: Float64Array;
  /** Of two tests that are equally good the one with the smaller number is made first: harmless and reversible ones are small. */
  rank: number;
}

/** Number of columns: all faults and "something else". */
export const widthOf = (model: Model): number => model.faults.length + 1;

/** Weights before anything is seen: the priors, with "something else" last. */
export const priorsOf = (model: Model): Float64Array => Float64Array.from([...model.faults.map((f) => f.prior), model.elsePrior]);

/** Weights after an outcome, not divided by their sum: what a weight has lost is the probability of the other outcomes. */
export function after(weights: Float64Array, test: ModelTest, outcome: number, into: Float64Array = new Float64Array(weights.length)): Float64Array {
  const from = outcome * weights.length;
  for (let f = 0; f < weights.length; f += 1) into[f] = weights[f]! * test.p[from + f]!;
  return into;
}

/** Cost of handing on, times the sum of the weights. */
export function referring(model: Model, weights: Float64Array): number {
  if (!model.refer) return Infinity;
  let cost = 0;
  for (let f = 0; f < weights.length; f += 1) cost += weights[f]! * model.refer[f]!;
  return cost;
}

export const sum = (values: Float64Array): number => {
  let total = 0;
  for (let i = 0; i < values.length; i += 1) total += values[i]!;
  return total;
};

const { log2 } = Math;

/** Entropy of a test's outcomes under each column, in bits. */
export function rowEntropy({ p, outcomes }: ModelTest, width: number): Float64Array {
  const entropy = new Float64Array(width);
  for (let o = 0; o < outcomes.length; o += 1)
    for (let f = 0; f < width; f += 1) {
      const x = p[o * width + f]!;
      if (x > 0) entropy[f] = entropy[f]! - x * log2(x);
    }
  return entropy;
}
