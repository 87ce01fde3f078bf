import { existsSync, readdirSync, renameSync, rmSync } from 'node:fs';
import { resolve } from 'node:path';
import { alive, comeIn, expect, seeNoViolations, test } from './harness';
import { serveWith } from './server';

test.describe('backups', () => {
  test.use({ as: 'Maud Ferrow' });

  test('where the server was not told where they go, the page says what to set', async ({ page }) => {
    await page.goto('/shop/backups');
    await expect(page.getByText('Set BLOODSTONE_BACKUP to a folder on another disk')).toBeVisible();
    await expect(page.getByRole('button', { name: 'Back up now' })).toHaveCount(0);
    await seeNoViolations(page);
  });

  test('the owner makes one and sees it; a wrong rule is told and kept in its field; a late one stands on the Floor', async ({ page, context }, {
    parallelIndex,
  }) => {
    const folder = resolve(`test-results/backups-${parallelIndex}`);
    for (const old of [folder, `${folder}-away`]) rmSync(old, { recursive: true, force: true });
    const { url, end } = await serveWith(parallelIndex, { BLOODSTONE_BACKUP: folder });
    try {
      await comeIn(context, url, 'Maud Ferrow');
      await page.goto(`${url}/shop/backups`);
      await alive(page);
      await expect(page.getByRole('heading', { name: 'No backup yet' })).toBeVisible();
      await page.getByRole('button', { name: 'Back up now' }).click();
      await expect(page.getByRole('heading', { name: /^Last backup: / })).toBeVisible({ timeout: 30_000 });
      const files = () => readdirSync(folder).filter((n) => n.endsWith('.backup'));
      expect(files()).toHaveLength(1);
      await expect(page.getByRole('list', { name: 'Backups' }).getByRole('listitem')).toHaveText(new RegExp(`MB, ${files()[0]}$`));
      expect(existsSync(resolve(`test-results/data-${parallelIndex}-more/backup.key`))).toBe(true);
      await seeNoViolations(page);

      const hours = page.getByLabel('Hours between backups');
      await hours.fill('0');
      await page.getByRole('button', { name: 'Save' }).click();
      await expect(hours).toHaveAttribute('aria-invalid', 'true');
      await expect(hours).toHaveValue('0');
      await hours.fill('12');
      await page.getByRole('button', { name: 'Save' }).click();
      await expect(page.getByText('Saved. It counts from the next backup on.')).toBeVisible();
      await page.reload();
      await expect(hours).toHaveValue('12');

      await page.goto(url);
      await expect(page.getByText('one is due every')).toHaveCount(0);
      // Its disk is away, so none can be made on time.
      renameSync(folder, `${folder}-away`);
      const moved = await context.request.post(`${url}/test/clock`, { data: { advanceMs: 18 * 3_600_000 + 1000 }, headers: { Origin: url } });
      expect(moved.ok()).toBe(true);
      // After so long everybody is signed out.
      await comeIn(context, url, 'Maud Ferrow');
      await page.goto(url);
      await expect(page.getByText(/^The last backup is of .*; one is due every 12 h\. Backups$/)).toBeVisible();
      await page.setViewportSize({ width: 390, height: 844 });
      await page.getByRole('link', { name: 'Backups' }).click();
      await expect(page.getByText('That is longer ago than it should be.')).toBeVisible();
      expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(390);
    } finally {
      // A page that is open when its server ends complains.
      await page.goto('about:blank');
      await end();
    }
  });
});
