import { Buffer } from 'node:buffer';
import { readFileSync } from 'node:fs';
import type { Locator, Page } from '@playwright/test';
import { follow } from './follow';
import { alive, comeIn, expect, instruction, openCase, seeNoViolations, test } from './harness';

test.use({ as: 'Ines Marrow' });

const secret = '3FA819C4770B5DE2';
const item = (page: Page, name: string): Locator => page.getByRole('list', { name: 'Sealed items' }).getByRole('listitem').filter({ hasText: name });

/** Opens a case with authority on record, and its vault. */
async function openVault(page: Page, vehicle: string): Promise<string> {
  const path = await openCase(page, { vehicle, system: /^Veskar Codex/, authority: true });
  await page.goto(`${path}/vault`);
  await alive(page);
  return path;
}

async function sealSecret(page: Page, name: string, again = secret): Promise<void> {
  const form = page.getByRole('region', { name: 'Seal something' });
  await form.getByRole('radio', { name: 'Secret' }).check();
  await form.getByLabel('Name').fill(name);
  await form.getByLabel('The secret', { exact: true }).fill('3FA8 19C4 770B 5DE2');
  await form.getByLabel('The secret again, from the original').fill(again);
  await form.getByLabel('Why').fill('The key is written today.');
  await form.getByRole('button', { name: 'Seal it' }).click();
}

/** Opens the part of an item that asks for the reason, and gives one. */
async function withReason(row: Locator, summary = 'Open it'): Promise<void> {
  await row.locator('summary', { hasText: summary }).click();
  await row.getByLabel('Why', { exact: true }).fill('For the scan tool.');
}

test('a secret from the bench: typed wrong once, sealed, shown four at a time, closed after a minute, nothing of it kept', async ({
  page,
  advance,
}) => {
  await openVault(page, 'Veskar Codex, sealed');
  await expect(page.getByText('Nothing is sealed in this case.')).toBeVisible();
  await seeNoViolations(page);
  await sealSecret(page, 'Secret of the module', '3FA8 19C4 770B 5DE3');
  await expect(page.getByText('The two entries differ. Type both again, each from the original.').first()).toBeVisible();
  await expect(page.getByLabel('Name')).toHaveValue('Secret of the module');
  await page.getByLabel('The secret again, from the original').fill(secret);
  await page.getByRole('button', { name: 'Seal it' }).click();
  const row = item(page, 'Secret of the module');
  await expect(row).toContainText('Secret, 16 bytes, sealed by Ines Marrow');

  await row.locator('summary', { hasText: 'Open it' }).click();
  await row.getByRole('button', { name: 'Show it here' }).click();
  await expect(row.getByText(/reason|Write/i).first()).toBeVisible();
  await row.getByLabel('Why', { exact: true }).fill('For the scan tool.');
  await row.getByRole('button', { name: 'Show it here' }).click();
  const shown = row.getByRole('group', { name: 'The secret' });
  await expect(shown).toContainText('4 groups, all hidden.');
  await expect(shown).not.toContainText('3FA8');
  await shown.getByRole('button', { name: 'Show the first four' }).click();
  await expect(shown).toContainText('3FA8');
  await shown.getByRole('button', { name: 'Next four' }).click();
  await expect(shown).toContainText('19C4');
  await expect(shown).not.toContainText('3FA8');
  await seeNoViolations(page);
  await advance(61);
  await expect(shown).toHaveCount(0);
  const kept = await page.evaluate(() =>
    JSON.stringify([{ ...localStorage }, { ...sessionStorage }, history.state, document.documentElement.outerHTML]),
  );
  for (const part of ['3FA8', '19C4', '770B']) expect(kept).not.toContain(part);
});

