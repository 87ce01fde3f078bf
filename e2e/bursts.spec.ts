import { type Synthetic, volts } from '../core/burst/synthetic.testing';
import { alive, choose, expect, openCase, seeNoViolations, test } from './harness';
import type { Page } from '@playwright/test';

const rateHz = 400_000;
const bursts = (count: number, lengthS: number): [number, number][] => Array.from({ length: count }, (_, i) => [0.03 + 0.09 * i, lengthS]);
/** A capture as a scope saves it. */
function csv(name: string, s: Synthetic): { name: string; mimeType: string; buffer: Buffer } {
  const values = volts({ rateHz, lengthS: 0.45, snrDb: 30, ...s });
  const lines = Array.from(values, (v, i) => `${(i / rateHz).toFixed(7)},${v.toFixed(5)}`);
  return { name, mimeType: 'text/csv', buffer: Buffer.from(`seconds,volts\n${lines.join('\n')}\n`) };
}
const foil = (seed: number) => csv(`foil-${seed}.csv`, { bursts: bursts(4, 0.03), seed });
const refused = (seed: number) => csv(`key-${seed}.csv`, { bursts: bursts(4, 0.0302), seed });
const accepted = (seed: number) =>
  csv(`good-${seed}.csv`, { bursts: bursts(1, 0.045), dips: Array.from({ length: 10 }, (_, i) => [0.015 + 0.002 * i, 0.001, 0.4]), seed });
const result = (page: Page) => page.getByRole('region', { name: 'Result' });
const take = (page: Page, file: ReturnType<typeof csv>, name = 'A') => page.getByLabel(`File of capture ${name}`).setInputFiles(file);
async function keep(page: Page, saying: RegExp): Promise<void> {
  await result(page)
    .getByRole('button', { name: /^Add to case/ })
    .click();
  await expect(result(page).getByRole('status').filter({ hasText: saying })).toBeVisible();
}
const pick = (page: Page, name: RegExp) => page.getByRole('group', { name: 'What this capture is' }).getByRole('button', { name }).click();

test('two keys refused: like the key in foil, nothing answered; an ornament is removed, and it is like an accepted key', async ({ page }) => {
  const path = await openCase(page, {
    vehicle: 'Orrin Thimble, bursts',
    system: /^Antenna ring around the lock/,
    keys: [{ tag: 'A' }, { tag: 'B' }],
  });
  const id = path.split('/').at(-1)!;
  await page.goto('/bench');
  await page.getByRole('link', { name: 'Field and answer' }).click();
  await page.waitForURL(/\/bench\/bursts/);
  await alive(page);
  await choose(page, 'Case', /Orrin Thimble, bursts/);
  await page.waitForURL(new RegExp(`case=${id}`));
  await expect(page.getByText('None yet. Begin with a key in foil')).toBeVisible();
  await page.getByLabel('Probe').fill('loop 20 mm');
  await page.getByLabel('Stored keys', { exact: true }).fill('2');

  // It begins with the key in foil, twice.
  for (const seed of [1, 2]) {
    await take(page, foil(seed));
    await expect(result(page).getByRole('heading', { name: '4 bursts' })).toBeVisible();
    await keep(page, /^Saved to the case\. Baseline, key in foil: 4 bursts\./);
  }
  await seeNoViolations(page);
  // The way goes on by itself.
  for (const key of ['A', 'B']) {
    await page.getByRole('button', { name: `Next: What about tag ${key}?` }).click();
    await take(page, refused(key === 'A' ? 3 : 4));
    await expect(result(page).getByRole('heading', { name: 'Nothing answered.' })).toBeVisible();
    await expect(result(page).getByRole('list', { name: 'What it looks like' }).getByRole('listitem').first()).toContainText('key in foil');
    await keep(page, /^Saved to the case: Bursts of the antenna coil, against a key in foil\./);
  }
  // The probe and the number of keys outlive a reload; another probe has no baseline.
  await page.reload();
  await alive(page);
  await expect(page.getByLabel('Probe')).toHaveValue('loop 20 mm');
  await pick(page, /^What about tag A/);
  await page.getByLabel('Probe').fill('coil 5 mm');
  await take(page, refused(5));
  await expect(result(page)).toContainText('Rule of thumb: one short burst means');
  await page.getByLabel('Probe').fill('loop 20 mm');
  await expect(result(page).getByRole('heading', { name: 'Nothing answered.' })).toBeVisible();

  // The ornament is off, the light goes out with tag A: its capture becomes a baseline; tag B is like it.
  await pick(page, /^Tag A, accepted/);
  await take(page, accepted(6));
  await keep(page, /^Saved to the case\. Baseline, tag A, accepted: 1 burst\./);
  await pick(page, /^What about tag B/);
  await take(page, accepted(7));
  await expect(result(page).getByRole('heading', { name: 'Like an accepted key.' })).toBeVisible();
  await keep(page, /^Saved to the case: Bursts of the antenna coil/);

  // A baseline that was made wrongly is set aside, with its reason.
  const first = result(page).getByRole('listitem').filter({ hasText: 'key in foil: 4 bursts' }).first();
  await first.getByRole('button', { name: 'Set aside' }).click();
  await first.getByRole('button', { name: 'Set it aside' }).click();
  await expect(first.getByText('Nothing is written here. Write something.').first()).toBeVisible();
  await first.getByLabel('Why it doesn’t count').fill('The foil had a gap.');
  await first.getByRole('button', { name: 'Set it aside' }).click();
  await expect(page.getByText('Set aside. Nothing is compared with it any more.')).toBeVisible();
  await expect(result(page).getByRole('listitem').filter({ hasText: 'key in foil: 4 bursts' })).toHaveCount(1);

  await page.goto(path);
  const findings = page.locator('[aria-labelledby="ledger"]');
  await expect(findings).toContainText('As in foil: nothing answers');
  await expect(findings).toContainText('Like an accepted key');
});

