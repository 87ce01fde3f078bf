import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { alive, answer, comeIn, expect, hasHeard, instruction, measure, openCase, proposed, seeNoViolations, startRun } from './harness';
import { advance, atWire, type Car, kept, pass, test } from './wire';

/** Runs without a connection (docs/offline.md). */
test.use({ baseURL: undefined });
const relearn = { changed: ['ECM replaced'], authority: true } as const;

/** A relearn at its first step, kept in this browser. */
async function begun(car: Car, vehicle: string): Promise<string> {
  const { page, wire } = car;
  await pass(car, 0);
  await page.goto(`${wire.url}/`);
  await alive(page);
  await openCaseAt(page, wire.url, vehicle);
  await page.getByRole('button', { name: 'Lit for some seconds, then out' }).click();
  await startRun(page);
  await expect(instruction(page)).toHaveText('Measure the battery, rested.');
  await kept(page);
  return new URL(page.url()).pathname;
}
/** The form of a new case is opened by its whole address here. */
async function openCaseAt(page: Page, url: string, vehicle: string) {
  atWire(page, url);
  await openCase(page, { vehicle, ...relearn, changed: [...relearn.changed] });
}

const secondsOf = (left: string | null) => {
  const [, sign, ...parts] = /^([+-]?)(?:(\d+):)?(\d+):(\d+)$/.exec(left ?? '')!;
  const [h, m, s] = parts.map((p) => Number(p ?? 0)) as [number, number, number];
  return (sign === '+' ? -1 : 1) * (h * 3600 + m * 60 + s);
};
const left = async (page: Page) => secondsOf(await page.getByRole('timer').first().textContent());
const unsent = (page: Page) => page.getByRole('alert').filter({ hasText: 'Not sent yet' });
/** Everything has arrived at the server. */
async function sent(page: Page): Promise<void> {
  // At once: one may be told while the other is not.
  await expect(unsent(page).or(page.getByText('Still to be sent'))).toHaveCount(0);
}

test('the wire is cut for 25 minutes: two waits, a reload and a new start of the browser; everything arrives once, in order, with its times', async ({
  car,
  open,
}) => {
  const { wire, server, folder } = car;
  let { page } = car;
  const run = await begun(car, 'Tarn Gantry, out of reach');
  await hasHeard(page, await advance(server, 1));
  await wire.cut();
  const start = await page.evaluate(() => Date.now());

  await measure(page, '12.6');
  await expect(instruction(page)).toHaveText('Switch every load off.');
  await expect(unsent(page)).toContainText('It is saved here and sent again automatically.');
  await answer(page, 'All loads are off');
  await expect(unsent(page)).toContainText('2 answers are saved here and sent in their order.');
  await seeNoViolations(page);
  await answer(page, 'Ignition is on');
  await pass({ server, page }, 60);
  await measure(page, '12.2');
  for (const step of ['Ignition is off', 'A window is open', 'All keys are here', 'New', 'Trouble codes are cleared', 'Key is off and out'])
    await answer(page, step);
  await expect(instruction(page)).toHaveText('Leave the key off.');
  await pass({ server, page }, 12);
  await answer(page, 'Key is on');
  await answer(page, /Light is lit/);
  await expect(instruction(page)).toContainText('Watch the light.');
  const here = () => page.evaluate(() => Date.now());
  let [from, atFirst] = [await here(), await left(page)];
  /** How far the wait that is shown is from the time that went by in this browser, seconds. */
  const off = async () => Math.abs((await left(page)) - (atFirst - ((await here()) - from) / 1000));
  await pass({ server, page }, 300);
  expect(await off()).toBeLessThanOrEqual(1);

  await test.step('a reload', async () => {
    await page.reload();
    await alive(page);
    await expect(instruction(page)).toContainText('Watch the light.');
    await expect.poll(off).toBeLessThanOrEqual(1);
    await expect(unsent(page)).toContainText('12 answers are saved here');
  });

  await test.step('the browser is started again', async () => {
    const stopped = await here();
    await car.context.close();
    await advance(server, 260);
    ({ page } = await open(folder, stopped + 260_000));
    await page.goto(wire.url + run);
    await alive(page);
    await expect(instruction(page)).toContainText('Watch the light.');
    await expect.poll(off).toBeLessThanOrEqual(1);
  });

  await answer(page, /Light is out/);
  await answer(page, 'Key is off');
  await expect(instruction(page)).toHaveText('Leave the key off.');
  await pass({ server, page }, 12);
  await answer(page, 'Key is on');
  await answer(page, /Light is lit/);
  await expect(instruction(page)).toContainText('Watch the light.');
  [from, atFirst] = [await here(), await left(page)];
  await pass({ server, page }, 560);
  expect(await off()).toBeLessThanOrEqual(1);

  // What the test itself took went by in the browser only.
  const mended = await here();
  await advance(server, (mended - start) / 1000 - (60 + 12 + 300 + 260 + 12 + 560));
  await wire.mend();
  await page.clock.fastForward(4000);
  await sent(page);
  await page.reload();
  await alive(page);
  await expect(instruction(page)).toContainText('Watch the light.');
  // The shop's time stands still from then on, but between two of its readings the page goes on.
  const shown = await left(page);
  expect(shown).toBeLessThanOrEqual(atFirst - (mended - from) / 1000 + 1);
  expect(shown).toBeGreaterThanOrEqual(atFirst - ((await here()) - from) / 1000 - 1);

  await test.step('the server has each answer once, at the moment when it was given', async () => {
    await page.goto(`${wire.url}${run.replace(/runs\/\d+$/, 'report')}`);
    const rows = await page.getByRole('row').allTextContents();
    const of = (words: string) => rows.filter((row) => row.includes(words));
    for (const once of ['Measure the battery, rested.', 'A window is open', 'Trouble codes are cleared'])
      expect([once, of(once).length]).toEqual([once, 1]);
    expect(rows.filter((row) => row.includes('Turn tag A on. Do not start.')).length).toBe(2);
  });
});

