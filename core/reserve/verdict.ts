import { formatChance, never } from '../units';
import { mostMinutes, type Predicted } from './predict';
import { sentences } from './sentences';

/** Minutes in words, rounded down: what is promised is there. */
export const minutesWords = (minutes: number): string => (minutes >= mostMinutes ? sentences.aDay : sentences.minutes(Math.floor(minutes + 1e-9)));

/** What the prediction comes to. @param needed minutes that the work takes */
export function reserveVerdict(predicted: Predicted, needed: number): { head: string; text: string } {
  const { verdict, supplyAmps, minutesSure, charge, surfaceCharge } = predicted;
  const needs = sentences.minutes(Math.ceil(needed));
  const say = (head: string, text: string) => ({ head, text: surfaceCharge ? `${text} ${sentences.surface}` : text });
  switch (verdict) {
    case 'go':
      return say(sentences.go, sentences.goFor(minutesWords(minutesSure), needs));
    case 'goWithSupply':
      return say(sentences.goWithSupply(supplyAmps), sentences.without(minutesWords(minutesSure), needs));
    case 'dont':
      return say(sentences.dont, sentences.dontDo(formatChance(charge), supplyAmps));
    default:
      return never(verdict);
  }
}
