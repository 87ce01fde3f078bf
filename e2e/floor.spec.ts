import type { Page } from '@playwright/test';
import { alive, expect, inWorldOfItsOwn, openCase, seeNoViolations } from './harness';

const test = inWorldOfItsOwn();

const lane = (page: Page, vehicle: string) => page.getByRole('listitem').filter({ hasText: vehicle });

test('several cars: what is next, a promise, another bay, two technicians, the day ahead; it stays after a reload', async ({ page }) => {
  await openCase(page, { vehicle: 'Orrin Thimble, first in', bay: 'Bay 2' });
  const second = await openCase(page, { vehicle: 'Mirrow Pipit, second in' });
  await page.goto('/');
  await expect(page.getByRole('region', { name: 'Next up' })).toContainText('Everything should be done by');
  await expect(lane(page, 'second in')).toContainText('hands on from');
  await seeNoViolations(page);

  await test.step('a promise and a bay', async () => {
    const number = second.split('/').at(-1)!.padStart(4, '0');
    await page.getByRole('button', { name: `Change bay, technician or promise of case ${number}` }).click();
    const dialog = page.getByRole('dialog', { name: /Mirrow Pipit, second in/ });
    await seeNoViolations(page);
    await dialog.getByLabel('Bay', { exact: true }).selectOption('Bay 4');
    await dialog.getByLabel('Promised for').fill('23:59');
    await page.keyboard.press('Enter');
    await expect(dialog).toBeHidden();
    await expect(lane(page, 'second in')).toContainText('Bay 4');
    await expect(lane(page, 'second in')).toContainText(/by 11:59 PM|by 23:59/);
  });

  await test.step('given up with Escape, nothing changes', async () => {
    await page.getByRole('button', { name: `Change bay, technician or promise of case ${second.split('/').at(-1)!.padStart(4, '0')}` }).click();
    const dialog = page.getByRole('dialog');
    await expect(dialog.getByLabel('Promised for')).toHaveValue('23:59');
    await dialog.getByLabel('Promised for').fill('08:00');
    await page.keyboard.press('Escape');
    await expect(dialog).toBeHidden();
    await expect(lane(page, 'second in')).toContainText(/by 11:59 PM|by 23:59/);
  });

  await test.step('undone, and dragged to another bay by its drawing', async () => {
    await page.getByRole('button', { name: `Change bay, technician or promise of case ${second.split('/').at(-1)!.padStart(4, '0')}` }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('Bay', { exact: true }).selectOption('Bay 3');
    await dialog.getByRole('button', { name: 'Save' }).click();
    await expect(lane(page, 'second in')).toContainText('Bay 3');
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(lane(page, 'second in')).toContainText('Bay 4');
    await expect(page.getByRole('button', { name: 'Undo' })).toHaveCount(0);

    const from = (await lane(page, 'second in').getByTitle('Drag to another bay').boundingBox())!;
    const to = (await lane(page, 'first in').boundingBox())!;
    await page.mouse.move(from.x + 20, from.y + 20);
    await page.mouse.down();
    await page.mouse.move(from.x + 30, from.y + 30);
    await page.mouse.move(to.x + 60, to.y + 40, { steps: 8 });
    await page.mouse.up();
    await expect(lane(page, 'second in')).toContainText('Bay 2');
    await expect(lane(page, 'second in')).toContainText(/by 11:59 PM|by 23:59/);
    await page.reload();
    await expect(lane(page, 'second in')).toContainText('Bay 2');
  });

  await test.step('two technicians', async () => {
    await alive(page);
    const saved = page.waitForResponse((answer) => answer.request().method() === 'POST');
    await page.getByLabel('technicians at work').selectOption('2');
    expect((await saved).status()).toBe(200);
    await page.reload();
    await expect(page.getByLabel('technicians at work')).toHaveValue('2');
    await page.getByLabel('technicians at work').selectOption('1');
    await expect(page.getByLabel('technicians at work')).toBeEnabled();
  });

  await test.step('by name: marked as at work, given a case, seen by technician, dragged to somebody else, undone', async () => {
    const atWork = async (name: string, is: boolean) => {
      const button = page.getByRole('group', { name: 'At work by name' }).getByRole('button', { name });
      await button.click();
      await expect(button).toHaveAttribute('aria-pressed', String(is));
      await expect(button).toBeEnabled();
    };
    await page.getByText('by name', { exact: true }).click();
    await atWork('Ines Marrow', true);
    await atWork('Teodor Lusk', true);
    await expect(page.getByLabel('technicians at work')).toHaveValue('2');
    await page.getByLabel('technicians at work').selectOption('1');
    await expect(page.getByText('2 people are marked as at work by name. Take one out first.')).toBeVisible();
    await expect(page.getByLabel('technicians at work')).toHaveValue('2');
    await page.getByRole('button', { name: `Change bay, technician or promise of case ${second.split('/').at(-1)!.padStart(4, '0')}` }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('Technician').selectOption('Teodor Lusk');
    await dialog.getByRole('button', { name: 'Save' }).click();
    await expect(lane(page, 'second in')).toContainText('Teodor Lusk');
    await page.getByRole('link', { name: 'by technician' }).click();
    await page.waitForURL('/?by=technician');
    await seeNoViolations(page);
    await expect(page.getByText('Next up for you')).toBeVisible();
    const free = page.getByRole('listitem').filter({ hasText: /^Ines Marrow\s*free/ });
    await expect(free).toBeVisible();
    const from = (await lane(page, 'second in').getByTitle('Drag to somebody else').boundingBox())!;
    const to = (await free.boundingBox())!;
    await page.mouse.move(from.x + 20, from.y + 20);
    await page.mouse.down();
    await page.mouse.move(from.x + 30, from.y + 30);
    await page.mouse.move(to.x + 60, to.y + to.height / 2, { steps: 8 });
    await page.mouse.up();
    await expect(lane(page, 'second in')).toContainText('Ines Marrow');
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(lane(page, 'second in')).toContainText('Teodor Lusk');
    await page.reload();
    await expect(lane(page, 'second in')).toContainText('Teodor Lusk');
    await page.getByText('Ines Marrow, Teodor Lusk').click();
    await atWork('Teodor Lusk', false);
    await expect(page.getByText(/is for Teodor Lusk, who is not at work\. The plan gives it to anybody\./)).toBeVisible();
    await atWork('Ines Marrow', false);
    await page.getByRole('link', { name: 'by bay' }).click();
    await page.waitForURL('/');
  });

  await test.step('the day ahead', async () => {
    await page.getByRole('navigation', { name: 'How far ahead' }).getByRole('link', { name: '8 hours' }).click();
    await page.waitForURL('/?ahead=day');
    await expect(page.getByRole('link', { name: '8 hours' })).toHaveAttribute('aria-current', 'true');
    await expect(lane(page, 'second in')).toContainText('if all goes as is likely');
  });
});

test('at touch width nothing is cut', async ({ page }) => {
  await page.setViewportSize({ width: 360, height: 740 });
  await openCase(page, { vehicle: 'Calder Parcel van, a long name for a narrow page' });
  await page.goto('/');
  await expect(lane(page, 'a long name')).toBeVisible();
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(360);
});

test('what is next is said aloud where that is wished, again when it changes, and after a reload', async ({ page }) => {
  await page.addInitScript(() => {
    const said: string[] = [];
    Object.defineProperty(window, 'said', { value: said });
    Object.defineProperty(window, 'speechSynthesis', { value: { cancel: () => {}, speak: (words: { text: string }) => said.push(words.text) } });
  });
  const said = () => page.evaluate(() => (window as unknown as { said: string[] }).said);
  await page.goto('/');
  const heading = page.getByRole('region', { name: 'Next up' }).getByRole('heading', { level: 1 });
  await expect(heading).toBeVisible();
  expect(await said()).toEqual([]);
  const button = page.getByRole('button', { name: 'Say what’s next aloud' });
  await button.click();
  await expect(button).toHaveAttribute('aria-pressed', 'true');
  await expect.poll(said).toEqual([await heading.innerText()]);
  await page.reload();
  await expect.poll(said).toEqual([await heading.innerText()]);
  await button.click();
  await expect(button).toHaveAttribute('aria-pressed', 'false');
  await page.reload();
  await expect(heading).toBeVisible();
  expect(await said()).toEqual([]);
});

test('a choice made before the page is alive is done as soon as it is', async ({ page }) => {
  let release = () => {};
  const held = new Promise<void>((resolve) => (release = resolve));
  await page.route('**/assets/*.js', async (route) => {
    await held;
    await route.continue();
  });
  await page.goto('/', { waitUntil: 'commit' });
  const hands = page.getByLabel('technicians at work');
  const before = await hands.inputValue();
  await hands.selectOption('5');
  await expect(page.locator('html')).not.toHaveAttribute('data-alive');
  const sent = page.waitForResponse((r) => r.request().method() === 'POST' && r.ok());
  release();
  await sent;
  await expect(hands).toHaveValue('5');
  await page.unroute('**/assets/*.js');
  await page.reload();
  await alive(page);
  await expect(hands).toHaveValue('5');
  await hands.selectOption(before);
  await expect(hands).toBeEnabled();
});
