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
  /** It is of another vehicle of the same model; left out where it is of this vehicle. */
  ofModel?: true | undefined;
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

/** What of these captures one is compared with: like ones whose condition is known; real ones with real ones. */
export const knownAmong = (
  captures: readonly (BurstSetup & {
    condition: BurstCondition;
    key: string | null;
    simulated: boolean;
    ofModel: boolean;
    features: BurstFeatures | null;
  })[],
  like: BurstSetup,
  simulated: boolean,
): KnownCapture[] =>
  captures.flatMap((c) =>
    c.condition === 'asked' || !c.features || c.simulated !== simulated || !sameSetup(c, like)
      ? []
      : [{ ...c.features, condition: c.condition, key: c.key, ...(c.ofModel ? { ofModel: true } : {}) }],
  );

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
const words: Readonly<Record<BurstAnswer, readonly [head: string, text: string]>> = {
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
  /** Whose captures it was compared with; null where there is none in foil, so that nothing says what no answer looks like: then it is the rule of thumb. */
  by: 'vehicle' | 'model' | null;
  head: string;
  text: string;
}

/**
 * What captures say, beside the baselines of this vehicle, in words. Conditions that mean the same (in foil, and without a key) are added up before it is settled.
 * Where this vehicle has no capture in foil, those of other vehicles of its model stand in for it, as a weak hint; without one in foil there either only the rule of thumb is
 * left: one short burst, answered and accepted; more, the module keeps asking.
 */
export function burstVerdict(captures: readonly BurstFeatures[], all: readonly KnownCapture[]): BurstVerdict {
  const own = all.filter((k) => !k.ofModel);
  const by = own.some((k) => k.condition === 'foil') ? 'vehicle' : all.some((k) => k.condition === 'foil') ? 'model' : null;
  const known = by === 'model' ? all : own;
  const names = [...new Set(known.map(conditionName))];
  const baselines: Baseline[] = names.map((condition) => ({ condition, captures: known.filter((k) => conditionName(k) === condition) }));
  const { matches, more } = compareBursts(captures, baselines, (a, b) => answerOf(a) === answerOf(b));
  const count = captures.at(-1)!.count;
  if (by === null) {
    const head = count === 0 ? sentences.ruleNoneHead : count === 1 ? sentences.ruleOneHead : sentences.ruleManyHead(count);
    return { matches, answer: null, more: null, by, head, text: sentences.ruleText };
  }
  const said = (head: string, text: string): Pick<BurstVerdict, 'by' | 'head' | 'text'> =>
    by === 'model' ? { by, head: sentences.byModelHead(head), text: `${text} ${sentences.byModelText}` } : { by, head, text };
  if (count === 0 && known.every((k) => k.count > 0))
    return { matches, answer: likeNone, more: 0, ...said(sentences.ruleNoneHead, sentences.noBurst) };
  const sums = new Map<BurstAnswer, number>();
  for (const m of matches) sums.set(answerOf(m.condition), (sums.get(answerOf(m.condition)) ?? 0) + m.p);
  const [answer, p] = [...sums].sort((a, b) => b[1] - a[1])[0]!;
  if (p >= settledFrom) return { matches, answer, more: 0, ...said(...words[answer]) };
  const text =
    more === null
      ? sentences.notApart(
          conditionWords(matches[0]!.condition),
          conditionWords(matches.find((m) => answerOf(m.condition) !== answerOf(matches[0]!.condition))!.condition),
        )
      : sentences.furtherCaptures(more);
  return { matches, answer: null, more, ...said(sentences.unsettled, text) };
}

/** What the rule of thumb says of a count. */
export type BurstRule = 'noBurst' | 'one' | 'several';
export const burstRule = (count: number): BurstRule => (count === 0 ? 'noBurst' : count === 1 ? 'one' : 'several');

/** Whether the rule of thumb and a comparison mean the same. */
export const agrees = (rule: BurstRule, answer: BurstAnswer): boolean =>
  rule === 'one' ? answer === 'accepted' : rule === 'several' ? answer === 'nothing' || answer === 'refused' : answer === likeNone;
