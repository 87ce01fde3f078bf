import { type Baseline, type BurstFeatures, compareBursts, likeNone, settledFrom } from './compare';
import { sentences } from './sentences';

/**
 * Under what a capture was made. In foil and without a key nothing answers; with a key it is known otherwise whether it was accepted. `asked`: that is the
 * question.
 */
export const burstConditions = ['foil', 'noKey', 'accepted', 'refused', 'asked'] as const;
export type BurstCondition = (typeof burstConditions)[number];

/** What was seen of one capture, and under what. */
export interface KnownCapture extends BurstFeatures {
  condition: Exclude<BurstCondition, 'asked'>;
  /** Tag of the key; null without one. */
  key: string | null;
}

/** What has to be the same before two captures are compared: only then a difference is one of the vehicle's. */
export interface BurstSetup {
  probe: string;
  place: string;
  storedKeys: number | null;
}
export const sameSetup = (a: BurstSetup, b: BurstSetup): boolean =>
  a.probe.toLowerCase() === b.probe.toLowerCase() && a.place.toLowerCase() === b.place.toLowerCase() && a.storedKeys === b.storedKeys;

/** What an asked capture comes to: nothing answers, as an accepted key, as a refused one, like none of the baselines. */
export type BurstAnswer = 'nothing' | 'accepted' | 'refused' | typeof likeNone;

const answerOf = (condition: string): BurstAnswer => {
  if (condition === likeNone) return likeNone;
  if (condition.startsWith('foil') || condition.startsWith('noKey')) return 'nothing';
  return condition.startsWith('accepted') ? 'accepted' : 'refused';
};

/** A condition as one word: with the tag of its key. */
export const conditionName = ({ condition, key }: Pick<KnownCapture, 'condition' | 'key'>): string =>
  key !== null && (condition === 'accepted' || condition === 'refused') ? `${condition}:${key}` : condition;

/** A condition in words, such as “key in foil” or “tag A, accepted”. */
export function conditionWords(name: string): string {
  const [condition, tag] = name.split(':') as [BurstCondition | typeof likeNone, string?];
  switch (condition) {
    case 'foil':
      return sentences.keyInFoil;
    case 'noKey':
      return sentences.noKey;
    case 'accepted':
      return tag === undefined ? sentences.acceptedKey : sentences.acceptedTag(tag);
    case 'refused':
      return tag === undefined ? sentences.refusedKey : sentences.refusedTag(tag);
    case 'asked':
      return sentences.asked;
    case likeNone:
      return sentences.likeNone;
  }
}

/** What is said of each answer: the head, and why. */
const said: Readonly<Record<BurstAnswer, readonly [head: string, text: string]>> = {
  nothing: [sentences.nothingHead, sentences.nothingText],
  accepted: [sentences.acceptedHead, sentences.acceptedText],
  refused: [sentences.refusedHead, sentences.refusedText],
  none: [sentences.noneHead, sentences.noneText],
};

export interface BurstVerdict {
  matches: { condition: string; p: number }[];
  /** Null while it is not settled. */
  answer: BurstAnswer | null;
  more: number | null;
  /** With a capture in foil, and one of another kind or not: without it nothing of this vehicle says what no answer looks like. */
  strong: boolean;
  head: string;
  text: string;
}

/**
 * What captures say, beside the baselines of this vehicle, in words. Conditions that mean the same (in foil, and without a key) are added up before it is settled.
 * Without a capture in foil only the rule of thumb is left: one short burst, answered and accepted; more, the module keeps asking.
 */
export function burstVerdict(captures: readonly BurstFeatures[], known: readonly KnownCapture[]): BurstVerdict {
  const names = [...new Set(known.map(conditionName))];
  const baselines: Baseline[] = names.map((condition) => ({ condition, captures: known.filter((k) => conditionName(k) === condition) }));
  const strong = known.some((k) => k.condition === 'foil');
  const { matches, more } = compareBursts(captures, baselines, (a, b) => answerOf(a) === answerOf(b));
  const count = captures.at(-1)!.count;
  if (!strong) {
    const head = count === 0 ? sentences.ruleNoneHead : count === 1 ? sentences.ruleOneHead : sentences.ruleManyHead(count);
    return { matches, answer: null, more: null, strong, head, text: sentences.ruleText };
  }
  if (count === 0 && known.every((k) => k.count > 0))
    return { matches, answer: likeNone, more: 0, strong, head: sentences.ruleNoneHead, text: sentences.noBurst };
  const sums = new Map<BurstAnswer, number>();
  for (const m of matches) sums.set(answerOf(m.condition), (sums.get(answerOf(m.condition)) ?? 0) + m.p);
  const [answer, p] = [...sums].sort((a, b) => b[1] - a[1])[0]!;
  const settled = p >= settledFrom;
  const others = settled ? 0 : more;
  return {
    matches,
    answer: settled ? answer : null,
    more: others,
    strong,
    head: settled ? said[answer][0] : sentences.unsettled,
    text: settled
      ? said[answer][1]
      : others === null
        ? sentences.notApart(
            conditionWords(matches[0]!.condition),
            conditionWords(matches.find((m) => answerOf(m.condition) !== answerOf(matches[0]!.condition))!.condition),
          )
        : sentences.furtherCaptures(others),
  };
}

/** What the rule of thumb says of a count. */
export type BurstRule = 'noBurst' | 'one' | 'several';
export const burstRule = (count: number): BurstRule => (count === 0 ? 'noBurst' : count === 1 ? 'one' : 'several');
