import { alive, expect, openCase, seeNoViolations, test } from './harness';

test('taken for the wrong system: the case says so, is identified again, and what was recorded stays', async ({ page }) => {
  const path = await openCase(page, {
    vehicle: 'Green estate, older',
    system: /^Transponder key, timed relearn with ignition on/,
    keys: [{ tag: 'A' }],
  });
  await page.getByRole('button', { name: 'Lit, then flashing fast' }).click();
  const ledger = page.getByRole('complementary', { name: 'Findings' });
  await expect(ledger.getByText('Security light, tag A')).toBeVisible();
  await expect(page.getByRole('alert')).toHaveCount(0);

  // Somebody takes the key in the hand.
  await page.goto(`${path}/keys/A`);
  await alive(page);
  await page.getByRole('combobox', { name: 'Kind' }).click();
  await page.getByRole('option', { name: 'key with a resistor chip in the blade' }).click();
  await page.getByRole('button', { name: 'Save' }).first().click();
  await expect(page.getByText('Saved.', { exact: true })).toBeVisible();
  await page.goto(path);
  const doubt = page.getByRole('alert', { name: 'System type not certain' });
  await expect(doubt).toContainText('Tag A: A small block with contacts in the blade. The signs point to “Resistor key”.');
  await seeNoViolations(page);
  await doubt.getByRole('link', { name: 'Check the system type again' }).click();

  await expect(page.getByRole('heading', { level: 1, name: 'Which system is it?' })).toBeVisible();
  await alive(page);
  const seen = page.getByRole('list', { name: 'Seen so far' });
  await expect(seen.getByText('A small block with contacts in the blade')).toBeVisible();
  await seeNoViolations(page);
  await page.getByRole('button', { name: 'Use this one: Resistor key' }).click();
  await expect(page.getByRole('combobox', { name: 'System type' })).toContainText('Resistor key');
  await page.getByRole('button', { name: 'Use this system type' }).click();
  await page.waitForURL(new RegExp(`${path}$`));
  await expect(ledger.getByText('Seen under: Transponder key, timed relearn with ignition on. It doesn’t count here.')).toBeVisible();
  await expect(ledger.getByText('System identified again')).toBeVisible();
  await expect(page.getByRole('alert')).toHaveCount(0);
  await page.reload();
  await expect(page.getByRole('link', { name: 'Resistor key' })).toBeVisible();
  await page.goto(`${path}/report`);
  await expect(page.getByText('System identified again')).toBeVisible();
});

test.describe('on a phone', () => {
  test.use({ viewport: { width: 390, height: 844 } });
  test('a system type is chosen again, and an intake is changed: what saves is there', async ({ page }) => {
    const path = await openCase(page, { vehicle: 'Orrin Thimble, on a phone', system: /^Transponder key, timed relearn with ignition on/ });
    await page.goto(`${path}/identify`);
    await alive(page);
    await page.getByRole('button', { name: 'Use this system type' }).click();
    await page.waitForURL(new RegExp(`${path}$`));
    await page.goto(`${path}/intake`);
    await alive(page);
    await page.getByLabel('Customer concern').fill('It does not start on Mondays.');
    await page.getByRole('button', { name: 'Save the intake' }).click();
    await page.waitForURL(new RegExp(`${path}$`));
    await expect(page.getByText('It does not start on Mondays.').first()).toBeVisible();
  });
});
