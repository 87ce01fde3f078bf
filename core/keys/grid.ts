import type { Ability, AbilityResult, Family } from '../library';

/** What somebody said, or saw, of one ability of one key. */
export interface AbilityEntry {
  key: string;
  ability: Ability;
  result: AbilityResult;
  /** Told by the customer; seen by a person here; shown by a test or a run. */
  source: 'told' | 'seen' | 'test' | 'run';
  by: string;
  /** Milliseconds of the case's clock. */
  at: number;
}

/** A line of the evidence ledger, as far as the grid asks. */
export interface GridEvidence {
  id: string;
  test: string;
  outcome: string | null;
  key: string | null;
  replaces: string | null;
  runId: number | null;
  by: string;
  occurredAt: number;
}

/**
 * All entries of the key × ability grid (craft.md §3) in order of time: what people judged, and what tests and runs showed of the key they
 * were done with. Lines of the ledger that were corrected or withdrawn don't count.
 */
export function abilityEntries(judged: readonly AbilityEntry[], evidence: readonly GridEvidence[], tests: Family['tests']): AbilityEntry[] {
  const replaced = new Set(evidence.map((e) => e.replaces));
  const outcomes = new Map(tests.map((t) => [t.id, t.outcomes]));
  const shown = evidence.flatMap((e): AbilityEntry[] => {
    if (e.outcome === null || e.key === null || replaced.has(e.id)) return [];
    const { key, by, occurredAt: at } = e;
    return Object.entries(outcomes.get(e.test)?.[e.outcome]?.abilities ?? {}).map(([ability, result]) => ({
      key,
      ability: ability as Ability,
      result,
      source: e.runId === null ? 'test' : 'run',
      by,
      at,
    }));
  });
  // Of one moment, what a person judged comes after what a test showed, and what was told before both.
  const told = judged.filter((e) => e.source === 'told');
  const seen = judged.filter((e) => e.source !== 'told');
  return [...told, ...shown, ...seen].sort((a, b) => a.at - b.at);
}

/** One field of the grid. Told and seen are kept apart; of what was seen, the first and the latest. */
export interface GridCell {
  told: AbilityEntry | null;
  before: AbilityEntry | null;
  now: AbilityEntry | null;
}

/** The field of one key and ability. `before` is the first that was seen, `now` the latest when it is another one. */
export function gridCell(entries: readonly AbilityEntry[], key: string, ability: Ability): GridCell {
  const mine = entries.filter((e) => e.key === key && e.ability === ability);
  const seen = mine.filter((e) => e.source !== 'told');
  const [first] = seen;
  const last = seen.at(-1);
  return { told: mine.findLast((e) => e.source === 'told') ?? null, before: first ?? null, now: last && last !== first ? last : null };
}

/** The latest that was seen of an ability of a key; what was told is no sight. */
export const latestSeen = (entries: readonly AbilityEntry[], key: string, ability: Ability): AbilityEntry | undefined =>
  entries.findLast((e) => e.key === key && e.ability === ability && e.source !== 'told');

/** Whether every one of the keys was seen in every one of the abilities at `since` or later. False without a key. */
export const isJudged = (entries: readonly AbilityEntry[], keys: readonly string[], abilities: readonly Ability[], since: number): boolean =>
  keys.length > 0 && keys.every((key) => abilities.every((ability) => (latestSeen(entries, key, ability)?.at ?? -1) >= since));
