import { alive, expect, openCase, proposed, seeNoViolations, test } from './harness';

test('what a word can’t replace: drawings of system types, instruments, places of tests and keys', async ({ page }) => {
  await page.goto('/library');
  const types = page.getByRole('list', { name: 'System types' }).getByRole('listitem');
  await expect(types).toHaveCount(14);
  await expect(page.getByRole('list', { name: 'System types' }).locator('li > svg')).toHaveCount(14);
  // What was measured last on the shop's own cases, whichever they are by now.
  await page.goto('/bench');
  await expect(page.getByRole('main').locator('ul > li > svg')).toHaveCount(8);
  await expect(page.getByRole('list', { name: 'Resistor key, last uses' }).getByRole('link').first()).toHaveAttribute('href', /^\/cases\/\d+/);
  await seeNoViolations(page);
  await page.goto('/cases/new');
  await alive(page);
  await page.getByText('Find out which system it is').click();
  await expect(page.getByRole('group', { name: 'What does the key look like?' }).locator('button svg')).toHaveCount(6);
});

test('the list of cases shows how far each has come and who has it', async ({ page }) => {
  await openCase(page, { vehicle: 'Orrin Thimble, listed', system: /timed relearn with ignition on, typical numbers/ });
  await page.goto('/cases');
  await expect(page.getByRole('link', { name: /Orrin Thimble, listed.*Checked in.*Ines Marrow/ })).toBeVisible();
  await seeNoViolations(page);
});

test('a test tells where it is made, what a wrong repair costs and where each answer leads; figures stand behind a touch', async ({ page }) => {
  const path = await openCase(page, {
    vehicle: 'Orrin Thimble, pictured',
    system: /timed relearn with ignition on, typical numbers/,
    symptoms: ['Does not crank'],
    keys: [{ tag: 'A' }, { tag: 'B' }],
  });
  await proposed(page);
  await page.goto(`${path}?do=lamp&key=A`);
  await alive(page);
  const next = page.getByRole('region', { name: 'Next' });
  await expect(next.getByRole('img', { name: 'In the instrument cluster' })).toBeVisible();
  await expect(next.getByText(/^Tells “.+” from “.+”\. Repairing the wrong one costs /).first()).toBeVisible();
  await expect(next.getByRole('button', { name: 'Lit, then flashing fast' })).toHaveAccessibleDescription(/^→ .+, \d+ %$/);
  await expect(page.getByRole('main')).not.toContainText(/\bbit\b|\bdB\b/);
  await next.getByRole('button', { name: 'What each answer would lead to' }).click();
  await expect(next.getByRole('list', { name: 'What each answer would lead to' }).getByText(/^chance of this answer: /)).not.toHaveCount(0);
  await next.getByText('How this was calculated').click();
  await expect(next.getByText(/^Expected gain of this test: \d\.\d\d bit for \d+ min\./)).toBeVisible();
  await page.getByText('What the bars mean').click();
  for (const state of ['not checked', 'good', 'not sure', 'bad'])
    await expect(page.getByRole('region', { name: 'Start chain' }).getByText(state, { exact: true }).last()).toBeVisible();
  await seeNoViolations(page);
  await page.goto(`${path}?run=relearn-ignition-on`);
  const strip = page.getByRole('list', { name: 'Steps of the procedure' });
  await expect(strip.getByText('Wait 1')).toBeVisible();
  await expect(strip.getByText('Start', { exact: true })).toBeVisible();
});
