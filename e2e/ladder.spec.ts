import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { alive, choose, expect, openCase, seeNoViolations, test } from './harness';

const verdict = 'section[aria-label="Result"]';

/** Types readings one after the other, each ended by Enter, as at a bench with a meter. */
async function type(page: Page, field: string, ...readings: string[]) {
  const box = page.getByLabel(`${field}: next reading`);
  await box.click();
  for (const reading of readings) {
    await page.keyboard.type(reading);
    await page.keyboard.press('Enter');
  }
}
async function pelletCase(page: Page, vehicle: string): Promise<string> {
  return openCase(page, { vehicle, system: /Veskar Ledger/, keys: [{ tag: 'A' }, { tag: 'B' }] });
}

test('by keyboard alone: readings, wrong input, both orientations, reload in the middle, into the case', async ({ page }) => {
  const path = await pelletCase(page, 'Veskar Ledger, by keyboard');
  const id = path.split('/').at(-1)!;
  await page.goto(`/bench/ladder?case=${id}&key=A`);
  await alive(page);
  await expect(page.locator(verdict)).toContainText('Nothing measured yet');
  await expect(page.getByText('Not measured: leads add up to 1 Ω.')).toBeVisible();
  await seeNoViolations(page);

  await page.getByLabel('Meter leads, tips together').focus();
  await page.keyboard.type('0,4');
  await page.keyboard.press('Tab');
  await page.keyboard.type('70');
  await page.keyboard.press('Tab');
  await expect(page.getByLabel('Readings: next reading')).toBeFocused();
  await page.keyboard.type('twelve');
  await page.keyboard.press('Enter');
  // What was typed stays in the field, to be corrected there.
  await expect(page.getByRole('alert').filter({ hasText: 'You typed "twelve", which is not a reading.' })).toBeVisible();
  await expect(page.getByLabel('Readings: next reading')).toHaveValue('twelve');
  await page.keyboard.press('Control+A');
  await page.keyboard.type('-3');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert').filter({ hasText: 'A resistance can’t be below zero.' })).toBeVisible();
  await page.keyboard.press('Control+A');
  await page.keyboard.type('1,384 k');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert').filter({ hasText: '"1,384k" can mean 1,384,000 Ω or 1384 Ω. Type 1384000 or 1384.' })).toBeVisible();
  await page.keyboard.press('Control+A');
  for (const reading of ['1.391k', '1388', '1,384', '1k386']) {
    await page.keyboard.type(reading);
    await page.keyboard.press('Enter');
  }
  await expect(page.getByRole('list', { name: 'Readings', exact: true }).getByRole('listitem')).toHaveCount(4);
  await expect(page.locator(verdict)).toContainText('Value 6.');
  await expect(page.locator(verdict)).toContainText('Measure the other direction too.');
  // A kilohm typed as ohm stands out in the list, and is taken back with one key.
  await page.keyboard.type('1.387');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Off from the others by a factor of ten: wrong unit?')).toBeVisible();
  await page.getByRole('tab', { name: 'The key alone' }).focus();
  await page.keyboard.press('u');
  await expect(page.getByRole('list', { name: 'Readings', exact: true }).getByRole('listitem')).toHaveCount(4);

  await page.getByRole('radio', { name: /^as it goes in/ }).focus();
  await page.keyboard.press('ArrowRight');
  await type(page, 'Readings', '1389', '1387');
  await page.reload();
  await alive(page);
  await expect(page.getByRole('radio', { name: 'as it goes in · 4' })).toBeChecked();
  await expect(page.getByRole('radio', { name: 'turned over · 2' })).toBeVisible();
  await expect(page.getByLabel('Meter leads, tips together')).toHaveValue('0,4');
  await expect(page.locator(verdict)).toContainText('Value 6.');
  await expect(page.locator(verdict)).not.toContainText('other direction');
  await page.getByText('As a table').click();
  await expect(page.getByRole('row', { name: /^6 1\.4 kΩ 1\.32 kΩ to 1\.48 kΩ 0\.999 4$|^6 1\.4 kΩ 1\.32 kΩ to 1\.48 kΩ 1\.000 4$/ })).toBeVisible();
  await page.getByText('Where the uncertainty comes from').click();
  await expect(page.getByRole('row', { name: /^Leads and temperature leads measured and subtracted B/ })).toBeVisible();
  await seeNoViolations(page);

  await page.getByLabel('The vehicle’s value, if known').fill('7');
  await page.getByLabel('Where from').fill('label in the glove box');
  await page.getByRole('button', { name: /^Add to case/ }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText("Saved to the case: Measure the resistor chip, This key's value against the vehicle's.")).toBeVisible();
  await page.getByRole('link', { name: /^Go to case/ }).click();
  await page.waitForURL(path);
  const ledger = page.getByRole('complementary', { name: 'Findings' });
  await expect(ledger.getByText('Measure the resistor chip, tag A')).toBeVisible();
  await expect(ledger.getByText(/The vehicle has 7 \(label in the glove box\): another\./).first()).toBeVisible();
});

