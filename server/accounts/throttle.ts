import { createHash } from 'node:crypto';
import { eq, inArray, lt, sql } from 'drizzle-orm';
import { formatDuration } from '../../core/units';
import type { Db } from '../db/open';
import { failedTries } from '../db/schema';
import { refused } from '../expected';

/** Wrong tries without a wait, by what they are counted for. An address may be a whole shop's. */
const free = { name: 5, address: 30 } as const;
/** The first wait, doubled with each further try, and the longest. */
const firstWaitMs = 30_000;
const longestWaitMs = 15 * 60_000;
/** Tries older than this are forgotten. */
const forgetMs = 60 * 60_000;

export interface Tried {
  name: string;
  address: string;
}

/** Names are kept as hashes: what is typed into the field by mistake may be a passphrase. */
const ids = ({ name, address }: Tried) => ({
  name: `name ${createHash('sha256').update(name).digest('hex').slice(0, 32)}`,
  address: `address ${address.slice(0, 64)}`,
});

/**
 * Counts a try before it is made, so that tries made at the same moment count too; a good one is taken back with `forgive`.
 * @throws Refused 429 with the time to wait while the name or the address is blocked
 */
export async function countTry(db: Db, tried: Tried, now: number): Promise<void> {
  const blocked = await db.transaction(async (tx) => {
    await tx.delete(failedTries).where(lt(failedTries.lastAt, now - forgetMs));
    const { name, address } = ids(tried);
    const known = await tx
      .select()
      .from(failedTries)
      .where(inArray(failedTries.id, [name, address]))
      .for('update');
    const until = Math.max(0, ...known.map((k) => k.blockedUntil));
    if (until > now) return until;
    for (const [id, limit] of [
      [name, free.name],
      [address, free.address],
    ] as const) {
      const count = (known.find((k) => k.id === id)?.count ?? 0) + 1;
      const over = count - limit;
      const blockedUntil = over >= 0 ? now + Math.min(longestWaitMs, firstWaitMs * 2 ** Math.min(over, 10)) : 0;
      await tx
        .insert(failedTries)
        .values({ id, count, lastAt: now, blockedUntil })
        .onConflictDoUpdate({ target: failedTries.id, set: { count: sql`${failedTries.count} + 1`, lastAt: now, blockedUntil } });
    }
    return 0;
  });
  if (blocked > 0)
    throw refused(
      429,
      'tooManyTries',
      `Too many wrong tries. Wait ${formatDuration(Math.ceil((blocked - now) / 1000))} (minutes and seconds), then try again.`,
    );
}

/** A good sign-in clears its name; the address gets its try back. */
export async function forgive(db: Db, tried: Tried): Promise<void> {
  const { name, address } = ids(tried);
  await db.delete(failedTries).where(eq(failedTries.id, name));
  await db
    .update(failedTries)
    .set({ count: sql`greatest(${failedTries.count} - 1, 0)`, blockedUntil: 0 })
    .where(eq(failedTries.id, address));
}
