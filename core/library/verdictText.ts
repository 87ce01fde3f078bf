import type { VerdictStep } from './documents';
import { sentences } from './sentences';

/** In `until` of a verdict's step: a second key was tried at the light. No test may have this id. */
export const anotherKey = 'anotherKey';

/**
 * What a rule says: what was found, and behind it what is left to do about it, in its order.
 * @param say one sentence or more, each with its full stop
 */
export function verdictText(say: string, steps: readonly VerdictStep[] = []): string {
  const [first, ...then] = steps.map((s) => s.do);
  if (first === undefined) return say;
  const begin = first.slice(0, 1).toUpperCase() + first.slice(1);
  return then.length === 0 ? sentences.doIt(say, begin) : sentences.doInOrder(say, begin, then.join(sentences.thenDo));
}
