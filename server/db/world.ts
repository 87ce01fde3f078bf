// A filled database that the build has made (server/demo/world.ts) is copied as it is and then moved to the present.
import { eq, getTableColumns, is, sql } from 'drizzle-orm';
import { PgBigInt53, PgTable } from 'drizzle-orm/pg-core';
import type { Db } from './open';
import * as schema from './schema';

const { clockDomain, runEvent } = schema;
/** A row of this name says that the database has not been moved yet, and for which moment it was made. */
const unmoved = 'unmoved';

/** @param at the moment, of the clock, for which it was made */
export async function markUnmoved(db: Db, at: number): Promise<void> {
  await db.insert(clockDomain).values({ id: unmoved, rate: 0, anchorClock: at, anchorWall: at });
}

/**
 * Moves everything in an unmoved database, so that it is as if it had been made now, but for the days written in documents, which their hashes
 * cover; leaves every other database as it is. All or nothing: a server that ends halfway finds it unmoved. It comes before the clock is opened.
 */
export async function moveToPresent(db: Db, now: number): Promise<void> {
  const made = (await db.select().from(clockDomain).where(eq(clockDomain.id, unmoved)))[0];
  if (!made) return;
  const ms = now - made.anchorClock;
  const inEvent = (name: string) => sql`to_jsonb((${runEvent.event} ->> ${name}::text)::bigint + ${ms}::bigint)`;
  await db.transaction(async (tx) => {
    // Lines that are only ever added are moved too.
    await tx.execute(sql`set local session_replication_role = replica`);
    await tx.delete(clockDomain).where(eq(clockDomain.id, unmoved));
    for (const table of Object.values(schema)) {
      if (!is(table, PgTable)) continue;
      const moments = Object.entries(getTableColumns(table)).filter(([, column]) => is(column, PgBigInt53));
      if (moments.length > 0) await tx.update(table).set(Object.fromEntries(moments.map(([name, c]) => [name, sql`${c} + ${ms}::bigint`])));
    }
    await tx.update(runEvent).set({
      event: sql`(${runEvent.event}::jsonb || jsonb_build_object('occurredAt', ${inEvent('occurredAt')}, 'receivedAt', ${inEvent('receivedAt')}))::json`,
    });
  });
}
