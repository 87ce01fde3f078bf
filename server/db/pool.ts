import pg from 'pg';
import { log } from '../base/log';
import { isAway } from './away';

/**
 * A pool that outlives its connections. The driver's own lets the process end when one breaks that is lent out and asked nothing at the moment, as in an act between two
 * statements; and one whose first statement failed would stay lent out for good, since nobody has it yet who would give it back.
 */
export class LastingPool extends pg.Pool {
  constructor(settings: pg.PoolConfig) {
    super(settings);
    // A connection that breaks while nobody uses it is one less in the pool, and no reason to end.
    this.on('error', (error) => log.warn({ err: error }, 'A connection to the database broke.'));
  }

  // The pool's own statements ask with a callback, and look after their connection themselves.
  override connect(): Promise<pg.PoolClient>;
  override connect(done: Parameters<pg.Pool['connect']>[0]): void;
  override connect(done?: Parameters<pg.Pool['connect']>[0]): Promise<pg.PoolClient> | void {
    return done ? super.connect(done) : super.connect().then(lent);
  }
}

/** The same connection, which gives itself back as broken as soon as it is; giving it back once more does nothing. */
function lent(client: pg.PoolClient): pg.PoolClient {
  const { release, query } = client;
  let back = false;
  const broke = (error: Error) => {
    log.warn({ err: error }, 'A connection to the database broke in the middle of an act.');
    client.release(error);
  };
  client.release = (error) => {
    if (back) return;
    back = true;
    client.off('error', broke);
    client.query = query;
    release(error);
  };
  client.query = (async (...asked: unknown[]) => {
    try {
      return (await Reflect.apply(query, client, asked)) as unknown;
    } catch (error) {
      if (isAway(error)) client.release(error as Error);
      throw error;
    }
  }) as typeof query;
  client.on('error', broke);
  return client;
}
