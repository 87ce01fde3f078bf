import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { asc } from 'drizzle-orm';
import { generator } from '../../core/units';
import { often } from '../../content/often.testing';
import { openDatabase } from '../db/open';
import { replacement } from '../db/schema';
import { serve, type ServerProcess, shortIntake } from '../http/process.testing';

let folder: string;
let server: ServerProcess | undefined;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'bloodstone-'));
});
afterEach(async () => {
  await server?.kill();
  rmSync(folder, { recursive: true, force: true });
});

/** A kill comes at most this long after a form was sent: before it arrived, while it is written, or after its answer. */
const mostMs = 120;
const path = '/cases/1/replacement';

/** What a plan's first steps are answered with, in order; the note tells one from the other. */
const forms: Record<string, string>[] = [
  { intent: 'plan', 'replaced.engine': 'donor', 'tools.0': 'scan tool' },
  ...Array.from({ length: often(9, 4) }, (_, i) => ({
    intent: 'saved',
    part: 'engine',
    'answers.codes': i % 2 === 0 ? 'saved' : 'unreadable',
    note: `reading ${i}`,
  })),
];

test('killed in the middle of acts of a plan: what was acknowledged is there once, in its order, and the plan goes on', async () => {
  const random = generator(20261129);
  server = await serve(folder);
  await server.setUp();
  expect((await server.post('/cases/new', { ...shortIntake, commandId: 'open-one' })).status).toBe(302);
  for (const [i, form] of forms.entries()) {
    const fields = { ...form, commandId: `killed-${String(i).padStart(4, '0')}` };
    const answered = server.post(path, fields).then(
      (answer) => answer.status,
      () => null,
    );
    // Every third comes right after the answer; the others while it is on its way.
    if (i % 3 === 0) await answered;
    const until = performance.now() + (i % 3 === 0 ? 0 : random() * mostMs);
    while (performance.now() < until) await new Promise((resolve) => setImmediate(resolve));
    const { cookie } = server;
    await server.kill();
    expect([200, 202, 302, null]).toContain(await answered);
    server = await serve(folder);
    server.cookie = cookie;
    // The page sends what was not answered once more, under the same id.
    expect([200, 202, 302]).toContain((await server.post(path, fields)).status);
  }
  const page = await (await server.get(path)).text();
  expect(page).toContain(`reading ${forms.length - 2}`);
  await server.kill();
  const { db, close } = await openDatabase({ folder, migrations: 'server/db/migrations' });
  const kept = await db.select().from(replacement).orderBy(asc(replacement.id));
  expect(kept.map(({ entry }) => ('note' in entry ? entry.note : entry.kind))).toEqual(forms.map((f) => f.note ?? 'plan'));
  await close();
  server = undefined;
}, 900_000);
