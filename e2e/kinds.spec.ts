import { alive, answer, expect, instruction, measure, openCase, proposed, seeNoViolations, startRun, test, underLoad } from './harness';

test('teaching with a master: flashes are counted, a hold is measured, also over a reload', async ({ page, advance }) => {
  await openCase(page, {
    vehicle: 'Mirrow Pipit of the courier',
    system: /^Mirrow Pipit scooter/,
    keys: [
      { tag: 'M', role: 'master' },
      { tag: 'A', role: 'user' },
    ],
    authority: true,
  });
  await page.getByRole('button', { name: 'The count of a key not recognized' }).click();
  await startRun(page, 'Teach keys with the master');
  await page.waitForURL(/\/runs\/\d+$/);
  await alive(page);
  await measure(page, '12.6');
  await answer(page, 'All keys are apart');
  await expect(instruction(page)).toHaveText('Turn the master, tag M, on.');
  await answer(page, 'Master is on');
  await expect(instruction(page)).toHaveText('Count the flashes: 3 means this is the master.');
  await expect(page.getByRole('img', { name: 'Light: count of the master, 3' })).toBeVisible();
  await answer(page, '3 flashes');
  await answer(page, 'Master is out');
  await page.getByText('All precautions taken').click();
  await answer(page, 'Start teaching');
  await expect(instruction(page)).toHaveText('Turn the master, tag M, on.');
  await answer(page, 'Master is on');
  await expect(instruction(page)).toHaveText('When the light goes out, turn the master off, take it out and put it three feet away.');
  await answer(page, 'Master is out');
  await expect(page.getByRole('timer')).toHaveText('0:09');
  await answer(page, 'It is on');
  await answer(page, 'Tag A is out');
  await expect(instruction(page)).toHaveText('Put the master, tag M, in and turn it on.');
  await answer(page, 'Master is on');
  await answer(page, 'I hold it now');
  await advance(5);
  await expect(page.getByRole('timer')).toHaveText('0:01');
  await answer(page, 'Let go');
  await expect(page.getByText('Too short. Do it again, longer.')).toBeVisible();
  await answer(page, 'I hold it now');
  await advance(6);
  await expect(page.getByRole('timer')).toHaveText('+0:00');
  await page.reload();
  await alive(page);
  await answer(page, 'Let go');
  await answer(page, 'It is off');
  await page.getByText('All precautions taken').click();
  await answer(page, 'It runs and revs');
  await expect(page.getByText('Finished', { exact: false }).first()).toBeVisible();
});

test('label digits are typed twice in the run: a slip is found, nothing typed is sent, and the report has what was compared', async ({ page }) => {
  const path = await openCase(page, { vehicle: 'Dunmore Gully of the forester', system: /^Dunmore Gully/, authority: true });
  await proposed(page);
  await page.goto(`${path}?do=boxLive`);
  await alive(page);
  await page.getByRole('button', { name: 'A key, in no slot' }).click();
  await expect(page).toHaveURL(path);
  await startRun(page, 'Write a key into an empty slot');
  await page.waitForURL(/\/runs\/\d+$/);
  await alive(page);
  await measure(page, '12.6');
  await answer(page, 'All loads are off');
  await underLoad(page, '12.2');
  await answer(page, 'A window is open');
  const sent: string[] = [];
  page.on('request', (request) => sent.push(request.postData() ?? ''));
  await page.getByLabel('First entry').fill('714203358');
  await expect(page.getByText('First entry: 9 of 9 characters')).toBeVisible();
  await page.getByRole('button', { name: 'Hide it, type the second' }).click();
  await page.getByLabel(/^Second entry/).fill('714230358');
  await page.getByRole('button', { name: 'Compare' }).click();
  await expect(page.getByRole('heading', { name: /^1 difference|One difference/ })).toBeVisible();
  await seeNoViolations(page);
  await page.getByRole('button', { name: 'Type the second entry again' }).click();
  await page.getByLabel(/^Second entry/).fill('714 203 358');
  await page.getByRole('button', { name: 'Compare' }).click();
  await page.getByRole('button', { name: 'Equal: go on' }).click();
  await expect(instruction(page)).toHaveText('Read a chip of the same kind with the programmer.');
  expect(sent.join('\n')).toContain('"entries"');
  expect(sent.join('\n')).not.toMatch(/7142/);
  await page.goto(`${path}/report`);
  await expect(page.getByText('Typed twice, equal: 9 characters')).toBeVisible();
});
