import type { Page } from '@playwright/test';
import { alive, expect, openCase, proposed, seeNoViolations, test } from './harness';
import { see } from './vehicle';

/** What the customer is offered and says, and what that holds back; papers and what comes afterwards. */

const options = (page: Page) => page.getByRole('list', { name: 'Options' });
const agreement = (page: Page) => page.getByRole('region', { name: 'What the customer says' });

/** A case of a ring whose light says refused: several causes, so several options. */
async function refused(page: Page, vehicle: string, before: () => Promise<void> = async () => {}): Promise<string> {
  const path = await openCase(page, { vehicle, system: /^Antenna ring/, authority: true, keys: [{ tag: 'A' }, { tag: 'B' }] });
  await proposed(page);
  await before();
  await see(page, 'Rapid flashing');
  return path;
}

async function toOptions(page: Page, path: string): Promise<void> {
  await page.goto(`${path}/options`);
  await alive(page);
}

test('options side by side, written over with a reason, hidden and added; wrong input loses nothing', async ({ page }) => {
  const path = await refused(page, 'Orrin Thimble, options');
  await page.getByRole('link', { name: 'options', exact: true }).click();
  await page.waitForURL(`${path}/options`);
  await alive(page);
  await expect(page.getByRole('heading', { name: 'Test further, or act now?' })).toBeVisible();
  const first = options(page).getByRole('listitem').first();
  for (const say of ['Price', 'Work', 'Done in', 'Needs', 'What can go wrong', 'Stays unproven', 'Warranty']) await expect(first).toContainText(say);
  await seeNoViolations(page);

  await first.getByRole('button', { name: /^Change/ }).click();
  await first.getByLabel('Parts, without tax').fill('12,50');
  await first.getByLabel('Why, without names').fill('Dear part.');
  await first.getByRole('button', { name: 'Save the change' }).click();
  await expect(first.getByText('You typed "12,50". Type an amount, such as 84.50.')).toBeVisible();
  await expect(first.getByLabel('Why, without names')).toHaveValue('Dear part.');
  await first.getByLabel('Parts, without tax').fill('12.50');
  await first.getByRole('button', { name: 'Save the change' }).click();
  await expect(first.getByText(/^Changed by Ines Marrow: Dear part\.$/)).toBeVisible();

  const title = (await first.getByRole('checkbox').locator('..').innerText()).trim();
  await first.getByRole('button', { name: /^Hide/ }).click();
  await first.getByRole('button', { name: 'Hide it' }).click();
  await expect(first.getByLabel('Hidden, because')).toHaveAttribute('aria-invalid', 'true');
  await first.getByLabel('Hidden, because').fill('Not done here.');
  await first.getByRole('button', { name: 'Hide it' }).click();
  const hidden = page.locator('details').filter({ hasText: 'One hidden option' });
  await hidden.locator('summary').click();
  await expect(hidden).toContainText('Hidden by Ines Marrow: Not done here.');
  await hidden.getByRole('button', { name: 'Show it again' }).click();
  await expect(options(page)).toContainText(title);

  const adding = page.locator('details').filter({ hasText: 'Add an option of your own' });
  await adding.locator('summary').click();
  await adding.getByLabel(/^Title/).fill('Tow it home');
  await adding.getByLabel('Work, min').fill('30');
  await adding.getByLabel(/^Why/).fill('Asked for.');
  await adding.getByRole('button', { name: 'Add it' }).click();
  await expect(options(page)).toContainText('Tow it home');
  await expect(options(page)).toContainText('Added by Ines Marrow: Asked for.');
});

test('an agreement is signed, outlives a reload while it is filled in, and holds back what goes beyond it', async ({ page }) => {
  const path = await openCase(page, { vehicle: 'Tarn Gantry, agreed', changed: ['ECM replaced'], authority: true });
  await toOptions(page, path);
  const box = options(page).getByRole('checkbox', { name: /^Hand it to somebody/ });
  await box.check();
  await agreement(page).getByLabel('Who says it').fill('The sister');
  await page.reload();
  await alive(page);
  await expect(box).toBeChecked();
  await expect(agreement(page).getByLabel('Who says it')).toHaveValue('The sister');
  await agreement(page).getByRole('button', { name: 'Record the agreement' }).click();
  await expect(agreement(page).getByText('Nobody has signed yet.', { exact: false })).toBeVisible();
  const field = agreement(page).getByRole('img', { name: 'Signature of the customer' });
  await field.scrollIntoViewIfNeeded();
  const at = (await field.boundingBox())!;
  await page.mouse.move(at.x + 20, at.y + 20);
  await page.mouse.down();
  for (let i = 1; i < 8; i += 1) await page.mouse.move(at.x + 20 + i * 20, at.y + 20 + (i % 2) * 30);
  await page.mouse.up();
  await agreement(page)
    .getByLabel(/^No more than/)
    .fill('0.01');
  await agreement(page).getByRole('button', { name: 'Record the agreement' }).click();
  await expect(agreement(page).getByText('The limit is less than what was chosen costs at least.', { exact: false })).toBeVisible();
  await agreement(page)
    .getByLabel(/^No more than/)
    .fill('900');
  await agreement(page).getByRole('button', { name: 'Record the agreement' }).click();
  await expect(page.getByText('The agreement is saved to the case.')).toBeVisible();
  const said = page.getByRole('region', { name: 'Agreed so far' });
  await expect(said).toContainText('Signs here, The sister');
  await expect(said.getByRole('img', { name: 'Signature' })).toBeVisible();
  await seeNoViolations(page);

  // A relearn changes the stored keys, and that is not in it.
  await page.goto(`${path}?run=relearn-ignition-on`);
  await alive(page);
  const next = page.getByRole('region', { name: 'Next' });
  const precautions = next.getByLabel('All precautions taken');
  if (await precautions.count()) await precautions.check();
  await next.getByRole('button', { name: 'Start the run' }).click();
  await expect(page.getByText('The customer agreed to something else: ask again.', { exact: false })).toBeVisible();
});