test('a memory file: sealed and saved again byte for byte; kept, given, destroyed', async ({ page }) => {
  const path = await openVault(page, 'Veskar Codex, memory');
  const bytes = Buffer.from(Array.from({ length: 2048 }, (_, i) => (i * 37) & 255));
  await page.getByLabel('Name').fill('Module, first read');
  await page.locator('input[type=file]').setInputFiles({ name: 'module.bin', mimeType: 'application/octet-stream', buffer: bytes });
  await page.getByLabel('Why').fill('Before the write.');
  await page.getByRole('button', { name: 'Seal it' }).click();
  const row = item(page, 'Module, first read');
  await expect(row).toContainText('Memory file, 2048 bytes, module.bin');
  await withReason(row);
  const download = page.waitForEvent('download');
  await row.getByRole('button', { name: 'Save as a file' }).click();
  const saved = await download;
  expect(saved.suggestedFilename()).toBe('module.bin');
  expect(readFileSync((await saved.path())!).equals(bytes)).toBe(true);

  await row.locator('summary', { hasText: 'Keep, give or destroy' }).click();
  await row.getByRole('button', { name: 'Module, first read: keep until that day' }).click();
  await expect(page.getByText('Until when is it kept? Choose a day that is still to come.').first()).toBeVisible();
  await row.getByLabel('Keep it until').fill('2099-12-31');
  await row.getByRole('button', { name: 'Module, first read: keep until that day' }).click();
  await expect(row).toContainText(/Kept until .*2099/);
  await row.getByLabel('Why it is destroyed').fill('The job is done.');
  await row.getByRole('button', { name: 'Module, first read: destroy it for good' }).click();
  await expect(row).toContainText('destroyed');
  await expect(row.getByRole('button')).toHaveCount(0);
  await page.goto(`/shop/audit?case=${path.split('/').at(-1)}`);
  for (const action of ['sealed', 'copied out', 'destroyed']) await expect(page.getByText(action, { exact: true }).first()).toBeVisible();
});

test('to a second device: the code works once, and looking at it takes nothing', async ({ page, browser, baseURL, advance }) => {
  await openVault(page, 'Veskar Codex, second device');
  await sealSecret(page, 'For the tablet');
  const row = item(page, 'For the tablet');
  await withReason(row);
  const answered = page.waitForResponse((r) => r.request().method() === 'POST' && /\/vault\/[0-9a-f-]{36}$/.test(r.url()));
  await row.getByRole('button', { name: 'To a second device' }).click();
  const { address } = (await (await answered).json()) as { address: string };
  await expect(row.getByText(/It works once, for 2:00|It works once, for 1:/)).toBeVisible();
  const context = await browser.newContext({ baseURL: baseURL! });
  await comeIn(context, baseURL!, 'Maud Ferrow');
  const tablet = await context.newPage();
  await tablet.goto(address);
  await alive(tablet);
  await tablet.reload();
  await alive(tablet);
  await tablet.getByRole('button', { name: 'Take it' }).click();
  await tablet.getByRole('button', { name: 'Show the first four' }).click();
  await expect(tablet.getByRole('group', { name: 'The secret' })).toContainText('3FA8');
  await tablet.reload();
  await alive(tablet);
  await tablet.getByRole('button', { name: 'Take it' }).click();
  await expect(tablet.getByRole('alert')).toHaveText('This code was used, or it is older than two minutes. Make another one on the first device.');
  await context.close();
  await advance(121);
  await expect(row.getByText('The code has expired. Make another one if it was not used.')).toBeVisible();
});

test('a secret from the bench to the vehicle: typed in the run twice alike and wrong, held against the sealed one, then right', async ({
  page,
  advance,
}) => {
  test.slow();
  // A button that fades from shut to open is of neither color meanwhile.
  await page.emulateMedia({ reducedMotion: 'reduce' });
  const path = await openVault(page, 'Veskar Codex, to the vehicle');
  const long = '3FA819C4770B5DE20011A9F8C3D4';
  const form = page.getByRole('region', { name: 'Seal something' });
  await form.getByRole('radio', { name: 'Secret' }).check();
  await form.getByLabel('Name').fill('Secret of the body control module');
  await form.getByLabel('The secret', { exact: true }).fill(long);
  await form.getByLabel('The secret again, from the original').fill(long);
  await form.getByLabel('Why').fill('The key is written today.');
  await form.getByRole('button', { name: 'Seal it' }).click();
  await expect(item(page, 'Secret of the body control module')).toBeVisible();
  await page.goto(path);
  const about = page.getByRole('region', { name: 'About this case' });
  await about.locator('a[href$="run=write-sealed-key"]').click();
  const precautions = page.getByLabel('All precautions taken');
  await expect(page.getByRole('button', { name: 'Start the run' })).toBeVisible();
  if (await precautions.count()) await precautions.check();
  await page.getByRole('button', { name: 'Start the run' }).click();
  await page.waitForURL(/\/runs\/\d+$/);
  await expect(page.getByRole('list', { name: 'The whole run' })).toBeVisible();
  await follow(page, advance, [[/How does the programmer take the secret/, { answer: 'Typed' }]], /^Type the 28 digits of the secret twice/);

  const main = page.getByRole('main');
  const twice = async (first: string, second: string) => {
    await main.getByLabel('First entry').fill(first);
    await main.getByRole('button', { name: 'Hide it, type the second' }).click();
    await main.getByLabel(/^Second entry/).fill(second);
    await main.getByRole('button', { name: 'Compare' }).click();
  };
  const wrong = long.replace('0B5D', '085D');
  await expect(main.getByText('It is compared with the sealed one, and saved nowhere else.')).toBeVisible();
  // Misread once: the two entries differ.
  await twice(long, wrong);
  await expect(main.getByRole('button', { name: 'Type the second entry again' })).toBeVisible();
  await main.getByRole('button', { name: 'Start both over' }).click();
  // Misread twice alike: only the sealed one tells.
  await twice(wrong, wrong);
  await main.getByRole('button', { name: 'Compare and go on' }).click();
  await expect(main.getByRole('alert')).toHaveText(
    'Both entries are equal, but they differ from the sealed one. Don’t use them: type both again from the original.',
  );
  await seeNoViolations(page);
  await main.getByRole('button', { name: 'Start both over' }).click();
  await twice(long, long);
  await main.getByRole('button', { name: 'Compare and go on' }).click();
  await expect(instruction(page)).toHaveText('Does the programmer accept the secret?');
  await follow(page, advance, []);
  await expect(page.getByText('Finished', { exact: false }).first()).toBeVisible();
  await page.goto(`${path}/report`);
  await expect(page.getByText('28 characters, equal to the sealed “Secret of the body control module”').first()).toBeVisible();
  await expect(page.getByText('Sealed in the vault').first()).toBeVisible();
  expect(await page.content()).not.toContain('3FA8');
});