test('two devices: who came first at the server stands, the other one is told and its answers are kept as a note', async ({ car, open }) => {
  const { wire, server, page } = car;
  const run = await begun(car, 'Tarn Gantry, two hands');
  await wire.cut();
  await measure(page, '12.6');
  await answer(page, 'All loads are off');
  await expect(instruction(page)).toHaveText("Turn the ignition on. Don't start.");

  const folder = mkdtempSync(join(tmpdir(), 'bloodstone-browser-'));
  const other = await open(folder);
  await comeIn(other.context, server, 'Teodor Lusk');
  await other.page.goto(server + run);
  await alive(other.page);
  await measure(other.page, '12.4');
  await expect(instruction(other.page)).toHaveText('Switch every load off.');

  await wire.mend();
  await page.clock.fastForward(4000);
  await expect(page.getByRole('alert').filter({ hasText: 'Someone was faster' })).toContainText('Your 2 answers are kept with the run as a note.');
  await expect(instruction(page)).toHaveText('Switch every load off.');
  await page.goto(`${wire.url}${run.replace(/runs\/\d+$/, 'report')}`);
  await expect(page.getByText('Answered without a connection, too late for the run').first()).toBeVisible();
  await expect(page.getByText(/Measure the battery, rested\. 12\.6 V; .*Switch every load off\. All loads are off/)).toBeVisible();
});

