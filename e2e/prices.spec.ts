import { Buffer } from 'node:buffer';
import { readFileSync } from 'node:fs';
import { alive, expect, seeNoViolations, test } from './harness';

test.describe('the owner', () => {
  test.use({ as: 'Maud Ferrow' });

  test('changes the prices: wrong input keeps everything, a CSV goes out and in, the new version is in force', async ({ page }) => {
    await page.goto('/shop/prices');
    await alive(page);
    const items = page.getByRole('table', { name: 'Items' });
    await expect(
      page.getByText('Labor 84.00 cr an hour, in steps of 6 min, at least 30 min. Call-out 65.00 cr. Sales tax 8.25 %, added to the total.'),
    ).toBeVisible();
    await expect(items.getByRole('row', { name: /^Learn a key learn-key 28\.00 cr 20 Labor$/ })).toBeVisible();
    await seeNoViolations(page);
    const download = page.waitForEvent('download');
    await page.getByRole('link', { name: 'Export the items as CSV' }).click();
    const csv = readFileSync((await (await download).path())!, 'utf8').trim();
    expect(csv.split('\n')[0]).toBe('kind,code,title,minutes,price');

    await page.getByRole('button', { name: 'Change the prices' }).click();
    await page.getByLabel('Labor, an hour').fill('ninety');
    await page.getByLabel('Tax, %').fill('8.25');
    await page.getByLabel('Row 4, title').fill('Key with a blank chip, aftermarket');
    await page.getByRole('button', { name: 'Save as version 2' }).click();
    await expect(page.getByRole('alert')).toContainText('You typed "ninety". Type an amount, such as 84.50.');
    await expect(page.getByLabel('Row 4, title')).toHaveValue('Key with a blank chip, aftermarket');
    await page.getByLabel('Labor, an hour').fill('90');
    // What is wrong in a row is said as it is typed.
    await page.getByLabel('Row 4, price').fill('62.505');
    await expect(page.getByText('row 4, price: You typed "62.505". This currency has 2 decimal places. Type no more.')).toBeVisible();
    await page
      .getByLabel('CSV file of items')
      .setInputFiles({ name: 'prices.csv', mimeType: 'text/csv', buffer: Buffer.from(`${csv}\npart,transmitter,"Remote, two buttons",,48.00`) });
    await expect(page.getByText('7 items.')).toBeVisible();
    await seeNoViolations(page);
    await page.getByRole('button', { name: 'Save as version 2' }).click();
    await expect(page.getByText('Saved as version 2.')).toBeVisible();
    await expect(page.getByText(/^Labor 90\.00 cr an hour/)).toBeVisible();
    await expect(items.getByRole('row', { name: /^Remote, two buttons/ })).toContainText('48.00 cr');
    await page.reload();
    await expect(page.getByText('Version 2', { exact: false }).first()).toBeVisible();
    await expect(page.getByText(/in effect now/)).toHaveCount(1);
    // Estimates use it: the call sheet says the rate.
    await page.goto('/calls/1');
    await expect(page.getByText('At 90 cr an hour.', { exact: false })).toBeVisible();
  });
});

test.describe('on a phone', () => {
  test.use({ as: 'Teodor Lusk', viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true });
  test('a technician sees the prices and changes none', async ({ page }) => {
    await page.goto('/shop/prices');
    await alive(page);
    await expect(page.getByText('The owner changes these.')).toBeVisible();
    await expect(page.getByRole('button', { name: 'Change the prices' })).toHaveCount(0);
    await seeNoViolations(page);
    expect(await page.evaluate(() => document.documentElement.scrollWidth <= innerWidth)).toBe(true);
  });
});
