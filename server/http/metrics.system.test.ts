import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { serve, type ServerProcess } from './process.testing';

const token = 'herons wade at dusk';
let folder: string;
let server: ServerProcess;
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'bloodstone-'));
  server = await serve(folder, { BLOODSTONE_DEMO: '1', BLOODSTONE_METRICS_TOKEN: token, LOG_LEVEL: 'info' });
  await server.comeIn('Teodor Lusk', 'samphire in the rain');
});
afterAll(async () => {
  await server.kill();
  rmSync(folder, { recursive: true, force: true });
});
const ask = (authorization?: string) =>
  fetch(`${server.url}/metrics`, { headers: authorization === undefined ? {} : { Authorization: authorization } });

test('alive, and ready', async () => {
  for (const path of ['/healthz', '/readyz']) {
    const answer = await fetch(server.url + path);
    expect([answer.status, await answer.json()]).toEqual([200, { status: 'ok' }]);
  }
});

test('who has the token reads what is counted; nobody else, signed in or not', async () => {
  for (const wrong of [undefined, '', token, 'Bearer ', `Bearer ${token}x`, `bearer ${token}`]) expect((await ask(wrong)).status).toBe(401);
  expect((await server.get('/metrics')).status).toBe(401);
  // An answer is counted when it has gone out whole, so each is read to its end.
  for (const path of ['/cases/4', '/nowhere/at/all']) await (await server.get(path)).text();
  const answer = await ask(`Bearer ${token}`);
  expect([answer.status, answer.headers.get('content-type'), answer.headers.get('cache-control')]).toEqual([
    200,
    'text/plain; version=0.0.4; charset=utf-8',
    'no-store',
  ]);
  const text = await answer.text();
  const value = (line: string) => Number(new RegExp(`^${line.replace(/[{}"]/g, '\\$&')} ([\\d.e+-]+)$`, 'm').exec(text)?.[1]);
  expect(value('bloodstone_request_seconds_count{method="GET",kind="cases",status="200"}')).toBeGreaterThanOrEqual(1);
  expect(value('bloodstone_request_seconds_count{method="GET",kind="other",status="404"}')).toBe(1);
  expect(value('bloodstone_waits{attention="none"}')).toBeGreaterThanOrEqual(1);
  expect(value('bloodstone_statements')).toBeGreaterThan(10);
  expect(value('process_resident_memory_bytes')).toBeGreaterThan(1e7);
  expect(text).toMatch(/^nodejs_eventloop_lag_p99_seconds /m);
  // Nothing of the shop: no case, no vehicle, no name, no address with a number in it.
  expect(text).not.toMatch(/Tarn|Teodor|cases\/\d/);
});

test('without a token there is no such address, and a short one does not start', async () => {
  const other = mkdtempSync(join(tmpdir(), 'bloodstone-'));
  const plain = await serve(other, { BLOODSTONE_DEMO: '1' });
  await plain.comeIn('Teodor Lusk', 'samphire in the rain');
  expect((await plain.get('/metrics')).status).toBe(404);
  await plain.kill();
  rmSync(other, { recursive: true, force: true });
  const { status, stderr } = spawnSync(process.execPath, ['bin/serve.mjs'], {
    env: { ...process.env, PORT: '0', BLOODSTONE_DATA: other, BLOODSTONE_METRICS_TOKEN: 'short' },
    encoding: 'utf8',
  });
  expect([status, stderr]).toEqual([1, 'BLOODSTONE_METRICS_TOKEN: expected a secret of at least 16 characters, or nothing at all.\n']);
});

test('the log is a line of JSON an entry; each request has its own id, its address without what was searched for, its status and its time', async () => {
  const before = server.log().length;
  for (const path of ['/cases/4', '/cases?q=Halvard', '/nowhere/at/all']) await (await server.get(path)).text();
  // The line is written once the answer is out.
  while (server.log().slice(before).split('"statusCode"').length < 4) await new Promise((resolve) => setTimeout(resolve, 20));
  const lines = server
    .log()
    .slice(before)
    .split('\n')
    .filter(Boolean)
    .map(
      (line) =>
        JSON.parse(line) as { level: number; time: number; req?: { id: string; method: string; url: string }; res?: object; responseTime?: number },
    );
  const asked = lines.filter((line) => line.req);
  expect(asked.map(({ level, req, res }) => [level, req!.method, req!.url, res])).toEqual([
    [30, 'GET', '/cases/4', { statusCode: 200 }],
    [30, 'GET', '/cases', { statusCode: 200 }],
    [30, 'GET', '/nowhere/at/all', { statusCode: 404 }],
  ]);
  expect(new Set(asked.map((line) => line.req!.id)).size).toBe(3);
  for (const { time, responseTime } of asked) expect([typeof time, typeof responseTime]).toEqual(['number', 'number']);
});
