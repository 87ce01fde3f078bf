import { type Act, type ModuleName, moduleNames, type Replacement } from './documents';
import { parseReplacement } from './schema';

export type ActSketch = Partial<Act> & Pick<Act, 'id'>;

/** A system type of a few parts: what isn't named is absent. */
export function replacementOf(parts: Partial<Record<ModuleName, unknown>>, acts: readonly ActSketch[], more: object = {}): Replacement {
  const parsed = parseReplacement({
    kind: 'replacement',
    id: 'sample',
    version: 1,
    source: 'Made up for a test.',
    checked: null,
    parts: Object.fromEntries(moduleNames.map((name) => [name, parts[name] ?? { absent: 'Not here.' }])),
    acts: acts.map((act) => ({ title: act.id, why: `Why ${act.id}.`, back: 'checked', by: 'hand', minutes: 10, ...act })),
    ...more,
  });
  if (!parsed.ok) throw new Error(parsed.problems.map((p) => `${p.path}: ${p.message}`).join(' '));
  return parsed.value;
}
