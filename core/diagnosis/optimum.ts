import { type Model, priorsOf } from './model';

/** Number of states that the exact solution would need; it doubles with each fault. */
export const statesOf = (model: Model): number => model.tests.reduce((n, t) => n * (t.outcomes.length + 1), 1) * 2 ** model.faults.length;

/** The largest number of states that is solved exactly, about half a gigabyte of table. */
export const statesLimit = 2 ** 26;

/**
 * The lowest expected cost that any way of testing and repairing can have, by dynamic programming over everything that can have been seen and tried.
 * Each test is made at most once.
 * @throws RangeError when the model has more than `statesLimit` states
 */
export function optimalCost(model: Model): number {
  const states = statesOf(model);
  if (states > statesLimit) throw new RangeError(`${states} states are too many to solve exactly; at most ${statesLimit}.`);
  const faults = model.faults.length;
  const sets = 2 ** faults;
  const bases = model.tests.map((t) => t.outcomes.length + 1);
  const steps = bases.map((_, i) => bases.slice(0, i).reduce((n, b) => n * b, 1));
  const cases = bases.reduce((n, b) => n * b, 1);
  const value = new Float64Array(cases * sets);
  const repair = model.faults.map((f) => f.repair);
  const weights = new Float64Array(faults + 1);
  const total = new Float64Array(sets);
  const handOn = new Float64Array(sets);
  const prior = priorsOf(model);
  // Digit 0 of a test: not made yet. A case with more tests made has the higher number, and a larger set of tried repairs too.
  for (let seen = cases - 1; seen >= 0; seen -= 1) {
    weights.set(prior);
    const open: number[] = [];
    for (let t = 0; t < bases.length; t += 1) {
      const digit = Math.floor(seen / steps[t]!) % bases[t]!;
      if (digit === 0) open.push(t);
      else for (let f = 0; f <= faults; f += 1) weights[f]! *= model.tests[t]!.p[(digit - 1) * (faults + 1) + f]!;
    }
    // The weight left when the repairs of a set have been tried in vain.
    total[sets - 1] = weights[faults]!;
    handOn[sets - 1] = weights[faults]! > 0 ? (model.refer ? weights[faults]! * model.refer[faults]! : Infinity) : 0;
    for (let tried = sets - 2; tried >= 0; tried -= 1) {
      const lowest = Math.log2(~tried & (tried + 1));
      total[tried] = total[tried | (1 << lowest)]! + weights[lowest]!;
      handOn[tried] = handOn[tried | (1 << lowest)]! + weights[lowest]! * (model.refer ? model.refer[lowest]! : Infinity);
    }
    const row = seen * sets;
    for (let tried = sets - 1; tried >= 0; tried -= 1) {
      const left = total[tried]!;
      let best = left > 0 ? handOn[tried]! : 0;
      for (let f = 0; f < faults; f += 1) {
        if (tried & (1 << f)) continue;
        const cost = repair[f]! * left + value[row + (tried | (1 << f))]!;
        if (cost < best) best = cost;
      }
      for (const t of open) {
        let cost = model.tests[t]!.cost * left;
        for (let digit = 1; digit < bases[t]! && cost < best; digit += 1) cost += value[(seen + digit * steps[t]!) * sets + tried]!;
        if (cost < best) best = cost;
      }
      value[row + tried] = best;
    }
  }
  return value[0]!;
}
