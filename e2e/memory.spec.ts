import { Buffer } from 'node:buffer';
import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { follow } from './follow';
import { alive, choose, expect, instruction, openCase, seeNoViolations, test } from './harness';

const result = (page: Page) => page.getByRole('region', { name: 'Result' });
const read = (page: Page, role: string) => page.getByRole('button', { name: `${role}: read the simulated box` }).click();
const file = (page: Page, role: string, name: string, body: Buffer | string) =>
  page.getByLabel(`${role}, file`).setInputFiles({ name, mimeType: 'application/octet-stream', buffer: Buffer.from(body) });

test('a further key into a slot box: a dirty first read, two equal ones, the next empty slot, the write, the read back', async ({ page }) => {
  const path = await openCase(page, { vehicle: 'Dunmore Gully, two keys', system: /^Dunmore Gully/, authority: true });
  await page.goto(`/bench/memory?case=${path.split('/').at(-1)}`);
  await alive(page);
  // The layouts of the case's system type come first.
  await expect(page.getByRole('combobox', { name: 'Layout of the memory' })).toHaveText('Dunmore box with eight slots, kept twice');
  await choose(page, 'Layout of the memory', 'Dunmore box with five slots');
  await expect(page.getByRole('heading', { name: 'Dunmore box with five slots' })).toBeVisible();
  await seeNoViolations(page);

  await page.getByRole('radio', { name: 'Dirty contacts' }).check();
  await read(page, 'First read');
  await expect(result(page).getByRole('heading', { level: 2 })).toHaveText('Read once');
  await page.getByRole('radio', { name: 'Clean contacts' }).check();
  await read(page, 'Second read');
  await expect(result(page).getByRole('heading', { level: 2 })).toHaveText(/^The reads differ/);
  await expect(result(page)).toContainText('a dirty or loose contact. Clean the pins, put the contacts on again, read twice.');
  // Nothing can be written on such reads.
  await expect(page.getByRole('form', { name: 'Prepare a slot' })).toHaveCount(0);

  await read(page, 'First read');
  await expect(result(page)).toContainText('Both reads are equal, byte for byte.');
  await expect(result(page)).toContainText('Next slot: 4, empty in every byte of both reads.');
  const slots = page.getByRole('table', { name: 'Slots' });
  await expect(slots.getByRole('row', { name: /^4 proven empty/ })).toBeVisible();
  await expect(slots.getByRole('row', { name: /^1 used/ })).toBeVisible();
  await expect(slots.getByRole('row', { name: /^3 disabled/ })).toBeVisible();
  const stored = await slots
    .getByRole('row', { name: /^1 used/ })
    .getByRole('cell')
    .nth(1)
    .innerText();
  await page.getByLabel('Identity of tag A').fill(stored.toLowerCase());
  await expect(page.getByText('Stored in slot 1.')).toBeVisible();
  await page.getByLabel('Identity of tag A').fill('00000000');
  await expect(page.getByText('Not stored in this memory.')).toBeVisible();

  // Typed wrong once, and too short: said at the field, nothing is lost.
  const form = page.getByRole('form', { name: 'Prepare a slot' });
  await form.getByLabel('Identity', { exact: true }).fill('4B10 22');
  await form.getByLabel('Identity, again').fill('4B1023');
  await choose(page, 'Role', 'valet');
  await form.getByRole('button', { name: 'Make the new file' }).click();
  await expect(form.getByText('Identity: this is something else. Expected: 8 hexadecimal digits.')).toBeVisible();
  await expect(form.getByText('The two entries differ. Type both again from the key.')).toBeVisible();
  await expect(form.getByLabel('Identity', { exact: true })).toHaveValue('4B10 22');
  await form.getByLabel('Identity', { exact: true }).fill('4B10 2277');
  await form.getByLabel('Identity, again').fill('4b102277');
  await form.getByRole('button', { name: 'Make the new file' }).click();

  const changes = page.getByRole('table', { name: 'Changed bytes' });
  await expect(changes.getByRole('row', { name: /Slot 4, Identity FFFFFFFF 4B102277/ })).toBeVisible();
  await seeNoViolations(page);
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save .hex' }).click();
  expect((await download).suggestedFilename()).toBe('slot-4.hex');

  // The supply is lost in the middle: the read back says so.
  await page.getByRole('checkbox', { name: 'Power lost in the middle of the next write' }).check();
  await page.getByRole('button', { name: 'Write it to the simulated box' }).click();
  await read(page, 'Read back');
  await expect(result(page).getByRole('heading', { level: 2 })).toHaveText('The write is not good.');
  await expect(result(page)).toContainText('written in part. Don’t reinstall it, and use no other slot.');
  await page.getByRole('checkbox', { name: 'Power lost in the middle of the next write' }).uncheck();
  await page.getByRole('button', { name: 'Write it to the simulated box' }).click();
  await read(page, 'Read back');
  await expect(result(page).getByRole('heading', { level: 2 })).toHaveText('The write is good.');
  await expect(result(page)).toContainText('Only slot 4 changed.');
  await expect(slots.getByRole('row', { name: /^4 used 4B102277 valet/ })).toBeVisible();
});

