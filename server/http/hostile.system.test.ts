import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { hostile } from './hostile.testing';
import { serve, type ServerProcess, shortIntake, slowness } from './process.testing';

/** A short run of `npm run hostile`, with another seed than its own. */
const data = mkdtempSync(join(tmpdir(), 'bloodstone-hostile-'));
let server: ServerProcess;
beforeAll(async () => {
  server = await serve(data);
  await server.setUp();
  await server.post('/cases/new', { commandId: 'hostile-first', ...shortIntake });
});
afterAll(async () => {
  await server?.kill();
  rmSync(data, { recursive: true, force: true });
});

test('1,500 seeded hostile requests and files: none is answered with a 5xx, none takes five seconds of work, and the next page is served', async () => {
  const report = await hostile(server, 2026, 1500);
  expect(report.failed).toEqual([]);
  expect([report.slowest, report.slowestMs < 5_000 * slowness()]).toEqual([report.slowest, true]);
  // Most of it reached a page that reads it: neither refused at the door for its address nor for want of a session.
  expect((report.byStatus[400] ?? 0) + (report.byStatus[200] ?? 0)).toBeGreaterThan(500);
  expect((await server.get('/')).status).toBe(200);
  expect((await server.get('/cases/1')).status).toBe(200);
});
