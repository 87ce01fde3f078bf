import { formatChance } from '../units';
import type { Assessment } from './assess';
import type { Diagnosis } from './diagnose';
import { sentences } from './sentences';

/** The one sentence that a page says of the whole case, and where it comes from. */
export interface OneVerdict {
  kind: 'leave' | 'act' | 'look' | 'cured' | 'unknown' | 'get' | 'contradiction';
  say: string;
  from: 'rules' | 'weights';
}

/** From here on the weights do not agree that the immobilizer is left alone. Our own choice: one case in three. */
const leaveAgreed = 1 / 3;

/**
 * The verdict of a case, from the family's own rules and from the weights, so that a page never says two things. Findings that contradict each other
 * come first; then what a rule says to do, or to look at as long as no cause is to be fixed; the immobilizer is left alone only where rules and weights agree, so that a rule of one
 * light doesn't stand against everything else that was seen, nor a weight against a dark light.
 * @param refused tags of keys that are here and were refused when they were last tried
 * @param verified every key has been tried since the work: what a rule says to do once it runs is done
 * @param diagnosis null: nothing was weighed; 'mended': a fix has worked, and what was seen before it says nothing of the vehicle as it is now
 */
export function oneVerdict(
  rule: Assessment['verdict'] | null,
  diagnosis: Pick<Diagnosis, 'advice' | 'immobilizer'> | 'mended' | null,
  refused: readonly string[] = [],
  verified = false,
): OneVerdict | null {
  if (rule?.kind === 'cured' && diagnosis !== 'mended') {
    const said = diagnosis?.advice;
    const unfit = new Set([...refused, ...(said?.kind === 'act' && said.key !== undefined ? [said.key] : [])]);
    if (unfit.size > 0) {
      const say = sentences.runsWithKeyNotRight([...unfit].join(' and '), unfit.size > 1 ? 'are' : 'is');
      return { kind: 'look', say, from: 'rules' };
    }
  }
  const byRule: OneVerdict | null = rule ? { kind: rule.kind as OneVerdict['kind'], say: rule.say, from: 'rules' } : null;
  if (diagnosis === 'mended') return byRule?.kind === 'cured' && !verified ? byRule : null;
  if (!diagnosis) return byRule;
  const { advice, immobilizer } = diagnosis;
  const byWeights = (kind: OneVerdict['kind']): OneVerdict => ({ kind, say: advice.text, from: 'weights' });
  if (advice.kind === 'contradiction') return byWeights('contradiction');
  // Where to look next is settled once the cause is: the light's own list of checks doesn't stand beside "fix now".
  if (byRule?.kind === 'look' && advice.kind === 'act') return byWeights('act');
  if (byRule && byRule.kind !== 'leave') return byRule;
  if (byRule) {
    if (advice.kind === 'act' || advice.kind === 'get' || advice.kind === 'unknown') return byWeights(advice.kind);
    if (advice.kind === 'leave' || immobilizer < leaveAgreed) return byRule;
    return {
      kind: 'look',
      say: sentences.acceptedNotCleared(formatChance(immobilizer)),
      from: 'weights',
    };
  }
  return advice.kind === 'leave' || advice.kind === 'get' || advice.kind === 'unknown' ? byWeights(advice.kind) : null;
}