test('two people: one lead asks, the owner releases, and it opens once', async ({ page, browser, baseURL }) => {
  const context = await browser.newContext({ baseURL: baseURL! });
  await comeIn(context, baseURL!, 'Maud Ferrow');
  const second = await context.newPage();
  await second.goto('/shop/vault');
  await alive(second);
  await second.getByRole('button', { name: 'Ask for two people' }).click();
  await expect(second.getByText('Two people: one lead asks')).toBeVisible();
  const path = await openVault(page, 'Veskar Codex, two people');
  await sealSecret(page, 'By two');
  const row = item(page, 'By two');
  await withReason(row, 'Ask for its release');
  await row.getByRole('button', { name: 'Ask another lead' }).click();
  await expect(row.getByText('You asked for its release. Another lead releases it here.')).toBeVisible();
  await second.goto(`${path}/vault`);
  await alive(second);
  await item(second, 'By two').getByRole('button', { name: 'Release it to Ines Marrow' }).click();
  await expect(second.getByText('Released for ten minutes.')).toBeVisible();
  await expect(row.locator('summary', { hasText: 'Open it' })).toBeVisible();
  await row.getByRole('button', { name: 'Show it here' }).click();
  await expect(row.getByRole('group', { name: 'The secret' })).toBeVisible();
  await row.getByRole('button', { name: /^Close/ }).click();
  await page.reload();
  await expect(row.locator('summary', { hasText: 'Ask for its release' })).toBeVisible();
  await second.goto('/shop/vault');
  await alive(second);
  await second.getByRole('button', { name: 'Let one lead open it' }).click();
  await expect(second.getByText('One lead, with a reason.')).toBeVisible();
  await context.close();
});

test.describe('a technician', () => {
  test.use({ as: 'Teodor Lusk' });
  test('sees what is sealed and opens nothing; without authority nobody seals', async ({ page, browser, baseURL }) => {
    const path = await openCase(page, { vehicle: 'Veskar Codex, no authority', system: /^Veskar Codex/ });
    await page.goto(`${path}/vault`);
    await expect(page.getByText('A lead seals and opens.')).toBeVisible();
    await expect(page.getByRole('button', { name: 'Seal it' })).toHaveCount(0);
    const refused = await page.request.post(`${path}/vault/00000000-0000-4000-8000-000000000000`, {
      data: { intent: 'open', reason: 'I want to see it', commandId: 'technician-tries' },
      headers: { Origin: baseURL! },
    });
    expect(refused.status()).toBe(403);
    const context = await browser.newContext({ baseURL: baseURL! });
    await comeIn(context, baseURL!, 'Ines Marrow');
    const lead = await context.newPage();
    await lead.goto(`${path}/vault`);
    await expect(lead.getByText('Locked.')).toBeVisible();
    await expect(lead.getByRole('button', { name: 'Seal it' })).toHaveCount(0);
    await context.close();
  });
});
