import { type Fault, follow } from './follow';
import { alive, expect, openCase, seeNoViolations, test } from './harness';

/** The main procedure of each system type but the one that way.spec.ts walks, and some for every vehicle, with what goes wrong on the way. */
const walks: [family: string, type: RegExp, procedure: string, faults: Fault[], tells: RegExp[], withKey?: string][] = [
  [
    'alarm-latch',
    /^BCM that refuses/,
    'release-alarm',
    [[/Did the engine run all the time/, { answer: 'It stalled' }]],
    [/^Let the engine run\.$/, /No horn, no flashing/],
  ],
  ['cylinder', /^Coded lock cylinder/, 'relearn-cylinder', [], [/Watch the light/]],
  [
    'engine-immobilizer',
    /^The ECM is the immobilizer/,
    'learn-with-main',
    [[/Is learning open/, { answer: 'No: once more' }]],
    [/^Put tag B in and turn it on/],
  ],
  ['infrared', /^Infrared key/, 'check-infrared-key', [], [/Press on the case/, /Resolder the joint/]],
  ['master-user', /^One master key/, 'teach-with-master', [], [/Put the master, tag A, in/]],
  ['pellet', /^Resistor key/, 'search-value', [[/What does the security light do/, { answer: 'Flashes slowly, or' }]], [/until the lockout ends/]],
  [
    'ring',
    /^Antenna ring/,
    'swap-module',
    [[/Look at the pins/, { answer: 'Dirty or green' }]],
    [/Clean with pure alcohol/, /Wait until the modules/],
  ],
  ['ring', /^Antenna ring/, 'change-cell', [[/Press lock and unlock at the vehicle/, { answer: 'Nothing' }]], [/Resync the fob/]],
  ['pellet', /^Resistor key/, 'teach-key-value', [[/What does the security light do/, { answer: 'Flashes slowly' }]], [/until the lockout ends/]],
  [
    'pocket-fob',
    /^Fob in the pocket/,
    'teach-by-blade',
    [[/Tap the start button/, { answer: 'It tries to start' }]],
    [/^Put tag A in its pocket/, /Put tag B in the pocket/],
  ],
  [
    'rearm-fob',
    /^Fob that arms/,
    'rearm-by-radio',
    [
      [/Does the cluster come on/, { answer: 'It stays dark' }],
      [/Is the cluster awake/, { answer: 'Dark, light flashes' }],
    ],
    [/Take the fob out of its slot/],
  ],
  ['ring', /^Antenna ring/, 'add-key-ring', [[/^Put the other learned key in/, { pauseS: 30 }]], [/^Put tag B in and turn it on/]],
  [
    'sealed-secret',
    /^Long secret/,
    'write-sealed-key',
    [[/look at the current/, { answer: 'None' }]],
    [/Read the secret again/, /Hold tag A at its mark/],
  ],
  ['slot-store', /^Separate box/, 'write-slot', [], [/Write the new key into slot 4/, /^Start with the new key, tag B\./], 'B'],
  ['status-record', /^Passive transponder/, 'learn-keys-status', [[/Learn it with the scan tool/, { answer: 'Still going' }]], [/reading 3/]],
  ['transponder-attempt', /^Transponder key, timed relearn with start attempt/, 'relearn-start-attempt', [], [/Turn tag A to start and let go/]],
];

// Every third one in every run, all in the whole (`npm run thorough`); content/everyBranch.test.ts goes through every branch of all.
for (const [family, type, procedure, faults, tells, withKey] of walks.filter((_, i) => i % 3 === 0 || process.env.THOROUGH === '1'))
  test(`${family}: ${procedure} is followed to its end${faults.length > 0 ? ', with something going wrong on the way' : ''}`, async ({
    page,
    advance,
  }) => {
    const keys = [{ tag: 'A' }, { tag: 'B' }];
    const path = await openCase(page, { vehicle: `Orrin Thimble, ${procedure}`, system: type, keys, authority: true });
    const about = page.getByRole('region', { name: 'About this case' });
    const link = about.locator(`a[href$="run=${procedure}"]`);
    if (!(await link.isVisible())) await about.getByText('For every vehicle').click();
    await link.click();
    const precautions = page.getByLabel('All precautions taken');
    await expect(page.getByRole('button', { name: 'Start the run' })).toBeVisible();
    if (withKey) {
      const radio = page.getByRole('radio', { name: `tag ${withKey}` });
      // Chosen in the very moment of the click, also while the page is still asked for with that key.
      expect(await radio.evaluate((input: HTMLInputElement) => (input.click(), input.checked))).toBe(true);
    }
    if (await precautions.count()) await precautions.check();
    await page.getByRole('button', { name: 'Start the run' }).click();
    await page.waitForURL(/\/runs\/\d+$/);
    // The address changes before the page does.
    await expect(page.getByRole('list', { name: 'The whole run' })).toBeVisible();
    const told = await follow(page, advance, faults);
    for (const one of tells) expect(told).toContainEqual(expect.stringMatching(one));
    await expect(page.getByText('Finished', { exact: false }).first()).toBeVisible();
    await page.goto(`${path}/report`);
    await expect(page.getByText(`Run started with tag ${withKey ?? 'A'}`).first()).toBeVisible();
  });

test('the keys of a run: one left out of a relearn is said to be lost, their order is chosen', async ({ page }) => {
  const keys = [{ tag: 'A' }, { tag: 'B' }, { tag: 'C' }];
  await openCase(page, { vehicle: 'Orrin Thimble, keys', system: /^Antenna ring/, keys, authority: true });
  await page.getByRole('region', { name: 'About this case' }).locator('a[href$="run=learn-all-keys-ring"]').click();
  const order = page.getByRole('list', { name: 'Keys, in this order' }).getByRole('listitem');
  await expect(order).toHaveText([/tag A.*main/, /tag B/, /tag C/]);
  await expect(page.getByText(/^Left out:/)).toHaveCount(0);
  await page.getByRole('button', { name: 'Leave tag B out' }).click();
  await expect(page.getByText('Left out: tag B. A key that is not presented will no longer start the vehicle.')).toBeVisible();
  await expect(page.getByRole('list', { name: 'Steps of the procedure' })).toContainText('forgets tag B');
  await page.getByRole('button', { name: 'Tag C one place earlier' }).click();
  await expect(page.getByText('Tag A is the main key and does not stand first.')).toBeVisible();
  await page.getByRole('button', { name: 'Leave tag C out' }).click();
  // The last one stays.
  await expect(order).toHaveText([/tag A/]);
  await expect(page.getByRole('button', { name: 'Leave tag A out' })).toHaveCount(0);
  await expect(page.getByRole('list', { name: 'Steps of the procedure' })).not.toContainText('Tag C');
  await page.getByRole('button', { name: 'Add tag C' }).click();
  await expect(order).toHaveText([/tag A/, /tag C/]);
  await expect(page.getByRole('list', { name: 'Steps of the procedure' })).toContainText('Tag C');
  await page.reload();
  await alive(page);
  await expect(order).toHaveText([/tag A/, /tag C/]);
  await seeNoViolations(page);
  await page.getByLabel('All precautions taken').check();
  await page.getByRole('button', { name: 'Start the run' }).click();
  await page.waitForURL(/\/runs\/\d+$/);
  await page.goto(page.url().replace(/\/runs.*/, '/report'));
  await expect(page.getByText('Run started with tag A, tag C')).toBeVisible();
});