test('a link to a page that is kept opens it; one that is not says what is; signing out takes all of it away', async ({ car }) => {
  const { wire, page } = car;
  const run = await begun(car, 'Tarn Gantry, kept');
  const path = run.replace(/\/runs\/\d+$/, '');
  await page.goto(wire.url + path);
  await alive(page);
  await kept(page);
  await wire.cut();
  await page.goto(wire.url + run);
  await alive(page);
  await page.getByRole('link', { name: /^Case \d+$/ }).click();
  await expect(page).toHaveURL(wire.url + path);
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Tarn Gantry, kept');
  await page.goto(`${wire.url}/shop`);
  await expect(page.getByRole('heading', { name: 'No connection' })).toBeVisible();
  await expect(page.getByRole('listitem').filter({ hasText: 'Relearn without a scan tool' })).toBeVisible();

  await wire.mend();
  await page.goto(wire.url + run);
  await alive(page);
  await page.getByRole('button', { name: /Ines Marrow/ }).click();
  await page.getByRole('menuitem', { name: 'Sign out' }).click();
  await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible();
  await expect
    .poll(() => page.evaluate(async () => [await caches.has('bloodstone-pages'), (await caches.match(location.origin + '/')) === undefined]))
    .toEqual([false, true]);
  await wire.cut();
  await page.goto(wire.url + run);
  await expect(page.getByText('No page is kept on this device yet.')).toBeVisible();
});

test('a new version of the app comes while a run is open: it waits, and the run goes on, also without a connection and after a reload', async ({
  car,
}) => {
  const { wire, page } = car;
  await begun(car, 'Tarn Gantry, new version');
  wire.newVersion();
  await page.evaluate(async () => void (await (await navigator.serviceWorker.ready).update()));
  await page.waitForFunction(async () => (await navigator.serviceWorker.ready).waiting !== null);
  await measure(page, '12.6');
  await expect(instruction(page)).toHaveText('Switch every load off.');
  await wire.cut();
  await answer(page, 'All loads are off');
  await expect(instruction(page)).toHaveText("Turn the ignition on. Don't start.");
  await page.reload();
  await alive(page);
  await expect(instruction(page)).toHaveText("Turn the ignition on. Don't start.");
  await wire.mend();
  await page.clock.fastForward(4000);
  await sent(page);
});

/** What the server has of a run, by the words of its report: each of these once. */
async function onceInReport(page: Page, run: string, words: readonly (string | RegExp)[]): Promise<void> {
  await page.goto(run.replace(/runs\/\d+$/, 'report'));
  for (const word of words) await expect(page.getByRole('row').filter({ hasText: word })).toHaveCount(1);
}
/** A run's page that is kept, with its wire cut. */
async function cutAt(car: Car, title: string): Promise<{ run: string; cutAt: number }> {
  await startRun(car.page, title);
  await car.page.waitForURL(/\/runs\/\d+$/);
  await alive(car.page);
  await kept(car.page);
  const run = car.page.url();
  await hasHeard(car.page, await advance(car.server, 1));
  await car.wire.cut();
  return { run, cutAt: await car.page.evaluate(() => Date.now()) };
}
/** @param passed seconds that passed for the shop too; what the test itself took went by in the browser only, and comes now */
async function mend({ wire, page, server }: Car, cutAt: number, passed: number): Promise<void> {
  await advance(server, ((await page.evaluate(() => Date.now())) - cutAt) / 1000 - passed);
  await wire.mend();
  await page.clock.fastForward(4000);
  await sent(page);
}

