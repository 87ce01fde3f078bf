import { type Model, priorsOf, referring, sum } from './model';
import type { Action } from './policy';

/** Number of states that the exact solution would need; it doubles with each fault. */
export const statesOf = (model: Model): number => model.tests.reduce((n, t) => n * (t.outcomes.length + 1), 1) * 2 ** model.faults.length;

/** The largest number of states that is solved exactly, about half a gigabyte of table. */
export const statesLimit = 2 ** 26;

/** The exact solution. */
export interface Solution {
  /** Expected cost from the priors to the cure. */
  cost: number;
  /**
   * The best action after some tests and repairs in vain.
   * @param seen outcome of each test that was made, by its number
   * @param tried numbers of the faults whose repair was in vain
   */
  action(seen: ReadonlyMap<number, number>, tried: readonly number[]): Action;
}

/**
 * The lowest expected cost that any way of testing and repairing can have, by dynamic programming over everything that can have been seen and tried.
 * Each test is made at most once.
 * @throws RangeError when the model has more than `statesLimit` states
 */
export function solve(model: Model): Solution {
  const states = statesOf(model);
  if (states > statesLimit) throw new RangeError(`${states} states are too many to solve exactly; at most ${statesLimit}.`);
  const faults = model.faults.length;
  const sets = 2 ** faults;
  const bases = model.tests.map((t) => t.outcomes.length + 1);
  const steps = bases.map((_, i) => bases.slice(0, i).reduce((n, b) => n * b, 1));
  const cases = bases.reduce((n, b) => n * b, 1);
  const value = new Float64Array(cases * sets);
  const repairs = model.faults.map((f) => f.repair);
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
        const cost = repairs[f]! * left + value[row + (tried | (1 << f))]!;
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
  const valueOf = (seen: ReadonlyMap<number, number>, set: number) =>
    value[[...seen].reduce((n, [t, outcome]) => n + (outcome + 1) * steps[t]!, 0) * sets + set]!;
  return {
    cost: value[0]!,
    action: (seen, tried) => {
      const set = tried.reduce((n, f) => n | (1 << f), 0);
      const left = prior.map((p, f) => (tried.includes(f) ? 0 : [...seen].reduce((n, [t, o]) => n * model.tests[t]!.p[o * (faults + 1) + f]!, p)));
      const total = sum(left);
      const options: { action: Action; cost: number }[] = [
        { action: { kind: 'refer' }, cost: referring(model, left) },
        ...model.faults.flatMap(({ repair }, fault) =>
          tried.includes(fault) ? [] : [{ action: { kind: 'repair', fault } as const, cost: repair * total + valueOf(seen, set | (1 << fault)) }],
        ),
        ...model.tests.flatMap(({ cost, outcomes }, test) =>
          seen.has(test)
            ? []
            : [
                {
                  action: { kind: 'test', test } as const,
                  cost: outcomes.reduce((n, _, o) => n + valueOf(new Map([...seen, [test, o]]), set), cost * total),
                },
              ],
        ),
      ];
      return options.reduce((best, option) => (option.cost < best.cost ? option : best)).action;
    },
  };
}
