import type { Page } from '@playwright/test';
import { follow } from './follow';
import { alive, choose, expect, openCase, openRow, seeNoViolations, test } from './harness';

type Advance = (s: number) => Promise<void>;
const warnings = (page: Page) => page.getByRole('complementary', { name: 'The plan' }).getByRole('list', { name: 'Warnings' });
const step = (page: Page) => page.locator('#this-step');

/** Reads a counter before or after the work, in the row of the case. */
async function readCounter(page: Page, path: string, phase: 'before' | 'after'): Promise<void> {
  await page.goto(`${path}#counters`);
  await alive(page);
  const row = await openRow(page, 'Counters');
  await row.getByLabel(/^Reading/).fill('48210');
  await choose(page, 'When', phase === 'before' ? /before/ : /after/);
  await row.getByRole('button', { name: /^Save/ }).click();
  await expect(row.getByText('48,210', { exact: false }).first()).toBeVisible();
}

async function recordScan(page: Page, text: string, phase: 'before' | 'after', silent: string[] = []): Promise<void> {
  const scans = page.getByRole('region', { name: /^Scan \d+, (before|after) the work$/ });
  const before = await scans.count();
  await page.getByLabel('Scan report').fill(text);
  for (const fields of await page.getByRole('group').filter({ hasText: 'not scanned' }).all()) {
    const name = (await fields.locator('legend').textContent())!;
    await fields.getByLabel(silent.includes(name) ? 'silent' : 'answered').check();
  }
  await page.getByRole('group', { name: 'When' }).getByLabel(`${phase} the work`).check();
  await page.getByRole('button', { name: 'Save the scan' }).click();
  await expect(scans).toHaveCount(before + 1);
}

async function verifyKeys(page: Page): Promise<void> {
  await page.getByLabel('All precautions taken').check();
  for (const yes of await page.getByRole('radio', { name: 'yes', exact: true }).all()) await yes.check();
  await page.getByRole('button', { name: 'Record what you saw' }).click();
  await page.waitForURL(/\/cases\/\d+$/);
}

/** Does the step that is next, as the page asks for it; procedures whose title is not among `runs` are said to be done another way. */
async function doStep(page: Page, advance: Advance, path: string, runs: RegExp): Promise<void> {
  const main = page.getByRole('main');
  const link = (name: string) => main.getByRole('link', { name, exact: true });
  if ((await link('Open the procedure').isVisible()) && !runs.test((await step(page).textContent())!))
    await main.getByRole('button', { name: 'Done another way' }).click();
  else if (await link('Open the procedure').isVisible()) {
    await link('Open the procedure').click();
    await expect(page.getByRole('button', { name: 'Start the run' })).toBeVisible();
    const precautions = page.getByLabel('All precautions taken');
    if (await precautions.count()) await precautions.check();
    await page.getByRole('button', { name: 'Start the run' }).click();
    await page.waitForURL(/\/runs\/\d+$/);
    await expect(page.getByRole('list', { name: 'The whole run' })).toBeVisible();
    await follow(page, advance, []);
  } else if (await link('Record the scan').isVisible()) {
    await link('Record the scan').click();
    await recordScan(page, '', 'after');
  } else if (await link('Record the counters').isVisible()) {
    const before = await main.getByText('Done when a counter reading from before').isVisible();
    await readCounter(page, path, before ? 'before' : 'after');
  } else if (await link('Verify the keys').isVisible()) {
    await link('Verify the keys').click();
    await verifyKeys(page);
  } else if (await page.getByRole('form', { name: 'Old part' }).isVisible()) {
    for (const [side, serial] of [
      ['Old', 'S 100'],
      ['New', 'S 200'],
    ]) {
      const form = page.getByRole('form', { name: `${side} part` });
      await form.getByLabel('Part number', { exact: true }).fill('70 213 4');
      await form.getByLabel('Part number again').fill('70 213 4');
      await form.getByLabel('Serial number').fill(serial!);
      await form.getByRole('button', { name: `Save the ${side!.toLowerCase()} part’s numbers` }).click();
      if (side === 'Old') await expect(form.getByText('Saved, typed twice')).toBeVisible();
    }
  } else if (await page.getByRole('button', { name: 'Save these answers' }).isVisible()) {
    for (const fields of await main
      .locator('form fieldset')
      .filter({ has: page.getByRole('radio') })
      .all())
      await fields.getByRole('radio').first().check();
    await page.getByRole('button', { name: 'Save these answers' }).click();
  } else await main.getByRole('button', { name: 'Done', exact: true }).click();
}

