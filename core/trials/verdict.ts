import { formatChance } from '../units';
import { assessTrials, type TrialsAsked, type TrialsAssessed } from './assess';
import { type Counted, differByChance } from './compare';
import { sentences } from './sentences';

/** Trials with one key, or with none where no key matters. */
export interface TrialGroup extends Counted {
  name: string;
}

export interface TrialsSaid extends TrialsAssessed {
  hits: number;
  trials: number;
  /** always: no miss; never: no hit; sometimes: both. */
  state: 'none' | 'always' | 'never' | 'sometimes';
  /** How often the groups would differ so much by chance, the smallest of all pairs; null with fewer than two groups. */
  byChance: number | null;
  /** The two groups that differ most, where they do. */
  differ: [string, string] | null;
  head: string;
  text: string;
}

/** Below this two groups are said to differ. */
const differBelow = 0.05;

/**
 * Repeat test in words: how often, what is still possible, how many more, and whether the groups (keys) differ.
 * @param hit what a hit is called, e.g. “signal”
 */
export function trialsVerdict(groups: readonly TrialGroup[], hit: string, asked: TrialsAsked = {}): TrialsSaid {
  const hits = groups.reduce((s, g) => s + g.hits, 0);
  const trials = groups.reduce((s, g) => s + g.trials, 0);
  const assessed = assessTrials(hits, trials, asked);
  const confidence = formatChance(asked.confidence ?? 0.95);
  const pairs = groups.flatMap((a, i) => groups.slice(i + 1).map((b) => ({ a, b, p: differByChance(a, b) })));
  const widest = pairs.length === 0 ? null : pairs.reduce((x, y) => (y.p < x.p ? y : x));
  // With several pairs one of them differs by chance more easily: Bonferroni.
  const byChance = widest === null ? null : Math.min(1, widest.p * pairs.length);
  const differ: [string, string] | null = byChance !== null && byChance < differBelow ? [widest!.a.name, widest!.b.name] : null;
  const state = trials === 0 ? 'none' : hits === trials ? 'always' : hits === 0 ? 'never' : 'sometimes';
  const target = formatChance(asked.target ?? 0.05);
  const more = assessed.furtherCleanTrials;
  const possible = sentences.missesPossible(formatChance(assessed.missUpper), confidence);
  const further = more === 0 ? sentences.ruledOut(target) : sentences.moreWouldRuleOut(more, target);
  const keys = differ
    ? sentences.keysDiffer(differ[0], differ[1], formatChance(byChance!))
    : widest !== null && widest.a.trials + widest.b.trials > 0
      ? sentences.keysAlike
      : '';
  const say = (head: string, ...text: string[]): TrialsSaid => ({
    ...assessed,
    hits,
    trials,
    state,
    byChance,
    differ,
    head,
    text: text.filter(Boolean).join(' '),
  });
  switch (state) {
    case 'none':
      return say(sentences.noneHead, sentences.noneDo);
    case 'always':
      return say(sentences.alwaysHead(capital(hit), hits, trials), possible, further, keys);
    case 'never':
      return say(sentences.neverHead(hit, trials), sentences.neverPossible(formatChance(assessed.high), confidence), keys);
    case 'sometimes':
      return say(
        sentences.sometimesHead(capital(hit), hits, trials),
        sentences.sometimesRate(formatChance(assessed.low), formatChance(assessed.high), confidence),
        keys,
      );
  }
}
const capital = (word: string): string => `${word.charAt(0).toUpperCase()}${word.slice(1)}`;
