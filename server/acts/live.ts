import { sql, type SQL } from 'drizzle-orm';
import type { OpenDatabase, Tx } from '../db/open';

const channel = 'bloodstone';

/** Something changed; pages that are open look again. `session`: a browser was signed out or locked, or all of a person's; for the server alone. */
export type Change =
  /** Without an id: more than one case may be meant. */
  | { what: 'case'; id?: number }
  | { what: 'run'; id: number; caseId: number }
  /** The order of touches on the Floor. */
  | { what: 'plan' | 'clock' | 'library' }
  | { what: 'session'; session?: string };

export interface Live {
  subscribe(heard: (change: Change) => void): () => void;
}

/** Changes reach every server of a database by LISTEN/NOTIFY, and from there the open pages by server-sent events. */
export async function openLive(database: OpenDatabase): Promise<Live> {
  const subscribers = new Set<(change: Change) => void>();
  const tell = (change: Change) => {
    for (const heard of subscribers) heard(change);
  };
  await database.listen(
    channel,
    (payload) => tell(JSON.parse(payload) as Change),
    () => {
      // Anything may have changed, and anybody may have been signed out.
      tell({ what: 'session' });
      tell({ what: 'library' });
    },
  );
  return {
    subscribe(heard) {
      subscribers.add(heard);
      return () => subscribers.delete(heard);
    },
  };
}

/** What acts want to tell, by their transaction, until their last statement tells it. */
const gathered = new WeakMap<object, Change[]>();

/** Told when the transaction commits, not before. */
export async function notify(tx: Pick<Tx, 'execute'>, change: Change): Promise<void> {
  const waiting = gathered.get(tx);
  if (waiting) waiting.push(change);
  else await tx.execute(sql`select ${telling(change)}`);
}

const telling = (change: Change) => sql`pg_notify(${channel}, ${JSON.stringify(change)})`;

/** Lets what is told in a transaction wait. @returns columns with which its last statement tells all of it */
export function gatherNotices(tx: object): () => Record<string, SQL> {
  const waiting: Change[] = [];
  gathered.set(tx, waiting);
  return () => {
    gathered.delete(tx);
    return Object.fromEntries(waiting.map((change, i) => [`told${i}`, sql`${telling(change)}::text`]));
  };
}
