import { type CaseRow, listCases } from './caseList';
import type { Reader } from '../db/open';

/** How many cases a search shows. */
const limit = 30;

/** Open, parked and closed cases that have every word of the query, or a word that begins so; newest first. */
export async function findCases(db: Reader, query: string): Promise<CaseRow[]> {
  return (await listCases(db, { states: ['open', 'parked', 'closed'], text: query, sort: 'newest' }, limit)).rows;
}