test('another vehicle of the model: its captures stand in while this one has none in foil', async ({ page }) => {
  const at = async (vehicle: string) => {
    const path = await openCase(page, { vehicle, system: /^Tarn Gantry/, keys: [{ tag: 'A' }] });
    await page.goto(`/bench/bursts?case=${path.split('/').at(-1)}`);
    await alive(page);
    await page.getByLabel('Probe').fill('loop 35 mm');
    await page.getByLabel('Stored keys', { exact: true }).fill('2');
  };
  await at('Tarn Gantry, taken');
  for (const seed of [1, 2]) {
    await take(page, foil(seed));
    await keep(page, /^Saved to the case\. Baseline, key in foil: 4 bursts\./);
  }
  await at('Tarn Gantry, asked');
  await pick(page, /^What about tag A/);
  await take(page, refused(3));
  await expect(result(page).getByRole('heading', { name: 'By other vehicles of this model: nothing answered.' })).toBeVisible();
  await expect(result(page)).toContainText('That is a weak hint, for each vehicle has its own habits.');
  await expect(result(page).getByRole('list', { name: 'What it looks like' }).getByRole('listitem').first()).toContainText('key in foil');
  await keep(page, /^Saved to the case: Number of bursts, by rule of thumb\./);
});

test('the pictures: two captures with one zoom, by keys, buttons and wheel; figures, and files to keep', async ({ page }) => {
  await page.goto('/bench/bursts');
  await alive(page);
  await take(page, foil(1));
  await take(page, accepted(2), 'B');
  const [a, b] = ['A', 'B'].map((name) => page.getByRole('img', { name: new RegExp(`^Capture ${name}: `) })) as [
    ReturnType<typeof page.getByRole>,
    ReturnType<typeof page.getByRole>,
  ];
  await expect(a).toHaveAccessibleName(/^Capture A: 4 bursts in 450 ms, 4 of them shown\./);
  await expect(b).toHaveAccessibleName(/^Capture B: 1 burst in 450 ms, 1 of them shown\./);
  await expect(a.locator('path')).toHaveCount(1);
  await a.focus();
  for (let i = 0; i < 2; i += 1) await page.keyboard.press('+');
  await expect(a).toHaveAccessibleName(/, 1 of them shown\./);
  await expect(b).toHaveAccessibleName(/, 0 of them shown\./);
  await page.keyboard.press('0');
  await expect(a).toHaveAccessibleName(/, 4 of them shown\./);
  const box = (await a.boundingBox())!;
  await page.mouse.move(box.x + 40, box.y + 40);
  await page.mouse.wheel(0, -900);
  await expect(a).not.toHaveAccessibleName(/, 4 of them shown\./);
  await page.getByRole('button', { name: 'Show all' }).click();
  await expect(a).toHaveAccessibleName(/, 4 of them shown\./);
  await page.getByRole('button', { name: 'Zoom in' }).click();
  await page.getByRole('button', { name: 'Earlier' }).click();
  await expect(a).toHaveAccessibleName(/, [123] of them shown\./);
  await page.getByRole('button', { name: 'Show all' }).click();
  await page.getByRole('checkbox', { name: 'Line up at the first burst' }).uncheck();

  await page.getByText('The 4 bursts in figures').click();
  const rows = page.getByRole('table').getByRole('row');
  await expect(rows).toHaveCount(5);
  await expect(rows.nth(2)).toContainText('90.0');
  const saved = async (button: string) => {
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: button }).first().click()]);
    const parts: Buffer[] = [];
    for await (const part of await download.createReadStream()) parts.push(part as Buffer);
    return { name: download.suggestedFilename(), bytes: Buffer.concat(parts) };
  };
  const table = await saved('Save CSV');
  expect(table.name).toBe('foil-1-bursts.csv');
  expect(table.bytes.toString().split('\n')).toHaveLength(6);
  const json = JSON.parse((await saved('Save JSON')).bytes.toString()) as { bursts: unknown[]; name: string; webAssembly: boolean };
  // The page's policy lets the worker run it, and the worker found it.
  expect([json.name, json.bursts.length, json.webAssembly]).toEqual(['foil-1.csv', 4, true]);
  const picture = await saved('Save picture');
  expect([...picture.bytes.subarray(0, 4)]).toEqual([0x89, 0x50, 0x4e, 0x47]);
  expect(picture.bytes.length).toBeGreaterThan(3000);
  await seeNoViolations(page);
});

