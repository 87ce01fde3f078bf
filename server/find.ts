import { ilike, or, sql } from 'drizzle-orm';
import { type CaseRow, caseRows } from './cases';
import type { Reader } from './db/open';
import { caseFile } from './db/schema';

/** How many cases a search shows. */
const limit = 30;

/** Cases whose number, vehicle, plate, identification number or customer's words contain the text; newest first. */
export async function findCases(db: Reader, query: string): Promise<CaseRow[]> {
  // What the person typed is text: signs that the comparison would read as wildcards stand for themselves.
  const contains = `%${query.replaceAll('\u0000', '').replace(/[\\%_]/g, (sign) => `\\${sign}`)}%`;
  const { vehicle, plate, identification, words, id } = caseFile;
  const number = sql`lpad(${id}::text, 4, '0')`;
  return caseRows(db, or(...[vehicle, plate, identification, words, number].map((column) => ilike(column, contains))), limit);
}
