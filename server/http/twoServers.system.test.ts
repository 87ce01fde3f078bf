import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { generator } from '../../core/units';
import { often } from '../../content/often.testing';
import { postgresBins, startPostgres } from '../../scripts/postgres.mjs';
import { type Run, startRuns } from '../runs/runs.testing';
import { sql } from 'drizzle-orm';
import { awayText } from '../db/away';
import { openDatabase } from '../db/open';
import { serve, type ServerProcess, shortIntake } from './process.testing';

/** Two built servers on one PostgreSQL server of their own, which is killed as well. Runs where Debian's PostgreSQL is installed (npm test installs it). */

const vault = mkdtempSync(join(tmpdir(), 'bloodstone-two-'));
const database = postgresBins().length > 0 ? startPostgres(5900 + (process.pid % 90)) : null;
const env = { DATABASE_URL: database?.url ?? '', BLOODSTONE_VAULT: vault };
let [one, two]: [ServerProcess, ServerProcess] = [undefined as never, undefined as never];
const sleep = (ms: number) => new Promise<void>((resolve) => setTimeout(resolve, ms));
/** Until it holds; @returns how long that took, ms */
async function until(holds: () => boolean | Promise<boolean>, mostMs = 60_000): Promise<number> {
  const from = performance.now();
  while (!(await holds())) {
    if (performance.now() - from > mostMs) throw new Error(`not within ${mostMs} ms: ${holds.toString()}`);
    await sleep(20);
  }
  return performance.now() - from;
}
const ready = async (server: ServerProcess) => (await server.get('/readyz').catch(() => null))?.status === 200;

/** What a page is told, as it comes. */
function listen(server: ServerProcess): { heard: () => string; end: () => void } {
  const ending = new AbortController();
  let heard = '';
  void fetch(`${server.url}/live`, { headers: { Cookie: server.cookie }, signal: ending.signal })
    .then(async (answer) => {
      const reader = answer.body!.pipeThrough(new TextDecoderStream()).getReader();
      for (let part = await reader.read(); !part.done; part = await reader.read()) heard += part.value;
    })
    .catch(() => {});
  return { heard: () => heard, end: () => ending.abort() };
}

