import type { Page, Request } from '@playwright/test';
import { alive, expect, inWorldOfItsOwn, openCase, openRow, prepare, startRun } from './harness';

const test = inWorldOfItsOwn();

/**
 * Every act of every page, done twice at once: by two clicks before anything is drawn anew, as a script or a hand that trembles would. Whatever goes to
 * the server goes under one id, so it is done once.
 */

/** Acts that are sent, each with its id, whatever its form. */
function sentActs(request: Request): { intent: string; id: string } | null {
  if (request.method() !== 'POST') return null;
  const body = request.postData() ?? '';
  const field = (name: string) =>
    new RegExp(`(?:^|&)${name}=([^&]*)`).exec(body)?.[1] ?? // a form
    new RegExp(`"${name}":"([^"]*)"`).exec(body)?.[1] ?? // JSON
    new RegExp(`name="${name}"\\r\\n\\r\\n([^\\r]*)`).exec(body)?.[1]; // a form with a file
  const id = field('commandId') ?? (/\/runs\/\d+\/commands/.test(request.url()) ? field('id') : undefined);
  return id === undefined ? null : { intent: field('intent') ?? field('type') ?? '', id };
}

/** Fills what is empty, so that an act is not refused before it is sent. */
async function fillIn(page: Page): Promise<void> {
  await page.evaluate(() => {
    for (const el of document.querySelectorAll<HTMLInputElement | HTMLTextAreaElement>(
      'main input:not([type]), main input[type=text], main textarea',
    )) {
      if (el.value !== '' || el.disabled || el.readOnly || el.getAttribute('aria-hidden') === 'true') continue;
      const set = Object.getOwnPropertyDescriptor(Object.getPrototypeOf(el) as object, 'value')!.set!;
      set.call(el, el.inputMode === 'decimal' || el.inputMode === 'numeric' ? '12' : 'Twice at once, words enough');
      el.dispatchEvent(new Event('input', { bubbles: true }));
    }
    for (const el of document.querySelectorAll<HTMLInputElement>('main input[type=checkbox]:not(:checked)')) if (!el.disabled) el.click();
    const groups = new Set([...document.querySelectorAll<HTMLInputElement>('main input[type=radio]')].map((r) => r.name));
    for (const name of groups) {
      const radios = [...document.querySelectorAll<HTMLInputElement>(`main input[type=radio][name="${CSS.escape(name)}"]`)].filter(
        (r) => !r.disabled,
      );
      if (!radios.some((r) => r.checked)) radios[0]?.click();
    }
  });
}

/** Acts that end what the others need come last. */
const lasting = /Park|Close|Out of use|Erase|Discard|locked|Lock|Retire|Not offered|Reset|signed out/;

/** The buttons that can be touched on the page, each by its name and how many of that name stand before it. */
async function buttonsOf(page: Page): Promise<{ name: string; nth: number }[]> {
  const names = await page.evaluate(() =>
    [...document.querySelectorAll<HTMLButtonElement>('main button:not([disabled])')]
      .filter((b) => b.offsetParent !== null)
      .map((b) => (b.getAttribute('aria-label') ?? b.textContent ?? '').trim().slice(0, 60)),
  );
  // What opens the browser's own file picker needs a person's touch.
  const found = names
    .filter((name) => !/file|photo|CSV/i.test(name))
    .map((name, i) => ({ name, nth: names.slice(0, i).filter((n) => n === name).length }));
  return [...found.filter((b) => !lasting.test(b.name)), ...found.filter((b) => lasting.test(b.name))];
}

/** The browser's own file picker needs a person's touch, and complains without one. */
const withoutPicker = (page: Page) =>
  page.addInitScript(() => {
    const click = HTMLInputElement.prototype.click;
    HTMLInputElement.prototype.click = function (this: HTMLInputElement) {
      if (this.type !== 'file') click.call(this);
    };
  });

/** What stands in a closed part of a page is loaded when it is opened. */
async function openAll(page: Page): Promise<void> {
  await page.evaluate(() => document.querySelectorAll('main details').forEach((d) => ((d as HTMLDetailsElement).open = true)));
  // Opened, it is shown a moment later, and loaded after that.
  await page.waitForFunction(() => [...document.querySelectorAll('main details')].every((d) => d.children.length > 1));
  await expect(page.getByText('One moment …')).toHaveCount(0);
}

/** Whether the page asks the server for its clock from now on, which it does before it sends what could also wait; and when it was answered. */
function questionsOf(page: Page): { answered(): Promise<boolean> } {
  const answers: Promise<unknown>[] = [];
  const note = (request: Request) => {
    if (new URL(request.url()).pathname === '/clock') answers.push(request.response().catch(() => null));
  };
  page.on('request', note);
  return {
    async answered() {
      page.off('request', note);
      await Promise.all(answers);
      return answers.length > 0;
    },
  };
}

