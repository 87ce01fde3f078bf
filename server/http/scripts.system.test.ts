import { mkdtempSync, rmSync } from 'node:fs';
import { get } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { demoPeople } from '../demo/demoPeople';
import { serve, type ServerProcess } from './process.testing';

let server: ServerProcess;
const data = mkdtempSync(join(tmpdir(), 'bloodstone-scripts-'));
beforeAll(async () => {
  server = await serve(data, { BLOODSTONE_DEMO: '1', BLOODSTONE_CLOCK: 'manual' });
  const owner = demoPeople.find((p) => p.role === 'owner')!;
  await server.comeIn(owner.name, owner.password);
});
afterAll(async () => {
  await server?.kill();
  rmSync(data, { recursive: true, force: true });
});

/** Scripts that the page names in its head, which a browser loads before the page answers. */
async function scriptsOf(path: string): Promise<string[]> {
  const html = await (await server.get(path)).text();
  const named = [...html.matchAll(/(?:href|src)="(\/assets\/[\w.-]+\.js)"|import[^;]*?"(\/assets\/[\w.-]+\.js)"/g)].map((m) => m[1] ?? m[2]!);
  return [...new Set(named)];
}
/** As sent to a browser that takes these encodings. */
const sent = (path: string, encodings: string) => fetch(server.url + path, { headers: { 'Accept-Encoding': encodings } });

/** Bytes of the body as it travels. */
const onTheWire = (path: string) =>
  new Promise<number>((resolve, reject) => {
    get(server.url + path, { headers: { 'Accept-Encoding': 'br, gzip' } }, (answer) => {
      let bytes = 0;
      answer.on('data', (piece: Buffer) => (bytes += piece.length));
      answer.on('end', () => resolve(bytes));
    }).on('error', reject);
  });

// No page may have more than 200 kB; those that had far less may not grow much.
test.each([
  // With what drags a case to another bay.
  ['/', 176],
  ['/cases', 183],
  ['/cases/5', 183],
  ['/cases/5/triage', 178],
  ['/cases/5/verify', 160],
  ['/cases/5/hand-over', 183],
  ['/library', 186],
  ['/shop', 187],
  ['/bench/lamp?case=5', 198],
  ['/cases/4/runs/2', 200],
  ['/cases/new?draft=00000000-0000-4000-8000-000000000000', 200],
  ['/calls/new?call=00000000-0000-4000-8000-000000000000', 200],
  ['/bench/steps?case=8', 200],
  ['/bench/substitute?case=8', 200],
  ['/bench/trials', 192],
  ['/bench/bursts', 200],
  ['/bench/battery', 200],
  ['/bench/ladder?case=8', 200],
])('%s loads at most %d kB of scripts, compressed', async (path, most) => {
  const scripts = await scriptsOf(path);
  expect(scripts.length).toBeGreaterThan(10);
  const sizes = await Promise.all(scripts.map(onTheWire));
  expect(Math.min(...sizes)).toBeGreaterThan(0);
  expect(sizes.reduce((a, b) => a + b, 0) / 1024).toBeLessThanOrEqual(most);
});

test('a script is sent as it was compressed when it was built, and may be kept for a year', async () => {
  // The first one is the largest: the router, or what draws.
  const sizes = await Promise.all(
    (await scriptsOf('/')).map(async (s) => ({ s, plain: (await (await sent(s, 'identity')).arrayBuffer()).byteLength })),
  );
  const { s, plain } = sizes.sort((a, b) => b.plain - a.plain)[0]!;
  const [br, gzip] = [await sent(s, 'br, gzip'), await sent(s, 'gzip')];
  expect([br, gzip].map((r) => [r.status, r.headers.get('content-encoding'), r.headers.get('cache-control')])).toEqual([
    [200, 'br', 'public, max-age=31536000, immutable'],
    [200, 'gzip', 'public, max-age=31536000, immutable'],
  ]);
  const length = (r: Response) => Number(r.headers.get('content-length'));
  expect(length(br)).toBeLessThan(length(gzip));
  expect(length(gzip)).toBeLessThan(plain / 2);
  // What arrives is what was built.
  expect((await br.arrayBuffer()).byteLength).toBe(plain);
  expect((await sent('/assets/none.js', 'br')).status).toBe(404);
});
