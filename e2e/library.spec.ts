import { often } from '../content/often.testing';
import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { alive, choose, expect, seeNoViolations, test } from './harness';

test('a profile of the shop: made, wrong input mended, saved, compared, exported, imported, retired', async ({ page }) => {
  await page.goto('/library/master-user');
  await page.getByRole('link', { name: 'Copy to a shop profile' }).click();
  await alive(page);
  await page.getByRole('button', { name: 'Make the profile' }).click();
  await expect(page.getByRole('alert')).toContainText('Vehicle: Nothing is written here. Write something.');
  await expect(page.getByLabel('Copied from')).toHaveValue('family:master-user');
  await page.getByLabel('Vehicle').fill('Scooter of the florist');
  await page.getByRole('button', { name: 'Make the profile' }).click();
  await page.waitForURL(/\/library\/profiles\/shop-scooter-of-the-florist-/);
  const path = new URL(page.url()).pathname;
  await expect(page.getByText('0 of 9 numbers looked up')).toBeVisible();

  const swap = page.getByRole('group', { name: 'Next key in within' });
  await swap.getByLabel('Number, s').fill('soon');
  await page.getByRole('button', { name: 'Save as version 2' }).click();
  await expect(swap.getByText('You typed "soon". Type seconds, or as m:ss, such as 420, 7:00 or 7 min.')).toBeVisible();
  await expect(swap.getByText('Where does this number come from? Name document and page.')).toBeVisible();
  await expect(swap.getByLabel('Number, s')).toHaveValue('soon');
  await swap.getByLabel('Number, s').fill('8,5');
  await swap.getByLabel('Source').fill('owner card, page 4');
  await page.getByRole('group', { name: 'What is cut on refusal' }).getByLabel('Which').selectOption('starter');
  await page.getByRole('group', { name: 'What is cut on refusal' }).getByLabel('Source').fill('tried at the lever');
  await page.getByText('What you see on the vehicle: 0 of 16 questions answered').click();
  await page.getByLabel('What does the key look like?').selectOption('chipHead');
  await page.getByRole('checkbox', { name: /checked every number/ }).check();
  await page.getByRole('button', { name: 'Save as version 2' }).click();
  await expect(page.getByText('Saved as version 2.')).toBeVisible();
  await expect(
    page.getByRole('region', { name: 'What you see on the vehicle' }).getByText('Blade with a thick head, no buttons').first(),
  ).toBeVisible();
  await expect(page.getByText(/2 of 9 numbers looked up.*Checked by Ines Marrow/)).toBeVisible();
  await page.reload();
  await page.getByText('Change the numbers').click();
  await expect(swap.getByLabel('Number, s')).toHaveValue('8.5');
  await expect(swap.getByText('looked up by Ines Marrow')).toBeVisible();

  await page.getByRole('link', { name: 'Compare' }).click();
  await expect(page.getByText('2 numbers differ of 9.')).toBeVisible();
  const row = page.getByRole('row', { name: /Next key in within/ });
  await expect(row.getByRole('cell').nth(0)).toContainText('12 s');
  await expect(row.getByRole('cell').nth(0)).toContainText('typical');
  await expect(row.getByRole('cell').nth(1)).toContainText('verified: owner card, page 4');
  await page.getByLabel('This').selectOption('mirrow-pipit');
  await expect(page.getByRole('columnheader', { name: /Mirrow Pipit scooter, version 1/ })).toBeVisible();
  await page.getByRole('link', { name: 'Back to the profile' }).click();

  const downloading = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Export as YAML' }).click();
  const download = await downloading;
  expect(download.suggestedFilename()).toMatch(/^shop-scooter-of-the-florist-.{4}-2\.yaml$/);
  const yaml = readFileSync(await download.path(), 'utf8');
  expect(yaml).toContain('value: 8.5');

  await page.goto('/library/import');
  await alive(page);
  const paste = page.getByLabel('Or paste it here');
  await paste.fill(`${yaml}secret: 1`);
  await page.getByRole('button', { name: 'Import' }).click();
  await expect(page.getByRole('alert')).toContainText('"secret" is not a field that is known here. Remove it or correct its name.');
  await expect(paste).toHaveValue(/secret: 1/);
  await paste.fill('');
  await page
    .getByLabel(/^YAML file/)
    .setInputFiles({ name: 'changed.yaml', mimeType: 'application/yaml', buffer: Buffer.from(yaml.replace('8.5', '9.5')) });
  await page.getByRole('button', { name: 'Import' }).click();
  await expect(page.getByText('Imported as version 3.')).toBeVisible();
  await page.getByRole('link', { name: 'Open the profile' }).click();
  await page.getByText('Change the numbers').click();
  await expect(swap.getByLabel('Number, s')).toHaveValue('9.5');
  await expect(page.getByRole('link', { name: 'Version 2' })).toBeVisible();

  // It is offered at intake, until it is retired.
  await page.goto('/cases/new');
  await alive(page);
  await choose(page, 'System type', /Scooter of the florist/);
  await page.goto(path);
  await alive(page);
  await page.getByRole('button', { name: 'Retire' }).click();
  await expect(page.getByText('No longer offered for new cases.')).toBeVisible();
  await page.goto('/cases/new');
  await alive(page);
  await page.getByRole('combobox', { name: 'System type' }).click();
  await expect(page.getByRole('option', { name: /Tarn Gantry/ })).toBeVisible();
  await expect(page.getByRole('option', { name: /Scooter of the florist/ })).toHaveCount(0);
});