/** Works a plan to its end or to a step; returns the titles of its steps as they came. */
async function work(
  page: Page,
  advance: Advance,
  path: string,
  { until, runs = /^(Relearn|Learn|Match)/ }: { until?: RegExp; runs?: RegExp } = {},
): Promise<string[]> {
  const told: string[] = [];
  for (let i = 0; i < 30; i += 1) {
    await page.goto(`${path}/replacement`);
    await alive(page);
    if (await page.getByRole('heading', { name: 'All steps are done.' }).isVisible()) return told;
    const title = (await step(page).textContent())!;
    if (until?.test(title)) return told;
    expect(told).not.toContain(title);
    told.push(title);
    await doStep(page, advance, path, runs);
    // Saved, the step is done, and another one is next.
    await expect
      .poll(async () => {
        await page.goto(`${path}/replacement`);
        return (await step(page).count()) === 0 || (await step(page).textContent()) !== title;
      })
      .toBe(true);
  }
  throw new Error(`The plan does not end: ${told.join(' / ')}`);
}

/** Makes the plan of a new case and begins it. */
async function begin(page: Page, path: string, replaced: Record<string, string>): Promise<void> {
  await page.goto(path);
  await openRow(page, 'Replaced parts and trouble codes');
  await page.getByRole('link', { name: 'Plan what a replaced part needs' }).click();
  await alive(page);
  for (const [label, origin] of Object.entries(replaced)) {
    await page.getByLabel(label, { exact: true }).selectOption(origin);
    await expect(page).toHaveURL(new RegExp(`=${origin}`));
    await expect(page.getByRole('button', { name: 'Work by this plan' }).first()).toBeEnabled();
  }
  await page.getByRole('button', { name: 'Work by this plan' }).first().click();
  await expect(page.getByText(/^(Next|Done|Open) · step 1 of/)).toBeVisible();
}

const keys = [{ tag: 'A', role: 'main' }, { tag: 'B' }];
const inReport = async (page: Page, path: string, lines: (string | RegExp)[]) => {
  await page.goto(`${path}/report`);
  for (const line of lines) await expect(page.getByText(line).first()).toBeVisible();
};

test('a new ECM, immobilizer elsewhere: from intake to the report, every step as the plan has it', async ({ page, advance }) => {
  test.slow();
  const path = await openCase(page, { vehicle: 'Tarn Gantry, new ECM', system: /Tarn Gantry/, keys, authority: true });
  await readCounter(page, path, 'before');
  await begin(page, path, { ECM: 'new' });
  await seeNoViolations(page);
  // The case itself leads to the step.
  await page.goto(path);
  await expect(page.getByText(/Next · step 1 of \d+ of the replacement plan/)).toBeVisible();
  await page.getByRole('link', { name: 'Go to this step' }).click();
  const told = await work(page, advance, path, { runs: /./ });
  expect(told.map((t) => t.replace(/ · .*/, ''))).toEqual([
    'Read the old module with a scan tool and save everything',
    'Put the old and the new part side by side',
    'Find out what damaged the old module',
    'Swap the module with the power off',
    'Program VIN and calibration',
    'Clear the communication trouble codes and see which return',
    'Relearn with a scan tool',
    'Set the counters back to what was saved',
    'Set what the disconnected battery cleared',
    'Clear the trouble codes and scan again',
    'Verify every key one by one',
  ]);
  await expect(page.getByRole('region', { name: 'Counters' })).toContainText('48,210');
  await seeNoViolations(page);
  await inReport(page, path, [
    'Replacement planned',
    /^Program VIN and calibration: done/,
    /part number 70 213 4, serial number S 200\. Typed twice/,
  ]);
});

test('a donor ECM with another part number: the plan stops, goes on with a reason, and leads by hand first', async ({ page, advance }) => {
  test.slow();
  const path = await openCase(page, { vehicle: 'Tarn Gantry, donor', system: /Tarn Gantry/, keys, authority: true });
  await begin(page, path, { ECM: 'donor' });
  await expect(warnings(page)).toContainText('Connect no scan tool to it before it has learned this car');
  await work(page, advance, path, { until: /side by side/ });
  const side = async (name: 'Old' | 'New', number: string, again = number) => {
    const form = page.getByRole('form', { name: `${name} part` });
    await form.getByLabel('Part number', { exact: true }).fill(number);
    await form.getByLabel('Part number again').fill(again);
    await form.getByRole('button', { name: /^Save the/ }).click();
  };
  await side('Old', 'A1B2', 'A182');
  await expect(page.getByText(/Part number: The second entry differs/).first()).toBeVisible();
  await expect(page.getByRole('form', { name: 'Old part' }).getByLabel('Part number', { exact: true })).toHaveValue('A1B2');
  await side('Old', 'A1B2');
  await expect(page.getByText('Saved, typed twice')).toHaveCount(1);
  await side('New', 'A1B3');
  await expect(page.getByRole('heading', { name: 'Another variant' })).toBeVisible();
  await expect(page.getByText(/^Stopped · step 2/)).toBeVisible();
  await page.reload();
  await alive(page);
  await page.getByRole('button', { name: 'It is listed: go on' }).click();
  await expect(page.getByLabel('Where it is listed as a replacement')).toHaveAttribute('aria-invalid', 'true');
  await page.getByLabel('Where it is listed as a replacement').fill('Parts list of the shop, page 12');
  await page.getByRole('button', { name: 'It is listed: go on' }).click();
  await expect(step(page)).toHaveText(/what damaged/);
  const told = await work(page, advance, path);
  expect(told.findIndex((t) => /ignition on$/.test(t))).toBeLessThan(told.findIndex((t) => /^Write the VIN/.test(t)));
  await inReport(page, path, ['Parts list of the shop, page 12', /^Accepted although its numbers differ/]);
});

