import type { TrialGroup } from './verdict';
import { sentences } from './sentences';

/** Looks by the key that was in, in the order in which each key came first. */
export function groupLooks(looks: readonly { key: string | null; hit: boolean }[]): TrialGroup[] {
  const keys = [...new Set(looks.map((l) => l.key))];
  return keys.map((key) => {
    const own = looks.filter((l) => l.key === key);
    return { name: key === null ? sentences.noTag : sentences.tag(key), hits: own.filter((l) => l.hit).length, trials: own.length };
  });
}
