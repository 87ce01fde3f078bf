import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { alive, answer, expect, instruction, measure, openCase, proposed, seeNoViolations, startRun, test } from './harness';

/** An invented text, as a person pastes it. */
const text = `Learning after the ECM was replaced

1. Connect a battery maintainer.
2. Insert the main key and turn the ignition on.
3. Wait 10 to 11 minutes.
4. The security light goes out.
5. Turn the ignition off for at least 5 seconds.
6. Repeat steps 2 to 5 one more time.
7. Start the engine within 30 seconds.
8. About half past, look at it.`;

/** Moves the row whose handle has the focus one place by the keyboard, each key once the list says that it heard the one before; an arrow it did not hear comes again. */
async function moveByKeyboard(page: Page, arrow: 'ArrowUp' | 'ArrowDown'): Promise<void> {
  const says = (what: RegExp, timeout = 25_000) =>
    expect(page.locator('[id^="DndLiveRegion"]').filter({ hasText: what })).toHaveCount(1, { timeout });
  await page.keyboard.press('Space');
  await says(/ was moved over droppable area /);
  await expect(async () => {
    await page.keyboard.press(arrow);
    await says(/^Draggable item (.+) was moved over droppable area (?!\1\.)/, 5000);
  }).toPass();
  await page.keyboard.press('Space');
}

test('a text becomes a procedure of the shop: checked step by step, saved, mended, and run in a case', async ({ page, advance }) => {
  await page.goto('/library/transponder-dwell');
  await page.getByRole('link', { name: 'Make a procedure from a text' }).click();
  await alive(page);
  await page.getByRole('button', { name: 'Read the text' }).click();
  await expect(page.getByText('No sentence found. Paste the text of the procedure.')).toBeVisible();
  await page.getByLabel('Text of the service information').fill(text);
  await page.getByRole('button', { name: 'Read the text' }).click();

  const row = (n: number) => page.getByRole('listitem', { name: `Step ${n}`, exact: true });
  await expect(page.getByLabel('Title')).toHaveValue('Learning after the ECM was replaced');
  await expect(row(3).getByLabel('At least (m:ss)')).toHaveValue('10:00');
  await expect(row(3).getByLabel('At most (m:ss)')).toHaveValue('11:00');
  await expect(row(6).getByLabel('Cycles in all')).toHaveValue('2');
  await expect(row(6).getByRole('combobox', { name: 'From' })).toHaveText('2: Insert the main key and turn the ignition on.');
  await expect(row(7).getByLabel('Within (m:ss)')).toHaveValue('30');
  await expect(page.getByRole('region', { name: 'Time line' })).toContainText('Choose the point of no return above.');
  await seeNoViolations(page);

  // Wrong figures are said beside their field, and the sentence stays in sight when its words are changed.
  await row(3).getByLabel('At most (m:ss)').fill('9:00');
  await expect(row(3).getByText('It must be more than the least time.')).toBeVisible();
  await row(3).getByLabel('At most (m:ss)').fill('12:00');
  await row(8).getByLabel('Step 8, words').fill('Look at the light.');
  await expect(row(8).getByText('Line 10: “About half past, look at it.”')).toBeVisible();
  // A reload in the middle loses nothing.
  await page.reload();
  await alive(page);
  await expect(row(3).getByLabel('At most (m:ss)')).toHaveValue('12:00');

  // The last step goes up by its arrow and down again by the keyboard on its number, then it is left out.
  await row(8).getByRole('button', { name: 'Up step 8' }).click();
  await expect(row(7).getByLabel('Step 7, words')).toHaveValue('Look at the light.');
  await row(7).getByRole('button', { name: 'Move step 7' }).focus();
  await moveByKeyboard(page, 'ArrowDown');
  await expect(row(8).getByLabel('Step 8, words')).toHaveValue('Look at the light.');
  await row(8).getByRole('button', { name: 'Leave out step 8' }).click();

  await page.getByRole('combobox', { name: /^Point of no return/ }).click();
  await page.getByRole('option', { name: /^7: Start the engine/ }).click();
  await expect(page.getByRole('region', { name: 'Time line' })).toContainText(/About 2\d min with two keys, 20 min of it waiting/);
  await page.getByRole('button', { name: 'Those that are not marked are right' }).click();
  const save = page.getByRole('button', { name: 'Save the procedure' });
  await expect(save).toBeEnabled();
  await save.click();
  await expect(page.getByText('Nothing you typed is lost.', { exact: false })).toBeVisible();
  await page.getByRole('textbox', { name: 'Source' }).fill('Workshop folder 7, page 12');
  await save.click();
  await page.waitForURL(/\/library\/procedures\/shop-/);
  await expect(page.getByText('Procedure of this shop, version 1.', { exact: false })).toBeVisible();
  await expect(page.getByRole('region', { name: 'Time line' }).getByText('point of no return')).toBeVisible();

  await test.step('mended, it is the next version, and both stand side by side', async () => {
    await alive(page);
    await row(5).getByLabel('At least (m:ss)').fill('8');
    await expect(page.getByText('One step is not checked yet: 5.')).toBeVisible();
    await row(5).getByRole('checkbox').check();
    await save.click();
    await expect(page.getByText('Procedure of this shop, version 2.', { exact: false })).toBeVisible();
    await page.getByText('One step differs from version 1').click();
    await expect(page.getByRole('row', { name: /at least 5 s.*at least 8 s.*changed/ })).toBeVisible();
  });
  await test.step('as a file, it is a procedure that the lint knows', async () => {
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Export as YAML' }).click()]);
    expect(readFileSync(await download.path(), 'utf8')).toContain('source: Workshop folder 7, page 12');
  });

  await test.step('a case of the system type is run with it', async () => {
    await openCase(page, {
      vehicle: 'Veskar Almanac, from a text',
      system: /timed relearn with ignition on/,
      changed: ['ECM replaced'],
      authority: true,
    });
    await page.getByRole('button', { name: 'Lit for some seconds, then out' }).click();
    await proposed(page);
    await page
      .getByRole('link', { name: /^Learning after the ECM was replaced/ })
      .first()
      .click();
    await startRun(page, 'Learning after the ECM was replaced');
    await page.waitForURL(/\/runs\/\d+$/);
    await alive(page);
    await measure(page, '12.6');
    await answer(page, 'Done');
    for (let cycle = 1; cycle <= 2; cycle += 1) {
      await expect(instruction(page)).toHaveText('Insert the main key and turn the ignition on.');
      await answer(page, 'Done');
      await expect(instruction(page)).toHaveText('Wait 10 to 11 minutes.');
      await advance(600);
      await expect(instruction(page)).toHaveText('The security light goes out.');
      await answer(page, 'As it says');
      await expect(instruction(page)).toHaveText('Turn the ignition off for at least 5 seconds.');
      await advance(8);
      await answer(page, 'Go on');
    }
    await expect(instruction(page)).toHaveText('Next is the point of no return.');
    await answer(page, 'Go on');
    await page.getByText('All precautions taken').click();
    await answer(page, 'Done');
    await expect(page.getByText('Finished', { exact: false }).first()).toBeVisible();
  });
});

