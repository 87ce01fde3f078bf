import type { Origin } from '../replacement';
import type { Span } from './option';
import { sentences } from './sentences';

/**
 * Days and warranty by kind of work, where nobody has said otherwise. Estimates of ours, not checked against a source (docs/options.md): a shop changes an
 * option where it knows better.
 */
export const usual = {
  here: { days: { low: 0, high: 0 }, warranty: sentences.warrantyWork },
  partInStock: { days: { low: 0, high: 2 }, warranty: sentences.warrantyNewPart },
  newKey: { days: { low: 0, high: 3 }, warranty: sentences.warrantyNewKey },
  clone: { days: { low: 0, high: 2 }, warranty: sentences.warrantyNewKey },
  otherFix: { days: { low: 0, high: 1 }, warranty: sentences.warrantyRepairedKey },
  sendOut: { days: { low: 2, high: 7 }, warranty: sentences.warrantyOthers },
} as const;

/** The same for a replaced part by where it comes from. */
export const byOrigin: Readonly<Record<Origin, { days: Span; warranty: string; priceFactor: number }>> = {
  new: { days: { low: 1, high: 5 }, warranty: sentences.warrantyNewPart, priceFactor: 1 },
  donor: { days: { low: 1, high: 4 }, warranty: sentences.warrantyUsedPart, priceFactor: 0.35 },
  remanufactured: { days: { low: 3, high: 8 }, warranty: sentences.warrantyRebuiltPart, priceFactor: 0.6 },
  repaired: { days: { low: 3, high: 10 }, warranty: sentences.warrantyRepairedPart, priceFactor: 0.5 },
};