test('files of other forms, wrong ones, and an older file over a newer state', async ({ page }) => {
  await page.goto('/bench/memory');
  await alive(page);
  await expect(page.getByText('Choose the layout of the memory first: it says where the slots are.')).toBeVisible();
  await choose(page, 'Layout of the memory', 'Dunmore box with five slots');
  const empty = Buffer.alloc(256, 0xff);
  await file(page, 'First read', 'box.hex', 'no record\n');
  await expect(page.getByRole('alert')).toHaveText('box.hex: record 1 It begins with “n”, not with “:”. Remove the line, or read the memory again.');
  await file(page, 'First read', 'box.bin', Buffer.alloc(100, 0xff));
  await expect(result(page)).toContainText('The byte at 0064 is not in the file; the layout “Dunmore box with five slots” takes 256 bytes.');
  await file(page, 'First read', 'box.bin', empty);
  await file(page, 'Second read', 'again.bin', empty);
  await expect(result(page)).toContainText('Next slot: 1, empty in every byte of both reads.');
  const withKey = Buffer.from(empty);
  const slot = [0x5a, 1, 2, 3, 4, 1, 0x10, 0xff, 0, 0, 0, 0xff, 0xff, 0xff, 0xff];
  withKey.set([...slot, slot.reduce((x, b) => x ^ b, 0)], 0x20);
  await file(page, 'First read', 'now.bin', withKey);
  await file(page, 'An older file', 'old.bin', empty);
  await expect(page.getByRole('list', { name: 'What would be lost' })).toHaveText('The key in slot 1 would be lost.');
  await page.getByRole('button', { name: 'An older file: remove' }).click();
  await expect(page.getByRole('list', { name: 'What would be lost' })).toHaveCount(0);
});

/** A box with three keys, as the layout of five slots has it; written out apart from the code under test. */
function boxWithThree(): Buffer {
  const box = Buffer.alloc(256, 0xff);
  for (const slot of [1, 2, 3]) {
    const bytes = [slot === 3 ? 0x0d : 0x5a, 0x4b, 0x10, 0x22, slot, 1, 0x10, 0xff, 0, 0, slot, 0xff, 0xff, 0xff, 0xff];
    box.set([...bytes, bytes.reduce((x, b) => x ^ b, 0)], 0x20 + (slot - 1) * 16);
  }
  return box;
}

/** Watches whether an answer can be pressed while the slots are not told yet: then it moves under the finger. */
async function watchAnswer(page: Page, name: string): Promise<() => Promise<boolean>> {
  await page.evaluate((text) => {
    const seen = window as typeof window & { answeredEarly?: boolean };
    seen.answeredEarly = false;
    new MutationObserver(() => {
      const button = [...document.querySelectorAll<HTMLButtonElement>('main button')].find((b) => b.innerText.trim() === text);
      if (button && !button.disabled && !document.querySelector('table[aria-label="Slots"]')) seen.answeredEarly = true;
    }).observe(document.body, { childList: true, subtree: true, attributes: true });
  }, name);
  return () => page.evaluate(() => (window as typeof window & { answeredEarly?: boolean }).answeredEarly!);
}