test.describe('a technician', () => {
  test.use({ as: 'Teodor Lusk' });
  test('reads and searches; making and editing are not offered', async ({ page }) => {
    await page.goto('/library');
    await page.getByLabel('Search the Library').fill('alarm horn');
    await page.getByRole('button', { name: 'Search' }).click();
    await expect(page).toHaveURL(/\?q=alarm\+horn/);
    await page.getByRole('list', { name: 'Found' }).getByRole('link').first().click();
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    await expect(page.getByRole('link', { name: 'Copy to a shop profile' })).toHaveCount(0);
    await page.goto('/library?q=no-such-word-anywhere');
    await expect(page.getByText('Nothing contains every word of “no-such-word-anywhere”.')).toBeVisible();
    await page.goto('/library/profiles/tarn-gantry');
    await expect(page.getByRole('button', { name: /^Save/ })).toHaveCount(0);
    await expect(page.getByText(/^verified: /).first()).toBeVisible();
    await page.goto('/library/profiles/gone');
    await expect(page.getByRole('heading', { name: 'Profile not found' })).toBeVisible();
  });
});

/** What a page of the Library shows as question and answer. */
async function seenOn(page: Page): Promise<Record<string, string>> {
  const rows = page.getByRole('region', { name: 'What you see on the vehicle' }).locator('dl > div');
  const pairs = await rows.evaluateAll((list) => list.map((row) => [row.querySelector('dt')!.textContent, row.querySelector('dd')!.textContent]));
  return Object.fromEntries(pairs as [string, string][]);
}

test('each vehicle of the demo world is identified by what its page says is seen', async ({ page }) => {
  await page.goto('/library');
  const families = page.getByRole('list', { name: 'System types' });
  const vehicles = await families.getByRole('listitem').evaluateAll((items) =>
    items.flatMap((item) => {
      const [family, ...links] = [...item.querySelectorAll('a')];
      return links.map((a) => ({ family: family!.textContent!, title: a.textContent!, to: a.getAttribute('href')! }));
    }),
  );
  const shipped = vehicles.filter((v) => !v.to.includes('/shop-'));
  expect(shipped.length).toBe(15);
  expect(new Set(shipped.map((v) => v.family)).size).toBe(14);
  // A third of them in every run; content/identify.test.ts draws thousands of ways through the questions.
  for (const vehicle of shipped.filter((_, i) => i % often(1, 3) === 0)) {
    await page.goto(vehicle.to);
    await expect(page.getByRole('heading', { level: 1, name: vehicle.title })).toBeVisible();
    const seen = await seenOn(page);
    expect(Object.keys(seen).length).toBeGreaterThan(8);
    await page.goto('/cases/new');
    await alive(page);
    const panel = page.locator('details').filter({ hasText: 'Find out which system it is' });
    await panel.locator('summary').click();
    const sure = panel.getByText('Everything seen points to this one.');
    for (let asked = 0; asked < 14 && !(await sure.isVisible()); asked += 1) {
      const question = (await panel.locator('legend').textContent())!;
      const name = seen[question] ?? 'Don’t know';
      await panel.getByRole('group').getByRole('button', { name, exact: true }).click();
      await expect(panel.getByRole('list', { name: 'Seen so far' }).getByText(question)).toBeVisible();
    }
    await expect(sure, vehicle.title).toBeVisible();
    await panel.getByRole('button', { name: `Use this one: ${vehicle.family}` }).click();
    await expect(page.getByRole('combobox', { name: 'System type' })).toContainText(vehicle.family);
  }
});

// Contrast depends on the scheme and cutting on the width, hardly anything on both: each once.
for (const [scheme, width] of [
  ['light', 1280],
  ['dark', 390],
] as const) {
  test(`all fourteen families open and read well, ${scheme}, ${width} px`, async ({ page }) => {
    await page.emulateMedia({ colorScheme: scheme });
    await page.setViewportSize({ width, height: 800 });
    await page.goto('/library');
    const links = await page
      .getByRole('list', { name: 'System types' })
      .locator('li > a')
      .evaluateAll((all) => all.map((a) => a.getAttribute('href')!));
    expect(links).toHaveLength(14);
    for (const link of links) {
      await page.goto(link);
      for (const name of ['The start chain', 'What light and cluster say', 'Easy to miss', 'Cautions', 'Numbers', 'Vehicles', 'Tell the owner'])
        await expect(page.getByRole('heading', { level: 2, name })).toBeVisible();
      await expect(page.locator('figure svg').first()).toBeVisible();
      const over = await page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth);
      expect([link, over]).toEqual([link, 0]);
      // Colours and roles of one family in each combination stand for all: the pages share every part.
      if (link !== links[0] && link !== '/library/master-user') continue;
      await seeNoViolations(page);
    }
  });
}
