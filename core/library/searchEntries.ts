/** Something of the library that can be found by its words. */
export interface SearchEntry {
  title: string;
  texts: readonly string[];
}
export interface SearchHit<T> {
  entry: T;
  /** The first text that holds most of the words that the title doesn't; empty when the title holds them all. */
  excerpt: string;
}

const wordsOf = (text: string): string[] => text.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? [];

/**
 * Entries in which every word of the query begins some word. Those with more of the words in their title come first, then those in order of title.
 * @returns nothing for a query without a letter or digit
 */
export function searchEntries<T extends SearchEntry>(entries: readonly T[], query: string): SearchHit<T>[] {
  const asked = [...new Set(wordsOf(query))];
  if (asked.length === 0) return [];
  const holding = (text: string, words: readonly string[]): string[] => {
    const there = wordsOf(text);
    return words.filter((w) => there.some((t) => t.startsWith(w)));
  };
  return entries
    .flatMap((entry) => {
      const inTitle = holding(entry.title, asked);
      const rest = asked.filter((w) => !inTitle.includes(w));
      const found = entry.texts.map((text) => ({ text, words: holding(text, rest) }));
      if (rest.some((w) => !found.some((f) => f.words.includes(w)))) return [];
      const best = Math.max(0, ...found.map((f) => f.words.length));
      const excerpt = rest.length === 0 ? '' : (found.find((f) => f.words.length === best)?.text ?? '');
      return [{ entry, excerpt, inTitle: inTitle.length }];
    })
    .sort((a, b) => b.inTitle - a.inTitle || (a.entry.title < b.entry.title ? -1 : 1))
    .map(({ entry, excerpt }) => ({ entry, excerpt }));
}
