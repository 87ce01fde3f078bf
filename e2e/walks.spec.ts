import type { Page } from '@playwright/test';
import { type FaultDefinition, resolveParams, valuesOf } from '../core/library';
import { inSentence } from '../core/units';
import { readContent } from '../content/reader';
import { follow } from './follow';
import { alive, choose, expect, proposed, test } from './harness';
import { answerOf, bringBack, families, handOver, heading, next, see, tryAgain, verify, type Vehicle } from './vehicle';

const { procedures } = readContent('content').library;

interface Walk extends Vehicle {
  fault: string;
  /** What the caller says, and what is ticked on the call sheet, by question. */
  words: string;
  told: [question: string, answer: string][];
  /** The customer is asked before the first fix or run. */
  agrees?: true;
}

/** Seven system types that have little in common, each with a fault that is typical for it; the person only does what the page proposes. */
const walks: Walk[] = [
  {
    family: 'pellet',
    fault: 'pelletWorn',
    agrees: true,
    key: 'A',
    words: 'Waits some minutes, then starts, then refuses again.',
    told: [['What happens when it is started?', "Nothing, doesn't crank"]],
    shows: { cleanContacts: 'same', pelletOhms: 'between', 'pelletOhms@B': 'step' },
  },
  {
    family: 'ring',
    fault: 'coilOpen',
    agrees: true,
    words: 'It cranks and does not start, with both keys.',
    told: [
      ['What happens when it is started?', 'Cranks, does not start'],
      ['And with another key?', 'The same'],
    ],
    shows: {},
  },
  {
    family: 'infrared',
    fault: 'irEmitter',
    key: 'A',
    words: 'The dash stays dark; the doors open by the remote.',
    told: [['What does the dash do when you switch it on?', 'Dark']],
    shows: {},
  },
  { family: 'alarm-latch', fault: 'alarmLatched', words: 'Since a new key was tried nothing is accepted.', told: [], shows: {} },
  {
    family: 'rearm-fob',
    fault: 'walkedOff',
    agrees: true,
    words: 'Doors open, then the dash stays dead.',
    told: [['What does the dash do when you switch it on?', 'Dark']],
    shows: { lamp: 'lockedDown', unlockPress: 'wakes' },
  },
  {
    family: 'pocket-fob',
    fault: 'fobCell',
    key: 'A',
    words: 'It says that there is no key in the car.',
    told: [['What does the dash do when you switch it on?', 'A message about the key']],
    shows: {},
  },
  {
    family: 'engine-immobilizer',
    fault: 'engineUnpaired',
    agrees: true,
    words: 'A new ECM is in, and it does not start with either key.',
    told: [
      ['And with another key?', 'The same'],
      ['What happened before?', 'ECM replaced'],
    ],
    shows: { coverAway: 'none', keysApart: 'none' },
  },
];

test.describe.configure({ mode: 'parallel' });
// Those in which the customer is asked in every run, all seven in the whole (`npm run thorough`).
for (const walk of walks.filter((w) => w.agrees || process.env.THOROUGH === '1')) {
  const family = families.get(walk.family)!;
  const fault = family.faults!.find((f) => f.id === walk.fault)!;
  test(`${family.title}: ${fault.title.toLowerCase()}, from the call to the report`, async ({ page, advance }) => {
    test.setTimeout(600_000);
    const path = await fromCall(page, walk);
    const done = await toHandOver(page, path, walk, advance);
    await handOver(page, path, 'Proven', new RegExp(`^${fault.title.replace(/[()]/g, '.')}`));
    await expect(page.getByText(`Proven: ${fault.title}`, { exact: false }).first()).toBeVisible();
    // Everything that was done stands in the report, under its own name.
    const report = page.getByRole('main');
    for (const title of new Set(done)) await expect(report).toContainText(title);
    if (!walk.agrees) return;
    await expect(report).toContainText('Agreed on the phone');
    await page.goto(`${path}/papers`);
    await alive(page);
    const sheet = page.getByRole('article', { name: 'For the customer' });
    await expect(sheet).toContainText(`The cause of the no-start: ${inSentence(fault.title)} (proven).`);
    for (const part of ['What we did', 'What we did not do', 'What we advise', 'Your keys', 'Bill', 'Total', 'Agreed on'])
      await expect(sheet).toContainText(part);
  });
}

/** The call is written down, the case is opened from it, and what was said on the phone is there. */
async function fromCall(page: Page, { family, words, told }: Walk): Promise<string> {
  await page.goto('/calls/new');
  await page.waitForURL(/\/calls\/new\?call=/);
  await alive(page);
  await page.getByLabel('What the caller says').fill(words);
  await page.getByLabel('Vehicle').fill(`Orrin Walk, ${family}`);
  await choose(page, 'System type, if the caller or you know it', new RegExp(`^${families.get(family)!.title}`));
  await expect(page).toHaveURL(new RegExp(`system=family%3A${family}`));
  for (const [question, answer] of told)
    await page.getByRole('group', { name: question }).getByRole('checkbox', { name: answer, exact: true }).check();
  await page.getByRole('button', { name: 'Start intake' }).click();
  await page.waitForURL(/\/cases\/new\?draft=/);
  await alive(page);
  await expect(page.getByLabel('Customer concern')).toHaveValue(words);
  await page.getByRole('button', { name: 'Another key' }).click();
  await page.getByLabel('Tag').nth(0).fill('A');
  await page.getByLabel('Tag').nth(1).fill('B');
  await choose(page, 'Seen', 'Registration and identity');
  await page.getByRole('button', { name: 'Open the case' }).click();
  await page.waitForURL(/\/cases\/\d+$/);
  return new URL(page.url()).pathname;
}