test.describe('the wire is cut in each kind of step', () => {
  test('values, acts, confirmations, counts, observations, the point of no return, each key, holds and waits', async ({ car }) => {
    const { page, wire, server } = car;
    atWire(page, wire.url);
    await pass(car, 0);
    const keys = [
      { tag: 'M', role: 'master' },
      { tag: 'A', role: 'user' },
    ];
    await openCase(page, { vehicle: 'Mirrow Pipit, out of reach', system: /^Mirrow Pipit scooter/, keys, authority: true });
    await page.getByRole('button', { name: 'The count of a key not recognized' }).click();
    const { run, cutAt: from } = await cutAt(car, 'Teach keys with the master');
    await measure(page, '12.6');
    for (const said of ['All keys are apart', 'Master is on', '3 flashes', 'Master is out']) await answer(page, said);
    await page.getByText('All precautions taken').click();
    for (const said of ['Start teaching', 'Master is on', 'Master is out', 'It is on', 'Tag A is out', 'Master is on', 'I hold it now'])
      await answer(page, said);
    await pass({ server, page }, 5);
    await answer(page, 'Let go');
    await expect(page.getByText('Too short. Do it again, longer.')).toBeVisible();
    await answer(page, 'I hold it now');
    await pass({ server, page }, 7);
    await answer(page, 'Let go');
    await answer(page, 'It is off');
    await page.getByText('All precautions taken').click();
    await answer(page, 'It runs and revs');
    await expect(page.getByText('Finished', { exact: false }).first()).toBeVisible();
    await expect(unsent(page)).toContainText('17 answers are saved here');
    await mend(car, from, 12);
    await page.reload();
    await expect(page.getByText('Finished', { exact: false }).first()).toBeVisible();
    await onceInReport(page, run, ['All keys are apart', '3 flashes', /turn tag A off, take it out/, 'too short: not counted', 'It runs and revs']);
  });

  test('two entries, a wait, a choice and a file', async ({ car }) => {
    const { page, wire, server } = car;
    atWire(page, wire.url);
    await pass(car, 0);
    const path = await openCase(page, { vehicle: 'Dunmore Gully, out of reach', system: /^Dunmore Gully/, authority: true });
    await proposed(page);
    await page.goto(`${path}?do=boxLive`);
    await alive(page);
    await page.getByRole('button', { name: 'A key, in no slot' }).click();
    await expect(page).toHaveURL(wire.url + path);
    const { run, cutAt: from } = await cutAt(car, 'Write a key into an empty slot');
    await measure(page, '12.6');
    await answer(page, 'All loads are off');
    await answer(page, 'Ignition is on');
    await pass({ server, page }, 60);
    await measure(page, '12.2');
    await answer(page, 'Ignition is off');
    await answer(page, 'A window is open');
    await page.getByLabel('First entry').fill('714203358');
    await page.getByRole('button', { name: 'Hide it, type the second' }).click();
    await page.getByLabel(/^Second entry/).fill('714203358');
    await page.getByRole('button', { name: 'Compare' }).click();
    await page.getByRole('button', { name: 'Equal: go on' }).click();
    await expect(instruction(page)).toHaveText('Read a chip of the same kind with the programmer.');
    await answer(page, 'It reads a similar chip');
    await answer(page, 'Power is off');
    await expect(instruction(page)).toHaveText('Wait until the box has discharged.');
    await pass({ server, page }, 900);
    await answer(page, 'The box is on the bench');
    await answer(page, /The programmer: bare chip in its adapter/);
    await answer(page, 'Only the programmer is connected');
    await answer(page, 'They make good contact');
    await answer(page, /Some, below the limit/);
    await expect(instruction(page)).toHaveText('Read the whole memory and save the file.');
    await page.locator('input[type=file]').setInputFiles({ name: 'first.bin', mimeType: 'application/octet-stream', buffer: Buffer.alloc(512, 7) });
    await answer(page, 'Read and saved');
    await expect(instruction(page)).toHaveText('Output off. Lift the contacts and put them on again.');
    await mend(car, from, 960);
    await page.reload();
    await alive(page);
    await expect(instruction(page)).toHaveText('Output off. Lift the contacts and put them on again.');
    await onceInReport(page, run, ['Typed twice, equal: 9 characters', 'The programmer: bare chip in its adapter', /first\.bin/]);
  });

  test('a reading of an instrument', async ({ car }) => {
    const { page, wire } = car;
    atWire(page, wire.url);
    await pass(car, 0);
    const path = await openCase(page, { vehicle: 'Dunmore Scree, out of reach', system: /^Dunmore Scree/, authority: true });
    await page.goto(`${path}?run=change-cell`);
    await alive(page);
    const { run, cutAt: from } = await cutAt(car, 'Change a key battery');
    await answer(page, /A battery that can be changed/);
    await answer(page, 'It is open');
    await page.getByLabel('Key battery, not pressed, V').fill('2.95');
    await page.getByLabel('With a button pressed, V').fill('2.4');
    await page.getByRole('button', { name: 'Record' }).click();
    await expect(instruction(page)).toHaveText('Is the old battery weak?');
    await mend(car, from, 0);
    await onceInReport(page, run, [/2\.95 V, pressed 2\.4/]);
  });
});