test('wrong files say what and where; the simulated source says that it is one, streams, can be left, and is no evidence', async ({ page }) => {
  const path = await openCase(page, { vehicle: 'Orrin Thimble, practice', system: /^Antenna ring around the lock/ });
  await page.goto(`/bench/bursts?case=${path.split('/').at(-1)}`);
  await alive(page);
  const said = page.getByRole('region', { name: 'Capture A' }).getByRole('alert');
  const wrong = (name: string, text: string) => take(page, { name, mimeType: 'text/csv', buffer: Buffer.from(text) });
  await wrong('capture.csv', 'seconds,volts\n0,1\n1e-6,x\n');
  await expect(said).toHaveText('capture.csv: line 3: The volts can’t be read. Write them such as -0.125 or 3.2e-2.');
  await wrong('capture.txt', 'x');
  await expect(said).toHaveText('capture.txt: unknown kind of file. Choose a .csv (seconds,volts) or a .wav file.');
  await wrong('capture.wav', 'RIFF');
  await expect(said).toContainText('capture.wav: byte');

  await page.getByText('Practice with a simulated source').click();
  await choose(page, 'At its antenna coil', 'Key in foil');
  await page.getByRole('button', { name: 'Record from it' }).click();
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByText('No capture yet. Read a file of the scope.')).toBeVisible();
  await page.getByRole('button', { name: 'Record from it' }).click();
  await expect(page.getByRole('region', { name: 'Capture A' })).toContainText('Simulated source: 7 bursts');
  await expect(result(page)).toContainText('Simulated. It is kept as such, compared with simulated captures only, and is no evidence.');
  await keep(page, /Baseline, key in foil: 7 bursts/);
  await expect(result(page).getByRole('listitem').filter({ hasText: 'key in foil: 7 bursts simulated' })).toBeVisible();
  await pick(page, /^What about tag A/);
  await choose(page, 'At its antenna coil', 'Hidden, find out');
  await page.getByRole('button', { name: 'Record from it' }).click();
  await page.getByRole('button', { name: 'Show what it was' }).click();
  await expect(page.getByText(/^It was: /)).toBeVisible();
  await keep(page, /^Saved to the case\. /);
  await page.goto(path);
  await expect(page.locator('[aria-labelledby="ledger"]')).not.toContainText('Bursts of the antenna coil');

  // Does the field come: what is counted here is counted in the repeat test too.
  await page.goto(`/bench/bursts?case=${path.split('/').at(-1)}`);
  await alive(page);
  for (let i = 0; i < 3; i += 1) await page.getByRole('button', { name: 'Signal', exact: true }).click();
  await page.getByRole('button', { name: 'No signal' }).click();
  await expect(page.getByRole('status', { name: 'Count' })).toHaveText('3 of 4');
  await page.getByRole('link', { name: 'What the checks rule out' }).click();
  await page.waitForURL(/\/bench\/trials/);
  await expect(page.getByRole('status', { name: 'Count' })).toHaveText('3 of 4');
});

