import { sql } from 'drizzle-orm';
import type { OpenDatabase, Tx } from './db/open';

const channel = 'bloodstone';

/** Something changed; pages that are open look again. */
export interface Change {
  what: 'case' | 'run' | 'clock' | 'library';
  id?: number;
}

export interface Live {
  subscribe(heard: (change: Change) => void): () => void;
}

/** Changes reach every server of a database by LISTEN/NOTIFY, and from there the open pages by server-sent events. */
export async function openLive(database: OpenDatabase): Promise<Live> {
  const subscribers = new Set<(change: Change) => void>();
  await database.listen(channel, (payload) => {
    const change = JSON.parse(payload) as Change;
    for (const heard of subscribers) heard(change);
  });
  return {
    subscribe(heard) {
      subscribers.add(heard);
      return () => subscribers.delete(heard);
    },
  };
}

/** Told when the transaction commits, not before. */
export async function notify(tx: Pick<Tx, 'execute'>, change: Change): Promise<void> {
  await tx.execute(sql`select pg_notify(${channel}, ${JSON.stringify(change)})`);
}
