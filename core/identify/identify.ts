import type { Feature } from '../library';
import { sentences } from './sentences';

/** Looked up once: it is asked for them some hundred times for one question. */
const { exp, log, log2 } = Math;

/** The answer that counts for nothing. */
export const cantSee = 'cantSee';

/** Answers by the question's id: a value's id, or `cantSee`. Questions that were not asked are left out. */
export type Seen = Readonly<Record<string, string>>;

/** A family as identification sees it. */
export interface Candidate {
  id: string;
  title: string;
  /** For each question, how often each value is found; see Family.features. */
  features: Readonly<Record<string, Readonly<Record<string, number>>>>;
}

export interface Question {
  id: string;
  question: string;
  why: string;
}

export interface Identification {
  /** Every family with its probability, the likeliest first; they add up to 1. */
  families: { id: string; title: string; p: number }[];
  /**
   * sure: one family is held, and would still lead if any single answer were wrong.
   * confirm: one family is likely, but a single answer carries it: a second look is asked for.
   * pair: two families are left.
   * open: more than that is possible.
   */
  state: 'sure' | 'confirm' | 'pair' | 'open';
  /** The look that tells most now; null when nothing is left to ask that would tell anything. */
  ask: Question | null;
}

/** From this probability on a family is held. */
export const held = 0.9;
/** A family is held only if it keeps this much when any one answer is left out. */
export const heldWithout = 0.6;
/** Questions that tell less than this are not asked, bits. */
const leastBits = 0.01;

/** Features and families with every P(answer | family) worked out once. */
export interface Model {
  features: readonly Feature[];
  candidates: readonly Candidate[];
  /** Ids of the values of each feature, in their order. */
  values: readonly (readonly string[])[];
  /** likelihood[feature][value][family] */
  likelihood: readonly (readonly (readonly number[])[])[];
}

/**
 * Works out P(answer | family): an answer is mistaken with the feature's error rate, and then any of the values is as likely.
 * @param candidates at least one
 * @throws RangeError without candidates
 */
export function modelOf(features: readonly Feature[], candidates: readonly Candidate[]): Model {
  if (candidates.length === 0) throw new RangeError('There is no system type to choose from.');
  const values = features.map((f) => Object.keys(f.values));
  const likelihood = features.map(({ id, error }, k) =>
    values[k]!.map((value) =>
      candidates.map((c) => {
        const shares = c.features[id];
        // A family that says nothing of a question neither gains nor loses by it.
        const share = shares ? (shares[value] ?? 0) : 1 / values[k]!.length;
        return (1 - error) * share + error / values[k]!.length;
      }),
    ),
  );
  return { features, candidates, values, likelihood };
}

function normalised(logs: readonly number[]): number[] {
  const most = Math.max(...logs);
  const weights = logs.map((l) => exp(l - most));
  const sum = weights.reduce((a, b) => a + b, 0);
  return weights.map((w) => w / sum);
}

const top = (p: readonly number[]): number => p.indexOf(Math.max(...p));
/** Places of the families, the likeliest first. */
const ranking = (p: readonly number[]): number[] => p.map((_, i) => i).sort((a, b) => p[b]! - p[a]! || a - b);

/** Mutual information of a question's answer and the family, in bits (Shannon 1948): how much less uncertain one is after it, on average. */
function tellsBits(model: Model, feature: number, p: readonly number[]): number {
  // I(F;A) = H(A) − H(A|F), with the answers' probabilities summed over the families.
  let bits = 0;
  for (const shares of model.likelihood[feature]!) {
    let total = 0;
    for (let i = 0; i < p.length; i += 1) {
      const joint = p[i]! * shares[i]!;
      total += joint;
      if (joint > 0) bits += joint * log2(shares[i]!);
    }
    if (total > 0) bits -= total * log2(total);
  }
  return bits;
}

/**
 * Which family a vehicle belongs to, from what a person saw: exact Bayes with an error rate for each answer, and the question that tells most next.
 *
 * A family counts as held at 0.9 and more, and only if it keeps 0.6 when any single answer is left out: an answer that carries everything alone is
 * confirmed by a second look first, chosen for the case that it was wrong. Service information, once known, stands first among the questions in
 * what it tells; marks and behaviour then cross-check it.
 * Families are equally likely beforehand, and answers count as independent within a family.
 */
export function identify(model: Model, seen: Seen): Identification {
  const { features, candidates } = model;
  const logs = candidates.map(() => 0);
  const answers: (readonly number[])[] = [];
  features.forEach((feature, k) => {
    const value = model.values[k]!.indexOf(seen[feature.id] ?? cantSee);
    if (value < 0) return;
    const shares = model.likelihood[k]![value]!.map((share) => log(share));
    answers.push(shares);
    shares.forEach((share, i) => (logs[i]! += share));
  });
  const p = normalised(logs);
  const order = ranking(p);
  const leader = order[0]!;
  // What would be left without the one answer whose loss costs the leader most.
  const weakest = answers
    .map((shares) => normalised(logs.map((sum, i) => sum - shares[i]!)))
    .reduce<number[] | null>((worst, q) => (worst === null || q[leader]! < worst[leader]! ? q : worst), null);
  const likely = p[leader]! >= held;
  const sure = likely && weakest !== null && weakest[leader]! >= heldWithout;
  const pair = !likely && order.length > 1 && p[leader]! + p[order[1]!]! >= held;

  // While one answer carries the leader, what is asked next is chosen as if that answer were not there.
  const basis = likely && weakest ? weakest : p;
  let best = -1;
  let most = leastBits;
  if (!sure)
    features.forEach((feature, k) => {
      if (seen[feature.id] !== undefined) return;
      const bits = tellsBits(model, k, basis);
      if (bits > most) [best, most] = [k, bits];
    });
  return {
    families: order.map((i) => ({ id: candidates[i]!.id, title: candidates[i]!.title, p: p[i]! })),
    state: sure ? 'sure' : likely ? 'confirm' : pair ? 'pair' : 'open',
    ask:
      best < 0
        ? null
        : {
            id: features[best]!.id,
            question: features[best]!.ask,
            why: likely ? sentences.onlyOneAnswer(candidates[leader]!.title) : whyAsked(model, best, basis),
          },
  };
}

/** Names the two likeliest families that the question parts, by what would be seen on each. */
function whyAsked({ likelihood, candidates }: Model, feature: number, p: readonly number[]): string {
  const usual = (i: number) => top(likelihood[feature]!.map((shares) => shares[i]!));
  const [first, ...others] = ranking(p);
  const second = others.find((i) => usual(i) !== usual(first!));
  return second === undefined ? sentences.narrowsDown : sentences.tellsApart(candidates[first!]!.title, candidates[second]!.title);
}