/** Asks the customer: the fix that is proposed, or what stands first where that is no option of its own, on the phone and without a limit. */
async function agreeOn(page: Page, path: string, fault: FaultDefinition): Promise<void> {
  await page.goto(`${path}/options`);
  await alive(page);
  const boxes = page.getByRole('list', { name: 'Options' }).getByRole('checkbox');
  const wanted = boxes.and(page.getByRole('checkbox', { name: `Fix: ${inSentence(fault.title)}` }));
  await ((await wanted.count()) > 0 ? wanted.first() : boxes.first()).check();
  const said = page.getByRole('region', { name: 'What the customer says' });
  await said.getByRole('radio', { name: 'On the phone' }).check();
  await said.getByLabel('What was said').fill('Go ahead with that.');
  await said.getByRole('button', { name: 'Record the agreement' }).click();
  await expect(page.getByText('The agreement is saved to the case.')).toBeVisible();
  await page.goto(path);
  await expect(page.getByRole('region', { name: 'About this case' })).toContainText('Agreed');
}

/** Does what is proposed until the car can be handed over; returns the titles of what was done. */
async function toHandOver(page: Page, path: string, walk: Walk, advance: (s: number) => Promise<void>): Promise<string[]> {
  const family = families.get(walk.family)!;
  const params = valuesOf(resolveParams(family));
  const titles: string[] = [];
  const made = new Set<string>();
  let asked = !walk.agrees;
  for (let step = 0; step < 60; step += 1) {
    await page.waitForURL(path);
    const title = await proposed(page);
    const test = family.tests.find((t) => t.do === title);
    const fixed = family.faults!.find((f) => f.cure.do === title);
    const procedure = [...procedures.values()].find((p) => `${p.title}.` === title);
    const sofar = await next(page).innerText();
    // A test is nothing to get, and what was done is not advised again.
    for (const t of family.tests) expect(sofar).not.toContain(`Get ${t.title}:`);
    if (title === 'Hand over the car.') expect(sofar).not.toMatch(/So far|or instead/);
    if (!asked && (fixed || procedure)) {
      await agreeOn(page, path, fixed ?? family.faults!.find((f) => f.cure.procedure === procedure!.id)!);
      asked = true;
      continue;
    }
    if (test) {
      const key = test.perKey ? await next(page).locator('fieldset input:checked').getAttribute('value') : null;
      const name = key === null ? test.id : `${test.id}@${key}`;
      // Nothing is asked twice that can't come out otherwise.
      if (!test.independent) expect([...made]).not.toContain(name);
      made.add(name);
      titles.push(test.title);
      // What is dangerous about it stands before its answers.
      await expect(next(page).getByRole('group', { name: 'Cautions' }).getByRole('listitem')).toHaveCount(test.cautions.length);
      await see(page, test.outcomes[answerOf(family, params, walk, test, key)]!.say);
    } else if (fixed) {
      titles.push(fixed.title);
      // A fix is advised only where what was seen leaves it something to do.
      for (const name of fixed.cure.unless ?? [])
        expect([...made].map((m) => m.split('@')[0])).not.toContain(walk.shows[name.split('.')[0]!] === name.split('.')[1] ? name.split('.')[0] : '');
      await see(page, fixed.id === walk.fault ? 'Done: it works now' : 'Done: no better');
    } else if (procedure && !family.faults!.some((f) => f.id === walk.fault && f.cure.procedure === procedure.id)) {
      // Another cause would be fixed by it, and this vehicle would not get better.
      titles.push(family.faults!.find((f) => f.cure.procedure === procedure.id)!.title);
      await next(page).getByRole('link', { name: 'Record it as a repair' }).click();
      await see(page, 'Done: no better');
    } else if (procedure) {
      titles.push(procedure.title);
      const precautions = page.getByLabel('All precautions taken');
      if (await precautions.count()) await precautions.check();
      await next(page).getByRole('button', { name: 'Start the run' }).click();
      await page.waitForURL(/\/runs\/\d+$/);
      await follow(page, advance, []);
      await page.goto(path);
    } else if (title.startsWith('Bring the fault back')) await bringBack(page);
    else if (title.startsWith('Try it again')) await tryAgain(page);
    else if (title.startsWith('Wait.')) await advance(3660);
    else if (await next(page).getByRole('link', { name: 'Verify the keys' }).count()) await verify(page, path);
    else {
      await expect(heading(page)).toHaveText('Hand over the car.');
      return titles;
    }
  }
  throw new Error(`It is never handed over: ${titles.join(', ')}`);
}
