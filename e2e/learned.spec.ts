import { readFileSync } from 'node:fs';
import { alive, expect, openCase, proposed, test } from './harness';
import { see } from './vehicle';

test.use({ as: 'Maud Ferrow' });

test('what the shop learned: a case is left out and taken in again; a file of another shop comes in, once, and is removed whole', async ({
  page,
}) => {
  const path = await openCase(page, { vehicle: 'Orrin Thimble, learned', system: /^Antenna ring/, authority: true, keys: [{ tag: 'A' }] });
  await proposed(page);
  await see(page, 'Rapid flashing');
  await page.goto(`${path}/hand-over`);
  await alive(page);
  await page.getByRole('radio', { name: 'Likely', exact: true }).check();
  await page.getByLabel('What was found and done').fill('Antenna coil repaired.');
  await page.getByLabel('Closed without proof, because').fill('Customer in a hurry.');
  await page.getByRole('button', { name: 'Close the case' }).click();
  await page.waitForURL(`${path}/report`);
  await page.goto(`${path}/after`);
  await alive(page);
  await page.getByRole('button', { name: 'Leave it out' }).click();
  await expect(page.getByLabel('Don’t learn from this case, because')).toHaveAttribute('aria-invalid', 'true');
  await page.getByLabel('Don’t learn from this case, because').fill('A friend’s car.');
  await page.getByRole('button', { name: 'Leave it out' }).click();
  await expect(page.getByText('Left out: A friend’s car.')).toBeVisible();
  await page.getByRole('button', { name: 'Learn from it again' }).click();
  await expect(page.getByRole('button', { name: 'Leave it out' })).toBeVisible();

  await page.goto('/shop/learned');
  await alive(page);
  const shops = page.getByRole('region', { name: 'From other shops' });
  const pick = (name: string, text: string) =>
    shops.getByLabel('File of another shop').setInputFiles({ name, mimeType: 'application/json', buffer: Buffer.from(text) });
  await pick('none.json', 'x');
  await expect(page.getByRole('alert')).toContainText('This is not JSON.');
  const [download] = await Promise.all([page.waitForEvent('download'), shops.getByRole('link', { name: 'Export for other shops' }).click()]);
  const own = JSON.parse(readFileSync((await download.path())!, 'utf8')) as { shop: string; families: object };
  expect(own.shop).toBe('Saltmarsh Auto Electric');
  const theirs = { ...own, shop: 'Heron Street Motors', families: { ring: { causes: { coilOpen: 12 }, tests: {}, fixes: {} } } };
  await pick('theirs.json', JSON.stringify(theirs));
  await expect(shops).toContainText('Heron Street Motors: 12 proven cases');
  await pick('theirs.json', JSON.stringify(theirs));
  await expect(page.getByRole('alert')).toContainText('This file is here already, from “Heron Street Motors”.');
  await shops.getByRole('button', { name: 'Remove what came from Heron Street Motors' }).click();
  await page.getByRole('button', { name: 'Remove it' }).click();
  await expect(shops).not.toContainText('Heron Street Motors');
});