/** Clicks each button of a page twice at once, each on the page as it was opened; every act that came of it has one id. */
async function everyButton(page: Page, address: string, acts: Map<string, Set<string>>): Promise<string[]> {
  const twice: string[] = [];
  await withoutPicker(page);
  await page.goto(address);
  await alive(page);
  await openAll(page);
  const buttons = await buttonsOf(page);
  let stale = false;
  for (const { name, nth } of buttons) {
    if (stale) {
      await page.goto(address);
      await page.waitForLoadState('load');
      await expect(page.locator('main')).toBeVisible();
      await page.waitForFunction(() => Object.keys(document.querySelector('main') ?? {}).some((k) => k.startsWith('__react')));
      await openAll(page);
    }
    await fillIn(page);
    const seen: { intent: string; id: string }[] = [];
    const listen = (request: Request) => {
      const act = sentActs(request);
      if (act) seen.push(act);
    };
    page.on('request', listen);
    const asked = questionsOf(page);
    const before = page.url();
    const clicked = await page.evaluate(
      (wanted) => {
        const button = [...document.querySelectorAll<HTMLButtonElement>('main button:not([disabled])')].filter(
          (b) => b.offsetParent !== null && (b.getAttribute('aria-label') ?? b.textContent ?? '').trim().slice(0, 60) === wanted.name,
        )[wanted.nth];
        if (!button) return false;
        button.click();
        button.click();
        return true;
      },
      { name, nth },
    );
    // What a click sends is sent before the next frame, by an effect right after it, or once the server has said that it can be reached.
    const drawn = () => page.evaluate(() => new Promise((done) => requestAnimationFrame(() => setTimeout(done, 60))));
    await drawn();
    if (await asked.answered()) await drawn();
    page.off('request', listen);
    for (const { intent } of seen) acts.set(intent, (acts.get(intent) ?? new Set()).add(`${address} ${name}`));
    const ids = new Set(seen.map((a) => a.id));
    if (ids.size > 1) twice.push(`${address}: “${name}” sent ${seen.map((a) => `${a.intent} ${a.id}`).join(', ')}`);
    // A page that something was done on, or that shows something else now, is opened anew for the next button.
    stale = !clicked || seen.length > 0 || page.url() !== before || (await page.getByRole('dialog').count()) > 0;
  }
  return twice;
}

test('a doubled click in a run answers one step, not the next one as well', async ({ page }) => {
  await openCase(page, {
    vehicle: 'Tarn Gantry, doubled',
    system: /Tarn Gantry/,
    keys: [{ tag: 'A', role: 'main' }],
    changed: ['ECM replaced'],
    authority: true,
  });
  await page.getByRole('button', { name: 'Lit for some seconds, then out' }).click();
  await startRun(page);
  await page.waitForURL(/\/runs\/\d+$/);
  await prepare(page);
  const sent: string[] = [];
  page.on('request', (request) => {
    const act = sentActs(request);
    if (act) sent.push(act.id);
  });
  const before = await page.getByRole('heading', { level: 1 }).textContent();
  const button = page.locator('main button').filter({ hasText: /^u/ });
  await expect(button).toBeVisible();
  // Its second click comes when the next step stands there.
  await button.click();
  await expect(page.getByRole('heading', { level: 1 })).not.toHaveText(before!);
  const answers = page.locator('main button[class*=answer]');
  await answers.first().dblclick({ delay: 60 });
  await alive(page);
  expect(new Set(sent).size).toBe(2);
});

test('a touch before the page is alive is done as soon as it is, with what was typed', async ({ page }) => {
  const path = await openCase(page, { vehicle: 'Tarn Gantry, touched early', system: /Tarn Gantry/, keys: [{ tag: 'A', role: 'main' }] });
  await openRow(page, 'Park the case');
  const park = page.getByRole('form', { name: 'Park the case' });
  await park.getByRole('textbox').fill('Waits for a key.');
  await park.getByRole('button', { name: 'Park it' }).click();
  const state = page.getByRole('region', { name: 'State of the case' });
  await expect(state).toContainText('Waits for a key.');
  let release = () => {};
  const held = new Promise<void>((resolve) => (release = resolve));
  await page.route('**/assets/*.js', async (route) => {
    await held;
    await route.continue();
  });
  await page.goto(path, { waitUntil: 'commit' });
  await state.getByLabel('Why it is reopened').fill('The key is here.');
  await state.getByRole('button', { name: 'Reopen it' }).click();
  await state.getByRole('button', { name: 'Reopen it' }).click();
  await expect(page.locator('html')).not.toHaveAttribute('data-alive');
  release();
  await expect(state).toHaveCount(0);
  await expect(page.locator('html')).toHaveAttribute('data-alive', 'true');
  await expect(page.getByRole('heading', { name: 'Park the case' })).toBeAttached();
  expect(new URL(page.url()).pathname).toBe(path);
});

test.describe('every act, twice at once', () => {
  test.use({ as: 'Maud Ferrow' });

  test('pages of a case', async ({ page }) => {
    test.setTimeout(600_000);
    const acts = new Map<string, Set<string>>();
    const twice: string[] = [];
    const path = await openCase(page, {
      vehicle: 'Tarn Gantry, twice',
      system: /Tarn Gantry/,
      keys: [{ tag: 'A', role: 'main' }, { tag: 'B' }],
      changed: ['ECM replaced'],
      authority: true,
    });
    for (const part of ['/triage', '/keys/A', '/intake', '/identify', '/codes', '/replacement', '/verify', '?do=lamp&key=A', '', '/hand-over'])
      twice.push(...(await everyButton(page, path + part, acts)));
    expect(twice).toEqual([]);
    for (const intent of ['evidence', 'counter', 'change', 'custody', 'park', 'reopen', 'close']) expect([...acts.keys()]).toContain(intent);
  });

  test('calls, the bench, the library and the shop', async ({ page }) => {
    test.setTimeout(600_000);
    const acts = new Map<string, Set<string>>();
    const twice: string[] = [];
    for (const address of [
      '/cases/new',
      '/calls/new',
      '/calls/1',
      '/bench/trials?case=5',
      '/bench/bursts?case=5',
      '/bench/battery',
      '/bench/ladder?case=8&key=A',
      '/bench/lamp?case=5',
      '/library/profiles/new',
      '/library/ladders',
      '/shop',
      '/shop/meters',
      '/shop/prices',
      '/shop/learned',
      '/shop/people',
    ])
      twice.push(...(await everyButton(page, address, acts)));
    expect(twice).toEqual([]);
    for (const intent of ['open', 'keep', 'takeIn', 'saveShop', 'addBay']) expect([...acts.keys()]).toContain(intent);
  });
});
