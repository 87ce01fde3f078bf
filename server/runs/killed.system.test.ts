import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { asc } from 'drizzle-orm';
import { generator } from '../../core/units';
import { often } from '../../content/often.testing';
import { openDatabase } from '../db/open';
import { runEvent } from '../db/schema';
import { machineNow, serve, type ServerProcess, shortIntake } from '../http/process.testing';

let folder: string;
let server: ServerProcess | undefined;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'bloodstone-'));
});
afterEach(async () => {
  await server?.kill();
  rmSync(folder, { recursive: true, force: true });
});

const kills = often(20, 6);
/** A kill comes at most this long after a command was sent: before it arrived, while it is written, or after its answer. */
const mostMs = 250;

test('three runs at once, killed at random moments in the middle of commands: each acknowledged command is there once, in its order, and the clock goes on', async () => {
  const random = generator(20261128);
  server = await serve(folder);
  await server.setUp();
  const authority = { kind: 'registration', note: 'papers seen' };
  for (const vehicle of ['Dunmore Scree, one', 'Dunmore Scree, two', 'Dunmore Scree, three']) {
    const id = `open-${vehicle.replace(/\W/g, '')}`;
    const opened = await server.post('/cases/new', { ...shortIntake, commandId: id, vehicle, system: 'family:rearm-fob' });
    const path = opened.headers.get('location')!;
    await server.post(path, { intent: 'authority', commandId: `${id}-seen`, ...authority });
    expect((await server.post(path, { intent: 'startRun', commandId: `${id}-run`, procedure: 'rearm-by-radio' })).status).toBe(302);
  }
  const runs = [1, 2, 3].map((id) => ({ id, seq: 1, sent: [] as string[] }));
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
  const { db, close } = await openDatabase({ folder, migrations: 'server/db/migrations' });
  const events = await db.select().from(runEvent).orderBy(asc(runEvent.seq));
  for (const run of runs) {
    const own = events.filter((e) => e.runId === run.id);
    expect(own.map((e) => e.id).slice(1)).toEqual(run.sent);
    expect(own.map((e) => e.seq)).toEqual(own.map((_, i) => i));
  }
  await close();
  server = undefined;
}, 900_000);
