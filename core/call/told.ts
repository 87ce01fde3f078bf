import { formatChance, moneyRange } from '../units';
import { type CallAdvice, priceOf } from './advise';
import { sentences } from './sentences';

/** What it sounds like, in words. */
export const soundsWords: Record<CallAdvice['sounds'], string> = {
  refused: sentences.refused,
  power: sentences.power,
  beyond: sentences.beyond,
  notClear: sentences.notClear,
};

/** The answer of the sheet in words, as the caller is told it. */
export interface ToldCaller {
  sounds: string;
  visit: string;
  /** Empty where the shop has no rate. */
  price: string;
}

/** @param shop labour rate per hour and its currency */
export function toldCaller(advice: CallAdvice, shop: { labourRate: number; currency: string }): ToldCaller {
  const price = priceOf(advice.minutes, shop.labourRate);
  return {
    sounds: `${soundsWords[advice.sounds]} (${formatChance(advice.beliefs[0]!.p)})`,
    visit: advice.visit.say,
    price: price ? sentences.partsExtra(moneyRange(price[0], price[1], shop.currency)) : '',
  };
}