test('pasted, from a file, overloads, one reading: each is said as what it is', async ({ page }) => {
  await page.goto('/bench/ladder?ladder=veskar-twelve');
  await alive(page);
  await type(page, 'Readings', '1600');
  await expect(page.locator(verdict)).toContainText('Between values 6 and 7.');
  await expect(page.locator(verdict)).toContainText('One reading can’t show a loose contact: take five.');
  await page.getByRole('button', { name: 'Clear' }).click();
  await page
    .getByLabel('Readings: file of readings')
    .setInputFiles({ name: 'r.csv', mimeType: 'text/csv', buffer: Buffer.from('ohms\n1401\n1.4k\nOL\nabc') });
  await expect(page.getByRole('alert').filter({ hasText: 'line 5: You typed "abc"' })).toBeVisible();
  await page
    .getByLabel('Readings: file of readings')
    .setInputFiles({ name: 'r.csv', mimeType: 'text/csv', buffer: Buffer.from('ohms\nOL\nOL\nOL\nOL') });
  await expect(page.locator(verdict)).toContainText('Open.');
  await page.getByRole('button', { name: 'Clear' }).click();
  await page.getByLabel('Readings: file of readings').setInputFiles({
    name: 'many.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(Array.from({ length: 1000 }, (_none, i) => 1400 + (i % 3)).join('\n')),
  });
  await expect(page.locator(verdict)).toContainText('1000 readings');
  await expect(page.getByText('960 earlier readings not shown.')).toBeVisible();
  await type(page, 'Readings', '1400');
  await expect(page.getByText('More than 1000 readings. Clear some first.')).toBeVisible();
  await expect(page.getByText('Choose the case to add this to.')).toBeVisible();
});

