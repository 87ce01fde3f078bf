import { alive, expect, flashes, keyboard, openCase, seeNoViolations, tapAlong, test } from './harness';
import type { Page } from '@playwright/test';

const word = (page: Page) => page.getByRole('region', { name: 'Verdict' }).getByRole('heading', { level: 2 });
const stage = (page: Page, name: string) => page.getByRole('region', { name });
const answer = (page: Page, test: string, say: string) => page.getByRole('group', { name: test, exact: true }).getByRole('button', { name: say });
const look = (page: Page) => page.getByRole('list', { name: /^(In this order|What to check)$/ }).getByRole('listitem');

async function begin(page: Page, intake: Parameters<typeof openCase>[1]): Promise<string> {
  const path = await openCase(page, intake);
  await page.getByRole('link', { name: 'Triage: not started' }).click();
  await page.waitForURL(`${path}/triage`);
  await alive(page);
  return path;
}

test('refused: tapped along, cheap looks, one key against the other, reload in the middle', async ({ page }) => {
  await page.clock.install();
  const path = await begin(page, { vehicle: 'Orrin Lantern, refused', system: /^Antenna ring around the lock/, keys: [{ tag: 'A' }, { tag: 'B' }] });
  await expect(stage(page, 'What the immobilizer says').getByRole('heading', { level: 2 })).toContainText('Key out: does it flash slowly?');
  await seeNoViolations(page);
  await page.getByRole('button', { name: 'Not sure: tap along' }).click();
  await tapAlong(page, flashes(20, 0.3, 0.25, 0.12), 5.5, keyboard(page));
  await expect(page.getByRole('heading', { name: 'Rapid flashing' })).toBeVisible();
  await page.reload();
  await page.getByRole('button', { name: 'Record it' }).click();

  await expect(stage(page, 'Quick checks')).toBeVisible();
  await answer(page, 'Cover, ornament or ring at the lock', 'Removed, still refused').click();
  await expect(answer(page, 'Cover, ornament or ring at the lock', 'Removed, still refused')).toHaveAttribute('aria-pressed', 'true');
  await answer(page, 'Other keys near', 'There were no others').click();
  await seeNoViolations(page);
  await page.reload();
  await expect(answer(page, 'Cover, ornament or ring at the lock', 'Removed, still refused')).toHaveAttribute('aria-pressed', 'true');
  await page.getByRole('button', { name: 'Continue' }).click();

  await expect(page.getByRole('heading', { name: 'What changed lately?' })).toBeVisible();
  await page.getByRole('checkbox', { name: 'Cover or ornament near the lock' }).check();
  await page.getByRole('button', { name: 'This changed' }).click();
  await expect(stage(page, 'The engine')).toBeVisible();
  await page.getByRole('button', { name: 'Skip' }).click();
  await expect(word(page)).toHaveText('Refused');
  await expect(page.getByRole('region', { name: 'Verdict' })).toContainText('Refused at the ring. Try the second key first, then check the field.');
  await expect(look(page).first()).toContainText('Ring');
  await seeNoViolations(page);
  // A sign that comes to mind later is told from here; a look made once more leads on by itself.
  const soFar = page.getByRole('navigation', { name: 'So far' });
  await soFar.getByRole('button', { name: /^Other signs/ }).click();
  await answer(page, 'Horn', 'All quiet').click();
  await expect(soFar.getByText('horn: all quiet')).toBeVisible();
  await page.getByRole('button', { name: 'Continue' }).click();
  await soFar.getByRole('button', { name: /^What the immobilizer says/ }).click();
  await page.getByRole('radio', { name: 'tag B', exact: true }).check();
  await stage(page, 'What the immobilizer says').getByRole('button', { name: 'Rapid flashing' }).click();
  await expect(word(page)).toHaveText('Refused');
  await page.getByRole('link', { name: 'Continue in the case' }).click();
  await page.waitForURL(path);
  await expect(page.getByRole('link', { name: 'Triage: immobilizer refuses' })).toBeVisible();
  const ledger = page.getByRole('complementary', { name: 'Findings' });
  for (const line of ['Security light at the ring, tag A', 'Cover, ornament or ring at the lock, tag A', 'Other keys near, tag A'])
    await expect(ledger.getByText(line)).toBeVisible();
});