const suite = database ? describe : describe.skip;
suite('two servers on one database', () => {
  beforeAll(async () => {
    // Both begin on an empty database at once.
    [one, two] = await Promise.all([serve('', env), serve('', env)]);
    await one.setUp();
    two.cookie = one.cookie;
  });
  afterAll(async () => {
    await Promise.all([one, two].map((server) => server?.kill()));
    database?.end();
    rmSync(vault, { recursive: true, force: true });
  });

  test('the same act at once on both, fifty times each, is done once and answered alike', async () => {
    const form = { ...shortIntake, commandId: 'twice-at-once-1', vehicle: 'Orrin Thimble, twice' };
    const answers = await Promise.all(Array.from({ length: 100 }, (_, i) => (i % 2 ? one : two).post('/cases/new', form)));
    expect(new Set(answers.map((a) => `${a.status} ${a.headers.get('location')}`)).size).toBe(1);
    expect(answers[0]!.status).toBe(302);
    const list = await (await two.get('/cases')).text();
    expect(list.match(/Orrin Thimble, twice/g)!.length).toBe((await (await one.get('/cases')).text()).match(/Orrin Thimble, twice/g)!.length);
    const client = new pg.Client({ connectionString: database!.url });
    await client.connect();
    expect((await client.query(`select count(*)::int as n from case_file where vehicle = 'Orrin Thimble, twice'`)).rows).toEqual([{ n: 1 }]);
    await client.end();
  });

  test('what is done on one is told to pages of the other', async () => {
    const page = listen(two);
    await until(() => page.heard().includes('event: clock'));
    const opened = await one.post('/cases/new', { ...shortIntake, commandId: 'told-elsewhere-1' });
    const id = opened.headers.get('location')!.split('/').at(-1)!;
    const took = await until(() => new RegExp(`event: change\\ndata: .*"id":${id}[,}]`).test(page.heard()));
    expect(took).toBeLessThan(5000);
    page.end();
  });

  test('one clock, whichever answers, also of one that starts later', async () => {
    const differ = async () => {
      const before = await one.clock();
      const other = await two.clock();
      const after = await one.clock();
      expect(other).toBeGreaterThanOrEqual(before - 20);
      expect(other).toBeLessThanOrEqual(after + 20);
    };
    await differ();
    const { cookie } = two;
    await two.kill();
    two = await serve('', env);
    two.cookie = cookie;
    await differ();
  });

  test('wrong passwords are counted together: five for a name, on whichever server', async () => {
    const tries = [];
    for (let i = 0; i < 12; i += 1) {
      const server = i % 2 ? one : two;
      const { cookie } = server;
      // As somebody who is not signed in.
      server.cookie = '';
      tries.push((await server.post('/sign-in', { name: 'Nobody At All', password: `wrong ${i}` })).status);
      server.cookie = cookie;
    }
    expect(tries.slice(0, 4)).not.toContain(429);
    expect(tries.slice(-6)).toEqual([429, 429, 429, 429, 429, 429]);
  });

  const kills = often(20, 5);
  test('either server is killed in the middle of answers, again and again: clients go on at the other, nothing acknowledged is lost or there twice', async () => {
    const random = generator(20261201);
    const runs = await startRuns(one, 6);
    let over = false;
    let answers = 0;
    let moved = 0;
    const client = async (own: readonly Run[], at: number) => {
      for (let n = 0; !over; n += 1) {
        const run = own[n % own.length]!;
        const id = `two-${run.id}-${String(n).padStart(5, '0')}`;
        const command = { id, expectedSeq: run.seq, occurredAt: 0, type: 'interrupt', what: 'left', note: `answer ${n}` };
        for (let tries = at; ; tries += 1) {
          const answer = await (tries % 2 ? one : two)
            .command(run.id, command)
            .then(async (a) => ({ status: a.status, body: (await a.json()) as { seq: number } }))
            .catch(() => null);
          if (answer?.status === 200) {
            if (tries > at) moved += 1;
            run.seq = answer.body.seq;
            run.sent.push(id);
            answers += 1;
            break;
          }
          // Only one that is away may fail.
          expect(answer).toBeNull();
          await sleep(20);
        }
      }
    };
    const clients = Promise.all([0, 1, 2].map((i) => client([runs[2 * i]!, runs[2 * i + 1]!], i)));
    for (let kill = 0; kill < kills; kill += 1) {
      const before = answers;
      await Promise.race([until(() => answers > before + 3), clients]);
      await sleep(random() * 300);
      const killed = kill % 2 ? one : two;
      await killed.kill();
      const again = await serve('', env);
      again.cookie = killed.cookie;
      if (kill % 2) one = again;
      else two = again;
    }
    over = true;
    await clients;
    expect(moved).toBeGreaterThan(0);
    await seeAll(runs);
  });

  test('the database is killed and comes back: no server ends, what is asked meanwhile is told why, and all goes on within five seconds of it', async () => {
    const [run] = await startRuns(one, 1);
    const page = listen(two);
    await until(() => page.heard().includes('event: clock'));
    for (let kill = 0; kill < 3; kill += 1) {
      const id = `database-away-${kill}`;
      const command = { id, expectedSeq: run!.seq, occurredAt: 0, type: 'interrupt', what: 'left', note: id };
      const answered = one.command(run!.id, command).then(
        (a) => a.status,
        () => null,
      );
      if (kill === 0) expect(await answered).toBe(200);
      // Pages, and the data of one, that are being read when it goes.
      const reading = await heldReads(['/calls', '/calls.data']);
      database!.kill();
      // Done, or not: which of them is known once it is sent again.
      expect([200, 503]).toContain(await answered);
      for (const answer of await Promise.all(reading)) expect([answer.status, (await answer.text()).trim()]).toEqual([503, awayText]);
      for (const server of [one, two]) {
        // Its connections live on for a moment after the one that gave them.
        await until(async () => !(await ready(server)));
        expect((await server.get('/healthz')).status).toBe(200);
        const floor = await server.get('/');
        expect([floor.status, (await floor.text()).trim()]).toEqual([503, awayText]);
        expect(floor.headers.get('refresh')).toBe('3');
      }
      await until(() => database!.start());
      const took = await until(async () => (await ready(one)) && (await ready(two)));
      expect(took).toBeLessThan(5000);
      // Each has its own connection to hear by.
      const again = await two.command(run!.id, command);
      expect(again.status).toBe(200);
      run!.seq = ((await again.json()) as { seq: number }).seq;
      run!.sent.push(id);
    }
    const heard = page.heard().length;
    const took = await until(async () => {
      await one.post('/cases/new', { ...shortIntake, commandId: `heard-again-${Math.random()}` });
      return page.heard().slice(heard).includes('event: change');
    });
    expect(took).toBeLessThan(5000);
    page.end();
    await seeAll([run!]);
  });

  test('a newer version brings the database up to date while this one runs: it goes on, leaves what it does not know alone, and starts again on it', async () => {
    const [run] = await startRuns(one, 1);
    const opened = await openDatabase({ url: env.DATABASE_URL, migrations: newerMigrations() });
    try {
      await opened.db.execute(sql`update case_file set later = 'of the newer version' where id = ${run!.caseId}`);
      await opened.db.execute(sql`insert into later_thing (id, case_id) values ('a', ${run!.caseId})`);
      const act = async (server: ServerProcess, id: string) => {
        const answer = await server.command(run!.id, { id, expectedSeq: run!.seq, occurredAt: 0, type: 'interrupt', what: 'left', note: id });
        expect([id, answer.status]).toEqual([id, 200]);
        run!.seq = ((await answer.json()) as { seq: number }).seq;
        run!.sent.push(id);
      };
      await act(one, 'older-goes-on-1');
      await act(two, 'older-goes-on-2');
      const authority = { intent: 'authority', commandId: 'older-authority-1', kind: 'registration', note: 'papers seen' };
      expect((await one.post(`/cases/${run!.caseId}`, authority)).status).toBe(200);
      const { cookie } = two;
      await two.kill();
      two = await serve('', env);
      two.cookie = cookie;
      await act(two, 'older-starts-again-1');
      for (const path of ['/', '/cases', `/cases/${run!.caseId}`, `/cases/${run!.caseId}/report`, '/library'])
        expect([path, (await two.get(path)).status]).toEqual([path, 200]);
      expect(await ask(`select later from case_file where id = ${run!.caseId}`)).toEqual([{ later: 'of the newer version' }]);
    } finally {
      await opened.close();
    }
    await seeAll([run!]);
  });
});

