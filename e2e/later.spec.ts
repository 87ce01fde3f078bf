import type { Page } from '@playwright/test';
import { alive, choose, comeIn, expect, flashes, keyboard, openCase, seeNoViolations, tapAlong } from './harness';
import { atWire, type Car, kept, pass, test } from './wire';

/** What is entered outside of runs without a connection arrives later (docs/offline.md). */
test.use({ baseURL: undefined });

const box = (page: Page) => page.getByRole('region', { name: 'Saved on this device' });
const waits = (page: Page, words: string) => expect(box(page).getByText(words, { exact: true })).toBeVisible();
/** Opens a page and waits until it is kept in this browser. */
async function open({ page, wire }: Car, path: string): Promise<void> {
  await page.goto(wire.url + path);
  await alive(page);
  await kept(page);
}
/** The wire is there again, and everything goes out. */
async function mend({ wire, page }: Car): Promise<void> {
  await wire.mend();
  await page.clock.fastForward(4000);
}
async function begin(car: Car, vehicle: string, system: RegExp): Promise<string> {
  atWire(car.page, car.wire.url);
  await pass(car, 0);
  return openCase(car.page, { vehicle, system });
}

test('triage goes on: each answer waits on the disk, over a reload too, and arrives once with its time', async ({ car }) => {
  const { page, wire, server } = car;
  const path = await begin(car, 'Orrin Lantern, in the field', /^Antenna ring around the lock/);
  await open(car, `${path}/triage`);
  await wire.cut();
  await page.getByRole('button', { name: 'Rapid flashing' }).click();
  await waits(page, 'Not sent yet: one entry');
  const locks = page.getByRole('group', { name: 'Locks and turn signals', exact: true }).getByRole('button', { name: 'They respond' });
  await locks.click();
  await waits(page, 'Not sent yet: 2 entries');
  await expect(locks).toHaveAttribute('aria-pressed', 'true');
  await page
    .getByRole('button', { name: 'Continue' })
    .or(page.getByRole('button', { name: 'Skip' }))
    .click();
  await expect(page.getByRole('heading', { name: 'What changed lately?' })).toBeVisible();
  await page.getByRole('checkbox', { name: 'Cover or ornament near the lock' }).check();
  await page.getByRole('button', { name: 'This changed' }).click();
  await expect(page.getByRole('region', { name: 'The engine' })).toBeVisible();
  await waits(page, 'Not sent yet: 3 entries');
  await seeNoViolations(page);

  await pass({ server, page }, 600);
  await page.reload();
  await alive(page);
  await waits(page, 'Not sent yet: 3 entries');
  await expect(page.getByRole('region', { name: 'The engine' })).toBeVisible();
  await page.getByText('All precautions taken').click();
  await page.getByRole('button', { name: 'No crank, no click' }).click();
  await waits(page, 'Not sent yet: 4 entries');
  await box(page).getByText('Not sent yet: 4 entries').click();
  for (const [i, words] of [
    /Security light.*Rapid flashing/,
    /Locks and turn signals, They respond/,
    /what changed, Cover or ornament near the lock/,
    /What the engine does, No crank/,
  ].entries())
    await expect(box(page).getByRole('listitem').nth(i)).toHaveText(words);
  await pass({ server, page }, 300);
  await mend(car);
  await expect(box(page).getByText(/^Sent: .*No crank, no click/)).toBeVisible();
  await box(page).getByRole('button', { name: 'OK' }).click();
  await expect(box(page)).toHaveCount(0);

  await page.goto(`${wire.url}${path}/report`);
  const minutes = async (words: string) => {
    const row = page.getByRole('row').filter({ hasText: words });
    await expect(row).toHaveCount(1);
    const [, h, m] = /(\d+):(\d\d)/.exec((await row.textContent())!)!;
    return Number(h) * 60 + Number(m);
  };
  const apart = (await minutes('No crank, no click')) - (await minutes('Rapid flashing'));
  expect([10, 11]).toContain((apart + 720) % 720);
});

test('a new case is written without a connection, changed once more, and opens once; the form serves for another one', async ({ car }) => {
  const { page, wire } = car;
  atWire(page, wire.url);
  await pass(car, 0);
  await open(car, '/cases/new');
  await wire.cut();
  const write = async (vehicle: string) => {
    await page.goto('/cases/new');
    await alive(page);
    await page.getByLabel('Customer concern').fill('It does not start.');
    await page.getByLabel('Vehicle *').fill(vehicle);
    await choose(page, 'System type', /Tarn Gantry/);
    await page.getByLabel('Tag').first().fill('A');
    await page.getByRole('button', { name: 'Open the case' }).click();
    await expect(page.getByRole('heading', { name: 'Not sent yet' })).toBeVisible();
  };
  await write('Tarn Gantry, by the road');
  await seeNoViolations(page);
  await page.getByRole('button', { name: 'Change it' }).click();
  await expect(page.getByLabel('Vehicle *')).toHaveValue('Tarn Gantry, by the road');
  await expect(box(page)).toHaveCount(0);
  await page.getByLabel('Vehicle *').fill('Tarn Gantry, by the river');
  await page.getByRole('button', { name: 'Open the case' }).click();
  await waits(page, 'Not sent yet: one entry');
  await write('Tarn Gantry, behind the mill');
  await waits(page, 'Not sent yet: 2 entries');
  await page.reload();
  await waits(page, 'Not sent yet: 2 entries');

  await mend(car);
  await expect(box(page).getByText(/^Sent: .*by the river.*behind the mill/)).toBeVisible();
  await box(page).getByRole('link', { name: 'New case: Tarn Gantry, by the river' }).click();
  await expect(page).toHaveURL(/\/cases\/\d+$/);
  await expect(page.getByRole('heading', { level: 1 })).toContainText('by the river');
  for (const [words, n] of [
    ['by the road', 0],
    ['by the river', 1],
    ['behind the mill', 1],
  ] as const) {
    await page.goto(`/cases?q=${encodeURIComponent(words)}`);
    await expect(page.getByRole('link', { name: new RegExp(words) })).toHaveCount(n);
  }
});

