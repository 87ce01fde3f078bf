import { alive, comeIn, expect, inWorldOfItsOwn, seeNoViolations } from './harness';

/** What is seen without signing in, by a secret address. */
const test = inWorldOfItsOwn();

test('a wall screen shows the Floor without names until it is revoked; a calendar has what is due', async ({ page, context, browser, baseURL }) => {
  await context.clearCookies();
  await comeIn(context, baseURL!, 'Maud Ferrow');
  await page.goto('/shop/addresses');
  await alive(page);
  await expect(page.getByText('No address yet.')).toBeVisible();
  await seeNoViolations(page);
  await page.getByRole('button', { name: 'Make the address' }).click();
  await expect(page.getByRole('alert').first()).toContainText('not right yet');
  const make = async (name: string, change: () => Promise<void> = async () => {}) => {
    await page.getByLabel('Name').fill(name);
    await change();
    await page.getByRole('button', { name: 'Make the address' }).click();
    await expect(page.getByText(`The address of “${name}” is shown only now.`)).toBeVisible();
    return (await page.getByText(/\/(wall|calendar)\//).textContent())!.trim();
  };
  const wall = await make('Screen over bay 1');
  const named = await make('Screen in the office', () => page.getByRole('checkbox', { name: 'Show vehicles and plates' }).check());
  const calendar = await make('Phone of the lead', async () => {
    await page.getByRole('combobox', { name: 'For' }).click();
    await page.getByRole('option', { name: 'Calendar of due times' }).click();
  });

  const outside = await browser.newContext({ viewport: { width: 1920, height: 1080 } });
  const screen = await outside.newPage();
  await screen.goto(wall);
  await alive(screen);
  await expect(screen.getByRole('listitem').filter({ hasText: 'Bay 1' })).toBeVisible();
  await expect(screen.getByText(/Tarn Gantry|Orrin|Veskar/)).toHaveCount(0);
  await expect(screen.getByRole('link')).toHaveCount(0);
  await expect(screen.getByRole('button')).toHaveCount(0);
  await seeNoViolations(screen);
  await screen.setViewportSize({ width: 360, height: 740 });
  expect(await screen.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(360);
  await screen.goto(named);
  await expect(screen.getByText(/Tarn Gantry pickup, gray/).first()).toBeVisible();
  // Nothing else of the shop opens from there.
  await screen.goto(`${baseURL}/cases`);
  await expect(screen).toHaveURL(/\/sign-in/);

  const due = await outside.request.get(calendar);
  expect([due.status(), due.headers()['content-type']]).toEqual([200, 'text/calendar; charset=utf-8']);
  const text = (await due.text()).replaceAll('\r\n ', '');
  expect(text).toMatch(/SUMMARY:Bay 1: Leave the key on\./);
  expect(text).not.toMatch(/Tarn|Orrin|Veskar/);
  expect((await outside.request.get(calendar.replace('/calendar/', '/wall/').replace('.ics', ''))).status()).toBe(404);

  await page.getByRole('button', { name: 'Revoke Screen over bay 1' }).click();
  await page.getByRole('button', { name: 'Revoke it' }).click();
  await expect(page.getByText('The address is revoked. It shows nothing any more.')).toBeVisible();
  await screen.goto(wall);
  await expect(screen.getByRole('heading', { name: 'This address does not work' })).toBeVisible();
  await outside.close();
});