test('declined on the phone: the diagnosis is billed, and the papers say what was not wanted', async ({ page, advance }) => {
  const path = await refused(page, 'Orrin Thimble, declined', async () => {
    await advance(240);
    await page.reload();
    await alive(page);
    await proposed(page);
  });
  await toOptions(page, path);
  await agreement(page).getByRole('radio', { name: 'On the phone' }).check();
  await agreement(page).getByRole('button', { name: 'Nothing more is wanted' }).click();
  await expect(agreement(page).getByText('Write down what was said on the phone.')).toBeVisible();
  await agreement(page).getByLabel('What was said').fill('Too dear for this car.');
  await agreement(page).getByRole('button', { name: 'Nothing more is wanted' }).click();
  await expect(page.getByText('Saved to the case: nothing more is wanted.')).toBeVisible();
  await expect(page.getByRole('note')).toContainText('The customer wants nothing more done');

  await page.goto(`${path}/hand-over`);
  await alive(page);
  await page.getByRole('radio', { name: 'It was not done' }).check();
  await page.getByLabel('Not done, because').fill('Declined.');
  await page.getByRole('button', { name: 'Close the case' }).click();
  await page.waitForURL(`${path}/report`);
  await expect(page.getByRole('main')).toContainText('Everything declined on the phone');
  await page.goto(`${path}/papers`);
  await alive(page);
  const sheet = page.getByRole('article', { name: 'For the customer' });
  await expect(sheet).toContainText('Offered and not wanted:');
  await expect(sheet).toContainText('Diagnosis');
  await expect(sheet).toContainText('Total');
});

test('papers: sentences are changed, both are there as PDF, CSV and calendar go out; a vehicle comes back as a linked case', async ({ page }) => {
  const path = await refused(page, 'Orrin Thimble, comes back');
  await page.goto(`${path}/hand-over`);
  await alive(page);
  await page.getByRole('radio', { name: 'Unknown', exact: true }).check();
  await page.getByLabel('What was found and done').fill('Nothing found.');
  await page.getByLabel('Closed without proof, because').fill('Customer in a hurry.');
  await page.getByRole('button', { name: 'Close the case' }).click();
  await page.waitForURL(`${path}/report`);

  await page.goto(`${path}/papers`);
  await alive(page);
  await seeNoViolations(page);
  const part = page.locator('details').filter({ hasText: 'What we advise' });
  await part.locator('summary').click();
  await part.getByLabel('What we advise, one sentence a line').fill('Call us on Monday.');
  await part.getByRole('button', { name: 'Save these sentences' }).click();
  await expect(page.getByRole('article')).toContainText('Call us on Monday.');
  await page.getByRole('radio', { name: 'For the file' }).check();
  await expect(page.getByRole('article', { name: 'For the file' })).toContainText('Work done');
  for (const [name, type, begins] of [
    ['papers.pdf?paper=file&size=A4', 'application/pdf', '%PDF-'],
    ['papers.pdf?paper=customer&size=LETTER', 'application/pdf', '%PDF-'],
    ['bill.csv', 'text/csv', '\uFEFFcase,line'],
    ['calendar.ics', 'text/calendar', 'BEGIN:VCALENDAR'],
  ] as const) {
    const answer = await page.request.get(`${path}/${name}`);
    expect([name, answer.status(), answer.headers()['content-type']!.startsWith(type)]).toEqual([name, 200, true]);
    expect((await answer.body()).toString('utf8').startsWith(begins)).toBe(true);
  }
  expect((await page.request.get(`${path}/papers.pdf?paper=none`)).status()).toBe(404);

  await page.getByRole('link', { name: 'Did it stay fixed?' }).click();
  await page.waitForURL(`${path}/after`);
  await alive(page);
  await seeNoViolations(page);
  await page.getByRole('radio', { name: 'The fault is back' }).check();
  await page.getByLabel('What was said, without names').fill('Since this morning.');
  await page.getByRole('button', { name: 'Write it down' }).click();
  await expect(page.getByRole('region', { name: 'What was said so far' })).toContainText('The fault is back. Since this morning.');
  await page.getByLabel(/^Customer concern/).fill('It fails again.');
  await page.getByRole('checkbox', { name: 'tag B' }).uncheck();
  await page.getByRole('button', { name: 'Open the linked case' }).click();
  await page.waitForURL(/\/cases\/\d+$/);
  expect(new URL(page.url()).pathname).not.toBe(path);
  await expect(page.getByRole('region', { name: 'About this case' })).toContainText('Came back');
});

test('on a phone the options stand one below the other and nothing is cut', async ({ page }) => {
  const path = await refused(page, 'Orrin Thimble, phone');
  await page.setViewportSize({ width: 390, height: 844 });
  for (const part of ['options', 'papers']) {
    await page.goto(`${path}/${part}`);
    await alive(page);
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(390);
  }
});
