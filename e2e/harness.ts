import { randomUUID } from 'node:crypto';
import axe from 'axe-core';
import { type BrowserContext, test as base, expect, type Locator, type Page } from '@playwright/test';
import { changes, symptoms } from '../core/library';
import { serveWorker } from './server';

export { expect };

/** Password and PIN of the demo's people, as the sign-in page shows them. */
export const people = {
  'Teodor Lusk': { password: 'samphire in the rain', pin: '204060' },
  'Ines Marrow': { password: 'curlew over the flats', pin: '135790' },
  'Maud Ferrow': { password: 'low tide at wexmoor', pin: '908070' },
} as const;
export type DemoName = keyof typeof people;

/** Signs a browser in without its pages. */
export async function comeIn(context: BrowserContext, baseURL: string, name: DemoName): Promise<void> {
  const form = { name, password: people[name].password };
  const answer = await context.request.post(`${baseURL}/sign-in`, { form, headers: { Origin: baseURL }, maxRedirects: 0 });
  expect(answer.status()).toBe(302);
}

/** Until the page answers to what is done to it. */
export async function alive(page: Page): Promise<void> {
  await page.waitForFunction(() => document.documentElement.dataset.alive === 'true');
}

interface Noting extends Window {
  /** The latest moment of the shop's clock that the page was told. */
  heardOfClock?: number;
}
/** Runs in the page before it: notes what the page is told of the clock, on the same line and just before the page hears it. */
export function noteClock(): void {
  const Line = window.EventSource;
  window.EventSource = class extends Line {
    constructor(url: string | URL, init?: EventSourceInit) {
      super(url, init);
      this.addEventListener('clock', (event) => {
        (window as Noting).heardOfClock = (JSON.parse((event as MessageEvent<string>).data) as { now: number }).now;
      });
    }
  };
}

/** Runs in the page before it: a machine that is slow and shared is not a lost connection, so the page waits longer for an answer. */
export function waitLonger(): void {
  const timeout = AbortSignal.timeout.bind(AbortSignal);
  AbortSignal.timeout = (ms) => timeout(ms * 10);
}

/** Until the page was told of that moment of the shop's clock, or hears of nothing at all. */
export async function hasHeard(page: Page, now: number): Promise<void> {
  const heard = (now: number) => (window as Noting).heardOfClock === undefined || (window as Noting).heardOfClock! >= now;
  await page.waitForFunction(heard, now, { timeout: 5000 });
}

interface Fixtures {
  /** Who is signed in when the test begins. */
  as: DemoName | null;
  /** The page waits longer for an answer than it does by itself. */
  patient: boolean;
  complaints: string[];
  advance: (seconds: number) => Promise<void>;
}

/** A page that fails its test when the browser complains: a hydration warning, a blocked style, an exception. */
export const test = base.extend<Fixtures, { served: { url: string } }>({
  served: [
    // eslint-disable-next-line no-empty-pattern -- fixtures are told apart by this pattern
    async ({}, use, { parallelIndex }) => {
      const { url, end } = await serveWorker(parallelIndex);
      await use({ url });
      await end();
    },
    { scope: 'worker', timeout: 120_000 },
  ],
  baseURL: async ({ served }, use) => use(served.url),
  as: ['Ines Marrow', { option: true }],
  patient: [true, { option: true }],
  page: async ({ page, baseURL, as, patient }, use) => {
    if (as) await comeIn(page.context(), baseURL!, as);
    await page.addInitScript(noteClock);
    if (patient) await page.addInitScript(waitLonger);
    await use(page);
  },
  complaints: [
    async ({ page }, use) => {
      const complaints: string[] = [];
      page.on('console', (message) => {
        // Expected refusals are answers with 4xx; the browser notes each of them.
        // Service workers are kept out of all tests but those of offline.spec.
        if (/Service Worker registration blocked/.test(message.text())) return;
        // A hint about speed, on a machine that takes more than some seconds to come alive.
        if (/was preloaded using link preload but not used within a few seconds/.test(message.text())) return;
        if (
          ['error', 'warning'].includes(message.type()) &&
          !/Failed to load resource: (the server responded with a status of 4|net::ERR_INTERNET_DISCONNECTED|net::ERR_CONNECTION_RESET)/.test(
            message.text(),
          )
        )
          complaints.push(message.text());
      });
      page.on('pageerror', (error) => complaints.push(error.message));
      await use(complaints);
      expect(complaints).toEqual([]);
    },
    { auto: true },
  ],
  /**
   * Moves the shop's clock and tells open pages. What a person would do next comes seconds later, so it is waited until the test's page has heard of it; a
   * page that hears of nothing, since its line is down, is not waited for for long.
   */
  advance: async ({ request, baseURL, page }, use) => {
    await use(async (seconds) => {
      const answer = await request.post('/test/clock', { data: { advanceMs: seconds * 1000 }, headers: { Origin: baseURL! } });
      expect(answer.status()).toBe(200);
      const { now } = (await answer.json()) as { now: number };
      await hasHeard(page, now).catch(() => {});
    });
  },
});

