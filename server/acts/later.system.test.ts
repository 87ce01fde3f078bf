import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { sql } from 'drizzle-orm';
import { openDatabase } from '../db/open';
import * as schema from '../db/schema';
import { serve, type ServerProcess } from '../http/process.testing';

/** Acts that arrive later than they were done (docs/offline.md), as a browser sends them. */

const folder = mkdtempSync(join(tmpdir(), 'bloodstone-later-'));
const hour = 60 * 60_000;
const day = 24 * hour;
let server: ServerProcess;

beforeAll(async () => {
  server = await serve(folder);
  await server.setUp();
  await server.post('/cases/new', {
    commandId: 'later-case-1',
    vehicle: 'Orrin Thimble',
    words: 'It does not start.',
    system: 'family:transponder-dwell',
    'keys.0.tag': 'A',
    'keys.0.here': 'on',
  });
});
afterAll(async () => {
  await server?.kill();
  rmSync(folder, { recursive: true, force: true });
});

const now = async () => ((await (await server.get('/clock')).json()) as { now: number }).now;
const send = (address: string, fields: Record<string, unknown>) =>
  fetch(server.url + address, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json', Accept: 'application/json', Origin: server.url, Cookie: server.cookie },
    body: JSON.stringify(fields),
  });
let acts = 0;
const battery = (more: Record<string, unknown>) => ({
  intent: 'evidence',
  commandId: `later-act-${++acts}`,
  test: 'battery',
  outcome: 'healthy',
  ...more,
});

test('it is answered as data and done once, a hundred at the same moment, and keeps when it was done', async () => {
  const before = await now();
  const act = battery({ occurredAt: before - 3 * hour });
  const answers = await Promise.all(Array.from({ length: 100 }, () => send('/cases/1', act)));
  expect(answers.map((a) => [a.status, a.headers.get('content-type')?.split(';')[0]])).toEqual(Array(100).fill([200, 'application/json']));
  const { cookie } = server;
  await server.stop();
  const database = await openDatabase({ folder, migrations: 'server/db/migrations' });
  const { evidence, audit } = schema;
  const lines = await database.db.select({ at: evidence.occurredAt, came: evidence.receivedAt }).from(evidence);
  const [logged] = await database.db
    .select()
    .from(audit)
    .where(sql`detail ->> 'command' = ${act.commandId}`);
  await database.close();
  server = await serve(folder);
  server.cookie = cookie;
  expect(lines).toEqual([{ at: before - 3 * hour, came: expect.any(Number) as number }]);
  expect(lines[0]!.came).toBeGreaterThanOrEqual(before);
  expect(logged).toMatchObject({ at: lines[0]!.came, detail: { doneAt: before - 3 * hour } });
});

test.each<[string, (at: number) => unknown, number, string | null]>([
  ['29 days ago', (at) => at - 29 * day + 60_000, 200, null],
  [
    'longer ago',
    (at) => at - 29 * day - 60_000,
    409,
    'This was done more than four weeks ago and is not taken any more. Enter it again, with the day in its words.',
  ],
  ['in an hour: taken as now', (at) => at + 3_600_000, 200, null],
  ['no moment', () => 'yesterday', 400, 'It is not clear when this was done. Enter it again.'],
  ['half a millisecond', (at) => at - 0.5, 400, 'It is not clear when this was done. Enter it again.'],
  ['null', () => null, 400, 'It is not clear when this was done. Enter it again.'],
])('%s', async (_what, when, status, message) => {
  const answer = await send('/cases/1', battery({ occurredAt: when(await now()) }));
  const { problems } = (await answer.json()) as { problems?: { message: string }[] };
  expect([answer.status, problems?.[0]?.message ?? null]).toEqual([status, message]);
});

test('an act that may not arrive later has no moment of its own', async () => {
  const answer = await send('/cases/1', { intent: 'park', commandId: 'later-park', reason: 'It waits.', occurredAt: (await now()) - day });
  expect(answer.status).toBe(400);
  const { problems } = (await answer.json()) as { problems: { message: string }[] };
  expect(problems[0]!.message).toContain('occurredAt');
});
