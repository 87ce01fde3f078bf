import { compile, firstBudget, isTaught, simulate } from '../core/diagnosis';
import { experienceOf, lessonOfPast, noTallies, otherShop, pastCases, type Tallies, vehiclesOf, withLesson } from '../core/learning';
import { type Family, resolveParams, valuesOf } from '../core/library';
import { often } from './often.testing';
import { shippedContent } from './shipped.testing';

/** What learning is worth: a made-up shop with its own frequencies, slips and minutes, before and after its history. */
const { families } = shippedContent().library;
const seed = 20261130;
/** In every run four types of different kinds; all fourteen in the whole. */
const types = [...families.keys()].filter((id) => often(1, 0) === 1 || ['ring', 'pellet', 'pocket-fob', 'transponder-dwell'].includes(id));
const fresh = often(700, 150);

function shopOf(id: string) {
  const family = families.get(id)!;
  const params = valuesOf(resolveParams(family));
  return { family, params, shop: otherShop(family, seed + id.length), id };
}
const taught = (family: Family, params: ReturnType<typeof shopOf>['params'], shop: Family, cases: number): Tallies =>
  pastCases(family, shop, params, cases, seed).reduce((t, past) => withLesson(t, lessonOfPast(family, params, past)), noTallies());

/** Cost beyond the true repair on fresh vehicles of the shop, with what was learned and without, the same vehicles on both sides. */
function worth(id: string, cases: number): number {
  const { family, params, shop } = shopOf(id);
  const { proven, learned } = experienceOf(taught(family, params, shop, cases), [], '');
  const opening = { told: [], keys: ['A', 'B'], ratePerMinute: 1.4 };
  const vehicles = vehiclesOf(shop, params);
  const cost = (model: ReturnType<typeof compile>) =>
    simulate(model, { policy: 'engine', trials: fresh, seed: seed + 7, fixed: [], vehicles, budget: firstBudget }).meanExtraCost;
  return cost(compile(family, params, { ...opening, proven, learned })) / cost(compile(family, params, opening));
}

test('after 60 cases of a type fresh vehicles of that shop cost less beyond the repair, in the mean over the types', () => {
  const ratios = types.map((id) => worth(id, 60));
  expect(ratios.reduce((a, b) => a + b, 0) / ratios.length).toBeLessThan(1);
  // With few vehicles chance has more room.
  for (const ratio of ratios) expect(ratio).toBeLessThan(often(1.02, 1.08));
});

test('after four proven cases of a type nothing changes at all', () => {
  const { family, params, shop } = shopOf('ring');
  const { proven, learned } = experienceOf(taught(family, params, shop, 4), [], '');
  expect(isTaught(proven)).toBe(false);
  const opening = { told: [], keys: ['A', 'B'], ratePerMinute: 1.4 };
  expect(compile(family, params, { ...opening, proven, learned }).model).toEqual(compile(family, params, opening).model);
});

test('a made-up shop is the same for the same seed, and another for another one', () => {
  const { family } = shopOf('ring');
  expect(otherShop(family, 1)).toEqual(otherShop(family, 1));
  expect(otherShop(family, 1).faults!.map((f) => f.prior)).not.toEqual(otherShop(family, 2).faults!.map((f) => f.prior));
});