test('a capture of millions of samples is read without the page standing still, and is sealed with the case', async ({ page }) => {
  const path = await openCase(page, { vehicle: 'Orrin Thimble, long', system: /^Antenna ring around the lock/, authority: true });
  await page.goto(`/bench/bursts?case=${path.split('/').at(-1)}`);
  await alive(page);
  await page.getByText('No capture yet.').waitFor();
  await page.evaluate(() => {
    const kept = window as unknown as { frames: number[] };
    kept.frames = [];
    let last = performance.now();
    const frame = () => {
      kept.frames.push(performance.now() - last);
      last = performance.now();
      requestAnimationFrame(frame);
    };
    requestAnimationFrame(frame);
  });
  const line = Array.from({ length: 100_000 }, (_, i) => `${(0.3 * Math.sin(i / 1.3)).toFixed(5)}`).join('\n');
  await take(page, { name: 'long.csv', mimeType: 'text/csv', buffer: Buffer.from(`volts,1000000 Hz\n${Array(40).fill(line).join('\n')}\n`) });
  await expect(page.getByRole('region', { name: 'Capture A' })).toContainText('4 million samples at 1 MS/s', { timeout: 60_000 });
  // The limit of the issue is for a machine that is idle; this one may be shared, so a few long frames are let pass. `npm run bench -- bursts` measures it.
  const slow = await page.evaluate(() => (window as unknown as { frames: number[] }).frames.slice(3).filter((ms) => ms > 100).length);
  expect(slow).toBeLessThan(5);

  await page.getByText('Seal the capture itself with the case').click();
  await expect(page.getByText(/^4000000 samples as WAV, packed: [\d.]+ MB\.$/)).toBeVisible({ timeout: 30_000 });
  await expect(page.getByText('A case takes captures of up to 6.0 MB. Export the stretch with the bursts, and seal that.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Seal it' })).toBeDisabled();
  await take(page, foil(9));
  await page.getByText('Seal the capture itself with the case').click();
  await expect(page.getByText(/^180000 samples as WAV, packed: [\d.]+ MB\.$/)).toBeVisible({ timeout: 30_000 });
  await page.getByLabel('Why it is kept').fill('Baseline for the insurer.');
  await page.getByRole('button', { name: 'Seal it' }).click();
  await expect(page.getByText('Sealed. Open the vault')).toBeVisible();
  await page.goto(`${path}/vault`);
  await expect(page.getByText('foil-9.wav.gz').first()).toBeVisible();
  await expect(page.getByText('Capture of bursts').first()).toBeVisible();
});

test.describe('by touch', () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });
  test('on a phone nothing is cut, and the capture is drawn', async ({ page }) => {
    await page.goto('/bench/bursts');
    await alive(page);
    await take(page, foil(1));
    await expect(page.getByRole('img', { name: /^Capture A: 4 bursts/ })).toBeVisible();
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(390);
    await seeNoViolations(page);
  });
  test('two fingers apart show less of it, larger; together they show all again', async ({ page }) => {
    await page.goto('/bench/bursts');
    await alive(page);
    await take(page, foil(1));
    const picture = page.getByRole('img', { name: /^Capture A: / });
    await expect(picture).toHaveAccessibleName(/, 4 of them shown\./);
    await picture.scrollIntoViewIfNeeded();
    const box = (await picture.boundingBox())!;
    const touch = await page.context().newCDPSession(page);
    const [middle, y] = [box.x + box.width / 4, box.y + box.height / 2];
    const fingers = (apart: number) => [-apart, apart].map((off, id) => ({ x: middle + off, y, id }));
    const pinch = async (from: number, to: number) => {
      await touch.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: fingers(from) });
      for (let i = 1; i <= 6; i += 1)
        await touch.send('Input.dispatchTouchEvent', { type: 'touchMove', touchPoints: fingers(from + ((to - from) * i) / 6) });
      await touch.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] });
    };
    await pinch(15, 75);
    await expect(picture).toHaveAccessibleName(/, [12] of them shown\./);
    await pinch(75, 10);
    await expect(picture).toHaveAccessibleName(/, 4 of them shown\./);
  });
});