/** For a file whose tests read or change what is everybody's (all lanes, bays, people): a server of its own, on the demo world as it was made. */
export const inWorldOfItsOwn = () =>
  test.extend<object, { served: { url: string } }>({
    served: [
      // eslint-disable-next-line no-empty-pattern -- fixtures are told apart by this pattern
      async ({}, use, { parallelIndex }) => {
        const { url, end } = await serveWorker(parallelIndex + 10);
        await use({ url });
        await end();
      },
      { scope: 'worker', timeout: 120_000 },
    ],
  });

export interface Intake {
  vehicle: string;
  words?: string;
  symptoms?: string[];
  changed?: string[];
  system?: string | RegExp;
  bay?: string;
  keys?: { tag: string; role?: string }[];
  authority?: boolean;
}

/** What a world's intake offers, by the words of its lists: system types and bays. Read once of each server, and again when something is missing. */
type Offered = Record<'systems' | 'bays', Map<string, string>>;
const offered = new Map<string, Offered>();
async function valueOf(page: Page, origin: string, list: keyof Offered, wanted: string | RegExp): Promise<string> {
  const find = () =>
    [...(offered.get(origin)?.[list] ?? [])].find(([label]) => (typeof wanted === 'string' ? label.includes(wanted) : wanted.test(label)))?.[1];
  if (!find()) {
    await page.goto('/cases/new');
    await alive(page);
    const { systems, bays } = await page.evaluate(() => {
      interface Form {
        systems: { value: string; title: string; note: string }[];
        bays: { id: string; name: string }[];
      }
      interface Router {
        state: { loaderData: Record<string, Form | { systems?: never } | null> };
      }
      const { state } = (window as unknown as { __reactRouterDataRouter: Router }).__reactRouterDataRouter;
      return Object.values(state.loaderData).find((data): data is Form => Boolean(data?.systems))!;
    });
    offered.set(origin, {
      systems: new Map(systems.map((s) => [`${s.title}, ${s.note}`, s.value])),
      bays: new Map(bays.map((b) => [b.name, b.id])),
    });
  }
  const found = find();
  if (!found) throw new Error(`Nothing among the ${list} of the intake is called ${wanted}`);
  return found;
}

const idOf = (labels: Record<string, string>, label: string): string => {
  const [id] = Object.entries(labels).find(([, l]) => l === label) ?? [];
  if (!id) throw new Error(`Nothing in the intake is called ${label}`);
  return id;
};

/** Opens a case with what the form of a new case would send; the form itself is gone through in intake.spec, way.spec and walks.spec. */
export async function openCase(page: Page, intake: Intake): Promise<string> {
  const { request } = page.context();
  if (!page.url().startsWith('http')) await page.goto('/clock');
  const { origin } = new URL(page.url());
  const answer = await request.post(`${origin}/cases/new`, {
    headers: { Origin: origin },
    maxRedirects: 0,
    data: {
      intent: 'open',
      commandId: randomUUID(),
      vehicle: intake.vehicle,
      words: intake.words ?? 'It does not start.',
      symptoms: (intake.symptoms ?? []).map((s) => idOf(symptoms, s)),
      changed: (intake.changed ?? []).map((c) => ({ what: idOf(changes, c) })),
      system: await valueOf(page, origin, 'systems', intake.system ?? /Tarn Gantry/),
      bay: intake.bay === undefined ? '' : await valueOf(page, origin, 'bays', intake.bay),
      keys: (intake.keys ?? [{ tag: 'A' }]).map(({ tag }, i) => ({ tag, role: i === 0 ? 'main' : 'unknown', here: true })),
      authority: intake.authority ? [{ kind: 'registration', note: '' }] : [],
    },
  });
  const path = answer.headers().location ?? '';
  expect([answer.status(), path]).toEqual([302, expect.stringMatching(/^\/cases\/\d+$/)]);
  await page.goto(path);
  await alive(page);
  return path;
}

