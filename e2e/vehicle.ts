import type { Page } from '@playwright/test';
import { readContent } from '../content/reader';
import { rowOf } from '../core/diagnosis/rows';
import { type Family, type ParamValues, resolveParams, type TestDefinition, valuesOf } from '../core/library';
import { expect, proposed, seeNoViolations } from './harness';

/** A vehicle with a fault of its own, and a person at it who does what the page of a case proposes and answers what is seen. */

export const { families } = readContent('content').library;

export interface Vehicle {
  family: string;
  /** What the story tells of this vehicle: outcome by test, or by `test@key`. */
  shows: Record<string, string>;
  /** What else such a vehicle shows is what the content holds likeliest under this fault, in this key; null: under none. */
  fault: string | null;
  key?: string;
}

export const next = (page: Page) => page.getByRole('region', { name: 'Next' });
export const heading = (page: Page) => next(page).getByRole('heading', { level: 2 });
export const ledger = (page: Page) => page.getByRole('complementary', { name: 'Findings' });

/** Does what the page proposes as long as it is a test, and answers what the vehicle shows; returns the tests made, each with its key. */
export async function testAlong(page: Page, vehicle: Vehicle): Promise<string[]> {
  const family = families.get(vehicle.family)!;
  const params = valuesOf(resolveParams(family));
  const made: string[] = [];
  for (let step = 0; step < 30; step += 1) {
    const title = await proposed(page);
    const asked = family.tests.find((t) => t.do === title);
    if (!asked) return made;
    const key = asked.perKey ? await next(page).locator('fieldset input:checked').getAttribute('value') : null;
    const at = key === null ? asked.id : `${asked.id}@${key}`;
    const outcome = answerOf(family, params, vehicle, asked, key);
    await see(page, asked.outcomes[outcome]!.say);
    made.push(`${at}: ${outcome}`);
  }
  throw new Error(`It never comes to a conclusion: ${made.join(', ')}`);
}
const likeliest = (t: TestDefinition, p: number[]) => Object.keys(t.outcomes)[p.indexOf(Math.max(...p))]!;

/** What this vehicle shows in a test: as its story tells, else what is likeliest under its fault, or under none with a key that is sound. */
export function answerOf(family: Family, params: ParamValues, vehicle: Vehicle, asked: TestDefinition, key: string | null): string {
  const fault = family.faults!.find((f) => f.id === vehicle.fault) ?? null;
  const elsewhere = fault?.perKey === true && key !== null && vehicle.key !== undefined && key !== vehicle.key;
  const told = (key === null ? undefined : vehicle.shows[`${asked.id}@${key}`]) ?? vehicle.shows[asked.id];
  return told ?? likeliest(asked, rowOf(asked, elsewhere ? null : fault, params).p);
}

/** Touches what was seen, and waits until it stands in the ledger. */
export async function see(page: Page, say: string): Promise<void> {
  const lines = ledger(page).getByText(/, [\d.]+ min$/);
  const before = await lines.count();
  const button = next(page)
    .getByRole('button')
    .filter({ has: page.getByText(say, { exact: true }) });
  await button.waitFor({ timeout: 10_000 });
  const seenTo = next(page).getByLabel('All precautions taken');
  if (await seenTo.count()) await seenTo.check();
  await button.click({ timeout: 10_000 });
  await expect(lines).toHaveCount(before + 1);
}

/** Tries it again as often as the fix asks for, without a miss. */
export async function tryAgain(page: Page): Promise<void> {
  for (let n = 0; n < 20; n += 1) {
    const title = await proposed(page);
    if (!title.startsWith('Try it again')) return;
    await next(page).getByLabel('All precautions taken').check();
    await next(page).getByRole('button', { name: 'It worked' }).click();
    await expect(heading(page)).not.toHaveText(title);
  }
}

export const likeliestFault = (page: Page) => page.getByRole('region', { name: 'What it could be' }).getByRole('button').first();

/** Every key that is here can do everything it is asked for. */
export async function verify(page: Page, path: string): Promise<void> {
  await next(page).getByRole('link', { name: 'Verify the keys' }).click();
  await page.waitForURL(`${path}/verify`);
  await page.getByLabel('All precautions taken').check();
  for (const yes of await page.getByRole('radio', { name: 'yes', exact: true }).all()) await yes.check();
  await page.getByRole('button', { name: 'Record what you saw' }).click();
  await page.waitForURL(path);
}

/** Brings the cause back, sees it fail, and takes it away again. */
export async function bringBack(page: Page): Promise<void> {
  await expect(heading(page)).toHaveText('Bring the fault back once to prove the cause.');
  await see(page, 'It fails again');
  await expect(heading(page)).toHaveText('Remove the fault again, and try.');
  await see(page, 'It works again');
}

export async function handOver(page: Page, path: string, conclusion: string, cause: RegExp | null): Promise<void> {
  await page.goto(`${path}/hand-over`);
  // Nothing is chosen for anybody; what the ledger bears out is said.
  if (conclusion !== 'Unknown')
    await expect(page.getByRole('group', { name: 'What the cause was' }).getByRole('radio', { checked: true })).toHaveCount(0);
  if (conclusion === 'Proven') await expect(page.getByText('The record proves it')).toBeVisible();
  await page.getByRole('radio', { name: conclusion, exact: true }).check();
  if (cause)
    await expect(page.getByRole('radiogroup', { name: 'Cause', exact: true }).getByRole('radio', { checked: true })).toHaveAccessibleName(cause);
  await seeNoViolations(page);
  await page.getByLabel('What was found and done').fill('As the report tells.');
  const reason = page.getByLabel('Closed without proof, because');
  if (await reason.count()) await reason.fill('Handed on to someone who knows more.');
  await page.getByRole('button', { name: 'Close the case' }).click();
  await page.waitForURL(`${path}/report`);
}
