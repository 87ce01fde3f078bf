import { assessTrials, mostTrials, type TrialsAssessed } from '../core/trials';
import { CannotUse } from './fail';

export interface TrialsOptions {
  hits: string;
  trials: string;
  confidence?: string;
  target?: string;
}

/** `trials assess`: what repeated looks show. */
export function trialsAssess({ hits, trials, confidence, target }: TrialsOptions): TrialsAssessed {
  const n = count('--trials', trials);
  const h = count('--hits', hits);
  if (h > n) throw new CannotUse(`--hits ${hits}: more hits than trials. Write at most ${n}.`);
  return assessTrials(h, n, {
    ...(confidence === undefined ? {} : { confidence: share('--confidence', confidence) }),
    ...(target === undefined ? {} : { target: share('--target', target) }),
  });
}

function count(option: string, text: string): number {
  const value = /^\d{1,7}$/.test(text.trim()) ? Number(text) : NaN;
  if (value <= mostTrials) return value;
  throw new CannotUse(`${option} ${text}: write a whole number from 0 to ${mostTrials}.`);
}

function share(option: string, text: string): number {
  const value = text.trim() === '' ? NaN : Number(text);
  if (value > 0 && value < 1) return value;
  throw new CannotUse(`${option} ${text}: write a number between 0 and 1, such as 0.95.`);
}
