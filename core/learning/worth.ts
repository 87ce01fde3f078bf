import { compile, type Compiled, firstBudget, simulate } from '../diagnosis';
import type { Family, ParamValues } from '../library';
import { experienceOf } from './experience';
import { lessonOfPast, otherShop, pastCases, vehiclesOf } from './history';
import { noTallies, type Tallies, withLesson } from './tallies';

/** What a made-up shop's first cases of a type teach; seeded. */
export const taughtBy = (family: Family, shop: Family, params: ParamValues, cases: number, seed: number): Tallies =>
  pastCases(family, shop, params, cases, seed).reduce((t, past) => withLesson(t, lessonOfPast(family, params, past)), noTallies());

export interface WorthAsked {
  /** Cases of the type that each shop learned from. */
  cases: number;
  /** Vehicles of each shop it is tried on, none of which it has seen. */
  fresh: number;
  /** One made-up shop for each. */
  seeds: readonly number[];
}

/**
 * What is spent beyond the repair on fresh vehicles of made-up shops by an engine that learned from their cases, as a share of what one without spends on
 * the same vehicles: under 1 where learning saves something.
 */
export function worthOf(family: Family, params: ParamValues, { cases, fresh, seeds }: WorthAsked): number {
  const spent = { with: 0, without: 0 };
  for (const seed of seeds) {
    const shop = otherShop(family, seed + family.id.length);
    const { proven, learned } = experienceOf(taughtBy(family, shop, params, cases, seed), [], '');
    const opening = { told: [], keys: ['A', 'B'], ratePerMinute: 1.4 };
    const vehicles = vehiclesOf(shop, params);
    const cost = (model: Compiled) =>
      simulate(model, { policy: 'engine', trials: fresh, seed: seed + 7, fixed: [], vehicles, budget: firstBudget }).meanExtraCost;
    spent.with += cost(compile(family, params, { ...opening, proven, learned }));
    spent.without += cost(compile(family, params, opening));
  }
  return spent.with / spent.without;
}
