import { createHash } from 'node:crypto';
import { eq, lt, sql } from 'drizzle-orm';
import { stringify } from 'safe-stable-stringify';
import type { Db, Tx } from '../db/open';
import { audit, command } from '../db/schema';
import { Refused, refused } from '../base/expected';
import { acts } from '../base/metrics';
import { gatherNotices } from './live';
import { may, type Person, type Right } from './rights';

/** How every act begins: who, by which right, under which browser-made id. */
export interface Act {
  id: string;
  actor: Person;
  /** The moment it was received, on the case's clock. */
  now: number;
  /** The moment it was done, of an act that arrived later than that. */
  doneAt?: number;
}

/** When it was done: what people read beside it. What the server counts from (limits, ids, the audit log) is when it was received. */
export const doneAt = (act: Act): number => act.doneAt ?? act.now;

/** How long the id of an act is known, ms: a page that was left open for longer is loaded anew before anybody goes on with it. */
const knownMs = 30 * 24 * 60 * 60_000;

/** Forgets the ids of acts that nobody sends again; what the acts did stays, and the audit log too. */
export async function forgetCommands(db: Db, now: number): Promise<void> {
  await db.delete(command).where(lt(command.at, now - knownMs));
}

/**
 * Does an act once. In one transaction: the command's id is looked up (the same id with the same payload is answered as before, with another
 * payload refused), the right is checked, the work is done, and command and audit line are written.
 */
export async function actOnce<T>(
  db: Db,
  act: Act,
  what: { right: Right; action: string; payload: unknown; caseId?: number; caseOf?: (answer: T) => number; detail?: Record<string, unknown> },
  work: (tx: Tx) => Promise<T>,
): Promise<T> {
  try {
    const { answer, repeated } = await once(db, act, what, work);
    acts.inc({ outcome: repeated ? 'repeated' : 'done' });
    return answer;
  } catch (error) {
    acts.inc({ outcome: error instanceof Refused ? 'refused' : 'failed' });
    throw error;
  }
}

async function once<T>(
  db: Db,
  act: Act,
  what: { right: Right; action: string; payload: unknown; caseId?: number; caseOf?: (answer: T) => number; detail?: Record<string, unknown> },
  work: (tx: Tx) => Promise<T>,
): Promise<{ answer: T; repeated: boolean }> {
  if (!may(act.actor, what.right)) throw refused(403, 'notAllowed', `${act.actor.name} may not do this. Ask somebody who may.`);
  const hash = createHash('sha256')
    .update(stringify([what.action, what.payload])!)
    .digest('hex');
  return db.transaction(async (tx) => {
    // The same act sent twice at the same moment: the second waits for the first, and then finds it.
    await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${act.id}, 0))`);
    const before = (await tx.select().from(command).where(eq(command.id, act.id)))[0];
    if (before) {
      // The order in which a browser names the fields of the same content says nothing.
      if (before.hash !== hash) throw refused(409, 'idReused', 'This was already recorded with other content. Reload the page and do it again.');
      return { answer: before.answer.value as T, repeated: true };
    }
    const notices = gatherNotices(tx);
    const answer = await work(tx);
    const done = tx.$with('done').as(
      tx
        .insert(command)
        .values({ id: act.id, hash, answer: { value: answer }, at: act.now })
        .returning({ id: command.id }),
    );
    await tx
      .with(done)
      .insert(audit)
      .values({
        at: act.now,
        by: act.actor.id,
        action: what.action,
        caseId: what.caseId ?? what.caseOf?.(answer) ?? null,
        detail: { ...what.detail, command: act.id, ...(act.doneAt === undefined ? {} : { doneAt: act.doneAt }) },
      })
      .returning({ id: audit.id, ...notices() });
    return { answer, repeated: false };
  });
}
