import { alive, choose, expect, lookOvertakes, openCase, seeNoViolations, test } from './harness';

const built = 'section[aria-label="What to build"]';

test('a substitute for a step: from a series and from the drawer, behind cautions and authority, into the case', async ({ page }) => {
  await page.goto('/shop/meters');
  await alive(page);
  await page.getByRole('radio', { name: 'as CSV' }).check();
  await page.getByLabel('Resistors, as CSV').fill('ohms,tolerance_percent,count,watts\n220,1,4,0.25\n1200,1,0.5,0.25');
  await page.getByRole('button', { name: 'Save the drawer' }).click();
  await expect(page.getByText('line 3, count: You typed "0.5". Write how many there are.').first()).toBeVisible();
  await expect(page.getByLabel('Resistors, as CSV')).toHaveValue(/1200,1,0\.5/);
  await page.getByRole('radio', { name: 'as a table' }).check();
  await expect(page.getByText('row 2, count: You typed "0.5". Write how many there are.')).toBeVisible();
  await page.getByLabel('Row 2, count').fill('2');
  await expect(page.getByText('2 kinds of resistors.')).toBeVisible();
  await page.getByRole('button', { name: 'Save the drawer' }).click();
  await expect(page.getByText('The drawer is saved.')).toBeVisible();
  await seeNoViolations(page);

  const path = await openCase(page, { vehicle: 'Veskar Ledger, substituted', system: /Veskar Ledger/ });
  const id = path.split('/').at(-1)!;
  await page.goto(`/bench/substitute?case=${id}`);
  await alive(page);
  await page
    .getByRole('list', { name: 'Values' })
    .getByRole('button', { name: /^Value 6/ })
    .click();
  await expect(page.getByLabel('Ohms needed')).toHaveValue('1400');
  await page.getByLabel('Ohms needed').fill('none');
  await page.getByRole('button', { name: 'Find the best' }).click();
  await expect(page.getByText('You typed "none", which is not a reading. Type ohms, such as 1180 or 1.18k, or OL for overload.')).toBeVisible();
  await page.getByLabel('Ohms needed').fill('1.4k');
  await page.getByRole('button', { name: 'Find the best' }).click();
  const list = page.getByRole('list', { name: 'The best combinations' });
  await expect(list.getByRole('button').first()).toContainText('220 Ω and 1.2 kΩ in series');
  await expect(page.locator(built)).toContainText('Value 6: 1.42 kΩ');
  await expect(page.getByRole('img', { name: 'Resistors: 220 Ω and 1.2 kΩ in series' })).toBeVisible();
  await seeNoViolations(page);
  // Nobody showed an authority yet: the gate is shut, and says where it opens.
  await page.getByLabel('All precautions taken').check();
  await expect(page.getByText('No authority is on record.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Resistor accepted' })).toBeDisabled();
  await choose(page, 'Available', 'every value of E96');
  await page.getByLabel('Tolerance, %').fill('1');
  await page.getByRole('button', { name: 'Find the best' }).click();
  await expect(list.getByRole('button').first()).toContainText('1.4 kΩ');
  await list.getByRole('button').nth(2).click();
  await expect(list.getByRole('button').nth(2)).toHaveAttribute('aria-pressed', 'true');
  await page.getByRole('link', { name: 'Record it in the case' }).click();
  await page.waitForURL(new RegExp(`${path}#authority`));
  // The row of the record stands open for whoever was sent there.
  await expect(page.getByRole('combobox', { name: 'What was seen' })).toBeVisible();

  const other = await openCase(page, { vehicle: 'Veskar Ledger, authorised', system: /Veskar Ledger/, authority: true });
  await page.goto(`/bench/substitute?case=${other.split('/').at(-1)}&step=6`);
  await alive(page);
  await page.getByRole('button', { name: 'Find the best' }).click();
  await page.getByLabel('All precautions taken').check();
  await page.getByRole('button', { name: 'Resistor accepted' }).click();
  await expect(page.getByText('Saved to the case.')).toBeVisible();
  await page.getByRole('link', { name: /^Go to case/ }).click();
  await expect(page.getByRole('complementary', { name: 'Findings' }).getByText('Value 6: 220 Ω and 1.2 kΩ in series, 1.42 kΩ')).toBeVisible();
});

test('an unknown step: tried by keyboard, the lockout survives a reload and stands in the strip, gone on with another time', async ({
  page,
  advance,
}) => {
  const path = await openCase(page, { vehicle: 'Veskar Ledger, step lost', system: /Veskar Ledger/, authority: true });
  const id = path.split('/').at(-1)!;
  const address = `/bench/steps?case=${id}&ladder=veskar-twelve`;
  await page.goto(address);
  await alive(page);
  const order = page.getByRole('list', { name: 'Values in the order in which they are tried' });
  await expect(order.getByRole('listitem')).toHaveCount(12);
  const first = (await order.getByRole('listitem').first().textContent())!.match(/^value (\d+)/)![1]!;
  await expect(page.getByRole('heading', { level: 2, name: new RegExp(`^Put in value ${first}\\.`) })).toBeVisible();
  await expect(page.getByText(/^From (the drawer|E24)/)).toBeVisible();
  await seeNoViolations(page);
  // Before the cautions are seen to, no key answers.
  await page.keyboard.press('2');
  await expect(page.getByText('12 values are left.')).toBeVisible();
  await page.getByLabel('All precautions taken').check();
  await page.keyboard.press('2');
  await expect(page.getByText('11 values are left.')).toBeVisible();
  await expect(page.getByRole('heading', { level: 2, name: 'Wait for the lockout to end.' })).toBeVisible();
  await expect(page.getByRole('timer', { name: 'Lockout left' })).toHaveText('5:00');
  await expect(order.getByRole('listitem').first()).toContainText('refused');
  await advance(120);
  await page.reload();
  await expect(page.getByRole('timer', { name: 'Lockout left' })).toHaveText('3:00');
  await seeNoViolations(page);

  await page.goto('/');
  const waits = page.getByRole('list', { name: 'Running waits' });
  await expect(waits.getByRole('link', { name: /3:00.*lockout, then the next value/ })).toBeVisible();
  await advance(180);
  await page.goto(address);
  await expect(page.getByRole('heading', { level: 2, name: /^Put in value \d+\. Turn the ignition on\./ })).toBeVisible();
  await alive(page);
  await page.getByLabel('All precautions taken').check();
  // The page looks again on its own, and so shows what was recorded before the answer to the tap is in: a key that is pressed then counts.
  const letAnswerIn = await lookOvertakes(page, '/bench/steps.data');
  await page.getByRole('button', { name: 'Stays on or flashes' }).click();
  await expect(page.getByText('10 values are left.')).toBeVisible();
  await page.keyboard.press('u');
  letAnswerIn();
  await expect(page.getByText('11 values are left.')).toBeVisible();
  await page.getByLabel('All precautions taken').check();
  await page.getByRole('button', { name: 'Goes out' }).click();
  await expect(page.getByRole('heading', { level: 2, name: /^Value \d+ is accepted\.$/ })).toBeVisible();
  await expect(page.getByText('Take the resistor out again.')).toBeVisible();
  await page.getByRole('link', { name: /^Go to case/ }).click();
  await expect(page.getByRole('complementary', { name: 'Findings' }).getByText(/^Value \d+ of Veskar chart of twelve values, with /)).toBeVisible();
});

test('an unknown step without a case, or of one that is not there, helps', async ({ page }) => {
  await page.goto('/bench/steps');
  await page.waitForURL('/bench');
  await page.goto('/bench/steps?case=4711');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Case not found');
});