test.describe('with one hand, on a phone', () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });
  test('accepted: nothing swapped, so the immobilizer is left; swapped, so the release is next', async ({ page }) => {
    await begin(page, { vehicle: 'Orrin Thimble, accepting' });
    await page.getByRole('button', { name: 'Lit for some seconds, then out' }).tap();
    await page.getByRole('button', { name: 'Nothing known' }).tap();
    await page.getByText('All precautions taken').tap();
    await page.getByRole('button', { name: 'No crank, no click' }).tap();
    await expect(word(page)).toHaveText('Accepted');
    await expect(look(page).first()).toContainText('Brake, park switches');
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
    await seeNoViolations(page);
    // It is remembered that a module was swapped.
    await page
      .getByRole('navigation', { name: 'So far' })
      .getByRole('button', { name: /^What changed/ })
      .tap();
    await page.getByRole('checkbox', { name: 'ECM replaced' }).check({ force: true });
    await page.getByRole('button', { name: 'This changed' }).tap();
    await expect(word(page)).toHaveText('Accepted');
    await expect(page.getByText('The key is accepted, but a module was replaced or it starts and dies')).toBeVisible();
    await expect(look(page).first()).toContainText('Start enabled');
  });
});

test('silent: without a lamp it begins with small signs, and leads to the supply', async ({ page }) => {
  await begin(page, { vehicle: 'Veskar Codex, dark', system: /^Infrared key and electronic ignition switch/ });
  await expect(stage(page, 'Other signs')).toBeVisible();
  await answer(page, 'Click in the switch', 'Nothing').click();
  await expect(answer(page, 'Click in the switch', 'Nothing')).toHaveAttribute('aria-pressed', 'true');
  await answer(page, 'Cluster', 'Nothing at all').click();
  await answer(page, 'Remote of this key', 'They respond').click();
  await seeNoViolations(page);
  await answer(page, 'Horn', 'All quiet').click();
  await stage(page, 'What the immobilizer says').getByRole('button', { name: 'It stays dark' }).click();
  await expect(stage(page, 'Live data')).toBeVisible();
  await page.getByRole('button', { name: 'Skip' }).click();
  await page.getByRole('button', { name: 'Nothing known' }).click();
  await page.getByRole('button', { name: 'Skip' }).click();
  await expect(word(page)).toHaveText('Silent');
  await expect(look(page).nth(0)).toContainText('Power');
  await expect(look(page).nth(1)).toContainText('Electronic switch');
  await expect(look(page).nth(2)).toContainText('Infrared window');
});

test('not clear: a lamp that no list has doubts the system, which is identified again from here', async ({ page }) => {
  await page.clock.install();
  const path = await begin(page, { vehicle: 'Old wagon, odd light', system: /^Antenna ring around the lock/ });
  await page.getByRole('button', { name: 'It does none of these' }).click();
  await expect(page.getByRole('alert', { name: 'System type not certain' })).toContainText(
    'It matches none of the patterns of “Antenna ring around the lock”.',
  );
  // Tapped, it is told where the same light is on the list; identified again, the taps are read there.
  await page.getByRole('button', { name: 'Not sure: tap along' }).click();
  await tapAlong(page, flashes(7, 0.25, 1.4, 0.7), 10, keyboard(page));
  await page.getByRole('button', { name: 'Save the observation' }).click();
  const doubt = page.getByRole('alert', { name: 'System type not certain' });
  await expect(doubt).toContainText('“Flashes slowly” in “Resistor key”');
  await seeNoViolations(page);
  await page
    .getByRole('navigation', { name: 'So far' })
    .getByRole('button', { name: /^Verdict/ })
    .click();
  await expect(word(page)).toHaveText('Not clear');
  await doubt.getByRole('link', { name: 'Check the system type again' }).click();
  await alive(page);
  await page.getByRole('combobox', { name: 'System type' }).click();
  await page.getByRole('option', { name: /^Resistor key/ }).click();
  await page.getByRole('button', { name: 'Use this system type' }).click();
  await page.waitForURL(path);
  await expect(page.getByRole('link', { name: 'Triage: immobilizer refuses' })).toBeVisible();
  await expect(page.getByText(/^Read again from the taps\./)).toBeVisible();
  await expect(page.getByRole('alert')).toHaveCount(0);
});

test('stays lit after the ECM was replaced: the verdict names what is likely', async ({ page }) => {
  await begin(page, {
    vehicle: 'Gray pickup, new ECM',
    symptoms: ['Starts and dies'],
    changed: ['ECM replaced'],
    keys: [{ tag: 'A' }, { tag: 'B' }],
  });
  await page.getByRole('button', { name: 'Stays lit' }).click();
  await page
    .getByRole('navigation', { name: 'So far' })
    .getByRole('button', { name: /^Verdict/ })
    .click();
  await expect(word(page)).toHaveText(/^Likely: replaced ECM not learned to this car \(\d\d %\)$/);
  await seeNoViolations(page);
});
