import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { asc } from 'drizzle-orm';
import { generator } from '../../core/units';
import { often } from '../../content/often.testing';
import { openDatabase } from '../db/open';
import { runEvent } from '../db/schema';
import { machineNow, serve, type ServerProcess } from '../http/process.testing';
import { type Run, startRuns } from './runs.testing';

let folder: string;
let server: ServerProcess | undefined;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'bloodstone-'));
});
afterEach(async () => {
  await server?.kill();
  rmSync(folder, { recursive: true, force: true });
});

/** What the database has of each run: the start and each acknowledged command, once, in its order. */
async function seeAll(runs: readonly Run[]): Promise<void> {
  const { db, close } = await openDatabase({ folder, migrations: 'server/db/migrations' });
  const events = await db.select().from(runEvent).orderBy(asc(runEvent.seq));
  await close();
  for (const run of runs) {
    const own = events.filter((e) => e.runId === run.id);
    expect(own.map((e) => e.id).slice(1)).toEqual(run.sent);
    expect(own.map((e) => e.seq)).toEqual(own.map((_, i) => i));
  }
}

const sleep = (ms: number) => new Promise<void>((resolve) => setTimeout(resolve, ms));

const kills = often(20, 6);
/** A kill comes at most this long after a command was sent: before it arrived, while it is written, or after its answer. */
const mostMs = 250;

test('three runs at once, killed at random moments in the middle of commands: each acknowledged command is there once, in its order, and the clock goes on', async () => {
  const random = generator(20261128);
  server = await serve(folder);
  await server.setUp();
  const runs = await startRuns(server, 3);
  let acknowledgedBefore = 0;
  for (let kill = 0; kill < kills; kill += 1) {
    const run = runs[Math.floor(random() * runs.length)]!;
    const id = `killed-${String(kill).padStart(4, '0')}`;
    const first = machineNow();
    const before = await server.clock();
    const told = machineNow();
    const command = { id, expectedSeq: run.seq, occurredAt: before, type: 'interrupt', what: 'left', note: `kill ${kill}` };
    const answered = server.command(run.id, command).then(
      (answer) => answer.status,
      () => null,
    );
    // Every fourth comes right after the answer and every fourth at once, however slow the machine is; the others in between.
    if (kill % 4 === 0) await answered;
    const until = performance.now() + (kill % 4 < 2 ? 0 : random() * mostMs);
    while (performance.now() < until) await new Promise((resolve) => setImmediate(resolve));
    const { cookie } = server;
    await server.kill();
    const status = await answered;
    expect([200, null]).toContain(status);
    if (status === 200) acknowledgedBefore += 1;
    server = await serve(folder);
    server.cookie = cookie;
    // The page sends what was not answered once more, under the same id.
    const again = await server.command(run.id, command);
    expect(again.status).toBe(200);
    run.seq = ((await again.json()) as { seq: number }).seq;
    run.sent.push(id);
    const asked = machineNow();
    const passed = (await server.clock()) - before;
    expect(passed).toBeGreaterThan(asked - told - 100);
    expect(passed).toBeLessThan(machineNow() - first + 100);
  }
  // Some were answered before the kill and some were not; else the moments would try nothing.
  expect(acknowledgedBefore).toBeGreaterThan(0);
  expect(acknowledgedBefore).toBeLessThan(kills);
  await server.kill();
  await seeAll(runs);
  server = undefined;
}, 900_000);

/** How often the server is killed while all of them go on, and how long after its first answer at most, ms: a server that is killed before it tries nothing. */
const killsOfMany = often(100, 6);
const mostLifeMs = 900;
/** A browser asks again so long after an answer that did not come, ms. */
const againMs = 50;

test(
  'twenty runs go on from five clients that retry, while the server is killed again and again: nothing acknowledged is lost, nothing is there twice',
  async () => {
    const seed = Number(process.env.SEED ?? 20261130);
    const random = generator(seed);
    try {
      server = await serve(folder);
      await server.setUp();
      const { cookie } = server;
      const runs = await startRuns(server, 20);
      let over = false;
      let repeated = 0;
      let answers = 0;
      /** A browser with four cars: an answer is sent until it is acknowledged, then the next car has its turn. */
      const client = async (own: readonly Run[]) => {
        for (let n = 0; !over; n += 1) {
          const run = own[n % own.length]!;
          const id = `many-${run.id}-${String(n).padStart(6, '0')}`;
          const command = { id, expectedSeq: run.seq, occurredAt: 0, type: 'interrupt', what: 'left', note: `answer ${n}` };
          for (let tries = 0; ; tries += 1) {
            // No answer, or one that was cut off in its middle, is the same to a browser.
            const answer = await server!
              .command(run.id, command)
              .then(async (a) => ({ status: a.status, body: (await a.json()) as { seq: number } }))
              .catch(() => null);
            if (answer) {
              expect([id, answer.status, answer.body]).toEqual([id, 200, expect.objectContaining({ seq: expect.any(Number) as number })]);
              if (tries > 0) repeated += 1;
              run.seq = answer.body.seq;
              run.sent.push(id);
              answers += 1;
              break;
            }
            await sleep(againMs);
          }
        }
      };
      const clients = Promise.all(Array.from({ length: 5 }, (_, i) => client(runs.filter((r) => r.id % 5 === i))));
      /** Waits until it holds; a client ends by itself only by failing, which ends the wait too, as does a server that ended and was not killed. */
      const when = async (holds: () => boolean) => {
        const wait = async () => {
          while (!holds()) {
            if (server!.child.exitCode !== null || server!.child.signalCode !== null) throw new Error(`the server ended by itself: ${server!.log()}`);
            await sleep(1);
          }
        };
        await Promise.race([wait(), clients]);
      };
      for (let kill = 0; kill < killsOfMany; kill += 1) {
        const before = answers;
        await when(() => answers > before);
        await sleep(random() * mostLifeMs);
        await server.kill();
        server = await serve(folder);
        server.cookie = cookie;
      }
      // The last server lives on until every run has moved: none is stuck.
      await when(() => runs.every((run) => run.sent.length > 0));
      over = true;
      await clients;
      // Some answers were lost on their way.
      expect(repeated).toBeGreaterThan(0);
      await server.kill();
      await seeAll(runs);
      server = undefined;
    } catch (error) {
      mkdirSync('test-results', { recursive: true });
      writeFileSync(`test-results/killed-seed-${seed}.txt`, `SEED=${seed}\n${String(error)}\n`);
      throw new Error(`with SEED=${seed}, kept in test-results: ${String(error)}`, { cause: error });
    }
  },
  often(2_400_000, 900_000),
);
