import { identify, modelOf, type Candidate, type Seen } from './identify';
import type { Feature } from '../library';

/** Below this probability the family that a case is worked as is doubted. Our choice: one mistaken answer among several leaves it higher. */
export const doubtedBelow = 0.05;
/** An answer speaks against a family when it is this much likelier in the one that leads. */
const against = 5;

export interface Contradiction {
  /** What is left for the family, by what was seen. */
  p: number;
  /** What it looks like instead. */
  instead: { id: string; title: string; p: number };
  /** The answers that speak against it, the strongest first. */
  against: { feature: string; ask: string; say: string; times: number }[];
}

/**
 * Whether what was seen contradicts the family that a vehicle is worked as. What was looked up in the service information is left out: it chose
 * the family, and a look at the vehicle is what cross-checks it.
 * @returns null while the family is not doubted
 * @throws RangeError when the family is not among the candidates
 */
export function contradiction(features: readonly Feature[], candidates: readonly Candidate[], family: string, seen: Seen): Contradiction | null {
  const place = candidates.findIndex((c) => c.id === family);
  if (place < 0) throw new RangeError(`System type "${family}" is not among the candidates.`);
  const model = modelOf(
    features.filter((f) => !f.lookedUp),
    candidates,
  );
  const { families } = identify(model, seen);
  const p = families.find((f) => f.id === family)!.p;
  const leader = families[0]!;
  if (p >= doubtedBelow) return null;
  const leads = candidates.findIndex((c) => c.id === leader.id);
  const speaking = model.features.flatMap((feature, k) => {
    const value = model.values[k]!.indexOf(seen[feature.id] ?? '');
    const shares = model.likelihood[k]![value];
    const times = shares ? shares[leads]! / shares[place]! : 0;
    return times >= against ? [{ feature: feature.id, ask: feature.ask, say: feature.values[seen[feature.id]!]!, times }] : [];
  });
  return { p, instead: leader, against: speaking.sort((a, b) => b.times - a.times) };
}
