import { mkdtempSync, rmSync } from 'node:fs';
import { createServer, request as ask, type Server } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type BrowserContext, chromium, type Page, test as base } from '@playwright/test';
import { alive, answer, comeIn, expect, hasHeard, instruction, measure, noteClock, openCase, seeNoViolations, startRun } from './harness';
import { serveWorker } from './server';

/**
 * Without a connection: the shop's server goes on, and a wire in between is cut, as where the Wi-Fi does not reach. Time is moved on both sides by hand:
 * the page's by the browser's own clock, the shop's over the door that only tests have.
 */

const relearn = { changed: ['ECM replaced'], authority: true } as const;

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

interface Car {
  server: string;
  wire: Wire;
  folder: string;
  context: BrowserContext;
  page: Page;
}

const test = base.extend<{ car: Car; open: (folder: string, at?: number) => Promise<{ context: BrowserContext; page: Page }> }, { served: string }>({
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
test.use({ baseURL: undefined });

/** So many seconds pass for the shop, which tells its pages that time goes on by itself. */
async function advance(server: string, seconds: number) {
  const moved = await fetch(`${server}/test/clock`, {
    method: 'POST',
    headers: { Origin: server, 'Content-Type': 'application/json' },
    body: JSON.stringify({ advanceMs: Math.max(0, seconds * 1000), rate: 1 }),
  });
  expect(moved.status).toBe(200);
  return ((await moved.json()) as { now: number }).now;
}
/** So many seconds pass, for the shop and for the page. */
async function pass({ server, page }: Pick<Car, 'server' | 'page'>, seconds: number) {
  await advance(server, seconds);
  await page.clock.fastForward(seconds * 1000);
}

/** Waits until the page could be opened again without a connection. */
async function kept(page: Page): Promise<void> {
  await page.waitForFunction(() => navigator.serviceWorker.controller !== null, null, { timeout: 60_000 });
  await expect
    .poll(
      async () => {
        // What is kept is fetched a moment after the page is there.
        await page.clock.fastForward(2000);
        return page.evaluate(async () => (await caches.match(location.pathname)) !== undefined);
      },
      { timeout: 40_000 },
    )
    .toBe(true);
}

/** A relearn at its first step, kept in this browser. */
async function begun(car: Car, vehicle: string): Promise<string> {
  const { page, wire } = car;
  await pass(car, 0);
  await page.goto(`${wire.url}/`);
  await alive(page);
  await openCaseAt(page, wire.url, vehicle);
  await page.getByRole('button', { name: 'Lit for some seconds, then out' }).click();
  await startRun(page);
  await expect(instruction(page)).toHaveText('Measure the battery, rested.');
  await kept(page);
  return new URL(page.url()).pathname;
}
/** The form of a new case is opened by its whole address here. */
async function openCaseAt(page: Page, url: string, vehicle: string) {
  const go = page.goto.bind(page);
  page.goto = (to, options) => go(to.startsWith('/') ? url + to : to, options);
  await openCase(page, { vehicle, ...relearn, changed: [...relearn.changed] });
}

const secondsOf = (left: string | null) => {
  const [, sign, ...parts] = /^([+-]?)(?:(\d+):)?(\d+):(\d+)$/.exec(left ?? '')!;
  const [h, m, s] = parts.map((p) => Number(p ?? 0)) as [number, number, number];
  return (sign === '+' ? -1 : 1) * (h * 3600 + m * 60 + s);
};
const left = async (page: Page) => secondsOf(await page.getByRole('timer').first().textContent());
const unsent = (page: Page) => page.getByRole('alert').filter({ hasText: 'Not sent yet' });
/** Everything has arrived at the server. */
async function sent(page: Page): Promise<void> {
  await expect(unsent(page)).toHaveCount(0);
  await expect(page.getByText('Still to be sent')).toHaveCount(0);
}

test('the wire is cut for 25 minutes: two waits, a reload and a new start of the browser; everything arrives once, in order, with its times', async ({
  car,
  open,
}) => {
  const { wire, server, folder } = car;
  let { page } = car;
  const run = await begun(car, 'Tarn Gantry, out of reach');
  await hasHeard(page, await advance(server, 1));
  await wire.cut();
  const start = await page.evaluate(() => Date.now());

  await measure(page, '12.6');
  await expect(instruction(page)).toHaveText('Switch every load off.');
  await expect(unsent(page)).toContainText('It is saved here and sent again automatically.');
  await answer(page, 'All loads are off');
  await expect(unsent(page)).toContainText('2 answers are saved here and sent in their order.');
  await seeNoViolations(page);
  await answer(page, 'Ignition is on');
  await pass({ server, page }, 60);
  await measure(page, '12.2');
  for (const step of ['Ignition is off', 'A window is open', 'All keys are here', 'New', 'Trouble codes are cleared', 'Key is off and out'])
    await answer(page, step);
  await expect(instruction(page)).toHaveText('Leave the key off.');
  await pass({ server, page }, 12);
  await answer(page, 'Key is on');
  await answer(page, /Light is lit/);
  await expect(instruction(page)).toContainText('Watch the light.');
  const here = () => page.evaluate(() => Date.now());
  let [from, atFirst] = [await here(), await left(page)];
  /** How far the wait that is shown is from the time that went by in this browser, seconds. */
  const off = async () => Math.abs((await left(page)) - (atFirst - ((await here()) - from) / 1000));
  await pass({ server, page }, 300);
  expect(await off()).toBeLessThanOrEqual(1);

  await test.step('a reload', async () => {
    await page.reload();
    await alive(page);
    await expect(instruction(page)).toContainText('Watch the light.');
    await expect.poll(off).toBeLessThanOrEqual(1);
    await expect(unsent(page)).toContainText('12 answers are saved here');
  });

  await test.step('the browser is started again', async () => {
    const stopped = await here();
    await car.context.close();
    await advance(server, 260);
    ({ page } = await open(folder, stopped + 260_000));
    await page.goto(wire.url + run);
    await alive(page);
    await expect(instruction(page)).toContainText('Watch the light.');
    await expect.poll(off).toBeLessThanOrEqual(1);
  });

  await answer(page, /Light is out/);
  await answer(page, 'Key is off');
  await expect(instruction(page)).toHaveText('Leave the key off.');
  await pass({ server, page }, 12);
  await answer(page, 'Key is on');
  await answer(page, /Light is lit/);
  await expect(instruction(page)).toContainText('Watch the light.');
  [from, atFirst] = [await here(), await left(page)];
  await pass({ server, page }, 560);
  expect(await off()).toBeLessThanOrEqual(1);

  // What the test itself took went by in the browser only.
  const mended = await here();
  await advance(server, (mended - start) / 1000 - (60 + 12 + 300 + 260 + 12 + 560));
  await wire.mend();
  await page.clock.fastForward(4000);
  await sent(page);
  await page.reload();
  await alive(page);
  await expect(instruction(page)).toContainText('Watch the light.');
  // The shop's time stands still from then on, but between two of its readings the page goes on.
  const shown = await left(page);
  expect(shown).toBeLessThanOrEqual(atFirst - (mended - from) / 1000 + 1);
  expect(shown).toBeGreaterThanOrEqual(atFirst - ((await here()) - from) / 1000 - 1);

  await test.step('the server has each answer once, at the moment when it was given', async () => {
    await page.goto(`${wire.url}${run.replace(/runs\/\d+$/, 'report')}`);
    const rows = await page.getByRole('row').allTextContents();
    const of = (words: string) => rows.filter((row) => row.includes(words));
    for (const once of ['Measure the battery, rested.', 'A window is open', 'Trouble codes are cleared'])
      expect([once, of(once).length]).toEqual([once, 1]);
    expect(rows.filter((row) => row.includes('Turn tag A on. Do not start.')).length).toBe(2);
  });
});

test('two devices: who came first at the server stands, the other one is told and its answers are kept as a note', async ({ car, open }) => {
  const { wire, server, page } = car;
  const run = await begun(car, 'Tarn Gantry, two hands');
  await wire.cut();
  await measure(page, '12.6');
  await answer(page, 'All loads are off');
  await expect(instruction(page)).toHaveText("Turn the ignition on. Don't start.");

  const folder = mkdtempSync(join(tmpdir(), 'bloodstone-browser-'));
  const other = await open(folder);
  await comeIn(other.context, server, 'Teodor Lusk');
  await other.page.goto(server + run);
  await alive(other.page);
  await measure(other.page, '12.4');
  await expect(instruction(other.page)).toHaveText('Switch every load off.');

  await wire.mend();
  await page.clock.fastForward(4000);
  await expect(page.getByRole('alert').filter({ hasText: 'Someone was faster' })).toContainText('Your 2 answers are kept with the run as a note.');
  await expect(instruction(page)).toHaveText('Switch every load off.');
  await page.goto(`${wire.url}${run.replace(/runs\/\d+$/, 'report')}`);
  await expect(page.getByText('Answered without a connection, too late for the run').first()).toBeVisible();
  await expect(page.getByText(/Measure the battery, rested\. 12\.6 V; .*Switch every load off\. All loads are off/)).toBeVisible();
});

test('a link to a page that is kept opens it; one that is not says what is; signing out takes all of it away', async ({ car }) => {
  const { wire, page } = car;
  const run = await begun(car, 'Tarn Gantry, kept');
  const path = run.replace(/\/runs\/\d+$/, '');
  await page.goto(wire.url + path);
  await alive(page);
  await kept(page);
  await wire.cut();
  await page.goto(wire.url + run);
  await alive(page);
  await page.getByRole('link', { name: /^Case \d+$/ }).click();
  await expect(page).toHaveURL(wire.url + path);
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Tarn Gantry, kept');
  await page.goto(`${wire.url}/shop`);
  await expect(page.getByRole('heading', { name: 'No connection' })).toBeVisible();
  await expect(page.getByRole('listitem').filter({ hasText: 'Relearn without a scan tool' })).toBeVisible();

  await wire.mend();
  await page.goto(wire.url + run);
  await alive(page);
  await page.getByRole('button', { name: /Ines Marrow/ }).click();
  await page.getByRole('menuitem', { name: 'Sign out' }).click();
  await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible();
  await expect
    .poll(() => page.evaluate(async () => [await caches.has('bloodstone-pages'), (await caches.match(location.origin + '/')) === undefined]))
    .toEqual([false, true]);
  await wire.cut();
  await page.goto(wire.url + run);
  await expect(page.getByText('No page is kept on this device yet.')).toBeVisible();
});

test('a new version of the app comes while a run is open: it waits, and the run goes on, also without a connection and after a reload', async ({
  car,
}) => {
  const { wire, page } = car;
  await begun(car, 'Tarn Gantry, new version');
  wire.newVersion();
  await page.evaluate(async () => void (await (await navigator.serviceWorker.ready).update()));
  await page.waitForFunction(async () => (await navigator.serviceWorker.ready).waiting !== null);
  await measure(page, '12.6');
  await expect(instruction(page)).toHaveText('Switch every load off.');
  await wire.cut();
  await answer(page, 'All loads are off');
  await expect(instruction(page)).toHaveText("Turn the ignition on. Don't start.");
  await page.reload();
  await alive(page);
  await expect(instruction(page)).toHaveText("Turn the ignition on. Don't start.");
  await wire.mend();
  await page.clock.fastForward(4000);
  await sent(page);
});
