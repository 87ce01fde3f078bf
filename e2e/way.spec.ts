import { alive, answer, choose, comeIn, expect, instruction, intoDwell, measure, proposed, round, test, toProcedure, underLoad } from './harness';

test('a replaced engine module, from intake to hand-over', async ({ page, browser, baseURL, advance }) => {
  test.setTimeout(300_000);
  await page.goto('/');
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  await page.keyboard.press('n');
  await page.waitForURL(/\/cases\/new\?draft=/);

  await test.step('wrong input comes back with messages and loses nothing', async () => {
    await page.getByLabel('Vehicle *').fill('Tarn Gantry pickup, ochre');
    await page.getByLabel('Year').fill('1875');
    await page.getByLabel('VIN').fill('00BTG5R36GWOO4182');
    await page.getByRole('checkbox', { name: 'ECM replaced' }).check();
    await page.getByRole('checkbox', { name: 'Starts and dies' }).check();
    await choose(page, 'System type', /Tarn Gantry/);
    await choose(page, 'Bay', 'Bay 4');
    await page.getByRole('button', { name: 'Another key' }).click();
    await page.getByRole('button', { name: 'Open the case' }).click();
    const alert = page.getByRole('alert');
    await expect(alert).toContainText('3 things are not right yet. Nothing you typed is lost.');
    await expect(alert).toBeFocused();
    await expect(page.getByText('Write 5 to 17 letters and digits, without I, O and Q, as on the vehicle.').first()).toBeVisible();
    await expect(page.getByLabel('Vehicle *')).toHaveValue('Tarn Gantry pickup, ochre');
    await expect(page.getByRole('checkbox', { name: 'ECM replaced' })).toBeChecked();
    await expect(page.getByLabel('Tag')).toHaveCount(2);
    await page.getByLabel('Customer concern').fill('New engine module, starts and dies. <b>"ö" שלום 🔑</b>');
    await page.getByLabel('Year').fill('2015');
    await page.getByLabel('VIN').fill('00BTG5R36GW004182');
    await page.getByRole('button', { name: 'Open the case' }).click();
    await page.waitForURL(/\/cases\/\d+$/);
    await expect(page.getByRole('textbox', { name: 'Customer concern' })).toHaveCount(0);
    await expect(page.getByText('New engine module, starts and dies. <b>"ö"')).toBeVisible();
  });
  const casePath = new URL(page.url()).pathname;

  await test.step('every link is unproven, and the lamp is asked first, by number key', async () => {
    for (const link of ['Power', 'Key accepted', 'Start enabled'])
      await expect(page.getByRole('button', { name: new RegExp(`^${link}.*not checked$`) })).toBeVisible();
    await expect(page.getByRole('heading', { level: 2, name: 'Turn the key on. Do not start.' })).toBeVisible();
    await page.keyboard.press('1');
    await expect(page.getByRole('button', { name: /^Key accepted.*good$/ })).toBeVisible();
    await expect(page.getByRole('button', { name: /^Start enabled.*(not sure|bad)$/ })).toBeVisible();
    await expect(page.getByText("An accepted key doesn't clear the ECM. Ask where it came from and read its VIN, then relearn it.")).toBeVisible();
  });

  await test.step('how the engine behaves settles it: the module is not paired, and the relearn is proposed', async () => {
    // What comes first depends on what this shop has proven before; this test is chosen.
    await proposed(page);
    await page.goto(`${casePath}?do=engine`);
    await alive(page);
    await page.getByLabel('All precautions taken').check();
    await page.getByRole('button', { name: 'Starts and dies' }).click();
    await expect(page).toHaveURL(casePath);
    await toProcedure(page);
    await expect(page.getByRole('region', { name: 'What it could be' }).getByRole('button').first()).toContainText(
      'Replaced ECM not learned to this car',
    );
  });

  await test.step('the relearn is shut until authority is on record', async () => {
    await expect(page.getByText('No authority is on record.')).toBeVisible();
    await expect(page.getByRole('button', { name: 'Start the run' })).toHaveCount(0);
    await page.getByRole('link', { name: 'Record it here' }).click();
    await choose(page, 'What was seen', 'Registration and identity');
    await page.getByLabel('Note').fill('papers and identity seen');
    await page.getByRole('button', { name: 'Record it' }).click();
    await page.getByRole('button', { name: 'Start the run' }).click();
    await page.waitForURL(/\/runs\/\d+$/);
  });
  const runPath = new URL(page.url()).pathname;

  await test.step('preconditions: what cannot be meant, what is not enough, a waiver', async () => {
    await measure(page, 'a lot');
    await expect(page.getByText('You typed "a lot". Type volts, such as 12.4.')).toBeVisible();
    await measure(page, '126');
    await expect(page.getByText('You typed 126 V. Use 6 to 16 V.')).toBeVisible();
    await measure(page, '12,1');
    await expect(page.getByText('Too low for the whole job. Charge it or connect a battery maintainer, then measure again.')).toBeVisible();
    await expect(instruction(page)).toHaveText('Measure the battery, rested.');
    await page.getByRole('button', { name: 'Waive, as lead' }).click();
    await page.getByRole('button', { name: 'Waive it' }).click();
    await expect(page.getByText('Say it in a few words.')).toBeVisible();
    await page.getByLabel('Reason, signed by the lead').fill('stable supply connected');
    await page.getByRole('button', { name: 'Waive it' }).click();
    await expect(instruction(page)).toHaveText('Switch every load off.');
    await answer(page, 'All loads are off');
    await underLoad(page, '12.3');
    await answer(page, 'A window is open');
    await answer(page, 'All keys are here');
    await answer(page, 'New');
    // What the case knows of communication stands beside the step that asks for it.
    await expect(page.getByText('This case has no scan yet')).toBeVisible();
    await page.getByRole('link', { name: 'Save a scan' }).click();
    await page.getByLabel('Scan report').fill('ECM\nU0101 present\n');
    await page.getByRole('button', { name: 'Save the scan' }).click();
    await expect(page.getByRole('region', { name: 'Scan 1, after the work' })).toBeVisible();
    await page.goto(runPath);
    await expect(page.getByText('U0101 present. Scan again: what returns is real')).toBeVisible();
    await answer(page, 'Trouble codes are cleared');
    await answer(page, 'Key is off and out');
  });

  await test.step('round one: an early lamp is questioned, a reload changes nothing', async () => {
    await expect(page.getByRole('timer')).toHaveText('0:08');
    await intoDwell(page, advance);
    await expect(page.getByRole('timer')).toHaveText('9:20');
    await advance(200);
    await expect(page.getByRole('timer')).toHaveText('6:00');
    await page.reload();
    // A key is heard once the page has come alive.
    await alive(page);
    await expect(page.getByRole('timer')).toHaveText('6:00');
    await page.keyboard.press('o');
    await expect(page.getByText('That is early. Check again: is it really out?')).toBeVisible();
    await page.keyboard.press('s');
    await expect(page.getByText('That is early.')).toHaveCount(0);
    await advance(320);
    await expect(page.getByRole('timer')).toHaveText('0:40');
    await page.keyboard.press('o');
    await expect(page.getByText('Out before the time is up: noted.')).toBeVisible();
    await advance(39);
    await expect(page.getByRole('timer')).toHaveText('0:01');
    await advance(1);
    await expect(instruction(page)).toHaveText('Turn the key off.');
    await answer(page, 'Key is off');
  });

  await test.step('round two: a late lamp turns amber, then counts', async () => {
    await intoDwell(page, advance);
    await advance(560);
    await expect(page.getByRole('timer')).toHaveText('+0:00');
    await advance(60);
    await expect(page.getByRole('alert')).toHaveText("Time's up and the light is still on. A little longer is not unusual. Keep watching.");
    await page.keyboard.press('o');
    await expect(instruction(page)).toHaveText('Turn the key off.');
    await page.keyboard.press('u');
    await expect(instruction(page)).toContainText('Watch the light.');
    await page.keyboard.press('o');
    await expect(instruction(page)).toHaveText('Turn the key off.');
    await page.keyboard.press('Enter');
    await expect(instruction(page)).toHaveText('Leave the key off.');
  });

  await test.step('round three, the point of no return with its cautions, and no start', async () => {
    await round(page, advance);
    await advance(8);
    await expect(instruction(page)).toHaveText('Next: start the engine. That completes the relearn.');
    await expect(page.getByRole('button', { name: 'Go to the start' })).toBeDisabled();
    await page.getByLabel('All precautions taken').check();
    await answer(page, 'Go to the start');
    await expect(instruction(page)).toContainText('Start with tag A.');
    await expect(page.getByRole('button', { name: /^Undo/ })).toHaveCount(0);
    await answer(page, /Cranks, does not start/);
    await expect(instruction(page)).toHaveText('Turn the key off.');
    await answer(page, 'Key is off');
  });

  await test.step('a fourth round, and it runs', async () => {
    await expect(page.getByRole('main').getByText('Cycle 4')).toBeVisible();
    await round(page, advance);
    await advance(8);
    await page.getByLabel('All precautions taken').check();
    await answer(page, 'Go to the start');
    await answer(page, 'It runs and keeps running');
  });

  await test.step('the second key too late, then in time', async () => {
    await answer(page, 'It runs on a learned key');
    await answer(page, 'Key is out');
    await expect(instruction(page)).toHaveText('Put tag B in and turn it on.');
    await expect(page.getByRole('timer')).toHaveText('0:14');
    await advance(15);
    await expect(page.getByRole('alert')).toContainText('The limit of 0:14 has passed. Too late.');
    await answer(page, 'Tag is in and on');
    await expect(page.getByText('The swap took longer than 14 s. Tag B was not learned. Start once more on a learned key.')).toBeVisible();
    await answer(page, 'It runs on a learned key');
    await answer(page, 'Key is out');
    await advance(9);
    await answer(page, 'Tag is in and on');
    await answer(page, /Lit for some seconds, then out/);
    await expect(instruction(page)).toHaveText('Learned. Now verify every key.');
  });

  await test.step('every key is verified', async () => {
    await page.getByRole('main').getByRole('link', { name: 'Verify the keys' }).click();
    await page.getByLabel('All precautions taken').check();
    for (const group of await page.getByRole('group').all()) {
      const remote = (await group.locator('legend').count()) > 0 && (await group.locator('legend').textContent())!.startsWith('remote works');
      const wanted = group.getByRole('radio', { name: remote ? 'not tested' : 'yes', exact: true });
      if ((await wanted.count()) > 0) await wanted.check();
    }
    await page.getByRole('button', { name: 'Record what you saw' }).click();
    await page.waitForURL(casePath);
    // This fix is confirmed after a rest of five minutes: a start before that proves nothing.
    const todo = page.getByRole('region', { name: 'Next' });
    await expect(todo.getByRole('heading', { level: 2 })).toHaveText(/^Wait[.] A start counts as proof from \d+:\d\d [AP]M on[.]$/);
    await advance(301);
    await expect(todo.getByRole('heading', { level: 2 })).toHaveText('Verify every key.');
    await todo.getByRole('link', { name: 'Verify the keys' }).click();
    await page.getByLabel('All precautions taken').check();
    // What was seen since the work stands there, with its time.
    await expect(page.getByText(/seen: yes, \d+:\d\d [AP]M$/).first()).toBeVisible();
    await page.getByRole('button', { name: 'Record what you saw' }).click();
    await page.waitForURL(casePath);
    await todo.getByRole('link', { name: 'Hand over' }).click();
  });

  await test.step('hand over: the report has everything, and the case is closed', async () => {
    await page.getByRole('button', { name: 'Close the case' }).click();
    await expect(page.getByRole('alert')).toContainText('Nothing is written here. Write something.');
    await page.getByLabel('What was found and done').fill('New engine module learned by hand, both keys.');
    await page.getByRole('button', { name: 'Close the case' }).click();
    await expect(page.getByRole('alert').first()).toContainText('Say how well the cause is known: proven, likely or unknown.');
    await expect(page.getByLabel('What was found and done')).toHaveValue('New engine module learned by hand, both keys.');
    await page.getByRole('radio', { name: 'Proven', exact: true }).check();
    await page.getByRole('button', { name: 'Close the case' }).click();
    await page.waitForURL(`${casePath}/report`);
    for (const text of [
      'New engine module learned by hand, both keys.',
      'papers and identity seen',
      'Waived: stable supply connected',
      'Light is out (early: asked again)',
      'Light is out (before the time was over: noted)',
      'Light is out (undone)',
      'Tag is in and on (too late)',
      'not tested',
      'Tarn service sheet 7-114 (invented) (Ines Marrow)',
    ]) {
      await expect(page.getByText(text).first()).toBeVisible();
    }
    await page.goto('/cases?state=closed');
    await expect(page.getByRole('link', { name: /Tarn Gantry pickup, ochre/ })).toBeVisible();
    await page.goto(casePath);
    await expect(page.getByRole('heading', { level: 2, name: 'New engine module learned by hand, both keys.' })).toBeVisible();
    await page.goto(runPath);
    await expect(page.getByRole('main').getByRole('button')).toHaveCount(0);
  });

  await test.step('the report prints on A4 without cut columns', async () => {
    const paper = await browser.newPage({ viewport: { width: 794, height: 1123 } });
    await comeIn(paper.context(), baseURL!, 'Ines Marrow');
    await paper.goto(new URL(`${casePath}/report`, page.url()).href);
    await paper.emulateMedia({ media: 'print' });
    expect(await paper.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(794);
    await expect(paper.getByRole('button', { name: 'Print' })).toBeHidden();
    const pdf = await paper.pdf({ preferCSSPageSize: true });
    expect(pdf.subarray(0, 5).toString()).toBe('%PDF-');
    expect(pdf.toString('latin1')).toMatch(/\/MediaBox \[0 0 59[45](\.\d+)? 84[12](\.\d+)?\]/);
    await paper.close();
  });
});
