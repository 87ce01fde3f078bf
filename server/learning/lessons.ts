import { eq, or, sql } from 'drizzle-orm';
import { type Lesson, noTallies, withLesson } from '../../core/learning';
import { caseBill } from '../../core/options';
import { resolveParams, valuesOf } from '../../core/library';
import { fromElsewhere } from '../accounts/people';
import { type Act, actOnce } from '../acts/commands';
import { notify } from '../acts/live';
import { refused } from '../base/expected';
import { readBook } from '../billing/book';
import { agreedIn, workDone } from '../billing/work';
import type { Db, Tx } from '../db/open';
import { caseFile, lesson, shop, tally } from '../db/schema';
import { openingOf } from '../diagnosis/diagnosis';
import type { Documents } from '../library/documents';
import { caseForChange, type CaseRecord } from '../record/cases';
import { lessonOf } from './lessonOf';

/** Adds a lesson to the sums of its system type, or takes it out; the sums are locked, so that two who do it at once do it one after the other. */
async function sumUp(tx: Tx, familyId: string, of: Lesson, sign: 1 | -1): Promise<void> {
  const locked = () => tx.select().from(tally).where(eq(tally.familyId, familyId)).for('update');
  let [row] = await locked();
  if (!row) {
    // Two at once may be the first; both go on with the same row.
    await tx.insert(tally).values({ familyId, tallies: noTallies() }).onConflictDoNothing();
    [row] = await locked();
  }
  await tx
    .update(tally)
    .set({ tallies: withLesson(row!.tallies, of, sign) })
    .where(eq(tally.familyId, familyId));
}

/** What a case has taught goes: it is open again, or its vehicle came back. */
export async function forget(tx: Tx, caseId: number): Promise<{ leftOut: string | null } | undefined> {
  const [row] = await tx.delete(lesson).where(eq(lesson.caseId, caseId)).returning();
  if (row && row.leftOut === null) await sumUp(tx, row.familyId, row.lesson, -1);
  return row;
}

/**
 * Learns from a case as it is now, in the transaction of the act that closed it or wrote down how it went: the lesson of before goes, its place is taken. A
 * case of another shop, one that was not done and one whose cause nobody concluded teach nothing.
 * @param record as the act leaves it
 */
export async function learnFrom(tx: Tx, documents: Documents, record: CaseRecord): Promise<void> {
  const leftOut = (await forget(tx, record.id))?.leftOut ?? null;
  const made = await teaches(tx, documents, record);
  if (!made) return;
  await tx.insert(lesson).values({ caseId: record.id, familyId: record.family.id, lesson: made, missed: made.missed, leftOut });
  if (leftOut === null) await sumUp(tx, record.family.id, made, 1);
}

async function teaches(tx: Tx, documents: Documents, record: CaseRecord): Promise<Lesson | null> {
  if (record.kind !== 'vehicle' || record.state !== 'closed' || record.closing !== 'done' || record.conclusion === null) return null;
  const cases = await tx
    .select({ id: caseFile.id, by: caseFile.openedBy, labourRate: sql<number>`coalesce((select ${shop.labourRate} from ${shop}), 0)` })
    .from(caseFile)
    .where(or(eq(caseFile.id, record.id), eq(caseFile.cameFrom, record.id)));
  // Another shop's, or its vehicle came back.
  if (cases.length !== 1 || cases[0]!.by.startsWith(fromElsewhere)) return null;
  const family = await documents.family(record.family, tx);
  const profile = record.profile ? await documents.profile(record.profile, tx) : undefined;
  const agreed = agreedIn(record);
  const total =
    agreed?.kind === 'agree'
      ? caseBill((await readBook(tx, record.closedAt!, agreed.book)).book, workDone(record, family, record.closedAt!), agreed).total
      : 0;
  return lessonOf(record, family, valuesOf(resolveParams(family, profile)), openingOf(record, cases[0]!.labourRate), total);
}

/** Leaves a case out of what is learned, or takes it in again. @throws Refused for a case that teaches nothing */
export async function leaveOut(db: Db, act: Act, caseId: number, reason: string | null): Promise<void> {
  const action = reason === null ? 'learned from again' : 'left out of what is learned';
  const detail = reason === null ? {} : { reason };
  await actOnce(db, act, { right: 'closeCase', action, payload: [caseId, reason], caseId, detail }, async (tx) => {
    await caseForChange(tx, caseId);
    const [row] = await tx.select().from(lesson).where(eq(lesson.caseId, caseId)).for('update');
    if (!row) throw refused(409, 'noLesson', 'Nothing is learned from this case: it is not closed with a conclusion, or it came back.');
    if ((row.leftOut === null) === (reason === null)) return null;
    await tx.update(lesson).set({ leftOut: reason }).where(eq(lesson.caseId, caseId));
    await sumUp(tx, row.familyId, row.lesson, reason === null ? 1 : -1);
    await notify(tx, { what: 'case', id: caseId });
    return null;
  });
}
