import { moneyRange } from '../units';
import { type CallAdvice, priceOf } from './advise';

/** What it sounds like, in words. */
export const soundsWords: Record<CallAdvice['sounds'], string> = {
  refused: 'Sounds like the immobilizer',
  power: 'Sounds like no power',
  beyond: 'Sounds like starter, fuel or a switch',
  notClear: 'Not clear',
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
    sounds: `${soundsWords[advice.sounds]} (${advice.beliefs[0]!.p.toFixed(2)})`,
    visit: advice.visit.say,
    price: price ? `${moneyRange(price[0], price[1], shop.currency)}, parts extra` : '',
  };
}
