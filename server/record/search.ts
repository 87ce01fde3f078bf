import { type SQL, sql } from 'drizzle-orm';
import type { Tx } from '../db/open';
import { caseFile } from '../db/schema';

/** Most words of a query that are looked for; more would only make it slower. */
const maxWords = 8;

/**
 * The words of a text as search compares them: small letters and digits of any alphabet, nothing else. `4-18-THB` gives 4, 18 and thb, in a
 * case as in a query, so that neither needs the other's signs.
 */
export const wordsOf = (text: string): string[] =>
  text
    .normalize('NFKC')
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter((word) => word !== '')
    .map((word) => word.slice(0, 60));

/** Every ending of an identification number, from four characters on: people look for its last ones. */
const endings = (identification: string): string[] => {
  const text = wordsOf(identification).join('');
  return Array.from({ length: Math.max(0, text.length - 4) }, (_, i) => text.slice(i + 1));
};

export interface Searchable {
  number: string;
  vehicle: string;
  plate: string;
  identification: string;
  words: string;
  customer: string;
  phone: string;
  keys: string[];
}

/** Each word once. PostgreSQL gets them as they are: its own splitting of text would see hyphens and numbers differently. */
export const searchWords = (s: Searchable): string[] => [
  ...new Set(
    [
      ...[s.number, s.vehicle, s.plate, s.identification, s.words, s.customer, s.phone, ...s.keys].flatMap(wordsOf),
      wordsOf(s.plate).join(''),
      ...endings(s.identification),
    ].filter((word) => word !== ''),
  ),
];

/** Writes a case's words for search anew, from what is stored. */
export async function refreshSearch(tx: Pick<Tx, 'execute'>, caseId: number, searchable: Searchable): Promise<void> {
  await tx.execute(
    sql`update case_file set search = array_to_tsvector(string_to_array(${searchWords(searchable).join(' ')}, ' ')) where id = ${caseId}`,
  );
}

/** Cases that have every word of the query, or a word that begins so; undefined when the query has no word. */
export function matching(query: string): SQL | undefined {
  const words = wordsOf(query).slice(0, maxWords);
  return words.length === 0 ? undefined : sql`${caseFile.search} @@ ${words.map((w) => `'${w}':*`).join(' & ')}::tsquery`;
}
