import { createHash } from 'node:crypto';
import { eq, lt, lte, sql } from 'drizzle-orm';
import { formatDuration } from '../../core/units';
import type { Db } from '../db/open';
import { failedTries } from '../db/schema';
import { refused } from '../base/expected';

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

/** Names are kept as hashes: what is typed into the field by mistake may be a password. */
const ids = ({ name, address }: Tried) => ({
  name: `name ${createHash('sha256').update(name).digest('hex').slice(0, 32)}`,
  address: `address ${address.slice(0, 64)}`,
});

/**
 * Counts a try before it is made, in one statement for the name and one for the address, so that of any number made at the same moment each gets a
 * count of its own; a good one is taken back with `forgive`.
 * @throws Refused 429 with the time to wait while the name or the address is blocked; such a try counts for neither
 */
export async function countTry(db: Db, tried: Tried, now: number): Promise<void> {
  const { name, address } = ids(tried);
  await db.transaction(async (tx) => {
    await tx.delete(failedTries).where(lt(failedTries.lastAt, now - forgetMs));
    // Always the name first: two that wait for each other's rows would wait for ever.
    for (const [id, limit] of [
      [name, free.name],
      [address, free.address],
    ] as const) {
      const wait = sql<number>`least(${longestWaitMs}::float8, ${firstWaitMs}::float8 * power(2, least(${failedTries.count} + 1 - ${limit}::int, 10)))`;
      const [counted] = await tx
        .insert(failedTries)
        .values({ id, count: 1, lastAt: now, blockedUntil: 0 })
        .onConflictDoUpdate({
          target: failedTries.id,
          set: {
            count: sql`${failedTries.count} + 1`,
            lastAt: now,
            blockedUntil: sql`case when ${failedTries.count} + 1 >= ${limit}::int then ${now}::float8 + ${wait} else 0 end`,
          },
          setWhere: lte(failedTries.blockedUntil, now),
        })
        .returning({ count: failedTries.count });
      if (counted) continue;
      const [blocked] = await tx.select({ until: failedTries.blockedUntil }).from(failedTries).where(eq(failedTries.id, id));
      const seconds = Math.max(1, Math.ceil(((blocked?.until ?? now) - now) / 1000));
      throw refused(429, 'tooManyTries', `Too many wrong tries. Wait ${formatDuration(seconds)} (minutes and seconds), then try again.`);
    }
  });
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