test('with the simulated meter: leads, key, column behind its cautions, a worn contact while it is moved', async ({ page }) => {
  const path = await pelletCase(page, 'Veskar Ledger, at the meter');
  const id = path.split('/').at(-1)!;
  await page.goto(`/bench/ladder?case=${id}&key=A`);
  await alive(page);
  await page.getByText('Meter, chart and case').click();
  await choose(page, 'Meter', 'Simulated meter');
  const connect = async (ohms: string, worn: string) => {
    await page.getByLabel('Resistor').fill(ohms);
    await page.getByLabel('Contact, from good to broken').fill(worn);
    await page.getByRole('button', { name: 'Connect', exact: true }).click();
    await expect(page.getByText('Connected.')).toBeVisible();
  };
  const readings = page.getByRole('list', { name: /^Readings/ }).getByRole('listitem');
  const read = async (n: number) => {
    for (let i = 1; i <= n; i += 1) {
      await page.getByRole('button', { name: 'Read the meter' }).click();
      await expect(readings).toHaveCount(i);
    }
  };
  const part = await page.locator('section[aria-label=Readings]').evaluate((el) => [el.scrollWidth, el.clientWidth]);
  expect(part[0]).toBeLessThanOrEqual(part[1]!);
  await connect('0', '0');
  await page.getByRole('button', { name: 'Measure the leads' }).click();
  await expect(page.getByLabel('Meter leads, tips together')).toHaveValue(/^0\.\d+$/);
  await connect('1402', '0');
  await read(4);
  await expect(page.locator(verdict)).toContainText('Value 6.');
  await expect(page.locator(verdict)).toContainText('Simulated meter: no vehicle was measured.');

  // What is typed never stands with them, nor they with what was typed.
  await page.getByLabel('Readings: next reading').fill('1400');
  await page.getByLabel('Readings: next reading').press('Enter');
  await expect(page.getByText('This tab has simulated readings. They can’t be mixed with those of a real key: clear them first.')).toBeVisible();
  await expect(readings).toHaveCount(4);
  await page.getByLabel('Readings: next reading').fill('');

  await page.getByRole('tab', { name: 'Key and wiring' }).click();
  await expect(page.getByText('Airbag in the steering column')).toBeVisible();
  await expect(page.getByLabel('Readings at the connector: next reading')).toHaveCount(0);
  await page.getByLabel('All precautions taken').check();
  await connect('1445', '0');
  await read(4);
  await expect(page.locator(verdict)).toContainText('Added series resistance.');
  await expect(page.locator(verdict)).toContainText('good contacts add at most 7 Ω');
  await seeNoViolations(page);
  await page.getByRole('button', { name: /^Add to case/ }).click();
  await expect(page.getByText('Saved to the case, marked as simulated. No vehicle was measured, so no test is answered.')).toBeVisible();

  await page.getByRole('tab', { name: 'Wiggle' }).click();
  await connect('1402', '40');
  await page.getByRole('button', { name: /^Read for up to 60 s/ }).click();
  await expect(page.getByRole('timer', { name: 'Read for' })).toContainText(/[1-9] s · \d+ readings/);
  await page.getByRole('button', { name: 'tilt up' }).click();
  await expect(page.locator(verdict)).toContainText('It breaks.');
  await expect(page.getByRole('table', { name: 'Breaks' }).getByRole('cell', { name: 'tilt up' }).first()).toBeVisible();
  await page.getByRole('button', { name: 'Stop recording' }).click();
  await seeNoViolations(page);
  // What was read is still there after a reload; the cautions are asked about anew.
  await page.reload();
  await alive(page);
  await expect(page.locator(verdict)).toContainText('It breaks.');
  await expect(page.getByRole('table', { name: 'Breaks' }).getByRole('cell', { name: 'tilt up' }).first()).toBeVisible();
  await page.getByLabel('All precautions taken').check();
  await page.getByRole('button', { name: /^Add to case/ }).click();
  await expect(page.getByText('Saved to the case, marked as simulated. No vehicle was measured, so no test is answered.')).toBeVisible();
  await page.getByRole('link', { name: /^Go to case/ }).click();
  await page.waitForURL(path);
  const ledger = page.getByRole('complementary', { name: 'Findings' });
  await expect(
    ledger.getByText(/^Simulated meter, no vehicle was measured\. \d+(\.\d+)? Ω ± .* more at the steering-column connector/),
  ).toBeVisible();
  await expect(ledger.getByText(/^Simulated meter, no vehicle was measured\. .*breaks?, /)).toBeVisible();
});

test('on a phone: measured with a finger, nothing cut', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto('/bench/ladder?ladder=dunmore-pair');
  await alive(page);
  await page.getByRole('radio', { name: 'side 2, as it goes in' }).check();
  await type(page, 'Readings', '1190', '1191');
  await expect(page.locator(verdict)).toContainText('Side 1 is not measured yet.');
  await page.getByRole('radio', { name: 'side 1, as it goes in' }).check();
  await type(page, 'Readings', '770', '769');
  await expect(page.locator(verdict)).toContainText('Values 4 and 5.');
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await seeNoViolations(page);
});

