import { and, desc, eq, lt } from 'drizzle-orm';
import type { Db, Reader } from '../db/open';
import { command, draft } from '../db/schema';
import { refused } from '../base/expected';
import type { Person } from '../acts/rights';

/** Drafts nobody touched for so long are thrown away: they hold names and phone numbers. */
const keepMs = 30 * 24 * 60 * 60_000;
/** Drafts of one person at a time. */
const most = 20;

export interface Draft {
  id: string;
  fields: Record<string, unknown>;
  updatedAt: number;
}

/** Keeps what stands in an intake, as it is typed. A person's draft is seen and changed only by that person. */
export async function keepDraft(db: Db, person: Person, id: string, fields: Record<string, unknown>, now: number): Promise<void> {
  await db.transaction(async (tx) => {
    await tx.delete(draft).where(lt(draft.updatedAt, now - keepMs));
    // The draft's id is the act's id: once its case is open, what was still under way brings no draft back.
    if ((await tx.select({ id: command.id }).from(command).where(eq(command.id, id))).length > 0) return;
    const mine = await tx.select({ id: draft.id }).from(draft).where(eq(draft.by, person.id));
    if (mine.length >= most && !mine.some((d) => d.id === id))
      throw refused(409, 'manyDrafts', `${most} intakes are unfinished. Finish or discard one of them first.`);
    const [other] = await tx.select({ by: draft.by }).from(draft).where(eq(draft.id, id));
    if (other && other.by !== person.id) throw refused(404, 'noDraft', 'This intake is not yours.');
    await tx
      .insert(draft)
      .values({ id, by: person.id, fields, updatedAt: now })
      .onConflictDoUpdate({ target: draft.id, set: { fields, updatedAt: now } });
  });
}

export async function discardDraft(db: Db, person: Person, id: string): Promise<void> {
  await db.delete(draft).where(and(eq(draft.id, id), eq(draft.by, person.id)));
}

export async function findDraft(db: Reader, person: Person, id: string): Promise<Draft | undefined> {
  const [found] = await db
    .select({ id: draft.id, fields: draft.fields, updatedAt: draft.updatedAt })
    .from(draft)
    .where(and(eq(draft.id, id), eq(draft.by, person.id)));
  return found;
}

export async function listDrafts(db: Reader, person: Person): Promise<Draft[]> {
  return db
    .select({ id: draft.id, fields: draft.fields, updatedAt: draft.updatedAt })
    .from(draft)
    .where(eq(draft.by, person.id))
    .orderBy(desc(draft.updatedAt));
}