test('immobilizer module and ECM at once: both are worked, and one full run of the keys', async ({ page, advance }) => {
  test.slow();
  const path = await openCase(page, { vehicle: 'Tarn Gantry, both', system: /Tarn Gantry/, keys, authority: true });
  await begin(page, path, { ECM: 'new', 'Immobilizer module': 'new' });
  await expect(warnings(page)).toContainText('Two modules at once leave nothing in the car that knows the keys.');
  const told = await work(page, advance, path);
  expect(told.filter((t) => t.startsWith('Swap the module'))).toHaveLength(2);
  expect(told.filter((t) => t.startsWith('Relearn'))).toHaveLength(1);
  await inReport(page, path, [/^Replacement planned/, /Immobilizer module: new, ECM: new|ECM: new, Immobilizer module: new/]);
});

test('a cluster that holds keys and odometer: mileage noted before and after, a cause found and fixed first', async ({ page, advance }) => {
  test.slow();
  const path = await openCase(page, { vehicle: 'Orrin Spool, cluster', system: /Orrin Spool/, keys, authority: true });
  await readCounter(page, path, 'before');
  await begin(page, path, { 'Instrument cluster with the immobilizer': 'new' });
  await expect(warnings(page)).toContainText('The odometer may only be set as the law allows.');
  await work(page, advance, path, { until: /what damaged/ });
  await page
    .getByRole('group', { name: /^No water/ })
    .getByLabel('Bad', { exact: true })
    .check();
  await page.getByRole('button', { name: 'Save these answers' }).click();
  await expect(page.getByText(/^Stopped · step/)).toBeVisible();
  const told = await work(page, advance, path);
  expect(told[0]).toMatch(/what damaged/);
  await expect(page.getByRole('region', { name: 'Counters' })).toContainText('48,210');
  await inReport(page, path, [/No water in the module.*: bad/, 'Odometer after the work']);
});

test('a remanufactured ECM that met a scan tool too early: the step fails, what then is said, and another plan takes its place', async ({
  page,
  advance,
}) => {
  test.slow();
  const path = await openCase(page, { vehicle: 'Tarn Weir, rebuilt ECM', system: /Tarn Weir/, keys, changed: ['ECM replaced'], authority: true });
  await begin(page, path, { ECM: 'remanufactured' });
  await work(page, advance, path, { until: /^Relearn/ });
  await page.getByRole('button', { name: 'It failed' }).click();
  await page.getByRole('button', { name: 'Save as failed' }).click();
  await expect(page.getByText('Write down how it failed.').first()).toBeVisible();
  await page.getByLabel('How it failed, without names').fill('A scan tool had met it first: light stays lit, another VIN in it');
  await page.getByRole('button', { name: 'Save as failed' }).click();
  await expect(page.getByText(/^Failed · step/)).toBeVisible();
  await expect(page.getByText('If it can’t be made to work:')).toBeVisible();
  await page.locator('summary', { hasText: 'Make another plan' }).click();
  await page.getByLabel('ECM', { exact: true }).selectOption('new');
  await expect(page).toHaveURL(/engine=new/);
  await page.getByRole('button', { name: 'Work by this plan' }).first().click();
  await expect(page.getByText('ECM: new.')).toBeVisible();
  const told = await work(page, advance, path);
  expect(told).toContainEqual(expect.stringMatching(/^Program VIN/));
  await inReport(page, path, [/A scan tool had met it first/, /ECM: remanufactured/, /ECM: new/]);
});