test('a copy of a shipped procedure: a note of a run becomes a hint, steps are moved, left out and added, and the copy is run', async ({ page }) => {
  const path = await openCase(page, { vehicle: 'Orrin Thimble, copied', system: /^Resistor key/, keys: [{ tag: 'A' }], authority: true });
  const begin = async (name: string | RegExp) => {
    await page.getByRole('region', { name: 'About this case' }).getByRole('link', { name }).click();
    await page.getByRole('button', { name: 'Start the run' }).click();
    await expect(page.getByRole('list', { name: 'The whole run' })).toBeVisible();
  };
  await page.getByRole('region', { name: 'About this case' }).getByText('For every vehicle').click();
  await begin(/^Check a new key/);
  await page.getByRole('button', { name: 'Something else happened' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('button', { name: 'Save the note' }).click();
  await expect(dialog.getByText('Write it in a few words.')).toBeVisible();
  await dialog.getByLabel(/^Only a note/).fill('Suppliers mix up the 433 and 434 shells.');
  await dialog.getByRole('button', { name: 'Save the note' }).click();
  await expect(dialog).toBeHidden();
  await page.getByRole('button', { name: 'Stop the run' }).click();
  await page.getByRole('dialog').getByRole('textbox').fill('Tried enough.');
  await page.getByRole('dialog').getByRole('button', { name: 'Stop the run' }).click();
  await expect(page.getByText('Stopped', { exact: false }).first()).toBeVisible();

  await page.goto('/library/procedures/check-new-key');
  await alive(page);
  await expect(page.getByText('Noted in a run: “Suppliers mix up the 433 and 434 shells.” (Ines Marrow)')).toBeVisible();
  await page.getByRole('button', { name: 'Copy to a procedure of the shop' }).click();
  await page.waitForURL(/\/library\/procedures\/shop-/);
  const row = (n: number) => page.getByRole('listitem', { name: `Step ${n}`, exact: true });
  await expect(row(1).getByLabel('Step 1, words')).toHaveValue(/^Compare the new key with the old one/);
  await seeNoViolations(page);

  await row(1).getByRole('button', { name: 'Add to the hint of step 1' }).click();
  await expect(row(1).getByLabel('Step 1, hint')).toHaveValue('Suppliers mix up the 433 and 434 shells.');
  await row(5).getByRole('button', { name: 'Up step 5' }).click();
  await expect(row(4).getByLabel('Step 4, words')).toHaveValue(/^Measure the band/);
  await row(4).getByRole('button', { name: 'Leave out step 4' }).click();
  await expect(row(4).getByLabel('Step 4, words')).toHaveValue(/^Read its chip/);
  await page.getByRole('button', { name: 'Undo the last change' }).click();
  await expect(row(4).getByLabel('Step 4, words')).toHaveValue(/^Measure the band/);
  await row(1).getByRole('button', { name: 'Add a step after step 1' }).click();
  await row(2).getByLabel('Step 2, words').fill('Photograph both keys side by side.');
  // By the keyboard on its number, among its neighbors.
  await row(2).getByRole('button', { name: 'Move step 2' }).focus();
  await moveByKeyboard(page, 'ArrowUp');
  await expect(row(1).getByLabel('Step 1, words')).toHaveValue('Photograph both keys side by side.');
  // A reload in the middle loses nothing.
  await page.reload();
  await alive(page);
  await expect(row(1).getByLabel('Step 1, words')).toHaveValue('Photograph both keys side by side.');

  await row(3).getByLabel('Step 3, words').fill(' ');
  await expect(row(3).getByText('Write what is to be done.')).toBeVisible();
  await page.getByRole('button', { name: 'Save the procedure' }).click();
  await expect(page.getByText('Nothing you typed is lost.', { exact: false })).toBeVisible();
  await row(3).getByLabel('Step 3, words').fill('Is it blank, by its papers?');
  await page.getByLabel('Title', { exact: true }).fill('New key, as we do it');
  await page.getByRole('button', { name: 'Save the procedure' }).click();
  await expect(page.getByText('Procedure of this shop, version 2.', { exact: false })).toBeVisible();
  await page.getByText(/steps differ from version 1/).click();
  await expect(page.getByRole('row', { name: /Photograph both keys side by side\. added/ })).toBeVisible();
  await expect(page.getByRole('row', { name: /Is it blank, by its papers\?.*changed/ })).toBeVisible();

  // Where an answer leads can be changed, and is shown beside the version before.
  await row(2).getByText('Where it leads').click();
  await row(2).getByLabel('Differs', { exact: false }).click();
  await page.getByRole('option', { name: 'this step again' }).click();
  await page.getByRole('button', { name: 'Save the procedure' }).click();
  await expect(page.getByText('Procedure of this shop, version 3.', { exact: false })).toBeVisible();
  await expect(page.getByText('One step differs from version 2')).toBeVisible();
  await expect(page.getByRole('row', { name: /→ this step again changed/ })).toBeVisible();

  await page.goto(path);
  await alive(page);
  await page.getByRole('region', { name: 'About this case' }).getByText('For every vehicle').click();
  await begin(/^New key, as we do it/);
  await expect(instruction(page)).toHaveText('Photograph both keys side by side.');
  await answer(page, 'Done');
  await expect(page.getByText('Suppliers mix up the 433 and 434 shells.')).toBeVisible();
});

test('figures of a copy: a wait gets another time, what is no figure is refused, and the time line follows', async ({ page }) => {
  await page.goto('/library/procedures/relearn-ignition-on');
  await alive(page);
  await page.getByRole('button', { name: 'Copy to a procedure of the shop' }).click();
  await page.waitForURL(/\/library\/procedures\/shop-/);
  await alive(page);
  const minutes = async () => Number((await page.getByRole('status').filter({ hasText: 'with two keys' }).innerText()).match(/About (\d+) min/)![1]);
  const before = await minutes();
  const wait = page.getByRole('textbox', { name: /^Step \d+, at least, s$/ });
  const dwell = wait.nth(3);
  const was = await dwell.inputValue();
  await dwell.fill('ten minutes');
  await expect(page.getByText('A number, or a number of the vehicle such as $offMin + 5')).toBeVisible();
  await page.getByRole('button', { name: 'Save the procedure' }).click();
  await expect(page.getByText('Nothing you typed is lost.', { exact: false })).toBeVisible();
  await expect(dwell).toHaveValue('ten minutes');
  await dwell.fill(`${was} + 300`);
  await expect.poll(minutes).toBeGreaterThanOrEqual(before + 5);
  await seeNoViolations(page);
  await page.getByRole('button', { name: 'Save the procedure' }).click();
  await expect(page.getByText('Procedure of this shop, version 2.', { exact: false })).toBeVisible();
  await page.getByText('One step differs from version 1').click();
  await expect(page.getByRole('row', { name: /\+ 300 s.*changed/ })).toBeVisible();
  await expect(page.getByRole('row', { name: / same$/ })).toHaveCount(0);
  await page.getByLabel('Show what is the same too').check();
  await expect(page.getByRole('row', { name: / same$/ }).first()).toBeVisible();
});