test('a light, a resistor key and a call wait on the disk and arrive', async ({ car }) => {
  const { page, wire } = car;
  const path = await begin(car, 'Veskar Ledger, in the yard', /Veskar Ledger/);
  const id = path.split('/').at(-1)!;
  const [light, key] = [`/bench/lamp?case=${id}`, `/bench/ladder?case=${id}&key=A`];
  for (const address of [light, key, '/calls/new']) {
    await open(car, address);
  }
  await wire.cut();

  await page.goto(light);
  await alive(page);
  await tapAlong(page, flashes(8, 0.5, 1, 0.5), 9, keyboard(page));
  await page.getByRole('button', { name: /Add to case|Save the observation/ }).click();
  await waits(page, 'Not sent yet: one entry');
  await expect(page.getByText('Saved on this device. It is sent when the connection is back.')).toBeVisible();

  await page.goto(key);
  await alive(page);
  for (const reading of ['1391', '1388', '1384']) {
    await page.getByLabel('Readings: next reading').fill(reading);
    await page.keyboard.press('Enter');
  }
  await page.getByRole('button', { name: /Add to case/ }).click();
  await waits(page, 'Not sent yet: 2 entries');
  await expect(page.getByRole('button', { name: /Add to case/ })).toBeDisabled();

  await page.goto('/calls/new');
  await alive(page);
  await page.getByLabel('What the caller says').fill('It stalls at the ferry.');
  await page.getByLabel('Vehicle').fill('Orrin Thimble, at the ferry');
  await page.getByRole('button', { name: 'Start intake' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'No connection: nothing was sent.' })).toBeVisible();
  await expect(page.getByLabel('What the caller says')).toHaveValue('It stalls at the ferry.');
  await page.getByRole('button', { name: 'Save call' }).click();
  await waits(page, 'Not sent yet: 3 entries');
  // Saved once more, it is the same call.
  await page.getByLabel('What the caller says').fill('It stalls at the ferry, twice.');
  await page.getByRole('button', { name: 'Save call' }).click();
  await waits(page, 'Not sent yet: 3 entries');

  await mend(car);
  await expect(box(page).getByText(/^Sent: /)).toBeVisible();
  await page.goto('/calls');
  await expect(page.getByRole('link', { name: /^Orrin Thimble, at the ferry/ })).toHaveCount(1);
  await page.getByRole('link', { name: /^Orrin Thimble, at the ferry/ }).click();
  await expect(page.getByLabel('What the caller says')).toHaveValue('It stalls at the ferry, twice.');
  await page.goto(path);
  await alive(page);
  const findings = page.getByRole('complementary', { name: 'Findings' });
  await expect(findings).toContainText('Measure the resistor chip, tag A');
  await expect(findings).toContainText('8 flashes');
});

test('what the server does not take is told with what was done, and stays until it is discarded', async ({ car, open: openBrowser }) => {
  const { page, wire, server } = car;
  const path = await begin(car, 'Orrin Lantern, parked meanwhile', /^Antenna ring around the lock/);
  await open(car, `${path}/triage`);
  await wire.cut();
  await page.getByRole('button', { name: 'Rapid flashing' }).click();
  await waits(page, 'Not sent yet: one entry');

  const other = await openBrowser(`${car.folder}-other`);
  await comeIn(other.context, server, 'Teodor Lusk');
  await other.page.goto(server + path);
  await alive(other.page);
  const record = other.page.getByRole('region', { name: 'Record', exact: true });
  await record.locator('details').filter({ hasText: 'Park the case' }).locator('summary').click();
  await other.page.getByLabel('Why it has to wait').fill('The owner took it home.');
  await other.page.getByRole('button', { name: 'Park it' }).click();
  await expect(other.page.getByRole('button', { name: 'Reopen' }).first()).toBeVisible();

  await mend(car);
  const told = box(page).getByRole('alert');
  await expect(told).toContainText('Not taken: ');
  await expect(told).toContainText('Rapid flashing');
  await expect(told).toContainText('is parked. Reopen it first.');
  await page.reload();
  await expect(told).toContainText('is parked. Reopen it first.');
  await box(page)
    .getByRole('button', { name: /^Discard: / })
    .click();
  await expect(box(page)).toHaveCount(0);
});
