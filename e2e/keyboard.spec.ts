import { alive, expect, test } from './harness';

/** Where the keyboard is must be seen: an outline on whatever has it, and nothing that stays in place lies over it. */

test('a filled button shows that the keyboard is on it', async ({ page }) => {
  await page.goto('/cases');
  await alive(page);
  const button = page
    .getByRole('link', { name: 'New case' })
    .or(page.getByRole('button', { name: 'Search' }))
    .first();
  await button.focus();
  await page.keyboard.press('Shift+Tab');
  await page.keyboard.press('Tab');
  await expect(button).toBeFocused();
  const outline = await button.evaluate((el) => ({ style: getComputedStyle(el).outlineStyle, width: getComputedStyle(el).outlineWidth }));
  expect(outline).toEqual({ style: 'solid', width: '3px' });
});

test('no stop of the intake lies under its bar, and each shows itself', async ({ page }) => {
  test.setTimeout(180_000);
  await page.goto('/cases/new');
  await alive(page);
  const covered: string[] = [];
  const bare: string[] = [];
  let stops = 0;
  for (let i = 0; i < 120; i += 1) {
    await page.keyboard.press('Tab');
    const at = await page.evaluate(() => {
      const el = document.activeElement;
      if (!el || el === document.body) return null;
      const box = el.getBoundingClientRect();
      // A box that is ticked lies invisible in its drawing.
      const top = document.elementFromPoint(box.x + box.width / 2, box.y + Math.min(box.height, 40) / 2);
      const style = getComputedStyle(el);
      return {
        name: `${el.tagName} ${el.getAttribute('name') ?? el.getAttribute('aria-label') ?? el.textContent?.slice(0, 30) ?? ''}`,
        last: el.matches('[type=submit]') && el.closest('form') !== null && /Open the case/.test(el.textContent ?? ''),
        seen: top !== null && (el.contains(top) || top.contains(el) || el.closest('label, .MuiFormControl-root')?.contains(top) === true),
        outlined: style.outlineStyle !== 'none' || el.closest('.MuiFormControl-root, .MuiCheckbox-root, label') !== null,
      };
    });
    if (at === null) break;
    stops += 1;
    if (!at.seen) covered.push(at.name);
    if (!at.outlined) bare.push(at.name);
    if (at.last) break;
  }
  expect(stops).toBeGreaterThan(25);
  expect(covered).toEqual([]);
  expect(bare).toEqual([]);
});
