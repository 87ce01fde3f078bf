import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import pg from 'pg';
import { sql } from 'drizzle-orm';
import { Harness, lead } from '../services/harness.testing';
import { actOnce } from '../acts/commands';
import { openDatabase } from './open';
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

  const cut = async () => {
    const client = new pg.Client({ connectionString: server });
    await client.connect();
    await client.query(`select pg_terminate_backend(pid) from pg_stat_activity where datname = $1 and pid <> pg_backend_pid()`, [
      new URL(url).pathname.slice(1),
    ]);
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
