import { alive, choose, expect, flashes, type Hand, keyboard, openCase, seeNoViolations, tapAlong, test } from './harness';

/** The lamp of the ring, refused: four flashes a second. */
const rapid = flashes(20, 0.3, 0.25, 0.12);
const verdict = 'section[aria-label="Result"]';

test.beforeEach(({ page }) => page.clock.install());

test('by keyboard: tapped along on the bench, read anew when the system changes, kept over a reload', async ({ page }) => {
  await page.goto('/bench');
  await page.getByRole('link', { name: 'Light', exact: true }).click();
  await page.waitForURL(/\/bench\/lamp/);
  await choose(page, 'System type', /^Antenna ring around the lock/);
  await expect(page).toHaveURL(/system=family%3Aring/);
  await expect(page.locator(verdict)).toContainText('Nothing watched yet');
  await seeNoViolations(page);

  // On a list of choices a letter goes to what begins with it; elsewhere it is the screen's key.
  await page.keyboard.press('t');
  await expect(page.getByText('Turn the ignition on at zero.', { exact: true })).toHaveCount(0);
  await choose(page, 'System type', /^Antenna ring around the lock/);
  await page.getByRole('button', { name: 'None of these' }).click();
  await expect(page.locator(verdict)).toContainText('Check the system type.');
  await page.keyboard.press('t');
  await expect(page.getByText('Turn the ignition on at zero.', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Cancel' }).click();

  const hand = keyboard(page);
  const looking = { ...hand, end: () => expect(page.locator(verdict)).toContainText('Keep watching') };
  await tapAlong(page, rapid.slice(0, 4), 1.6, looking);
  await hand.end();
  await page.getByRole('button', { name: 'Watch again' }).click();
  await tapAlong(page, rapid, 5.5, hand);
  await expect(page.locator(verdict)).toContainText('“Rapid flashing” in “Antenna ring around the lock”');
  await expect(page.locator(verdict)).toContainText('Move ornaments and other keys away and try again.');
  await expect(page.getByRole('img', { name: /^Timeline of 5\.5 s with 20 lights, the pattern “Rapid flashing” over it$/ })).toBeVisible();
  await seeNoViolations(page);

  await page.reload();
  await expect(page.locator(verdict)).toContainText('“Rapid flashing” in “Antenna ring around the lock”');
  await choose(page, 'System type', /^Resistor key/);
  await expect(page.locator(verdict)).toContainText('None of the patterns of “Resistor key”');
  // A family whose cluster writes has nothing to tap.
  await choose(page, 'System type', /^Infrared key and electronic ignition switch/);
  await expect(page.getByRole('heading', { name: /has no security light/ })).toBeVisible();
});

test('by mouse: too short is said so and kept as no evidence; long enough becomes evidence of the case', async ({ page }) => {
  const path = await openCase(page, {
    vehicle: 'Orrin Lantern, tapped',
    system: /^Antenna ring around the lock/,
    keys: [{ tag: 'A' }, { tag: 'B' }],
  });
  const id = path.split('/').at(-1)!;
  await page.goto(`/bench/lamp?case=${id}`);
  await alive(page);
  const area = page.getByRole('button', { name: /Tap along|at zero|Hold while it is lit/ });
  const hand: Hand = {
    begin: () => area.click(),
    down: () => area.hover().then(() => page.mouse.down()),
    up: () => page.mouse.up(),
    end: () => page.getByRole('button', { name: 'Stop watching' }).click(),
  };
  await tapAlong(page, [[0.3, 2]], 2.5, hand);
  await expect(page.locator(verdict)).toContainText('Not watched long enough to decide. Watch 3.5 s longer, from the start.');
  await page.getByRole('button', { name: /^Save the observation to case/ }).click();
  await expect(page.getByText('The observation is saved to the case. It doesn’t count as evidence.')).toBeVisible();

  await page.getByRole('button', { name: 'Watch again' }).click();
  await tapAlong(page, [[0.3, 3.2]], 9, hand);
  await expect(page.locator(verdict)).toContainText('“Steady some seconds, then out” in “Antenna ring around the lock”');
  await page.getByRole('radio', { name: 'tag B' }).check();
  await page.getByRole('button', { name: /^Add to case/ }).click();
  await expect(page.getByText('Saved to the case.')).toBeVisible();
  await page.getByRole('link', { name: /^Go to case/ }).click();
  await page.waitForURL(path);
  const ledger = page.getByRole('complementary', { name: 'Findings' });
  await expect(ledger.getByText('Security light at the ring, tag B')).toBeVisible();
  await expect(ledger.getByRole('img', { name: /^Timeline of/ })).toHaveCount(2);
  await expect(ledger.getByText('Light watched, tag A')).toBeVisible();
  await expect(page.getByRole('button', { name: /^Key accepted.*good$/ })).toBeVisible();
});

test('a recording of an instrument: read in pieces, drawn and read; what is no recording is said where', async ({ page }) => {
  await page.goto('/bench/lamp?system=family:ring');
  await alive(page);
  const choice = page.locator('input[type=file]');
  const file = (name: string, text: string) => ({ name, mimeType: 'text/plain', buffer: Buffer.from(text) });
  await choice.setInputFiles(file('lamp.csv', 'seconds,level\n0.1,1\n3.1,0\n2.9,1\n'));
  await expect(page.getByRole('alert')).toHaveText('lamp.csv: line 4: 2.9 s is before the sample above (3.1 s). Put the samples in order of time.');
  await choice.setInputFiles(file('lamp.txt', 'hello'));
  await expect(page.getByRole('alert')).toHaveText('lamp.txt: unknown kind of file. Choose a .csv (seconds,level) or a .vcd file.');
  await choice.setInputFiles(file('empty.csv', 'seconds,level\n'));
  await expect(page.getByRole('alert')).toContainText('empty.csv: The file has no samples.');
  await choice.setInputFiles(file('lamp.csv', 'seconds,level\n0.05,1\n3.05,0\n9,0\n'));
  await expect(page.locator(verdict)).toContainText('“Steady some seconds, then out” in “Antenna ring around the lock”');
  await expect(page.getByText('Filled: lamp.csv.')).toBeVisible();
  await expect(page.getByRole('alert')).toHaveCount(0);
});

test('picked by eye, also where the lamp belongs to no key', async ({ page }) => {
  const path = await openCase(page, { vehicle: 'Calder Bundle, picked', system: /^Coded lock cylinder/ });
  await page.goto(`/bench/lamp?case=${path.split('/').at(-1)}`);
  await alive(page);
  await page.getByRole('button', { name: 'Lit for some seconds, then out' }).click();
  await expect(page.locator(verdict)).toContainText('Picked by eye.');
  await page.getByRole('button', { name: /^Add to case/ }).click();
  await expect(page.getByText('Saved to the case.')).toBeVisible();
  await page.goto(path);
  await expect(page.getByRole('complementary', { name: 'Findings' }).getByText('Security light after an attempt')).toBeVisible();
});

test.describe('on a phone', () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true, reducedMotion: 'reduce' } as object);
  test('by finger, with reduced motion: nothing moves, nothing is cut off', async ({ page }) => {
    await page.goto('/bench/lamp?system=family:ring');
    await alive(page);
    // Reduced motion: the pictures of the patterns stand still.
    expect(await page.evaluate(() => document.getAnimations().length)).toBe(0);
    const area = page.getByRole('button', { name: /Tap along|at zero|Hold while it is lit/ });
    const cdp = await page.context().newCDPSession(page);
    const touch = async (type: 'touchStart' | 'touchEnd') => {
      const box = (await area.boundingBox())!;
      const touchPoints = type === 'touchStart' ? [{ x: box.x + box.width / 2, y: box.y + box.height / 2 }] : [];
      return cdp.send('Input.dispatchTouchEvent', { type, touchPoints });
    };
    const looks = () => area.evaluate((e) => getComputedStyle(e).background);
    await tapAlong(page, rapid, 5.5, {
      begin: () => area.tap(),
      down: () => touch('touchStart'),
      up: () => touch('touchEnd'),
      end: async () => {
        // The area itself looks the same lit and dark: only the small bulb in it changes.
        const dark = await looks();
        await touch('touchStart');
        expect(await looks()).toBe(dark);
        await touch('touchEnd');
        await page.getByRole('button', { name: 'Stop watching' }).tap();
      },
    });
    await expect(page.locator(verdict)).toContainText('“Rapid flashing” in “Antenna ring around the lock”');
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
    await seeNoViolations(page);
  });
});
