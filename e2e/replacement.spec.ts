import { alive, expect, openCase, openRow, seeNoViolations, test } from './harness';

test('a replaced ECM: what the intake told stands there, origin and tools change the plan, and a procedure is a touch away', async ({ page }) => {
  await page.goto('/cases/4');
  await openRow(page, 'Replaced parts and trouble codes');
  await page.getByRole('link', { name: 'Plan what a replaced part needs' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Replaced parts' })).toBeVisible();
  await alive(page);

  // The intake says that the ECM was replaced: it is in already, so nothing is read from the old one and its counters stay lost.
  await expect(page.getByLabel('ECM', { exact: true })).toHaveValue('new');
  await expect(page.getByLabel('Already in')).toBeChecked();
  const tool = page.getByRole('region', { name: 'With the scan tool' });
  const hand = page.getByRole('region', { name: 'Without a scan tool' });
  await expect(tool.getByRole('heading', { name: 'Can’t be restored' })).toBeVisible();
  await expect(tool.getByText('ECM: counters.')).toBeVisible();
  await expect(tool.getByRole('listitem').filter({ hasText: 'Relearn with a scan tool' })).toHaveCount(1);
  await expect(hand.getByRole('heading', { name: 'Don’t start: not everything can be restored' })).toBeVisible();

  // Not in yet: it is read, compared and swapped first.
  await page.getByLabel('Already in').uncheck();
  await expect(tool.getByText('Read the old module with a scan tool and save everything')).toBeVisible();
  await expect(tool.getByText('2 h 30 min, hands-on 2 h 23 min')).toBeVisible();

  // A used one meets no scan tool before it has learned: by hand first, in both ways.
  await page.getByLabel('ECM', { exact: true }).selectOption('donor');
  await expect(tool.getByText('Connect no scan tool to it before it has learned this car')).toBeVisible();
  await expect(tool.getByText('Relearn without a scan tool, ignition on')).toBeVisible();
  await expect(tool.getByText('Relearn with a scan tool')).toHaveCount(0);
  await expect(hand.getByText('Relearn without a scan tool, ignition on')).toBeVisible();
  await seeNoViolations(page);

  // Without tools one way is left; the address holds it all, also after a reload.
  await page.getByLabel('scan tool', { exact: true }).uncheck();
  await expect(tool).toHaveCount(0);
  await page.reload();
  await expect(page.getByLabel('ECM', { exact: true })).toHaveValue('donor');
  await expect(page.getByLabel('scan tool', { exact: true })).not.toBeChecked();
  await hand.getByRole('listitem').filter({ hasText: 'ignition on' }).getByRole('link', { name: 'Look at the procedure' }).click();
  await expect(page).toHaveURL(/\/cases\/4\?run=relearn-ignition-on$/);
});

test('a part that holds nothing, two at once, and nothing chosen', async ({ page }) => {
  await page.goto('/cases/4/replacement?asked=&tool=scan+tool&tool=programming+tool');
  await expect(page.getByText('Choose what is replaced: the plan appears here.')).toBeVisible();
  await alive(page);
  await page.getByLabel('Antenna coil').selectOption('new');
  await expect(page.getByText('An antenna coil holds nothing: install it, and nothing has to be learned.').first()).toBeVisible();
  await page.getByLabel('Antenna coil').selectOption('');
  await page.getByLabel('ECM', { exact: true }).selectOption('new');
  await page.getByLabel('Immobilizer module').selectOption('new');
  await expect(page.getByText('Two modules at once leave nothing in the car that knows the keys.').first()).toBeVisible();
  // An address that makes no sense leaves out what nobody knows.
  await page.goto('/cases/4/replacement?asked=&engine=old&radio=new&tool=hammer&installed=engine');
  await expect(page.getByText('Choose what is replaced: the plan appears here.')).toBeVisible();
  await page.goto('/cases/999/replacement');
  await expect(page.getByRole('heading', { name: 'Case not found' })).toBeVisible();
});

test('trouble codes from a pasted report: in their groups, a misread one confirmed, for one vehicle', async ({ page }) => {
  await page.goto('/library');
  await page.getByRole('link', { name: 'Trouble codes' }).click();
  await alive(page);
  const text = page.getByLabel('Scan report or trouble codes');
  const explain = page.getByRole('button', { name: 'Explain trouble codes' });
  await expect(explain).toBeDisabled();
  await text.fill('It cranks.');
  await expect(page.getByText('No trouble code found in this text.')).toBeVisible();
  await text.fill('ECM\n  P0562-16 stored\n  PO633 present\nBCM\n  B2810\n  P0351\n  U0184\nPart P0562A31-7');
  await expect(page.getByText('4 found.')).toBeVisible();
  await page.getByRole('button', { name: 'It is P0633' }).click();
  await expect(text).toHaveValue(/\n {2}P0633 present\n/);
  await expect(page.getByText('5 found.')).toBeVisible();
  await explain.click();
  const group = (name: string) => page.getByRole('region', { name: new RegExp(`^${name}`) });
  await expect(group('About this').getByRole('listitem')).toHaveText('P0633Immobilizer key not programmed, ECM (ECM, present)');
  await expect(group('May matter')).toContainText('System voltage low: circuit voltage too low (ECM, stored)');
  // Its maker is not said, so nothing is said of a maker's own code.
  await expect(group('May matter')).toContainText('Only the service information of this vehicle says what it means.');
  await expect(group('Later')).toContainText('Ignition coil A');
  await expect(group('Not about this')).toContainText('Lost communication with radio');
  await seeNoViolations(page);

  await page.getByLabel('Vehicle').selectOption('tarn-gantry');
  await expect(group('About this')).toContainText('Key chip not recognized');
  await expect(group('About this')).toContainText('Tests: Read the key in a key reader');
  await page.reload();
  await expect(text).toHaveValue('P0562-16, P0633, B2810, P0351, U0184');
  await expect(group('About this').getByRole('listitem')).toHaveCount(2);
  await page.goto('/library/codes?codes=nothing&profile=__proto__');
  await expect(page.getByText('No text yet.')).toBeVisible();
});

test('scans of a case: who was heard, the groups, a slip refused without losing the text, before against after, in the report', async ({ page }) => {
  const path = await openCase(page, {
    vehicle: 'Tarn Gantry, scanned',
    system: /Tarn Gantry/,
    keys: [{ tag: 'A', role: 'main' }],
    changed: ['ECM replaced'],
    authority: true,
  });
  await page.goto(path);
  await openRow(page, 'Replaced parts and trouble codes');
  await page.getByRole('link', { name: 'Scans and trouble codes' }).click();
  await alive(page);
  const text = page.getByLabel('Scan report');
  const save = page.getByRole('button', { name: 'Save the scan' });
  await text.fill('Nothing stored.');
  await save.click();
  await expect(page.getByText('There is no trouble code in it, and no module is marked').first()).toBeVisible();
  await expect(text).toHaveValue('Nothing stored.');

  // A scan without the immobilizer proves nothing about it.
  await text.fill('ECM\n  P0562-16 stored\n  P0633 present\nBCM\n  U0100\n  B2810\n  P0351\n  U0184');
  await expect(page.getByText('6 found.')).toBeVisible();
  const coverage = (module: string) => page.getByRole('group', { name: module, exact: true });
  await expect(coverage('ECM').getByLabel('answered')).toBeChecked();
  await expect(coverage('immobilizer').getByLabel('not scanned')).toBeChecked();
  await page.getByLabel('The trouble codes were cleared after this scan').check();
  await save.click();
  // Clearing what was not read is questioned, and nothing typed is lost.
  await expect(page.getByText('The immobilizer was not scanned, so its trouble codes were cleared unread.').first()).toBeVisible();
  await expect(text).toHaveValue(/U0184$/);
  await page.getByLabel('They were cleared anyway').check();
  await save.click();
  const before = page.getByRole('region', { name: 'Before the work' });
  await expect(before.getByText('The immobilizer was not scanned: this scan proves nothing about it.')).toBeVisible();
  await expect(before.getByRole('region', { name: /^About this/ }).getByRole('listitem')).toHaveCount(2);
  await expect(before.getByText('Cleared afterward.')).toBeVisible();
  await expect(text).toHaveValue('');
  await seeNoViolations(page);

  // Afterward: what returned is real.
  await text.fill('ECM\n  P0562-16 present\n  P0685');
  await coverage('immobilizer').getByLabel('silent').check();
  await page.getByLabel('after the work').check();
  await save.click();
  const compared = page.getByRole('region', { name: 'Before and after' });
  await expect(compared).toContainText('Still thereP0562 System voltage low');
  await expect(compared).toContainText('NewP0685 ECM power relay, control circuit open');
  await expect(compared).toContainText('GoneP0633');
  await expect(compared).toContainText('Not known: the module was not heard againU0100');
  await expect(page.getByRole('region', { name: 'After the work' }).getByText('The immobilizer is silent.')).toBeVisible();
  await page.reload();
  await expect(compared).toBeVisible();
  const table = await page.request.get(`${path}/codes/export`);
  expect(table.headers()['content-disposition']).toMatch(/^attachment; filename="case-\d+-codes\.csv"$/);
  expect(await table.text()).toMatch(/,after,.*,engine,answered,P0562,16,present,/);
  expect(await (await page.request.get(`${path}/codes/export?as=json`)).json()).toMatchObject([
    { phase: 'before', cleared: true },
    { phase: 'after', coverage: { immobilizer: 'silent' } },
  ]);
  await page.goto(`${path}/report`);
  await expect(page.getByText('P0562-16 ECM present, P0685 ECM. answered: ECM. silent: immobilizer')).toBeVisible();
});
