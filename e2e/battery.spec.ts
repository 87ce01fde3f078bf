import { alive, answer, expect, instruction, measure, openCase, seeNoViolations, startRun, test, underLoad } from './harness';

const relearn = { changed: ['ECM replaced'], authority: true };

test('a run says how long the battery holds, warns before it is too low, and takes what is known of it', async ({ page }) => {
  await openCase(page, { vehicle: 'Tarn Gantry, old battery', system: /Tarn Gantry/, ...relearn });
  await page.getByRole('button', { name: 'Lit for some seconds, then out' }).click();
  await startRun(page);
  await page.waitForURL(/\/runs\/\d+$/);
  await alive(page);
  await measure(page, '12.7');
  await expect(page.getByRole('button', { name: /^Battery: enough for \d+ minutes\.\s*typical battery: enter yours$/ })).toBeVisible();
  await answer(page, 'All loads are off');
  await underLoad(page, '12.05');
  const line = page.getByRole('button', {
    name: /^Battery: good for at least \d+ minutes, and the work needs \d+\. Connect a maintainer of at least \d+ A\./,
  });
  await expect(line).toBeVisible();

  await line.click();
  const dialog = page.getByRole('dialog', { name: 'Battery' });
  await expect(dialog.getByText(/^Rested 12\.7 V; under load 12\.05 V\./)).toBeVisible();
  await expect(dialog.getByRole('img', { name: /^Volts under load: .* limit 12 V$/ })).toBeVisible();
  await seeNoViolations(page);
  // Wrong input is said, and nothing that was typed is lost.
  await dialog.getByLabel('Capacity, Ah').fill('2');
  await dialog.getByLabel('Maintainer connected, A').fill('20');
  await dialog.getByRole('button', { name: 'Save the battery' }).click();
  await expect(dialog.getByText('You typed 2 Ah. Use 4 to 400 Ah.')).toBeVisible();
  await expect(dialog.getByLabel('Maintainer connected, A')).toHaveValue('20');
  await dialog.getByLabel('Capacity, Ah').fill('70');
  await dialog.getByRole('button', { name: 'Save the battery' }).click();
  await expect(page.getByRole('button', { name: 'Battery: the maintainer holds it.' })).toBeVisible();
  await page.reload();
  await expect(page.getByRole('button', { name: 'Battery: the maintainer holds it.' })).toBeVisible();
  await expect(instruction(page)).toHaveText('Open a window.');
});

test('on the bench: what a battery holds, fitted to a reading, and it is there again after a reload', async ({ page }) => {
  await page.goto('/bench');
  await page.getByRole('link', { name: 'Battery', exact: true }).click();
  await alive(page);
  await expect(page.getByText('No verdict yet.')).toBeVisible();
  await page.getByLabel('Rested, V').fill('12.5');
  const verdict = page.getByRole('region', { name: 'Verdict' });
  await expect(verdict.getByRole('heading')).toHaveText('The battery is enough.');
  await page.getByLabel('Minutes after').fill('5');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(page.getByText('Nothing is typed here. Type volts, such as 12.4.')).toBeVisible();
  await page.getByRole('textbox', { name: 'Measured, V' }).fill('12.03');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(verdict.getByRole('heading')).toHaveText(/^Connect a battery maintainer of at least \d+ A first\.$/);
  await page.reload();
  await alive(page);
  await expect(page.getByRole('list', { name: 'Readings under load' })).toContainText('after 5 min: 12.03 V');
  await seeNoViolations(page);
  await page.getByRole('button', { name: /^Remove/ }).click();
  await expect(verdict.getByRole('heading')).toHaveText('The battery is enough.');
  await page.getByLabel('Rested, V').fill('12.1');
  await expect(verdict.getByRole('heading')).toHaveText('Don’t start. The battery is nearly flat.');
  await page.getByRole('button', { name: 'Start over' }).click();
  await expect(page.getByText('No verdict yet.')).toBeVisible();
});
