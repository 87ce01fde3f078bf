import pg from 'pg';
import { log } from '../base/log';

/** Waits between tries to hear a server again that went away, ms: the first, doubled up to the longest. */
const again = { firstMs: 250, longestMs: 2000 } as const;
/** How often a line that is silent is asked whether it is still there, ms: one that was cut without a word would be listened to for hours. */
const usualAskedMs = 15_000;

export interface Ear {
  /** @param missed told when the line was broken and is there again */
  listen(channel: string, heard: (payload: string) => void, missed: () => void): Promise<void>;
  close(): Promise<void>;
}

/** A connection that hears; `broken` is fulfilled once it no longer does. */
interface Line {
  broken: Promise<void>;
}

const sleep = (ms: number) => new Promise<void>((resolve) => setTimeout(resolve, ms).unref());

/**
 * Hears what acts of every server tell, over connections of its own; one that breaks is replaced, by one caller that asks less and less often. What happened meanwhile was not
 * heard, so `missed` is told.
 * @param waitMs longest wait for a connection, and for its answers
 */
export function earOf(url: string, waitMs: number, askedMs = usualAskedMs): Ear {
  let closed = false;
  const lines = new Set<pg.Client>();

  async function open(channel: string, heard: (payload: string) => void): Promise<Line> {
    const client = new pg.Client({ connectionString: url, connectionTimeoutMillis: waitMs, query_timeout: waitMs });
    const end = () => void client.end().catch(() => undefined);
    let brokenNow: () => void = () => undefined;
    const broken = new Promise<void>((resolve) => (brokenNow = resolve));
    client.once('end', brokenNow);
    client.on('error', brokenNow);
    client.on('notification', (n) => heard(n.payload ?? ''));
    try {
      await client.connect();
      await client.query(`LISTEN ${channel}`);
    } catch (error) {
      end();
      throw error;
    }
    lines.add(client);
    const asking = setInterval(() => void client.query('select 1').catch(brokenNow), askedMs);
    asking.unref();
    void broken.then(() => {
      clearInterval(asking);
      lines.delete(client);
      end();
    });
    // Ended meanwhile.
    if (closed) end();
    return { broken };
  }

  async function openAgain(channel: string, heard: (payload: string) => void): Promise<Line | null> {
    for (let wait: number = again.firstMs; ; wait = Math.min(again.longestMs, wait * 2)) {
      await sleep(wait);
      if (closed) return null;
      try {
        return await open(channel, heard);
      } catch (error) {
        log.warn({ err: error }, 'The database does not answer; changes are not received.');
      }
    }
  }

  return {
    async listen(channel, heard, missed) {
      const first = await open(channel, heard);
      const goOn = async () => {
        for (let line: Line | null = first; line;) {
          await line.broken;
          line = await openAgain(channel, heard);
          if (line) missed();
        }
      };
      void goOn();
    },
    async close() {
      closed = true;
      await Promise.all([...lines].map((client) => client.end().catch(() => undefined)));
    },
  };
}
