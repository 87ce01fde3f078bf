import type { Page } from '@playwright/test';
import { expect, instruction } from './harness';

/** Follows runs by their page: what it shows now, and what a person would do about it. */

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
export type Fault = [at: RegExp, what: { answer: string } | { pauseS: number }];

/**
 * Follows a run to its end: each time what it asks for and, where it asks what was seen, the good answer, which stands first.
 * @param until an instruction at which it stops before it does anything
 */
export async function follow(page: Page, advance: (s: number) => Promise<void>, faults: Fault[], until?: RegExp): Promise<string[]> {
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
    if (until?.test(seen.instruction)) return told;
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