test('a meter of the shop, and one that nobody answers for', async ({ page }) => {
  await page.goto('/shop/meters');
  await alive(page);
  await page.getByRole('button', { name: 'Add a meter' }).click();
  await page.getByLabel('Name').fill('Hand meter');
  await page.getByLabel('Address, if it speaks SCPI over TCP').fill('nowhere');
  await page.getByLabel('Range up to, Ω').fill('6000');
  await page.getByLabel('% of reading').fill('0,5');
  await page.getByLabel('Digits').fill('2');
  await page.getByLabel('One digit, Ω').fill('1');
  await page.getByRole('button', { name: 'Save the meter' }).click();
  await expect(page.getByText(/host and port, such as 192\.168\.0\.40:5025/).first()).toBeVisible();
  await expect(page.getByLabel('Name')).toHaveValue('Hand meter');
  await page.getByLabel('Address, if it speaks SCPI over TCP').fill('127.0.0.1:1');
  await page.getByRole('button', { name: 'Save the meter' }).click();
  await expect(page.getByText('The meter is saved.')).toBeVisible();
  await seeNoViolations(page);
  await page.goto('/bench/ladder?ladder=tarn-ten');
  await alive(page);
  await choose(page, 'Meter', 'Hand meter');
  await expect(page.getByText('± (0.5 % + 2 digits), steps of 1 Ω')).toBeVisible();
  await page.getByRole('button', { name: 'Read the meter' }).click();
  await expect(
    page.getByRole('alert').filter({ hasText: 'No answer from 127.0.0.1:1. Is the meter switched on, and on this network?' }),
  ).toBeVisible();
  await page.goto('/shop/meters');
  await alive(page);
  await page.getByRole('button', { name: 'Take Hand meter out of use' }).click();
  await expect(page.getByText('The meter is out of use.')).toBeVisible();
});

