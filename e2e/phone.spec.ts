import sharp from 'sharp';
import { alive, choose, expect, openCase, openRow, seeNoViolations, test } from './harness';

test.describe('on a phone', () => {
  test.use({ viewport: { width: 390, height: 844 } });

  test('a new case in steps: what is wrong leads to its step, nothing typed is lost, one step fits the screen or little more', async ({ page }) => {
    await page.goto('/cases/new');
    await alive(page);
    const steps = page.getByRole('navigation', { name: 'Steps of the intake' });
    const now = steps.getByRole('button').and(page.locator('[aria-current=step]'));
    await expect(now).toContainText('Concern');
    await expect(page.getByRole('button', { name: 'Open the case' })).toBeHidden();
    await expect(page.getByLabel('Vehicle *')).toBeHidden();
    await page.getByLabel('Customer concern').fill('Cranks, does not start.');
    await page.getByRole('button', { name: 'Next: vehicle' }).click();
    await expect(page.getByLabel('Vehicle *')).toBeVisible();
    await expect(page.getByLabel('Customer concern')).toBeHidden();
    await seeNoViolations(page);
    // Enter goes on as well, and opens nothing half filled in.
    await page.getByLabel('Plate').press('Enter');
    await expect(now).toContainText('Condition');
    await page.getByRole('button', { name: 'Next: keys' }).click();
    await page.getByLabel('Tag').first().fill('C');
    await page.getByRole('button', { name: 'Next: authority' }).click();
    await page.getByRole('button', { name: 'Open the case' }).click();

    await expect(page.getByRole('alert').first()).toContainText('Vehicle');
    await expect(now).toContainText('Vehicle');
    await expect(steps.getByRole('button', { name: /Vehicle ?, something is not right yet/ })).toBeVisible();
    await page.getByLabel('Vehicle *').fill('Mirrow Pipit, by phone');
    await choose(page, 'System type', /Tarn Gantry/);
    await steps.getByRole('button', { name: /Keys/ }).click();
    await expect(page.getByLabel('Tag').first()).toHaveValue('C');
    await steps.getByRole('button', { name: /Authority/ }).click();
    await page.getByRole('button', { name: 'Back' }).click();
    await expect(now).toContainText('Keys');
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(390);
    await page.getByRole('button', { name: 'Next: authority' }).click();
    await page.getByRole('button', { name: 'Open the case' }).click();
    await page.waitForURL(/\/cases\/\d+$/);
    await expect(page.getByText('Mirrow Pipit, by phone').first()).toBeAttached();
  });

  test('the verdict as a mark on the chain fits', async ({ page }) => {
    const path = await openCasePhone(page);
    await page.goto(`${path}/triage?at=verdict`);
    await expect(page.getByRole('list', { name: 'Where to look on the start chain' }).getByText('look here')).toHaveCount(1);
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(390);
    await seeNoViolations(page);
  });
});

/** Opened on a wide screen, where the intake is one page, then shown on the phone. */
async function openCasePhone(page: Parameters<typeof openCase>[0]): Promise<string> {
  await page.setViewportSize({ width: 1280, height: 800 });
  const path = await openCase(page, { vehicle: 'Orrin Lantern, on the chain', system: /^Antenna ring around the lock/ });
  await page.getByRole('button', { name: 'Rapid flashing' }).click();
  await expect(page.getByRole('link', { name: 'Triage: immobilizer refuses' })).toBeVisible();
  await page.setViewportSize({ width: 390, height: 844 });
  return path;
}

test('address, phone and picture of the shop stand at the head of the report', async ({ page }) => {
  const path = await openCase(page, { vehicle: 'Dunmore Crag, on paper' });
  await page.goto('/shop');
  await alive(page);
  await page.getByLabel('Address').fill('4 Curlew Lane\nWexmoor');
  await page.getByLabel('Phone').fill('555 0199');
  await page.getByRole('form', { name: 'Shop data' }).getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('The shop’s data is saved.')).toBeVisible();
  const picture = page.getByRole('region', { name: 'Picture on papers' });
  await picture.locator('input[type=file]').setInputFiles({ name: 'sign.png', mimeType: 'image/png', buffer: Buffer.from('no picture') });
  await picture.getByRole('button', { name: 'Put it on papers' }).click();
  await expect(picture.getByRole('alert')).toContainText('JPEG or PNG');
  const sign = await sharp({ create: { width: 120, height: 40, channels: 3, background: '#2a7454' } })
    .png()
    .toBuffer();
  await picture.locator('input[type=file]').setInputFiles({ name: 'sign.png', mimeType: 'image/png', buffer: sign });
  await picture.getByRole('button', { name: 'Put it on papers' }).click();
  await expect(picture.getByRole('img', { name: 'The shop’s picture' })).toBeVisible();
  await seeNoViolations(page);

  await page.goto(`${path}/report`);
  const head = page.getByRole('main').locator('header');
  await expect(head.getByRole('img', { name: 'Saltmarsh Auto Electric' })).toBeVisible();
  await expect(head).toContainText('4 Curlew Lane\nWexmoor');
  await expect(head).toContainText('555 0199');
  await seeNoViolations(page);
  await page.goto(`${path}/labels`);
  await expect(page.getByText('If found: Saltmarsh Auto Electric, 555 0199').first()).toBeVisible();

  await page.goto('/shop');
  await alive(page);
  await picture.getByRole('button', { name: 'Remove the picture' }).click();
  await expect(picture.getByText(/^None yet/)).toBeVisible();
  await page.goto(`${path}/report`);
  await expect(head.getByRole('img', { name: 'Saltmarsh Auto Electric' })).toHaveCount(0);
});

test('Record: what is missing stands first and goes when it is there', async ({ page }) => {
  await openCase(page, { vehicle: 'Calder Parcel, record' });
  const record = page.getByRole('region', { name: 'Record', exact: true });
  await expect(record).toContainText('Still missing: authority, customer and VIN, counters, photos.');
  await expect(record.getByRole('heading', { level: 3 })).toHaveText([
    'Authority',
    'Customer and VIN',
    'Counters',
    'Photos',
    'Replaced parts and trouble codes',
    'Vault',
    'Labels and exports',
    'Park the case',
  ]);
  const counters = await openRow(page, 'Counters');
  await counters.getByLabel('Reading').fill('41,200');
  await counters.getByRole('button', { name: 'Save reading' }).click();
  await expect(record).toContainText('Still missing: authority, customer and VIN, photos.');
  await expect(record.getByRole('cell', { name: '41,200 mi' })).toBeVisible();
  await openRow(page, 'Authority');
  await seeNoViolations(page);
});
