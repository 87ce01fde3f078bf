import { alive, answer, expect, instruction, measure, openCase, openRow, startRun, test, underLoad } from './harness';

test('a vehicle that no library knows: a typical number is asked for at its step, counts at once, and becomes a profile', async ({
  page,
  advance,
}) => {
  const vehicle = 'Brown estate of the miller';
  const path = await openCase(page, {
    vehicle,
    system: /Transponder key, timed relearn with ignition on/,
    changed: ['ECM replaced'],
    keys: [{ tag: 'A', role: 'main' }],
    authority: true,
  });
  await page.getByRole('button', { name: 'Lit for some seconds, then out' }).click();
  await startRun(page);
  await page.waitForURL(/\/runs\/\d+$/);
  const numbers = page.getByRole('list', { name: 'Typical numbers of this step' });
  await expect(numbers.getByText('typical, usual 12.2 to 12.7 V')).toBeVisible();
  await alive(page);
  await numbers.getByRole('button', { name: 'Enter it: Battery rested at least' }).click();
  const dialog = page.getByRole('dialog', { name: 'What does the service information say?' });
  await dialog.getByRole('button', { name: 'Use this number' }).click();
  await expect(dialog.getByText('Nothing is typed here. Type volts, such as 12.4.')).toBeVisible();
  await dialog.getByLabel('Number, V').fill('12,5');
  await dialog.getByLabel('Where from').fill('Workshop folder 4, page 21');
  await dialog.getByRole('button', { name: 'Use this number' }).click();
  await page.getByText('One number here is verified').click();
  await expect(page.getByText('verified: Workshop folder 4, page 21 (Ines Marrow)')).toBeVisible();
  await page.reload();
  await expect(page.getByLabel('Measured, V, at least 12.5 V')).toBeVisible();

  await alive(page);
  await measure(page, '12.62');
  await answer(page, 'All loads are off');
  await underLoad(page, '12.2');
  await answer(page, 'A window is open');
  await answer(page, 'All keys are here');
  await answer(page, 'New');
  await answer(page, 'Trouble codes are cleared');
  await answer(page, 'Key is off and out');
  await expect(instruction(page)).toHaveText('Leave the key off.');
  // A number that contradicts the others is refused in words, and nothing typed is lost.
  await numbers.getByRole('button', { name: 'Enter it: Cycles before the first start' }).click();
  await dialog.getByLabel('Number').fill('9');
  await dialog.getByLabel('Where from').fill('page 22');
  await dialog.getByRole('button', { name: 'Use this number' }).click();
  await expect(dialog.getByText('This number contradicts the others of the procedure (min 9 is above max 5.')).toBeVisible();
  await expect(dialog.getByLabel('Where from')).toHaveValue('page 22');
  await dialog.getByRole('button', { name: 'Use the typical number' }).click();

  // Outside the usual range it is asked again, with both numbers; and the wait that is going on doesn't end by it.
  await numbers.getByRole('button', { name: 'Enter it: Key off between cycles at least' }).click();
  await dialog.getByLabel('Number, s').fill('0:01');
  await expect(dialog.getByText('Understood: 1 s')).toBeVisible();
  await dialog.getByLabel('Where from').fill('page 23');
  await dialog.getByRole('button', { name: 'Use this number' }).click();
  await expect(dialog.getByText('"0:01" is 1 s. Outside the usual range (4 to 30 s). Is it right?')).toBeVisible();
  await dialog.getByRole('button', { name: 'Yes, use 1 s' }).click();
  await expect(dialog).toBeHidden();
  await advance(3);
  await expect(instruction(page)).toHaveText('Leave the key off.');
  await page.reload();
  await expect(instruction(page)).toHaveText('Leave the key off.');
  await alive(page);
  await answer(page, 'Time’s up by the new number');
  await expect(instruction(page)).not.toHaveText('Leave the key off.');

  await advance(60);
  await page.goto(`${path}/report`);
  await expect(
    page.getByRole('row', {
      name: /Key off between cycles at least 1 s page 23 \(Ines Marrow\) counted from .* before it 12 s \(typical\)\. Outside the usual range, asked again and confirmed/,
    }),
  ).toBeVisible();
  await page.goto(path);
  const learnt = await openRow(page, 'Looked up in this case');
  await expect(learnt.getByText('12.5 V')).toBeVisible();
  await alive(page);
  await expect(learnt.getByLabel('Profile of the shop')).toHaveValue(vehicle);
  await learnt.getByRole('button', { name: 'Save them' }).click();
  await page.waitForURL(/\/library\/profiles\/shop-brown-estate/);
  await expect(page.getByText(/2 of \d+ numbers looked up/)).toBeVisible();
  await page.goto(path);
  await expect(page.getByRole('heading', { name: 'Record' })).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Looked up in this case' })).toHaveCount(0);
  await expect(page.getByRole('link', { name: vehicle }).first()).toBeVisible();
});