test('a ladder of the shop: made from CSV, wrong lines said, measured with, taken out and in, given to a vehicle, retired', async ({ page }) => {
  await page.goto('/library');
  await page.getByRole('link', { name: 'Value charts of resistor keys' }).click();
  await page.getByRole('link', { name: 'Make a value chart' }).click();
  await page.waitForURL('/library/ladders/new');
  await alive(page);
  await page.getByLabel('Name').fill('Harbour van ladder');
  await page.getByLabel('Where the numbers come from').fill('folder 7, page 2 (invented)');
  // Typed as a table, by keyboard.
  await page.getByLabel('Row 1, step').focus();
  for (const [i, cell] of ['1', '100', '90', '110'].entries()) {
    if (i > 0) await page.keyboard.press('Tab');
    await page.keyboard.type(cell);
  }
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Row 2, step')).toBeFocused();
  for (const [i, cell] of ['2', '120', '105', '130'].entries()) {
    if (i > 0) await page.keyboard.press('Tab');
    await page.keyboard.type(cell);
  }
  await expect(page.getByText('row 2, low: The window of value 2 begins at 105 Ω')).toBeVisible();
  await seeNoViolations(page);
  await page.getByRole('button', { name: 'Save the value chart' }).click();
  await expect(page.getByText(/line 3, low: The window of value 2 begins/).first()).toBeVisible();
  await page.getByRole('radio', { name: 'as CSV' }).check();
  await expect(page.getByLabel('Values, as CSV')).toHaveValue('step;nominal;low;high\n1;100;90;110\n2;120;105;130');
  await page.getByLabel('Values, as CSV').fill('step,nominal,low,high\n1,100,90,110\n2,150,140');
  await page.getByRole('radio', { name: 'as a table' }).check();
  await expect(page.getByText('Not a table yet: every line needs 4 cells. Fix it as text.')).toBeVisible();
  await page.getByLabel('Values, as CSV').fill('step,nominal,low,high\n1,100,90,110\n2,150,140,160');
  await page.getByRole('radio', { name: 'as a table' }).check();
  await expect(page.getByLabel('Row 2, high')).toHaveValue('160');
  await expect(page.getByText('2 values, all of them told apart.')).toBeVisible();
  await page.getByRole('button', { name: 'Save the value chart' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Harbour van ladder' })).toBeVisible();
  await expect(page.getByText('Nobody has checked it against a source.')).toBeVisible();
  await seeNoViolations(page);
  const path = new URL(page.url()).pathname;
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Export as YAML' }).click()]);
  expect(download.suggestedFilename()).toMatch(/^shop-harbour-van-ladder-.{4}-1\.yaml$/);
  await page.getByRole('link', { name: 'Measure a key with it' }).click();
  await page.waitForURL(/\/bench\/ladder\?ladder=shop-harbour/);
  await alive(page);
  await type(page, 'Readings', '151', '150');
  await expect(page.locator(verdict)).toContainText('Value 2.');

  // Another window comes in as the next version; both can be read.
  await page.goto('/library/import');
  await alive(page);
  await page.getByLabel('Or paste it here').fill(readFileSync(await download.path(), 'utf8').replace('high: 160', 'high: 165'));
  await page.getByRole('button', { name: 'Import' }).click();
  await expect(page.getByText('Imported as version 2.')).toBeVisible();
  await page.getByRole('link', { name: 'Open the value chart' }).click();
  await expect(page.getByRole('row', { name: /^2/ })).toContainText('165');
  await page.getByText('Change it').click();
  await page.getByLabel('Row 2, high').fill('170');
  await page.getByRole('button', { name: 'Save as version 3' }).click();
  await expect(page.getByText('Saved as version 3.')).toBeVisible();
  await expect(page.getByRole('row', { name: /^2/ })).toContainText('170');
  await page.getByRole('link', { name: 'Version 1' }).click();
  await expect(page.getByRole('row', { name: /^2/ })).toContainText('160');
  await expect(page.getByRole('button', { name: /Save as version/ })).toHaveCount(0);

  // A vehicle of the shop can given it, and the bench takes it by itself.
  await page.goto('/library/profiles/new?from=family:pellet');
  await alive(page);
  await page.getByLabel('Vehicle').fill('Van of the chandler');
  await page.getByRole('button', { name: 'Make the profile' }).click();
  await page.waitForURL(/profiles\/shop-van-of-the-chandler/);
  await alive(page);
  await page.getByLabel('Value chart of its resistor keys').selectOption({ label: 'Harbour van ladder' });
  await page.getByRole('button', { name: 'Save as version 2' }).click();
  await expect(page.getByText('Saved as version 2.')).toBeVisible();
  const car = await openCase(page, { vehicle: 'Van of the chandler, white', system: /Van of the chandler/, keys: [{ tag: 'A' }] });
  await page.goto(`/bench/ladder?case=${car.split('/').at(-1)}`);
  await expect(page.getByText(/Harbour van ladder/).first()).toBeVisible();

  // Retired, it is offered only where it is in use.
  await page.goto(path);
  await alive(page);
  await page.getByRole('button', { name: 'Retire' }).click();
  await expect(page.getByRole('status').getByText('No longer offered.')).toBeVisible();
  await page.goto(`/bench/ladder?case=${car.split('/').at(-1)}`);
  await expect(page.getByText(/Harbour van ladder/).first()).toBeVisible();
  await page.goto('/bench/ladder');
  await expect(page.getByText(/Harbour van ladder/)).toHaveCount(0);
});

test('repeated looks: counted by key, kept over a reload, enough for the test of the case', async ({ page }) => {
  const path = await openCase(page, { vehicle: 'Orrin Spool, counted', system: /Orrin Spool/, keys: [{ tag: 'A' }, { tag: 'B' }] });
  await page.goto(`/bench/trials?case=${path.split('/').at(-1)}`);
  await alive(page);
  await seeNoViolations(page);
  for (let i = 0; i < 6; i += 1) await page.keyboard.press('1');
  await page.keyboard.press('2');
  await page.keyboard.press('u');
  await expect(page.getByRole('status', { name: 'Count' })).toHaveText('6 of 6');
  await page.reload();
  await alive(page);
  await expect(page.getByRole('status', { name: 'Count' })).toHaveText('6 of 6');
  await page.getByRole('radio', { name: 'tag B' }).check();
  await page.getByLabel('Chip kind, if the detector names one').fill('kind 4');
  for (let i = 0; i < 4; i += 1) await page.getByRole('button', { name: 'signal', exact: true }).click();
  await expect(page.locator(verdict)).toContainText('Signal, 10 of 10.');
  await expect(page.locator(verdict)).toContainText(
    'A miss rate of up to 26 % is still possible (95 %). 49 more without a miss would rule out more than 5 %.',
  );
  await expect(page.locator(verdict)).toContainText('The keys don’t differ by more than chance.');
  await expect(page.locator(verdict)).toContainText('Named by the detector: kind 4.');
  await expect(page.getByRole('list', { name: 'Checks with tag B' }).getByRole('listitem')).toHaveCount(4);
  await seeNoViolations(page);
  await page.getByRole('button', { name: /^Add to case/ }).click();
  await expect(page.getByText('Saved to the case: Antenna coil field.')).toBeVisible();
});

test('copy check: of what and how long it must be comes from the system of the case', async ({ page }) => {
  const path = await openCase(page, { vehicle: 'Veskar Codex, copied', system: /Veskar Codex/ });
  await page.goto(`/bench/copy-check?case=${path.split('/').at(-1)}`);
  await alive(page);
  await page.getByRole('radio', { name: /^Digits of the secret, \d+/ }).check();
  await expect(page.getByLabel('Number of characters, if known')).not.toHaveValue('');
  await page.getByRole('textbox', { name: 'First entry' }).fill('3FA8');
  await expect(page.getByText(/^4 of \d+ characters$/)).toBeVisible();
  await seeNoViolations(page);

  const label = await openCase(page, { vehicle: 'Orrin Gully, copied', system: /Gully/ });
  await page.goto(`/bench/copy-check?case=${label.split('/').at(-1)}`);
  await alive(page);
  await expect(page.getByRole('combobox', { name: 'Made of' })).toHaveText('0 to 9 and A to F');
  await page.getByRole('radio', { name: /^Digits on the label of the box, \d+/ }).check();
  await expect(page.getByRole('combobox', { name: 'Made of' })).toHaveText('0 to 9');
  // Every vehicle has an identification number.
  await page.getByRole('radio', { name: 'VIN, 17' }).check();
  await page.getByRole('textbox', { name: 'First entry' }).fill('00BT G5R3 6GW0 O418 2');
  await expect(
    page.getByText('character 13: You typed “O” where only 0 to 9 and A to Z without I, O and Q is allowed. Did you mean 0?'),
  ).toBeVisible();
});

test('copy check: hidden, compared, masked until it is shown, nothing kept', async ({ page }) => {
  const sent: string[] = [];
  page.on('request', (request) => sent.push(`${request.url()} ${request.postData() ?? ''}`));
  await page.goto('/bench/copy-check');
  await alive(page);
  const first = page.getByRole('textbox', { name: 'First entry' });
  await first.fill('3FA8 C01D');
  await expect(page.getByText('8 characters')).toBeVisible();
  await seeNoViolations(page);
  await page.keyboard.press('Enter');
  await expect(first).toHaveCount(0);
  await expect(page.getByText('The first is hidden. It has 8 characters.')).toBeVisible();
  expect(await page.content()).not.toContain('3FA8');
  await page.getByRole('textbox', { name: 'Second entry' }).fill('3FAB-C1D');
  await page.keyboard.press('Enter');
  await expect(page.locator(verdict)).toContainText('2 differences.');
  await expect(page.locator(verdict)).toContainText('In group 1, character 4: two different characters. They look alike.');
  await expect(page.locator(verdict)).toContainText('In group 2, character 2: a character is missing in the second.');
  expect(await page.content()).not.toContain('C01D');
  await page.getByLabel('Show the characters').check();
  await expect(page.locator(verdict)).toContainText('8 in the first, B in the second. They look alike.');
  await expect(page.getByText('three, Foxtrot, Alfa, eight')).toBeVisible();
  await seeNoViolations(page);

  await page.getByRole('button', { name: 'Type the second entry again' }).click();
  await page.getByRole('textbox', { name: 'Second entry' }).fill('3fa8c01d');
  await page.getByRole('button', { name: 'Compare' }).click();
  await expect(page.locator(verdict)).toContainText('Equal.');
  await expect(page.locator(verdict)).toContainText(/Digest [0-9A-F]{4} [0-9A-F]{4}/);
  await page.getByRole('button', { name: 'Start over' }).click();
  await page.getByLabel('File as the first entry').setInputFiles({ name: 'secret.txt', mimeType: 'text/plain', buffer: Buffer.from('12 34 56') });
  await expect(page.getByText('The first is the file secret.txt. It has 6 characters.')).toBeVisible();
  await page.getByRole('textbox', { name: 'Second entry' }).fill('12З456');
  await expect(
    page.getByText('character 3: You typed “З”, a letter of another alphabet, where only 0 to 9 and A to F is allowed. Did you mean 3?'),
  ).toBeVisible();

  expect(sent.filter((s) => /3FA8|C01D|C1D|123456/i.test(s))).toEqual([]);
  expect(await page.evaluate(() => JSON.stringify({ ...localStorage, ...sessionStorage }))).not.toMatch(/3FA8|C01D/i);
  await page.reload();
  await expect(page.getByRole('textbox', { name: 'First entry' })).toHaveValue('');
});
