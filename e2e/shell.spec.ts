import { alive, comeIn, expect, openCase, openRow, prepare, seeNoViolations, startRun, test } from './harness';

/** Every kind of page, with the demo world on it. */
const pages = [
  '/',
  '/cases',
  '/cases?state=closed&q=dead',
  '/cases/import',
  '/cases/new',
  '/cases/5',
  '/cases/6',
  '/cases/5/intake',
  '/cases/5/keys/A',
  '/cases/5/keys/new',
  '/cases/5/labels',
  '/cases/4/runs/2',
  '/cases/4/replacement?asked=&engine=donor&tool=scan+tool',
  '/cases/6/codes',
  '/cases/5/vault',
  '/shop/vault',
  '/shop/backups',
  '/shop/prices',
  '/shop/learned',
  '/cases/5/options',
  '/cases/3/papers',
  '/cases/1/after',
  '/cases/3/verify',
  '/cases/3/hand-over',
  '/cases/3/report',
  '/find?q=tarn',
  '/library',
  '/library?q=horn',
  '/library/codes?codes=P0562-16,U0100,P0633,P0351,U0184&profile=tarn-gantry',
  '/library/import',
  '/library/profiles/new',
  '/library/profiles/tarn-gantry',
  '/library/profiles/tarn-gantry/compare?a=tarn-sluice',
  '/bench',
  '/bench/memory?layout=dunmore-five',
  '/bench/bursts?case=5',
  '/library/layouts',
  '/library/layouts/dunmore-mirrored',
  '/shop',
  '/shop/me',
  '/shop/people',
  '/shop/devices',
  '/shop/addresses',
  '/shop/audit',
  '/nowhere',
];

// Contrast depends on the scheme and cutting on the width, hardly anything on both: each once.
for (const [width, scheme] of [
  [1280, 'light'],
  [360, 'dark'],
] as const) {
  test.describe(() => {
    test.use({ as: 'Maud Ferrow' });
    test(`no axe violations and nothing cut, ${scheme}, ${width} px`, async ({ page, complaints }) => {
      test.setTimeout(300_000);
      await page.emulateMedia({ colorScheme: scheme, reducedMotion: 'reduce' });
      await page.setViewportSize({ width, height: 844 });
      for (const path of pages) {
        await page.goto(path);
        await expect(page.getByRole('heading', { level: 1 }).first()).toBeAttached();
        const wide = await page.evaluate(() => document.documentElement.scrollWidth);
        expect.soft([path, wide]).toEqual([path, Math.min(wide, width)]);
        expect.soft([path, ...complaints.splice(0)]).toEqual([path]);
        await test.step(path, () => seeNoViolations(page));
      }
    });
  });
}

test('a parked case fits the smallest phone', async ({ page }) => {
  await page.setViewportSize({ width: 360, height: 844 });
  await openCase(page, { vehicle: 'Tarn Gantry, parked' });
  await openRow(page, 'Park the case');
  await page.getByLabel('Why it has to wait').fill('Waits for a key from the dealer');
  await page.getByRole('button', { name: 'Park it' }).click();
  await expect(page.getByRole('button', { name: 'Reopen it' })).toBeVisible();
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(360);
});

test('dialogs of a run have no axe violations and keep the keys to themselves', async ({ page }) => {
  await openCase(page, { vehicle: 'Tarn Gantry, dialogs', changed: ['ECM replaced'], authority: true });
  await page.getByRole('button', { name: 'Lit for some seconds, then out' }).click();
  await startRun(page);
  await prepare(page);
  for (const name of ['Something else happened', 'Stop the run']) {
    await page.getByRole('button', { name }).click();
    await expect(page.getByRole('dialog')).toBeVisible();
    await seeNoViolations(page);
    await page.keyboard.press('n');
    await expect(page).toHaveURL(/\/runs\/\d+$/);
    await page.keyboard.press('Escape');
    await expect(page.getByRole('dialog')).toBeHidden();
  }
});

