import { mkdtempSync, rmSync } from 'node:fs';
import { get } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { demoPeople } from '../demo/demoPeople';
import { serve, type ServerProcess } from './process.testing';

/** What keeps a device at a bay open: a page that somebody opens, and not what an open page asks by itself. */

const folder = mkdtempSync(join(tmpdir(), 'bloodstone-presence-'));
let server: ServerProcess;
beforeAll(async () => {
  server = await serve(folder, { BLOODSTONE_DEMO: '1', BLOODSTONE_CLOCK: 'manual' });
});
afterAll(async () => {
  await server?.kill();
  rmSync(folder, { recursive: true, force: true });
});

const post = (path: string, body: URLSearchParams | string) =>
  fetch(server.url + path, {
    method: 'POST',
    headers: { Origin: server.url, ...(typeof body === 'string' ? { 'Content-Type': 'application/json' } : {}) },
    body,
    redirect: 'manual',
  });
const minutes = (n: number) => post('/test/clock', JSON.stringify({ advanceMs: n * 60_000 }));
/** As a browser asks: with what kind of request it is. */
const ask = (path: string, cookie: string, mode: string) =>
  new Promise<number>((resolve, reject) => {
    get(server.url + path, { headers: { Cookie: cookie, 'Sec-Fetch-Mode': mode } }, (answer) => {
      answer.resume();
      answer.on('end', () => resolve(answer.statusCode!));
    }).on('error', reject);
  });

test.each([
  ['the further look of a diagnosis, asked by the page', '/cases/5/diagnosis', 'cors', 302],
  ['a picture on it', '/cases/5/diagnosis', 'no-cors', 302],
  ['a page that somebody opens', '/cases/5', 'navigate', 200],
])('%s', async (_, path, mode, later) => {
  const { name, password } = demoPeople.find((p) => p.role === 'technician')!;
  const cookie = (await post('/sign-in', new URLSearchParams({ name, password, atBay: 'on' }))).headers.get('set-cookie')!.split(';')[0]!;
  await minutes(19);
  expect(await ask(path, cookie, mode)).toBe(200);
  await minutes(2);
  // A device that is locked is led to its lock.
  expect(await ask('/cases/5', cookie, 'navigate')).toBe(later);
});
