import { sql } from 'drizzle-orm';
import { log } from '../base/log';
import type { Db } from '../db/open';
import { type Machine, thisMachine } from './clock';

/** How often it is held against the database's time, ms. */
const everyMs = 60_000;
/** What differs by more from one time to the next is somebody who set the database's clock, and no drift, ms. */
const jumpMs = 1000;

/**
 * The machine's time beside others that serve the same shop: their wall clock is the database's, the same for all, so that one that starts later or elsewhere
 * goes on where the others are. It counts by its own uptime, and is held to the database's count meanwhile: two crystals differ by seconds a day.
 * @param own what it counts by; tests give machines that drift
 */
export async function besideOthers(db: Db, own: Machine = thisMachine): Promise<Machine & { compare(): Promise<void>; close(): void }> {
  const count = () => own.uptime()?.ms ?? own.wall();
  /** The database's time, and this machine's count at that moment. */
  const ask = async () => {
    const before = count();
    const answer = (await db.execute(sql`select (extract(epoch from clock_timestamp()) * 1000)::float8 as ms`)) as unknown as {
      rows: { ms: number }[];
    };
    return { theirs: answer.rows[0]!.ms, at: (before + count()) / 2 };
  };
  let first = await ask();
  /** What the database has counted more than this machine since then. */
  let drift = 0;
  let last = -Infinity;
  const counted = () => (last = Math.max(last, count() + drift));
  const compare = async () => {
    const now = await ask();
    const more = now.theirs - first.theirs - (now.at - first.at);
    if (Math.abs(more - drift) < jumpMs) drift = more;
    else {
      log.warn({ ms: Math.round(more - drift) }, 'The clock of the database was set. The shop’s clock goes on as before.');
      first = { theirs: now.theirs, at: now.at + drift };
    }
  };
  const comparing = setInterval(
    () => void compare().catch((error: unknown) => log.warn({ err: error }, 'The database’s time could not be read.')),
    everyMs,
  );
  comparing.unref();
  return {
    shared: true,
    wall: () => Math.round(first.theirs + counted() - first.at),
    uptime() {
      const up = own.uptime();
      return up && { ...up, ms: Math.round(counted()) };
    },
    compare,
    close: () => clearInterval(comparing),
  };
}