test('keys go to places, find, and show themselves', async ({ page }) => {
  await page.goto('/');
  await expect(page.getByRole('list', { name: 'Running waits' })).toBeAttached();
  await alive(page).catch(() => {});
  for (const [key, path] of [
    ['c', '/cases'],
    ['l', '/library'],
    ['s', '/shop'],
    ['f', '/'],
  ] as const) {
    await page.keyboard.press('g');
    await page.keyboard.press(key);
    await expect(page).toHaveURL(path);
  }
  await page.keyboard.press('/');
  await page.waitForURL('/find');
  await page.getByRole('search').getByRole('textbox').fill('4-18-THB');
  await page.keyboard.press('Enter');
  await page
    .getByRole('main')
    .getByRole('link', { name: /Tarn Gantry pickup, gray/ })
    .click();
  await page.waitForURL('/cases/4');
  await page.keyboard.press('Shift+?');
  await expect(page.getByRole('dialog', { name: 'Keyboard shortcuts' })).toContainText('go to Floor');
});

// Longer than the drawn code of a key tag, so that none begins so by chance.
test('nothing is found: it says what to try', async ({ page }) => {
  await page.goto('/find?q=%25_zzzzzzzzz');
  await expect(page.getByText('Nothing found for “%_zzzzzzzzz”. Try fewer letters')).toBeVisible();
});

test('the colour scheme follows the system, is switched by the person, and stays', async ({ page, complaints }) => {
  await page.emulateMedia({ colorScheme: 'dark' });
  await page.goto('/');
  const ground = () => page.evaluate(() => getComputedStyle(document.body).backgroundColor);
  await expect.poll(ground).toBe('rgb(16, 32, 27)');
  await page.getByRole('button', { name: 'Light colors' }).click();
  await expect.poll(ground).toBe('rgb(244, 241, 234)');
  // Before any script of the page has run: the first paint has the right colours.
  await page.route('**/assets/*.js', (route) => route.abort());
  await page.reload({ waitUntil: 'domcontentloaded' });
  expect(await ground()).toBe('rgb(244, 241, 234)');
  await page.unroute('**/assets/*.js');
  // The scripts that were held back are missed, and nothing else.
  expect(complaints.filter((c) => !c.includes('ERR_FAILED'))).toEqual([]);
  complaints.length = 0;
});

test('styles are in the server’s page: it reads without scripts', async ({ browser, baseURL }) => {
  const context = await browser.newContext({ javaScriptEnabled: false });
  await comeIn(context, baseURL!, 'Ines Marrow');
  const page = await context.newPage();
  await page.goto(`${baseURL}/cases/new`);
  await expect(page.getByRole('button', { name: 'Open the case' })).toHaveCSS('background-color', 'rgb(42, 116, 84)');
  await page.goto(`${baseURL}/cases/4/runs/2`);
  await expect(page.getByRole('timer')).toBeVisible();
  await context.close();
});

test('an answer that nobody waits for any more is no error of the page; anything else is', async ({ page, complaints }) => {
  await page.goto('/');
  await alive(page);
  await page.evaluate(async () => {
    const letGo = new AbortController();
    const answer = await fetch('/live', { signal: letGo.signal });
    const uncaught = new Promise((resolve) => window.addEventListener('unhandledrejection', resolve, { once: true }));
    void answer.text();
    letGo.abort();
    await uncaught;
  });
  expect(complaints).toEqual([]);
  const told = page.waitForEvent('pageerror');
  await page.evaluate(() => void Promise.reject(new Error('a real one')));
  expect((await told).message).toBe('a real one');
  complaints.length = 0;
});

test('a wrong address helps', async ({ page }) => {
  await page.goto('/cases/4711');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Case not found');
  await expect(page.getByText('No case has the number 4711.')).toBeVisible();
  await page.getByRole('link', { name: 'to the cases' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Open');
});
