import { alive, choose, expect, keyboard, seeNoViolations, tapAlong, test } from './harness';

const follows = 'section[aria-label="What this means"]';

test('a call, from the first word to the case: film tapped along, taken in by one act', async ({ page }) => {
  await page.clock.install();
  await page.goto('/cases');
  await page.getByRole('link', { name: 'Calls' }).click();
  await page.getByRole('link', { name: 'New call' }).click();
  await page.waitForURL(/\/calls\/new\?call=/);
  await alive(page);
  await expect(page.locator(follows)).toContainText('Ask, and tap the answer');
  await page.getByLabel('What the caller says').fill('Will not start since the new key ring.');
  await page.getByLabel('Vehicle').fill('Orrin Lantern, silver');
  await page.getByRole('textbox', { name: 'Name' }).fill('Ulla Dreyling');
  await page.getByLabel('Phone').fill('555-0119');
  const when = page.getByRole('group', { name: 'What happens when it is started?' });
  await when.getByRole('checkbox', { name: "Nothing, doesn't crank" }).check();
  await page.getByRole('checkbox', { name: 'A new cover, ornament or key ring' }).check();
  await expect(page.locator(follows)).toContainText('Sounds like the immobilizer');
  await seeNoViolations(page);

  await choose(page, 'System type, if the caller or you know it', /^Antenna ring around the lock/);
  await expect(page).toHaveURL(/system=family%3Aring/);
  // What was written stays, also over a reload.
  await page.reload();
  await expect(page.getByLabel('What the caller says')).toHaveValue('Will not start since the new key ring.');
  await expect(when.getByRole('checkbox', { name: "Nothing, doesn't crank" })).toBeChecked();
  await page.getByRole('button', { name: 'Watch a video and tap along' }).click();
  await tapAlong(page, [[0.3, 3.3]], 9, keyboard(page));
  await expect(page.getByText('“Steady some seconds, then out” in “Antenna ring around the lock”')).toBeVisible();
  // The lamp accepts: the immobilizer is out of it, whatever is new on the ring.
  await expect(page.locator(follows)).not.toContainText('Sounds like the immobilizer');
  await page.getByRole('button', { name: 'Watch it again' }).click();
  await tapAlong(
    page,
    Array.from({ length: 20 }, (_, i): [number, number] => [0.3 + i * 0.25, 0.42 + i * 0.25]),
    5.5,
    keyboard(page),
  );
  await expect(page.locator(follows)).toContainText('Sounds like the immobilizer');
  await expect(page.locator(follows)).toContainText('Take covers and ornaments off the key and away from the lock.');
  await expect(page.locator(follows)).toContainText('The cover, ornament or ring that was new.');
  await expect(page.locator(follows)).toContainText(
    'For this system: voltmeter, scan tool, pressure gauge, spark tester, key reader, field detector, field probe and scope.',
  );
  // 20 + 30 + 0 to 60 + 60 + 75 minutes at 84 an hour.
  await expect(page.locator(follows)).toContainText('70 to 273 cr, parts extra');
  await seeNoViolations(page);

  await page.getByRole('button', { name: 'Start intake' }).click();
  await page.waitForURL(/\/cases\/new\?draft=/);
  await alive(page);
  await expect(page.getByLabel('Customer concern')).toHaveValue('Will not start since the new key ring.');
  await expect(page.getByLabel('Vehicle *')).toHaveValue('Orrin Lantern, silver');
  await expect(page.getByRole('checkbox', { name: 'Cover or ornament near the lock' })).toBeChecked();
  await expect(page.getByRole('combobox', { name: 'System type' })).toContainText('Antenna ring around the lock');
  await page.getByRole('button', { name: 'Open the case' }).click();
  await page.waitForURL(/\/cases\/\d+$/);
  const path = new URL(page.url()).pathname;
  const ledger = page.getByRole('complementary', { name: 'Findings' });
  await expect(ledger.getByText('Light watched')).toBeVisible();
  await expect(ledger.getByText(/“Rapid flashing” in “Antenna ring around the lock”/)).toBeVisible();
  await page.goto('/calls');
  const line = page.getByRole('link', { name: /Orrin Lantern, silver/ });
  await expect(line).toContainText(`became case ${path.split('/').at(-1)!.padStart(4, '0')}`);
  await line.click();
  await page.waitForURL(path);
});

test.describe('on a phone', () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });
  test('kept, gone on with, and discarded; the demo has one of this morning', async ({ page }) => {
    await page.goto('/calls');
    await expect(page.getByRole('link', { name: /Mirrow Pipit scooter, blue.*Sounds like the immobilizer/ })).toBeVisible();
    await seeNoViolations(page);
    await page.goto('/calls/new');
    await alive(page);
    await page.getByLabel('Vehicle').fill('Calder Parcel, dead');
    await page.getByRole('checkbox', { name: 'Dark', exact: true }).check({ force: true });
    await page.getByRole('checkbox', { name: 'Only clicks' }).check({ force: true });
    await expect(page.locator(follows)).toContainText('Sounds like no power');
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
    await page.getByRole('button', { name: 'Save call' }).tap();
    await page.waitForURL('/calls');
    await page.getByRole('link', { name: /Calder Parcel, dead/ }).tap();
    await page.waitForURL(/\/calls\/\d+$/);
    await alive(page);
    await expect(page.getByRole('checkbox', { name: 'Dark', exact: true })).toBeChecked();
    // The next call begins empty.
    const kept = page.url();
    await page.goto('/calls/new');
    await expect(page.getByLabel('Vehicle')).toHaveValue('');
    await page.goto(kept);
    await alive(page);
    await page.getByRole('button', { name: 'Discard the call' }).tap();
    const asked = page.getByRole('dialog', { name: 'Discard this call?' });
    await asked.getByRole('button', { name: 'Cancel' }).tap();
    await expect(asked).toBeHidden();
    await page.getByRole('button', { name: 'Discard the call' }).tap();
    await asked.getByRole('button', { name: 'Discard it' }).tap();
    await page.waitForURL('/calls');
    await expect(page.getByRole('link', { name: /Calder Parcel, dead/ })).toHaveCount(0);
    await page.goto(kept);
    await expect(page.getByRole('heading', { name: 'Call not found' })).toBeVisible();
  });
});
