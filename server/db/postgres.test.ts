import { readdirSync } from 'node:fs';
import { type AddressInfo, connect, createServer, type Socket } from 'node:net';
import { join } from 'node:path';
import pg from 'pg';
import { sql } from 'drizzle-orm';
import { Harness, lead } from '../services/harness.testing';
import { actOnce } from '../acts/commands';
import { openDatabase } from './open';
import { isAway } from './away';
import { earOf } from './hear';
import { openLive, notify, type Change } from '../acts/live';

/** A PostgreSQL server that goes away and comes back, and several servers on one database. Runs where TEST_POSTGRES names a server (npm test does). */

const server = process.env.TEST_POSTGRES;
const migrations = join(process.cwd(), 'server/db/migrations');

/** A network between a server and its database. */
async function between(url: string) {
  const target = new URL(url);
  const open = new Set<Socket>();
  let away = false;
  let asked = 0;
  const server = createServer((socket) => {
    if (away) {
      asked += 1;
      return void socket.destroy();
    }
    const through = connect(Number(target.port), target.hostname);
    for (const [a, b] of [
      [socket, through],
      [through, socket],
    ] as const) {
      open.add(a);
      a.on('error', () => undefined).on('close', () => (open.delete(a), b.destroy()));
      a.pipe(b);
    }
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const at = new URL(url);
  at.port = String((server.address() as AddressInfo).port);
  return {
    url: at.href,
    /** How often it was asked while it was away. */
    asked: () => asked,
    /** It ends everything, and whatever it is asked from now on. */
    goAway() {
      away = true;
      for (const socket of open) socket.destroy();
    },
    comeBack() {
      away = false;
    },
    /** Nothing goes through any more over what is open, and nobody is told. */
    hush() {
      for (const socket of open) socket.unpipe().pause();
    },
    close() {
      for (const socket of open) socket.destroy();
      server.close();
    },
  };
}

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

  test('a database that is away for long is asked by one caller, less and less often, and heard again', async () => {
    const net = await between(url);
    const opened = await openDatabase({ url: net.url, migrations });
    try {
      const heard: string[] = [];
      let missed = 0;
      await opened.listen(
        'somewhere',
        (what) => heard.push(what),
        () => (missed += 1),
      );
      net.goAway();
      // After 0.25, 0.75, 1.75 and 3.75 s.
      await new Promise((resolve) => setTimeout(resolve, 4500));
      expect(net.asked()).toBeGreaterThanOrEqual(3);
      expect(net.asked()).toBeLessThanOrEqual(4);
      net.comeBack();
      while (missed === 0) await new Promise((resolve) => setTimeout(resolve, 20));
      expect(missed).toBe(1);
      await opened.db.execute(sql`select pg_notify('somewhere', 'once')`);
      while (heard.length === 0) await new Promise((resolve) => setTimeout(resolve, 20));
      expect(heard).toEqual(['once']);
    } finally {
      await opened.close();
      net.close();
    }
  }, 30_000);

  test('a line that is cut without a word is noticed, since it is asked, and heard again', async () => {
    const net = await between(url);
    const ear = earOf(net.url, 500, 200);
    try {
      const heard: string[] = [];
      let missed = 0;
      await ear.listen(
        'cut',
        (what) => heard.push(what),
        () => (missed += 1),
      );
      net.hush();
      while (missed === 0) await new Promise((resolve) => setTimeout(resolve, 20));
      await harness.db.execute(sql`select pg_notify('cut', 'once')`);
      while (heard.length === 0) await new Promise((resolve) => setTimeout(resolve, 20));
      expect(heard).toEqual(['once']);
    } finally {
      await ear.close();
      net.close();
    }
  }, 30_000);

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
