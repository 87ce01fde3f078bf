import type { Page } from '@playwright/test';
import { expect, instruction, openCase, test } from './harness';

/** What a run's page shows now, read at one moment. */
interface Seen {
  instruction: string;
  timer: string | null;
  measured: string | null;
  instrument: 'entries' | 'file' | 'cell' | 'ladder' | null;
  /** Its instrument is not there yet. */
  loading: boolean;
  answers: string[];
  undo: string;
  over: boolean;
  /** Its precautions are not ticked yet. */
  unticked: boolean;
}

const look = (page: Page): Promise<Seen> =>
  page.evaluate(() => {
    const main = document.querySelector('main')!;
    const buttons = [...main.querySelectorAll('button')];
    const answers = buttons.filter((b) => /answer/.test(b.className));
    const timer = main.querySelector('[role="timer"]');
    const labels = [...main.querySelectorAll('label')].map((l) => l.innerText);
    return {
      instruction: main.querySelector('h1')?.innerText ?? '',
      timer: timer && timer.getAttribute('aria-label') === 'Time left' ? timer.textContent : null,
      measured: labels.find((l) => /^(Measured|Number)/.test(l)) ?? null,
      instrument: main.querySelector('textarea[aria-label^="First entry"]')
        ? 'entries'
        : main.querySelector('input[type=file]')
          ? 'file'
          : labels.some((l) => l.startsWith('Key battery'))
            ? 'cell'
            : labels.some((l) => l.startsWith('Readings in ohms')) || main.innerText.includes('This vehicle has no value chart.')
              ? 'ladder'
              : null,
      loading: main.innerText.includes('Loading …'),
      // Without the hint, which changes with the time.
      answers: answers.map((b) => b.querySelector('span:not([aria-hidden])')?.firstChild?.textContent ?? ''),
      undo: buttons.find((b) => b.innerText.includes('Undo “'))?.innerText ?? '',
      over: main.innerText.includes('Finished') || main.innerText.includes('Stopped'),
      unticked: [...main.querySelectorAll('label')].some((l) => l.innerText.includes('All precautions taken') && !l.querySelector('input')?.checked),
    };
  });

const seconds = (shown: string): number => {
  const [m, s] = shown.split(':').map(Number) as [number, number];
  return m * 60 + s;
};

/** The value that just meets what is asked for. */
const enough = (label: string): string => {
  const [, least] = /at least ([\d.]+)/.exec(label) ?? [];
  return String(Math.round((Number(least ?? 12) + 0.1) * 10) / 10);
};

/** A memory as it is read the first times, and with its fourth slot written. */
const memory = Buffer.alloc(256, 0xff);
const written = Buffer.from(memory).fill(0x5a, 64, 72);

/** Uses an instrument inside a run as it is meant: entries are typed twice, files picked and compared, a key battery measured at rest and pressed. */
async function measureWith(page: Page, instrument: NonNullable<Seen['instrument']>): Promise<void> {
  const main = page.getByRole('main');
  if (instrument === 'entries') {
    const [, length] = /of (\d+) characters/.exec(
      (await main
        .getByRole('status')
        .filter({ hasText: /characters$/ })
        .innerText()) ?? '',
    )!;
    const original = Array.from({ length: Number(length) }, (_x, i) => (i * 7) % 10).join('');
    await main.getByLabel('First entry').fill(original);
    await main.getByRole('button', { name: 'Hide it, type the second' }).click();
    await main.getByLabel(/^Second entry/).fill(original);
    await main.getByRole('button', { name: 'Compare' }).click();
    await main.getByRole('button', { name: 'Equal: go on' }).click();
  } else if (instrument === 'file') {
    const back = /Read the whole memory back/.test(await instruction(page).innerText());
    const pick = (label: string | RegExp, name: string, buffer: Buffer) =>
      main.getByLabel(label).setInputFiles({ name, mimeType: 'application/octet-stream', buffer });
    await pick('Pick the file', back ? 'after.bin' : 'read.bin', back ? written : memory);
    if (back) {
      await pick(/^Pick read\.bin again/, 'read.bin', memory);
      await expect(main.getByRole('list', { name: 'Where they differ' })).toHaveText('0040 to 0047');
    }
    await main
      .getByRole('button', { name: /^(Read and saved|Equal, byte for byte|Only that slot differs)$/ })
      .first()
      .click();
  } else if (instrument === 'ladder') {
    // A system type alone has no value chart: what was measured is noted.
    const elsewhere = main.locator('details').filter({ hasText: 'Done on another device' });
    await elsewhere.getByLabel(/^Note/).fill('1391, 1388, 1384 ohms, both ways around');
    await elsewhere.getByRole('button').click();
  } else {
    await main.getByLabel('Key battery, not pressed, V').fill('3.1');
    await main.getByLabel('With a button pressed, V').fill('2.95');
    await main.getByRole('button', { name: 'Record' }).click();
  }
}