test('a further key into a slot box, in the run: a first read that differs, slots, the new file, the read back, the report', async ({
  page,
  advance,
}) => {
  test.slow();
  await page.emulateMedia({ reducedMotion: 'reduce' });
  const path = await openCase(page, {
    vehicle: 'Orrin Thimble, slot box',
    system: /^Separate box/,
    keys: [{ tag: 'A' }, { tag: 'B' }],
    authority: true,
  });
  await page.getByRole('region', { name: 'About this case' }).locator('a[href$="run=write-slot"]').click();
  await expect(page.getByRole('button', { name: 'Start the run' })).toBeVisible();
  await page.getByRole('radio', { name: 'tag B' }).check({ force: true });
  const precautions = page.getByLabel('All precautions taken');
  if (await precautions.count()) await precautions.check();
  await page.getByRole('button', { name: 'Start the run' }).click();
  await page.waitForURL(/\/runs\/\d+$/);
  await expect(page.getByRole('list', { name: 'The whole run' })).toBeVisible();
  const main = page.getByRole('main');
  const pick = (label: string | RegExp, name: string, buffer: Buffer) =>
    main.getByLabel(label).setInputFiles({ name, mimeType: 'application/octet-stream', buffer });
  const goOn = async (button: string | RegExp) => {
    const before = await instruction(page).innerText();
    await main.getByRole('button', { name: button }).first().click();
    await expect(instruction(page)).not.toHaveText(before);
  };
  const box = boxWithThree();

  await follow(page, advance, [], /^Read the whole memory and save the file/);
  await pick('Pick the file', 'first.bin', box);
  await choose(page, 'Layout of the memory', 'Dunmore box with five slots');
  const slots = main.getByRole('table', { name: 'Slots' });
  await expect(slots.getByRole('row', { name: /^4 empty/ })).toBeVisible();
  await goOn('Read and saved');

  await follow(page, advance, [], /^Read the whole memory again/);
  const dirty = Buffer.from(box);
  dirty[0x21]! ^= 0x40;
  dirty[0x90]! ^= 0x02;
  await pick('Pick the file', 'second.bin', dirty);
  await expect(main.getByText('Not equal to first.bin, 256 bytes.')).toBeVisible();
  await goOn(/differ/i);
  await follow(page, advance, [], /^Read the whole memory and save the file|^Read the whole memory again/);
  // Contacts cleaned: it begins with a first read again, or with the second one.
  for (let i = 0; i < 3 && !/again/.test(await instruction(page).innerText()); i += 1) {
    const early = await watchAnswer(page, 'Read and saved');
    await pick('Pick the file', 'first.bin', box);
    await goOn('Read and saved');
    expect(await early()).toBe(false);
    await follow(page, advance, [], /^Read the whole memory again/);
  }
  await pick('Pick the file', 'second.bin', box);
  await expect(main.getByText('Next slot: 4, empty in every byte of both reads.')).toBeVisible();
  await expect(slots.getByRole('row', { name: /^4 proven empty/ })).toBeVisible();
  await seeNoViolations(page);
  await main.getByText('Make the new file here').click();
  const form = main.getByRole('form', { name: 'Prepare a slot' });
  await form.getByLabel('Identity', { exact: true }).fill('7C01009E');
  await form.getByLabel('Identity, again').fill('7C01009E');
  await form.getByRole('button', { name: 'Make the new file' }).click();
  const download = page.waitForEvent('download');
  await main.getByRole('button', { name: 'Save .bin' }).click();
  const written = readFileSync((await (await download).path())!);
  await goOn('Equal, byte for byte');

  await follow(page, advance, [], /^Read the whole memory back/);
  await pick('Pick the file', 'after.bin', written);
  await pick(/^Pick first\.bin again|^Pick .*\.bin again/, 'first.bin', box);
  await expect(main.getByRole('list', { name: 'Where they differ' })).toContainText('0050');
  await expect(main.getByText('Only slot 4 changed.')).toBeVisible();
  await expect(main.getByRole('list', { name: 'What changed' })).toContainText('Slot 4, Identity: empty before, 7C01009E now');
  await goOn('Only that slot differs');
  await follow(page, advance, []);
  await expect(page.getByText('Finished', { exact: false }).first()).toBeVisible();
  await page.goto(`${path}/report`);
  await expect(page.getByText(/after\.bin, 256 bytes, SHA-256/).first()).toBeVisible();
});

