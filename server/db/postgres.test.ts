import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import pg from 'pg';
import { sql } from 'drizzle-orm';
import { Harness, lead } from '../services/harness.testing';
import { actOnce } from '../acts/commands';
import { openDatabase } from './open';
import { isAway } from './away';
import { openLive, notify, type Change } from '../acts/live';

/** A PostgreSQL server that goes away and comes back, and several servers on one database. Runs where TEST_POSTGRES names a server (npm test does). */

const server = process.env.TEST_POSTGRES;
const migrations = join(process.cwd(), 'server/db/migrations');

(server ? describe : describe.skip)('on PostgreSQL', () => {
  let harness: Harness;
  let url: string;
  beforeAll(async () => {
    harness = await Harness.open(server);
    const [{ name } = { name: '' }] = ((await harness.db.execute(sql`select current_database() as name`)) as unknown as { rows: { name: string }[] })
      .rows;
    const at = new URL(server!);
    at.pathname = `/${name}`;
    url = at.href;
  });
  afterAll(() => harness.close());

  const cutAll = `select pg_terminate_backend(pid) from pg_stat_activity where datname = $1 and pid <> pg_backend_pid()`;
  const cut = async () => {
    const client = new pg.Client({ connectionString: server });
    await client.connect();
    await client.query(cutAll, [new URL(url).pathname.slice(1)]);
    await client.end();
  };
  const act = () => actOnce(harness.db, harness.act(lead), { right: 'editShop', action: 'x', payload: 1 }, async () => 1);

  test('every connection is cut, and the server goes on: acts are done, changes are heard, what was missed is looked at again', async () => {
    const heard: Change[] = [];
    harness.services.live.subscribe((change) => heard.push(change));
    await act();
    await cut();
    const until = Date.now() + 20_000;
    // The pool may give out one of the cut connections first.
    let done = false;
    while (!done && Date.now() < until)
      done = await act().then(
        () => true,
        () => false,
      );
    expect(done).toBe(true);
    while (!heard.some((c) => c.what === 'library') && Date.now() < until) await new Promise((resolve) => setTimeout(resolve, 50));
    expect(heard).toContainEqual({ what: 'library' });
    await notify(harness.db, { what: 'case', id: 7 });
    while (!heard.some((c) => c.what === 'case') && Date.now() < until) await new Promise((resolve) => setTimeout(resolve, 20));
    expect(heard).toContainEqual({ what: 'case', id: 7 });
  });

  test('a connection that breaks between two statements of an act refuses the act and ends nothing; a small pool has room for the next ones', async () => {
    const opened = await openDatabase({ url, migrations, pool: { connections: 2, waitS: 2, statementS: 10 } });
    try {
      for (let i = 0; i < 5; i += 1) {
        const broken = opened.db.transaction(async (tx) => {
          await tx.execute(sql`select 1`);
          await cut();
          // As an act that works between its statements: the bad news comes while nothing is asked.
          await new Promise((resolve) => setTimeout(resolve, 50));
          await tx.execute(sql`select 2`);
        });
        const error: unknown = await broken.catch((e: unknown) => e);
        expect([i, isAway(error)]).toEqual([i, true]);
      }
      expect(await opened.db.transaction(async () => 'done')).toBe('done');
    } finally {
      await opened.close();
    }
  });

  test('a beginning that fails takes no connection out of the pool', async () => {
    const client = new pg.Client({ connectionString: server });
    await client.connect();
    const opened = await openDatabase({ url, migrations, pool: { connections: 2, waitS: 2, statementS: 10 } });
    try {
      for (let i = 0; i < 5; i += 1) {
        await Promise.all([0, 1].map(() => opened.db.transaction(async () => 'warm')));
        // They are cut while this process looks away, so that the pool gives out what is broken.
        const cutting = client.query(cutAll, [new URL(url).pathname.slice(1)]);
        Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, 300);
        const tries = await Promise.allSettled([0, 1].map(() => opened.db.transaction(async () => 'begun')));
        expect([i, tries.map((one) => one.status === 'rejected' && isAway(one.reason))]).toEqual([i, [true, true]]);
        await cutting;
      }
      expect(await opened.db.transaction(async () => 'done')).toBe('done');
    } finally {
      await opened.close();
      await client.end();
    }
  });

  test('six servers that start at once on an empty database migrate it once', async () => {
    const name = `bloodstone_many_${process.pid}`;
    const client = new pg.Client({ connectionString: server });
    await client.connect();
    await client.query(`create database "${name}"`);
    try {
      const at = new URL(server!);
      at.pathname = `/${name}`;
      const opened = await Promise.all(Array.from({ length: 6 }, () => openDatabase({ url: at.href, migrations })));
      const [{ n } = { n: 0 }] = (
        (await opened[0]!.db.execute(sql`select count(*)::int as n from drizzle.__drizzle_migrations`)) as unknown as { rows: { n: number }[] }
      ).rows;
      expect(n).toBe(readdirSync(migrations).filter((file) => file.endsWith('.sql')).length);
      await openLive(opened[1]!);
      for (const o of opened) await o.close();
    } finally {
      await client.query(`drop database "${name}" with (force)`);
      await client.end();
    }
  });
});
