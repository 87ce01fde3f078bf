import type { Library } from '../../content/reader';
import { type Family, type FeatureList, moduleHolds, type SearchEntry, searchEntries } from '../../core/library';
import type { ListedProfile } from './profiles';

export interface LibraryEntry extends SearchEntry {
  kind: 'family' | 'vehicle' | 'procedure';
  /** Address of its page. */
  to: string;
}

/** What a family can be found by: all that its page says. */
function familyTexts(f: Family, features: FeatureList['features']): string[] {
  return [
    f.id,
    f.text.what,
    f.text.how,
    ...f.chain.map((l) => `${l.title}. ${l.how}`),
    ...f.lamps.map((l) => [l.title, l.message, l.meaning, l.act].filter(Boolean).join('. ')),
    ...f.text.misses,
    ...f.text.advice,
    ...f.tests.map((t) => `${t.title}: ${t.do}`),
    ...Object.values(f.params).map((p) => p.label),
    ...Object.values(f.modules).map((m) => `${m.title}: ${m.holds.map((h) => moduleHolds[h]).join(', ')}`),
    ...features.flatMap((q) =>
      Object.entries(f.features[q.id] ?? {})
        .filter(([, share]) => share >= 0.5)
        .map(([value]) => `${q.ask} ${q.values[value] ?? ''}`),
    ),
  ];
}

/** Families, vehicles and procedures by their words. */
export function searchLibrary(library: Library, profiles: readonly ListedProfile[], query: string) {
  const title = (family: string) => library.families.get(family)?.title ?? family;
  const entries: LibraryEntry[] = [
    ...[...library.families.values()].map((f): LibraryEntry => ({
      kind: 'family',
      to: `/library/${f.id}`,
      title: f.title,
      texts: familyTexts(f, library.features),
    })),
    ...profiles
      .filter((p) => !p.retired)
      .map(({ profile: p }): LibraryEntry => ({
        kind: 'vehicle',
        to: `/library/profiles/${p.id}`,
        title: p.title,
        texts: [p.id, title(p.family), p.source, ...Object.values(p.values).map((v) => v.source)],
      })),
    ...[...library.procedures.values()].map((p): LibraryEntry => ({
      kind: 'procedure',
      to: `/library/procedures/${p.id}`,
      title: p.title,
      texts: [p.text, title(p.family)],
    })),
  ];
  return searchEntries(entries, query).map(({ entry, excerpt }) => ({ kind: entry.kind, to: entry.to, title: entry.title, excerpt }));
}