test('a layout in the Library: its map, its export, and one of the shop', async ({ page, browser, baseURL }) => {
  await page.goto('/library');
  await page.getByRole('link', { name: 'Memory layouts' }).click();
  await page.getByRole('link', { name: 'Dunmore box with five slots' }).click();
  await expect(page.getByRole('list', { name: 'Map of the memory' }).getByRole('listitem').filter({ hasText: 'Slot 3' })).toContainText('0040');
  await seeNoViolations(page);
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Export as YAML' }).click();
  const yaml = (await (await (await download).createReadStream()).toArray()).join('');
  expect(yaml).toContain('kind: layout');

  const lead = await (await browser.newContext({ baseURL: baseURL! })).newPage();
  await lead.goto('/sign-in?to=/library/import');
  await lead.getByRole('button', { name: 'Sign in as Ines Marrow' }).click();
  await lead.waitForURL('/library/import');
  await alive(lead);
  const own = yaml.replace('id: dunmore-five', 'id: shop-box').replace(/title: Dunmore box.*/, 'title: Box of the shop');
  await lead.getByLabel('Or paste it here').fill(own.replace('count: 5', 'count: 50'));
  await lead.getByRole('button', { name: 'Import' }).click();
  await expect(lead.getByRole('alert')).toContainText('The slot area goes beyond the 256 bytes of the memory.');
  await lead.getByLabel('Or paste it here').fill(own);
  await lead.getByRole('button', { name: 'Import' }).click();
  await lead.getByRole('link', { name: 'Open the layout' }).click();
  await expect(lead.getByRole('heading', { level: 1 })).toHaveText('Box of the shop');
  await lead.getByRole('button', { name: 'Retire' }).click();
  await expect(lead.getByText('No longer offered.').first()).toBeVisible();
  await page.goto('/bench/memory');
  await alive(page);
  await page.getByRole('combobox', { name: 'Layout of the memory' }).click();
  await expect(page.getByRole('option', { name: 'Box of the shop' })).toHaveCount(0);
  await expect(page.getByRole('option', { name: 'Dunmore box with five slots' })).toBeVisible();
  await lead.context().close();
});

test.describe('on a phone', () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true, colorScheme: 'dark' });
  test('read twice with a finger, nothing cut', async ({ page }) => {
    await page.goto('/bench/memory?layout=dunmore-mirrored');
    await alive(page);
    await read(page, 'First read');
    await page.getByRole('radio', { name: 'One data line open' }).check();
    await read(page, 'Second read');
    await expect(result(page).getByRole('heading', { level: 2 })).toHaveText('One data line is stuck.');
    // Without a case a key in hand is looked up by itself.
    await page.getByLabel('Identity of a key in hand').fill('00000000');
    await expect(page.getByText(/^Not stored: none of the \d keys in this memory has this identity\.$/)).toBeVisible();
    await seeNoViolations(page);
    expect(await page.evaluate(() => document.documentElement.scrollWidth <= innerWidth)).toBe(true);
  });
});