/** What goes otherwise, once: at this instruction another answer, or a pause before the good one. */
type Fault = [at: RegExp, what: { answer: string } | { pauseS: number }];

/** Follows a run to its end: each time what it asks for and, where it asks what was seen, the good answer, which stands first. */
async function follow(page: Page, advance: (s: number) => Promise<void>, faults: Fault[]): Promise<string[]> {
  const left = [...faults];
  const told: string[] = [];
  for (let i = 0; i < 150; i += 1) {
    await expect.poll(async () => (await look(page)).loading).toBe(false);
    const seen = await look(page);
    if (seen.over) {
      expect(left).toEqual([]);
      return told;
    }
    if (told.at(-1) !== seen.instruction) told.push(seen.instruction);
    if (seen.unticked) await page.getByLabel('All precautions taken').check();
    const fault = left.findIndex(([at]) => at.test(seen.instruction));
    const [, other] = fault < 0 ? [] : left.splice(fault, 1)[0]!;
    if (other && 'pauseS' in other) await advance(other.pauseS);
    const answer = other && 'answer' in other ? other.answer : seen.answers[0];
    const wholeWait = seen.answers.length === 0 || /^Light is out|^Let go/.test(answer ?? '');
    if (seen.timer !== null && wholeWait) await advance(seconds(seen.timer));
    if (seen.measured !== null) {
      await page.getByLabel(/^(Measured|Number)/).fill(seen.measured.startsWith('Number') ? '4' : enough(seen.measured));
      await page.getByRole('button', { name: 'Record' }).click();
    } else if (seen.instrument !== null) {
      await measureWith(page, seen.instrument);
    } else if (answer !== undefined) {
      const name = other && 'answer' in other ? new RegExp(other.answer) : answer;
      await page.getByRole('main').getByRole('button', { name }).first().click();
    }
    const before = JSON.stringify([seen.instruction, seen.answers, seen.undo]);
    await expect
      .poll(async () => {
        const now = await look(page);
        return now.over || JSON.stringify([now.instruction, now.answers, now.undo]) !== before;
      })
      .toBe(true);
  }
  throw new Error(`The run does not end: ${told.slice(-5).join(' / ')}`);
}

/** The main procedure of each system type but the one that way.spec.ts walks, and some for every vehicle, with what goes wrong on the way. */
const walks: [family: string, type: RegExp, procedure: string, faults: Fault[], tells: RegExp[]][] = [
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
  ['ring', /^Antenna ring/, 'change-cell', [[/Press lock and unlock at the vehicle/, { answer: 'Nothing' }]], [/back in step/]],
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
  ['slot-store', /^Separate box/, 'write-slot', [], [/Write the new key into slot 4/]],
  ['status-record', /^Passive transponder/, 'learn-keys-status', [[/Learn it with the scan tool/, { answer: 'Still going' }]], [/reading 3/]],
  ['transponder-attempt', /^Transponder key, timed relearn with start attempt/, 'relearn-start-attempt', [], [/Turn tag A to start and let go/]],
];

for (const [family, type, procedure, faults, tells] of walks)
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
    if (await precautions.count()) await precautions.check();
    await page.getByRole('button', { name: 'Start the run' }).click();
    await page.waitForURL(/\/runs\/\d+$/);
    // The address changes before the page does.
    await expect(page.getByRole('list', { name: 'The whole run' })).toBeVisible();
    const told = await follow(page, advance, faults);
    for (const one of tells) expect(told).toContainEqual(expect.stringMatching(one));
    await expect(page.getByText('Finished', { exact: false }).first()).toBeVisible();
    await page.goto(`${path}/report`);
    await expect(page.getByText('Run started with tag A').first()).toBeVisible();
  });
