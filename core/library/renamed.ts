/**
 * Ids that had another name in documents and cases of before. What a shop has stored, or another shop has sent, is read with today's names; the rows of the
 * database were renamed by migration 0013_renamed_ids, which knows the same names (docs/formats.md, docs/decisions/renamed-ids.md).
 */
const ids: ReadonlyMap<string, string> = new Map([
  ['engine-guard', 'engine-immobilizer'],
  ['guardAccepts', 'keyAccepted'],
  ['engineReleases', 'startEnabled'],
  ['switchFeed', 'ignitionFeed'],
  ['engineModule', 'ecm'],
  ['guardForgot', 'immobilizerForgot'],
  ['guardUnpaired', 'immobilizerUnpaired'],
  ['guardModule', 'immobilizerModule'],
  ['guardMissing', 'immobilizerMissing'],
  ['guardFeed', 'immobilizerFeed'],
  ['guardInternal', 'immobilizerInternal'],
  ['guardFuse', 'immobilizerFuse'],
]);

/** Names that are too short to be renamed wherever they stand: links and groups by the field that names them. */
const links: ReadonlyMap<string, string> = new Map([
  ['supply', 'power'],
  ['token', 'key'],
]);
const linkFields: ReadonlySet<string> = new Set(['link', 'group', 'proves']);

/** Deeper than any document of ours; what is nested deeper is left to the check of its form, which refuses it. */
const maxDepth = 40;

/** `guard` by itself, as an aspect, a module, a group or a step of the triage; `guard.refuses`, `scan.guardMissing` and `family:engine-guard` in parts. */
const inParts = (text: string): string =>
  ids.get(text) ??
  (text === 'guard'
    ? 'immobilizer'
    : text.startsWith('guard.')
      ? `immobilizer${text.slice('guard'.length)}`
      : text.startsWith('scan.') || text.startsWith('family:')
        ? text.replace(/(?<=[.:])[A-Za-z-]+$/, (part) => ids.get(part) ?? part)
        : text);

/** A document of the library with today's ids, whatever its age; anything else stays as it is. It may come from outside and need not be well formed. */
export function renameIds(document: unknown): unknown {
  const walk = (value: unknown, field: string, depth: number): unknown => {
    if (depth > maxDepth) return value;
    if (typeof value === 'string') return (linkFields.has(field) ? links.get(value) : undefined) ?? inParts(value);
    if (Array.isArray(value)) return value.map((v) => walk(v, field, depth + 1));
    if (typeof value !== 'object' || value === null) return value;
    return Object.fromEntries(
      Object.entries(value).map(([name, v]) => {
        const inChain = field === 'chain' && name === 'id' && typeof v === 'string';
        return [inParts(name), inChain ? (links.get(v) ?? inParts(v)) : walk(v, name, depth + 1)];
      }),
    );
  };
  return walk(document, '', 0);
}

/** The rows of a case that another shop exported, without its documents: ids of tests, faults, outcomes, changes and system types. */
export function renameIdsInRows<T>(rows: T): T {
  const walk = (value: unknown): unknown => {
    if (typeof value === 'string') return ids.get(value) ?? value;
    if (Array.isArray(value)) return value.map(walk);
    if (typeof value !== 'object' || value === null || value instanceof Uint8Array) return value;
    return Object.fromEntries(Object.entries(value).map(([name, v]) => [ids.get(name) ?? name, walk(v)]));
  };
  return walk(rows) as T;
}