test('stored keys beside keys in hand: saved to the case, on its board; a used slot only for a written reason; the file sealed from here', async ({
  page,
  advance,
}) => {
  test.slow();
  await page.emulateMedia({ reducedMotion: 'reduce' });
  const path = await openCase(page, {
    vehicle: 'Orrin Thimble, slots',
    system: /^Separate box/,
    keys: [{ tag: 'A' }, { tag: 'B' }],
    authority: true,
  });
  const id = path.split('/').at(-1)!;
  await page.goto(`/bench/memory?case=${id}&layout=dunmore-five`);
  await alive(page);
  const box = boxWithThree();
  await file(page, 'First read', 'first.bin', box);
  await file(page, 'Second read', 'second.bin', box);
  const keys = page.getByRole('region', { name: /^Keys of case/ });
  await keys.getByLabel('Identity of tag A').fill('4b 10 22 01');
  await keys.getByLabel('Identity of tag B').fill('7C01009E');
  await expect(keys.getByText('Stored in slot 1.')).toBeVisible();
  await expect(keys.getByText('Not stored in this memory.')).toBeVisible();
  await expect(keys.getByRole('status').first()).toContainText('Stored: tag A in slot 1. Not stored: tag B.');
  await seeNoViolations(page);
  await keys.getByRole('button', { name: /^Save the slots to case/ }).click();
  await expect(keys.getByText(/^Saved to the case\. Read twice, equal\./)).toBeVisible();

  await test.step('sealed from here, without choosing the file again', async () => {
    await keys.getByText('Seal the first read in the vault').click();
    await keys.getByRole('button', { name: 'Seal it' }).click();
    await expect(keys.getByRole('alert')).toBeVisible();
    await keys.getByLabel('Why it is sealed').fill('kept for the customer');
    await keys.getByRole('button', { name: 'Seal it' }).click();
    await expect(keys.getByText('Sealed.')).toBeVisible();
  });

  await test.step('a used slot is written over only for a reason, and a lost key is disabled', async () => {
    const form = page.getByRole('form', { name: 'Prepare a slot' });
    await choose(page, 'Slot', /^2, used/);
    await form.getByLabel('Identity', { exact: true }).fill('7C01009E');
    await form.getByLabel('Identity, again').fill('7C01009E');
    await form.getByRole('button', { name: 'Make the new file' }).click();
    await expect(form.getByText('Say in a few words why. It goes into the record.')).toBeVisible();
    await expect(form.getByLabel('Identity', { exact: true })).toHaveValue('7C01009E');
    await form.getByRole('radio', { name: 'Disable a lost key' }).check();
    await form.getByLabel('Why this key is disabled').fill('lost on the beach, says the owner');
    await form.getByRole('button', { name: 'Make the new file' }).click();
    await expect(page.getByText('In the new file the key in slot 2 is disabled. The file you read stays as it is.')).toBeVisible();
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Save .bin' }).click();
    const written = readFileSync((await (await download).path())!);
    // Written out apart from the code: only the state of slot 2 and its checksum differ.
    expect([...written].flatMap((b, i) => (b === box[i] ? [] : [i]))).toEqual([0x30, 0x3f]);
    await advance(60);
    await file(page, 'Read back', 'after.bin', written);
    await expect(result(page).getByRole('heading', { level: 2 })).toHaveText('The write is good.');
    await keys.getByRole('button', { name: /^Save the slots to case/ }).click();
    await expect(keys.getByText(/The key in slot 2 was disabled: lost on the beach, says the owner/)).toBeVisible();
  });

  await page.goto(path);
  const stored = page.getByRole('list', { name: 'Stored keys' }).getByRole('listitem');
  await expect(stored).toHaveText([/^1 tag A$/, /^2 disabled$/, /^3 disabled$/, /^4 proven empty$/, /^5 proven empty$/]);
  await expect(page.getByRole('region', { name: 'Keys', exact: true }).getByText('stored in slot 1')).toBeVisible();
  await expect(page.getByRole('region', { name: 'Keys', exact: true }).getByText('not stored')).toBeVisible();
  await seeNoViolations(page);
  await page.reload();
  await expect(stored).toHaveCount(5);
  await page.goto(`${path}/vault`);
  await expect(page.getByText('first.bin').first()).toBeVisible();
  await page.goto(`${path}/report`);
  await expect(page.getByText(/The key in slot 2 was disabled: lost on the beach/).first()).toBeVisible();
});
