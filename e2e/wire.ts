import { mkdtempSync, rmSync } from 'node:fs';
import { createServer, request as ask, type Server } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type BrowserContext, chromium, type Page, test as base } from '@playwright/test';
import { comeIn, expect, noteClock } from './harness';
import { serveWorker } from './server';

/**
 * Without a connection: the shop's server goes on, and a wire in between is cut, as where the Wi-Fi does not reach. Time is moved on both sides by hand:
 * the page's by the browser's own clock, the shop's over the door that only tests have.
 */

/** A wire to the server that can be cut. */
async function wireTo(target: string) {
  const { hostname, port } = new URL(target);
  /** What a new version of the service worker would differ in. */
  let version = '';
  const server: Server = createServer((from, to) => {
    const isWorker = from.url === '/sw.js';
    const on = ask(
      { hostname, port, path: from.url, method: from.method, headers: isWorker ? { ...from.headers, 'accept-encoding': 'identity' } : from.headers },
      (back) => {
        if (!isWorker) {
          to.writeHead(back.statusCode!, back.headers);
          return void back.pipe(to);
        }
        const { 'content-length': _length, etag: _etag, 'last-modified': _modified, ...headers } = back.headers;
        to.writeHead(back.statusCode!, headers);
        back.pipe(to, { end: false });
        back.on('end', () => to.end(version));
      },
    );
    on.on('error', () => to.destroy());
    to.on('close', () => on.destroy());
    from.pipe(on);
  });
  const listen = (at: number) => new Promise<void>((resolve) => server.listen(at, '127.0.0.1', resolve));
  await listen(0);
  const own = (server.address() as { port: number }).port;
  return {
    url: `http://127.0.0.1:${own}`,
    cut: () =>
      new Promise<void>((resolve) => {
        server.close(() => resolve());
        server.closeAllConnections();
      }),
    mend: () => listen(own),
    newVersion: () => void (version = '\n// another version'),
  };
}
type Wire = Awaited<ReturnType<typeof wireTo>>;

export interface Car {
  server: string;
  wire: Wire;
  folder: string;
  context: BrowserContext;
  page: Page;
}

export const test = base.extend<
  { car: Car; open: (folder: string, at?: number) => Promise<{ context: BrowserContext; page: Page }> },
  { served: string }
>({
  served: [
    // eslint-disable-next-line no-empty-pattern -- fixtures are told apart by this pattern
    async ({}, use, { parallelIndex }) => {
      const { url, end } = await serveWorker(parallelIndex + 20);
      await use(url);
      await end();
    },
    { scope: 'worker', timeout: 120_000 },
  ],
  // eslint-disable-next-line no-empty-pattern -- as above
  open: async ({}, use) => {
    const contexts: BrowserContext[] = [];
    const folders = new Set<string>();
    await use(async (folder, at) => {
      folders.add(folder);
      const context = await chromium.launchPersistentContext(folder, {
        executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium-headless-shell',
        args: ['--no-sandbox', '--disable-gpu'],
        viewport: { width: 1280, height: 800 },
        timezoneId: 'UTC',
        serviceWorkers: 'allow',
        reducedMotion: 'reduce',
      });
      contexts.push(context);
      const page = context.pages()[0] ?? (await context.newPage());
      await page.addInitScript(noteClock);
      await page.clock.install(at === undefined ? {} : { time: at });
      return { context, page };
    });
    for (const context of contexts) await context.close().catch(() => {});
    // A browser that has just ended may still be writing.
    for (const folder of folders) rmSync(folder, { recursive: true, force: true, maxRetries: 10, retryDelay: 200 });
  },
  car: async ({ served, open }, use) => {
    const wire = await wireTo(served);
    const folder = mkdtempSync(join(tmpdir(), 'bloodstone-browser-'));
    const { context, page } = await open(folder);
    await comeIn(context, wire.url, 'Ines Marrow');
    await use({ server: served, wire, folder, context, page });
    await wire.cut().catch(() => {});
  },
});
/** So many seconds pass for the shop, which tells its pages that time goes on by itself. */
export async function advance(server: string, seconds: number) {
  const moved = await fetch(`${server}/test/clock`, {
    method: 'POST',
    headers: { Origin: server, 'Content-Type': 'application/json' },
    body: JSON.stringify({ advanceMs: Math.max(0, seconds * 1000), rate: 1 }),
  });
  expect(moved.status).toBe(200);
  return ((await moved.json()) as { now: number }).now;
}
/** So many seconds pass, for the shop and for the page. */
export async function pass({ server, page }: Pick<Car, 'server' | 'page'>, seconds: number) {
  await advance(server, seconds);
  await page.clock.fastForward(seconds * 1000);
}

/** Addresses of a page are those of the wire. */
export function atWire(page: Page, url: string): void {
  const go = page.goto.bind(page);
  page.goto = (to, options) => go(to.startsWith('/') ? url + to : to, options);
}

/** Waits until the page could be opened again without a connection. */
export async function kept(page: Page): Promise<void> {
  await page.waitForFunction(() => navigator.serviceWorker.controller !== null, null, { timeout: 120_000 });
  await expect
    .poll(
      async () => {
        // What is kept is fetched a moment after the page is there.
        await page.clock.fastForward(2000);
        return page.evaluate(async () => (await caches.match(location.href)) !== undefined);
      },
      { timeout: 40_000 },
    )
    .toBe(true);
}
