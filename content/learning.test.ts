import { compile, isTaught } from '../core/diagnosis';
import { experienceOf, otherShop, taughtBy, worthOf } from '../core/learning';
import { resolveParams, valuesOf } from '../core/library';
import { often } from './often.testing';
import { shippedContent } from './shipped.testing';

/** What learning is worth: a made-up shop with its own frequencies, slips and minutes, before and after its history. */
const { families } = shippedContent().library;
const seed = 20261130;
/** Made-up shops: one alone may mislead by chance in its first cases. */
const seeds = [seed, 1000, 2000, 3000].slice(0, often(4, 1));
/** In every run four types of different kinds; all fourteen in the whole. */
const types = [...families.values()].filter((f) => often(1, 0) === 1 || ['ring', 'pellet', 'pocket-fob', 'transponder-dwell'].includes(f.id));
const fresh = often(350, 150);
const worth = (cases: number) => types.map((family) => worthOf(family, valuesOf(resolveParams(family)), { cases, fresh, seeds }));

test('after 60 cases of a type fresh vehicles of that shop cost less beyond the repair, in the mean over the types', () => {
  const ratios = worth(60);
  expect(ratios.reduce((a, b) => a + b, 0) / ratios.length).toBeLessThan(1);
  // With few vehicles chance has more room.
  for (const ratio of ratios) expect(ratio).toBeLessThan(often(1.02, 1.08));
});

test('after ten cases of a type nothing gets worse', () => {
  for (const ratio of worth(10)) expect(ratio).toBeLessThan(often(1.01, 1.08));
});

test('after eleven proven cases of a type nothing changes at all', () => {
  const family = families.get('ring')!;
  const params = valuesOf(resolveParams(family));
  const { proven, learned } = experienceOf(taughtBy(family, otherShop(family, seed), params, 11, seed), [], '');
  expect(isTaught(proven)).toBe(false);
  const opening = { told: [], keys: ['A', 'B'], ratePerMinute: 1.4 };
  expect(compile(family, params, { ...opening, proven, learned }).model).toEqual(compile(family, params, opening).model);
});

test('a made-up shop is the same for the same seed, and another for another one', () => {
  const family = families.get('ring')!;
  expect(otherShop(family, 1)).toEqual(otherShop(family, 1));
  expect(otherShop(family, 1).faults!.map((f) => f.prior)).not.toEqual(otherShop(family, 2).faults!.map((f) => f.prior));
});