/** The migrations as the next version may have them: one more, which adds a column, a table and an index. */
function newerMigrations(): string {
  const folder = join(vault, 'newer');
  cpSync('server/db/migrations', folder, { recursive: true });
  const path = join(folder, 'meta/_journal.json');
  const journal = JSON.parse(readFileSync(path, 'utf8')) as { entries: { idx: number; when: number; tag: string }[] };
  const last = journal.entries.at(-1)!;
  journal.entries.push({ ...last, idx: last.idx + 1, when: last.when + 1, tag: 'next' });
  writeFileSync(path, JSON.stringify(journal));
  const statements = [
    'alter table "case_file" add column "later" text',
    'create table "later_thing" ("id" text primary key, "case_id" integer not null references "case_file" ("id"))',
    'create index "later_index" on "case_file" ("later")',
  ];
  writeFileSync(join(folder, 'next.sql'), statements.join(';\n--> statement-breakpoint\n'));
  return folder;
}

/** Asks for these pages while the table that they read is locked, and comes back once the database has them waiting. */
async function heldReads(paths: readonly string[]): Promise<Promise<Response>[]> {
  const client = new pg.Client({ connectionString: database!.url });
  client.on('error', () => {});
  await client.connect();
  await client.query('begin; lock table "call" in access exclusive mode');
  const reading = paths.map((path) => one.get(path));
  const waiting = `select count(*)::int as n from pg_stat_activity where wait_event_type = 'Lock'`;
  // Asked by another connection: within one transaction the answer stays the same.
  await until(async () => (await ask<{ n: number }>(waiting))[0]!.n >= paths.length);
  return reading;
}

async function ask<T>(text: string): Promise<T[]> {
  const client = new pg.Client({ connectionString: database!.url });
  await client.connect();
  const { rows } = await client.query(text);
  await client.end();
  return rows as T[];
}
/** What the database has of each run: the start and each acknowledged command, once, in its order. */
async function seeAll(runs: readonly Run[]): Promise<void> {
  for (const run of runs) {
    const events = await ask<{ id: string; seq: number }>(`select id, seq from run_event where run_id = ${run.id} order by seq`);
    expect(events.map((e) => e.id).slice(1)).toEqual(run.sent);
    expect(events.map((e) => e.seq)).toEqual(events.map((_, i) => i));
  }
}