test('a replaced ignition switch in the infrared type: matched by authorized data, without which a step can’t be done', async ({ page, advance }) => {
  test.slow();
  const path = await openCase(page, { vehicle: 'Veskar Inkwell, switch', system: /Veskar Inkwell/, keys: [{ tag: 'A' }, { tag: 'B' }] });
  const label = /^Electronic ignition switch/;
  await page.goto(`${path}/replacement`);
  await alive(page);
  const select = page.getByLabel(label);
  await select.selectOption('new');
  await alive(page);
  await page.getByRole('button', { name: 'Work by this plan' }).first().click();
  await expect(step(page)).toBeVisible();
  await work(page, advance, path, { until: /^(Swap|Match|Install)/ });
  await expect(page.getByText(/authority/i).first()).toBeVisible();
  await page.getByRole('link', { name: 'Record it' }).first().click();
  const row = await openRow(page, 'Authority');
  await choose(page, 'What was seen', 'Registration and identity');
  await row.getByRole('button', { name: 'Record it' }).click();
  // What was chosen stands in the form too, so it is saved when the form is gone.
  await expect(row.getByRole('button', { name: 'Record it' })).toHaveCount(0);
  await expect(row.getByText('Registration and identity').first()).toBeVisible();
  const told = await work(page, advance, path);
  expect(told).toContainEqual(expect.stringMatching(/^Verify every key/));
  await inReport(page, path, ['Replacement planned', /^Verify|cranks/]);
});

test('a list of fourteen codes of which one matters: it stands alone, moves the chances, and is in the report', async ({ page }) => {
  const path = await openCase(page, {
    vehicle: 'Tarn Gantry, fourteen codes',
    system: /Tarn Gantry/,
    keys,
    changed: ['ECM replaced'],
    symptoms: ['Starts and dies'],
  });
  await page.goto(path);
  const leading = page.getByRole('region', { name: 'What it could be' }).getByRole('button').first();
  await expect(leading).toContainText('Replaced ECM not learned to this car');
  const chance = async () => Number(/(\d+) %/.exec(await leading.innerText())![1]);
  const before = await chance();
  await openRow(page, 'Replaced parts and trouble codes');
  await page.getByRole('link', { name: 'Scans and trouble codes' }).click();
  await alive(page);
  await recordScan(page, 'P0351 P0300 P0420 P0171 P0442 U0184 U0164 U0159 B0001 C0031 C0034 P0700 P0128\nP0633 present', 'before');
  const about = page.getByRole('region', { name: /^About this/ });
  await expect(about.getByRole('listitem')).toHaveText(/^P0633/);
  await page.goto(path);
  await expect(page.getByText('One about the immobilizer or its pairing, present').first()).toBeVisible();
  await expect.poll(chance).toBeGreaterThan(before);
  await inReport(page, path, [/P0633/, 'One about the immobilizer or its pairing, present']);
});

test('a scan without the immobilizer proves nothing about it, says how little none is worth, and a second one finds it silent', async ({ page }) => {
  const path = await openCase(page, { vehicle: 'Tarn Gantry, half a scan', system: /Tarn Gantry/, keys, words: 'Cranks and does not start.' });
  await page.goto(`${path}/codes`);
  await alive(page);
  await page.getByRole('group', { name: 'ECM', exact: true }).getByLabel('answered').check();
  await page.getByRole('button', { name: 'Save the scan' }).click();
  await expect(page.getByText('The immobilizer was not scanned: this scan proves nothing about it.')).toBeVisible();
  await expect(
    page.getByText(/^No code that matters for a start\. That says little, and a dead key sets none: depending on the fault, \d+ to \d+ of 100 scans/),
  ).toBeVisible();
  await page.goto(path);
  const findings = page.getByRole('complementary', { name: 'Findings' });
  await expect(findings.or(page.locator('main')).getByText('None that matters for a start').first()).toBeVisible();
  await expect(page.getByText('Both immobilizer and ECM')).toHaveCount(0);
  await page.goto(`${path}/codes`);
  await alive(page);
  await recordScan(page, 'ECM\n  U0167 present', 'before', ['immobilizer']);
  await page.goto(path);
  await expect(page.getByText('The immobilizer does not').first()).toBeVisible();
  const leading = page.getByRole('region', { name: 'What it could be' }).getByRole('button').first();
  await expect(leading).toContainText('Immobilizer module has no power');
  // What the scan tool shows beside codes: each value a line of the record.
  await page.goto(`${path}/codes`);
  await alive(page);
  const live = page.getByRole('region', { name: 'Live data' });
  const save = live.getByRole('button', { name: 'Save the live data' });
  await expect(save).toBeDisabled();
  const supply = live.getByRole('group', { name: 'Voltage at the immobilizer, live data' });
  await supply.getByLabel('The immobilizer does not answer').check();
  await live.getByRole('group', { name: 'Start enable received, ECM live data' }).getByLabel('No start enable received').check();
  await seeNoViolations(page);
  await save.click();
  await expect(live.getByText('Saved to the record: Start enable received, ECM live data; Voltage at the immobilizer, live data.')).toBeVisible();
  await expect(supply).toContainText('Last: The immobilizer does not answer');
  await expect(supply.getByLabel('Not read')).toBeChecked();
  await inReport(page, path, ['The immobilizer does not', /silent: immobilizer/, 'No start enable received']);
});
