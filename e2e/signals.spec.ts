import { answer, expect, instruction, measure, openCase, prepare, startRun, test } from './harness';

interface Heard {
  said: string[];
  tones: number[];
  vibrated: number;
  awake: number;
}
declare global {
  interface Window {
    heard: Heard;
  }
}

/** Runs in the page before it: what it says, sounds and asks of the device is noted, since a test's browser has no loudspeaker. */
function note(): void {
  const heard: Heard = { said: [], tones: [], vibrated: 0, awake: 0 };
  window.heard = heard;
  Object.defineProperty(window, 'speechSynthesis', {
    value: { cancel: () => {}, speak: (words: { text: string }) => heard.said.push(words.text) },
  });
  const start = OscillatorNode.prototype.start;
  OscillatorNode.prototype.start = function (when) {
    heard.tones.push(this.frequency.value);
    start.call(this, when);
  };
  navigator.vibrate = () => {
    heard.vibrated += 1;
    return true;
  };
  Object.defineProperty(navigator, 'wakeLock', {
    value: {
      request: () => {
        heard.awake += 1;
        return Promise.resolve({
          release: () => {
            heard.awake -= 1;
            return Promise.resolve();
          },
        });
      },
    },
  });
}

test('a run is heard after a touch: tones, voice, vibration; the title counts and the screen stays awake', async ({ page, advance }) => {
  await page.addInitScript(note);
  await openCase(page, { vehicle: 'Tarn Gantry, heard', changed: ['ECM replaced'], keys: [{ tag: 'A' }], authority: true });
  await page.getByRole('button', { name: 'Lit for some seconds, then out' }).click();
  await startRun(page);
  await expect(instruction(page)).toHaveText('Measure the battery, rested.');
  const heard = () => page.evaluate(() => window.heard);
  await measure(page, '12.6');
  await expect(instruction(page)).toHaveText('Switch every load off.');
  expect(await heard()).toMatchObject({ said: [], tones: [], vibrated: 0 });

  const sound = page.getByRole('group', { name: 'Sound' });
  await sound.getByRole('button', { name: 'Tones off' }).click();
  await expect(sound.getByRole('button', { name: 'Tones on' })).toHaveAttribute('aria-pressed', 'true');
  await sound.getByRole('button', { name: 'Test the volume' }).click();
  await expect.poll(async () => (await heard()).tones.length).toBe(3);
  expect(await heard()).toMatchObject({ said: [], vibrated: 1 });
  await sound.getByRole('button', { name: 'Voice off' }).click();
  await answer(page, 'All loads are off');
  await expect.poll(async () => (await heard()).said).toEqual(["Turn the ignition on. Don't start."]);
  await answer(page, 'Ignition is on');
  await expect(instruction(page)).toHaveText('Leave the ignition on.');
  await expect.poll(() => page.title()).toMatch(/^1:00 · Leave the ignition on\./);
  expect((await heard()).awake).toBe(1);
  await advance(50);
  await expect.poll(async () => (await heard()).said.at(-1)).toBe('Ten seconds left.');
  await expect.poll(() => page.title()).toMatch(/^0:10 · /);
  await advance(10);
  await expect(instruction(page)).toHaveText('Measure the battery again while the ignition is on.');
  await expect.poll(async () => (await heard()).said.at(-1)).toBe('Measure the battery again while the ignition is on.');
  await expect.poll(async () => (await heard()).awake).toBe(0);
  expect(await page.title()).toBe('Relearn without a scan tool, ignition on · Bloodstone');

  // The choice is kept on this device, and sounds again from the first touch on.
  await page.reload();
  await expect(sound.getByRole('button', { name: 'Voice on' })).toHaveAttribute('aria-pressed', 'true');
  expect((await heard()).said).toEqual([]);
  await measure(page, '12.2');
  await expect.poll(async () => (await heard()).said).toEqual(['Turn the ignition off.']);
});

test('the time of a run is in the title of another run’s page no longer', async ({ page }) => {
  await openCase(page, { vehicle: 'Tarn Gantry, left', changed: ['ECM replaced'], keys: [{ tag: 'A' }], authority: true });
  await page.getByRole('button', { name: 'Lit for some seconds, then out' }).click();
  await startRun(page);
  await prepare(page);
  await expect.poll(() => page.title()).toContain('Leave the key off.');
  await page.getByRole('navigation', { name: 'Places' }).getByRole('link', { name: 'Floor' }).click();
  await expect(page).toHaveTitle('Floor · Bloodstone');
});