export async function choose(page: Page, label: string, option: string | RegExp): Promise<void> {
  await page.getByRole('combobox', { name: label }).click();
  await page.getByRole('option', { name: option }).first().click();
}

/** Opens a row of the case's record, as a person would, where it is closed. */
export async function openRow(page: Page, title: string): Promise<Locator> {
  const row = page
    .getByRole('region', { name: 'Record', exact: true })
    .locator('details')
    .filter({ has: page.getByRole('heading', { name: title, exact: true }) });
  // A link that leads to a row opens it by itself, a moment after its page is there: then the click would have closed it.
  await expect(async () => {
    if ((await row.getAttribute('open')) === null) await row.locator('summary').click();
    await expect(row).toHaveAttribute('open', '', { timeout: 1000 });
  }).toPass();
  return row;
}

/** What the page of a case proposes once the answer that looks far ahead is there, and what that one would rather do is taken. */
export async function proposed(page: Page): Promise<string> {
  const next = page.getByRole('region', { name: 'Next' });
  const instead = next.getByRole('button', { name: 'Show that instead' });
  // What is offered goes when the page looks again, and may come back.
  await expect(async () => {
    await expect(next).toHaveAttribute('aria-busy', 'false', { timeout: 20_000 });
    if (await instead.count()) await instead.click({ timeout: 2000 });
    await expect(instead).toHaveCount(0, { timeout: 2000 });
  }).toPass({ timeout: 60_000 });
  return (await next.getByRole('heading', { level: 2 }).textContent())!;
}

/** Goes to a procedure of the case, as it is proposed or stands among what could be done instead. */
export async function toProcedure(page: Page, title = 'Relearn without a scan tool, ignition on'): Promise<void> {
  const next = page.getByRole('region', { name: 'Next' });
  const other = next.getByRole('link', { name: title, exact: true });
  await expect(next.getByRole('heading', { level: 2, name: `${title}.` }).or(other)).toBeVisible({ timeout: 40_000 });
  if ((await proposed(page)) !== `${title}.`) await other.click();
  await expect(next.getByRole('heading', { level: 2, name: `${title}.` })).toBeVisible();
}

export async function startRun(page: Page, title?: string): Promise<void> {
  await toProcedure(page, title);
  const seenTo = page.getByLabel('All precautions taken');
  if (await seenTo.count()) await seenTo.check();
  await page.getByRole('button', { name: 'Start the run' }).click();
}

/** The one large instruction of a run. */
export const instruction = (page: Page) => page.getByRole('heading', { level: 1 });

/** Answers the step that is shown, and waits until the run has moved on. */
export async function answer(page: Page, name: string | RegExp): Promise<void> {
  await page.getByRole('main').getByRole('button', { name }).first().click();
}

export async function measure(page: Page, volts: string): Promise<void> {
  await page.getByLabel(/^Measured/).fill(volts);
  await page.getByRole('button', { name: 'Record' }).click();
}

/** The ignition on, a minute of it passed, and what the battery shows then. */
export async function underLoad(page: Page, volts: string): Promise<void> {
  await answer(page, 'Ignition is on');
  await expect(instruction(page)).toHaveText('Leave the ignition on.');
  const { origin } = new URL(page.url());
  expect((await page.request.post(`${origin}/test/clock`, { data: { advanceMs: 60_000 }, headers: { Origin: origin } })).status()).toBe(200);
  await expect(instruction(page)).toHaveText('Measure the battery again while the ignition is on.');
  await measure(page, volts);
  await answer(page, 'Ignition is off');
}

/** From the first step of the relearn to the key being out. */
export async function prepare(page: Page): Promise<void> {
  await expect(instruction(page)).toHaveText('Measure the battery, rested.');
  await measure(page, '12,62');
  await answer(page, 'All loads are off');
  await underLoad(page, '12.2');
  await answer(page, 'A window is open');
  await answer(page, 'All keys are here');
  await answer(page, 'New');
  await answer(page, 'Trouble codes are cleared');
  await answer(page, 'Key is off and out');
  await expect(instruction(page)).toHaveText('Leave the key off.');
}

