import { desc, eq, ilike, or, sql } from 'drizzle-orm';
import { caseNumber, type CaseRow } from './cases';
import type { Db } from './db/open';
import { bay, caseFile } from './db/schema';

/** How many cases a search shows. */
const limit = 30;

/** Cases whose number, vehicle, plate, identification number or customer's words contain the text; newest first. */
export async function findCases(db: Db, query: string): Promise<CaseRow[]> {
  // What the person typed is text: signs that the comparison would read as wildcards stand for themselves.
  const contains = `%${query.replaceAll('\u0000', '').replace(/[\\%_]/g, (sign) => `\\${sign}`)}%`;
  const rows = await db
    .select({
      id: caseFile.id,
      bay: bay.name,
      vehicle: caseFile.vehicle,
      plate: caseFile.plate,
      words: caseFile.words,
      openedAt: caseFile.openedAt,
      closedAt: caseFile.closedAt,
      outcome: caseFile.outcome,
    })
    .from(caseFile)
    .leftJoin(bay, eq(caseFile.bayId, bay.id))
    .where(
      or(
        ilike(caseFile.vehicle, contains),
        ilike(caseFile.plate, contains),
        ilike(caseFile.identification, contains),
        ilike(caseFile.words, contains),
        ilike(sql`lpad(${caseFile.id}::text, 4, '0')`, contains),
      ),
    )
    .orderBy(desc(caseFile.id))
    .limit(limit);
  return rows.map((r) => ({ ...r, number: caseNumber(r.id) }));
}
