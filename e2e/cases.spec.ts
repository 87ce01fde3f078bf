import { readFileSync } from 'node:fs';
import { expect, openCase, openRow, test } from './harness';

test('park, take up again, close as not done, each with a reason that shows', async ({ page }) => {
  const path = await openCase(page, { vehicle: 'Dunmore Crag, waiting', bay: 'Bay 4' });
  const row = await openRow(page, 'Park the case');
  const park = page.getByRole('form', { name: 'Park the case' });
  await park.getByRole('button', { name: 'Park it' }).click();
  await expect(row.getByRole('alert')).toContainText('Nothing is written here.');
  await park.getByLabel('Why it has to wait').fill('The key comes on Friday.');
  await park.getByRole('button', { name: 'Park it' }).click();
  const state = page.getByRole('region', { name: 'State of the case' });
  await expect(state).toContainText('Parked');
  await expect(state).toContainText('The key comes on Friday.');
  await page.goto('/cases?state=parked');
  await page.getByRole('link', { name: /Dunmore Crag, waiting/ }).click();
  await page.waitForURL(path);
  await state.getByLabel('Why it is reopened').fill('The key is here.');
  await state.getByRole('button', { name: 'Reopen it' }).click();
  await expect(state).toHaveCount(0);

  await page.goto(`${path}/hand-over`);
  await page.getByRole('radio', { name: 'It was not done' }).check();
  await page.getByRole('button', { name: 'Close the case' }).click();
  await expect(page.getByRole('alert').first()).toContainText('Nothing is written here.');
  await page.getByLabel('Not done, because').fill('The customer sells it as it is.');
  await page.getByRole('button', { name: 'Close the case' }).click();
  await page.waitForURL(`${path}/report`);
  await page.goto(path);
  await expect(state).toContainText('Closed, not done');
  await expect(state).toContainText('The customer sells it as it is.');
});

test('the list: search by anything one has, filters in the address, order, CSV', async ({ page }) => {
  await page.goto('/cases');
  const search = async (words: string) => {
    await page.getByLabel('Number, plate, customer, key or words').fill(words);
    await page.keyboard.press('Enter');
    await page.waitForURL(new RegExp(`q=${encodeURIComponent(words).replace(/%20/g, '(%20|\\+)')}`));
  };
  const rows = page.getByRole('main').getByRole('listitem');
  // On a small tablet the button is there as well.
  await page.setViewportSize({ width: 820, height: 1000 });
  await expect(page.getByRole('button', { name: 'Search' })).toBeInViewport({ ratio: 1 });
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(820);
  await page.setViewportSize({ width: 1280, height: 800 });
  for (const [words, vehicle] of [
    ['4-18-THB', 'Tarn Gantry pickup, gray'],
    ['00BTG5R36GW004182', 'Tarn Gantry pickup, gray'],
    ['saoirse', 'Tarn Gantry pickup, gray'],
    ['swapped shop', 'Veskar Almanac, black'],
  ] as const) {
    await search(words);
    await expect(rows).toHaveCount(1);
    await expect(rows.first()).toContainText(vehicle);
  }
  await search('no such thing');
  await expect(page.getByText('No case found. Try fewer letters or another filter')).toBeVisible();

  await page.goto('/cases?state=closed');
  await page.getByLabel('Order').selectOption('By vehicle');
  await page.waitForURL(/sort=vehicle/);
  await page.reload();
  await expect(page.getByLabel('Order')).toHaveValue('vehicle');
  await expect(rows.first()).toContainText('Calder Parcel van, white');
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Export this list as CSV' }).click()]);
  const csv = readFileSync(await file.path(), 'utf8');
  expect(csv).toContain('Calder Parcel van, white');
  expect(csv).not.toContain('Tarn Gantry pickup, gray');
});

test('a case as a ZIP: exported, taken over once, refused whole when it is broken', async ({ page, as }) => {
  expect(as).toBe('Ines Marrow');
  const path = await openCase(page, { vehicle: 'Calder Parcel, travelling', words: 'Dead after the ferry.' });
  await page.getByRole('button', { name: 'Lit, then flashing fast' }).click();
  await expect(page.getByText('Refused. Work on the immobilizer only')).toBeVisible();
  await openRow(page, 'Labels and exports');
  const [file] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Export the case' }).click()]);
  expect(file.suggestedFilename()).toMatch(/^case-\d+\.zip$/);
  const zip = readFileSync(await file.path());
  const take = async (buffer: Buffer) => {
    await page.goto('/cases/import');
    await page.locator('input[type=file]').setInputFiles({ name: 'case.zip', mimeType: 'application/zip', buffer });
    await page.getByRole('button', { name: 'Import the case' }).click();
  };
  await take(zip);
  await expect(page.getByRole('alert')).toContainText(`This case is already in this shop, as case ${path.split('/').at(-1)!.padStart(4, '0')}.`);
  const broken = Buffer.from(zip);
  broken.fill(0, 40, 120);
  await take(broken);
  await expect(page.getByRole('alert')).toBeVisible();
  await expect(page).toHaveURL(/import/);
  await page.goto('/cases?q=travelling');
  await expect(page.getByRole('main').getByRole('listitem')).toHaveCount(1);
});

test.describe('the owner', () => {
  test.use({ as: 'Maud Ferrow' });
  test('personal data of a customer is exported and erased; the case stays and says so', async ({ page }) => {
    await page.goto('/cases?state=closed&q=prenn');
    await page.getByRole('link', { name: /Calder Parcel van, white/ }).click();
    await page.waitForURL(/\/cases\/\d+$/);
    const whole = await openRow(page, 'Labels and exports');
    const [file] = await Promise.all([page.waitForEvent('download'), whole.getByRole('link', { name: 'Export the customer’s data' }).click()]);
    expect(readFileSync(await file.path(), 'utf8')).toContain('Odalys Prenn');
    await expect(whole.getByRole('button', { name: 'Erase personal data' })).toBeDisabled();
    await whole.getByRole('checkbox', { name: /Erase names/ }).check();
    await whole.getByRole('button', { name: 'Erase personal data' }).click();
    await expect(page.getByText(/personal data erased at \d+:\d\d [AP]M/)).toBeVisible();
    await page.goto('/cases?state=closed&q=prenn');
    await expect(page.getByText('No case found.')).toBeVisible();
  });
});