/** Off time over, key on, lamp lit: the dwell has begun. */
export async function intoDwell(page: Page, advance: (seconds: number) => Promise<void>, tag = 'A'): Promise<void> {
  await advance(8);
  await expect(instruction(page)).toHaveText(`Turn tag ${tag} on. Do not start.`);
  await answer(page, 'Key is on');
  await answer(page, /Light is lit/);
  await expect(instruction(page)).toContainText('Watch the light.');
}

/** One good round, ending with the key off. */
export async function round(page: Page, advance: (seconds: number) => Promise<void>): Promise<void> {
  await intoDwell(page, advance);
  await advance(560);
  await answer(page, /Light is out/);
  await answer(page, 'Key is off');
}

const { source: axeSource } = axe;
const rules = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'];

/** The rules' script is put into a page once; it is half a megabyte. */
export async function seeNoViolations(page: Page): Promise<void> {
  const there = await page.evaluate(() => 'axe' in window);
  if (!there) await page.evaluate(axeSource);
  const found = await page.evaluate(async (values) => {
    const { violations } = await (window as unknown as { axe: typeof axe }).axe.run({
      runOnly: { type: 'tag', values },
      resultTypes: ['violations'],
    });
    return violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.html.slice(0, 200)).join(' | ')}`);
  }, rules);
  expect.soft(found).toEqual([]);
}

/** How a look is begun, held and ended: by keyboard, mouse or finger. */
export interface Hand {
  begin: () => Promise<unknown>;
  down: () => Promise<unknown>;
  up: () => Promise<unknown>;
  end: () => Promise<unknown>;
}
export const keyboard = (page: Page): Hand => ({
  begin: () => page.getByRole('button', { name: /^Tap along/ }).press('Enter'),
  down: () => page.keyboard.down('Space'),
  up: () => page.keyboard.up('Space'),
  end: () => page.keyboard.press('Enter'),
});

/**
 * Taps along with a lamp on the page's own clock, which the test must have installed before the page was opened; it stands still between the taps.
 * @param lights begin and end of each, seconds from the beginning of the look
 */
export async function tapAlong(page: Page, lights: [number, number][], lengthS: number, hand: Hand): Promise<void> {
  await page.clock.pauseAt((await page.evaluate(() => Date.now())) + 1000);
  await hand.begin();
  await expect(page.getByText(/at zero\.$/)).toBeVisible();
  await page.clock.runFor(3000);
  let now = 0;
  const until = async (s: number) => {
    const ms = Math.round((s - now) * 1000);
    if (ms > 0) await page.clock.runFor(ms);
    now = s;
  };
  for (const [on, off] of lights) {
    await until(on);
    await hand.down();
    await until(off);
    await hand.up();
  }
  await until(lengthS);
  await hand.end();
  await page.clock.resume();
}
/** Even flashes: the first at `from`, one every `every` seconds, lit for `lit`. */
export const flashes = (n: number, from: number, every: number, lit: number): [number, number][] =>
  Array.from({ length: n }, (_, i) => [from + i * every, from + i * every + lit]);

/** Holds requests until it is opened. */
function gate() {
  let open = () => {};
  const opened = new Promise<void>((resolve) => (open = resolve));
  return { opened, open: () => open() };
}

/**
 * Lets the page look again on its own while an act is under way, so that it shows what the act brought before the act's own answer is in.
 * @param data part of the address under which the page's data is asked for
 * @returns lets the answer in
 */
export async function lookOvertakes(page: Page, data: string): Promise<() => void> {
  const [look, answer] = [gate(), gate()];
  await page.route(`**${data}*`, async (route) => {
    if (route.request().method() === 'GET') {
      await look.opened;
      return route.continue();
    }
    const response = await route.fetch();
    look.open();
    await answer.opened;
    await route.fulfill({ response });
  });
  const looking = page.waitForRequest((r) => r.method() === 'GET' && r.url().includes(data));
  await page.evaluate(() => window.dispatchEvent(new Event('focus')));
  await looking;
  return answer.open;
}
