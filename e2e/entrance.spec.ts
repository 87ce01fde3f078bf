import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { serve } from '../server/http/process.testing';
import { alive, choose, expect, openRow, people, seeNoViolations, test } from './harness';

test.use({ as: null });

test('an empty database: the first person sets up the shop once, invites another, and the link works once', async ({ page, browser }) => {
  const folder = mkdtempSync(join(tmpdir(), 'bloodstone-set-up-'));
  const server = await serve(folder);
  try {
    await page.goto(`${server.url}/cases`);
    await expect(page.getByRole('heading', { level: 1 })).toHaveText('Set up this shop');
    await seeNoViolations(page);

    await test.step('wrong input names every field and loses nothing but the password', async () => {
      await page.getByLabel('Name of the shop').fill('Saltmarsh Auto Electric');
      await page.getByLabel('How many bays').fill('99');
      await page.getByLabel('Your name').fill('Maud Ferrow');
      await page.getByRole('textbox', { name: 'Password', exact: true }).fill('too short');
      await page.getByRole('button', { name: 'Set up' }).click();
      await expect(page.getByRole('alert')).toContainText('2 things are not right yet. Nothing you typed is lost.');
      await expect(page.getByLabel('Name of the shop')).toHaveValue('Saltmarsh Auto Electric');
      expect(await page.content()).not.toContain('too short');
    });

    // A new shop begins with a US shop's units.
    await expect(page.getByLabel('Currency')).toHaveValue('$');
    for (const [field, choice] of [
      ['Distances', 'Miles'],
      ['Temperatures', '°F'],
      ['Clock', '12 hours (2:05 PM)'],
      ['Dates', 'Month, day, year'],
    ] as const)
      await expect(page.getByRole('combobox', { name: field })).toHaveText(choice);
    await choose(page, 'Clock', '24 hours (14:05)');
    await page.getByLabel('Currency').fill('cr');
    await page.getByLabel('How many bays').fill('3');
    await page.getByRole('textbox', { name: 'Password', exact: true }).fill('grey herons wade at dusk');
    await page.getByLabel('Password again').fill('grey herons wade at dusk');
    await page.getByRole('button', { name: 'Set up' }).click();
    await page.waitForURL('**/shop');
    await expect(page.getByLabel('Name', { exact: true }).first()).toHaveValue('Saltmarsh Auto Electric');
    await expect(page.getByLabel('Name', { exact: true })).toHaveCount(4);
    await expect(page.getByRole('combobox', { name: 'Clock' })).toHaveText('24 hours (14:05)');
    await expect(page.getByRole('combobox', { name: 'Distances' })).toHaveText('Miles');

    await test.step('it cannot be reached again', async () => {
      await page.goto(`${server.url}/set-up`);
      await expect(page).toHaveURL(`${server.url}/`);
      const stranger = await browser.newPage();
      await stranger.goto(`${server.url}/set-up`);
      await expect(stranger).toHaveURL(`${server.url}/sign-in`);
      await expect(stranger.getByText('Demo users')).toHaveCount(0);
      await stranger.close();
    });

    const link = await test.step('an invitation', async () => {
      await page.goto(`${server.url}/shop/people`);
      // A label stands over what is chosen, not on it.
      const roles = page.locator('[data-shrink]', { hasText: 'Role' });
      await expect(roles).not.toHaveCount(0);
      for (const label of await roles.all()) await expect(label).toHaveAttribute('data-shrink', 'true');
      await page.getByRole('region', { name: 'Invite somebody' }).getByLabel('Name').fill('Teodor Lusk');
      await page.getByRole('button', { name: 'Make a link' }).click();
      await expect(page.getByText('has not used the link yet')).toBeVisible();
      return (await page.getByText(/\/join\//).textContent())!.trim();
    });

    await test.step('the other person comes in by it, as a technician', async () => {
      const other = await browser.newPage();
      await other.goto(link);
      await expect(other.getByRole('heading', { level: 1 })).toHaveText('Welcome, Teodor Lusk');
      await other.getByRole('textbox', { name: 'Password', exact: true }).fill('samphire under the bridge');
      await other.getByLabel('Password again').fill('samphire under a bridge');
      await other.getByRole('button', { name: 'Set the password and sign in' }).click();
      await expect(other.getByText('The two entries don’t match. Type the new password twice.').first()).toBeVisible();
      await other.getByRole('textbox', { name: 'Password', exact: true }).fill('samphire under the bridge');
      await other.getByLabel('Password again').fill('samphire under the bridge');
      await other.getByRole('button', { name: 'Set the password and sign in' }).click();
      await other.waitForURL(`${server.url}/`);
      await other.goto(`${server.url}/shop/people`);
      await expect(other.getByRole('heading', { level: 1 })).toHaveText('No access');
      await other.goto(link);
      await expect(other.getByRole('heading', { level: 1 })).toHaveText('This link no longer works');

      await test.step('what the other one is not trained for is said, saved, and there after a reload', async () => {
        await page.reload();
        await alive(page);
        const training = page.locator('details', { has: page.getByLabel('Training of Teodor Lusk') });
        await expect(training.locator('summary')).toHaveText('trained for everything');
        await training.locator('summary').click();
        await training.getByLabel('airbags').uncheck();
        await training.getByRole('button', { name: 'Save the training of Teodor Lusk' }).click();
        await expect(page.getByText('The training is saved. The Floor plans by it.')).toBeVisible();
        await expect(training.locator('summary')).toHaveText('not trained for airbags');
        await page.reload();
        await alive(page);
        await training.locator('summary').click();
        await expect(training.getByLabel('airbags')).not.toBeChecked();
        await expect(training.getByLabel('soldering')).toBeChecked();
        await training.getByLabel('airbags').check();
        await training.getByRole('button', { name: 'Save the training of Teodor Lusk' }).click();
        await expect(training.locator('summary')).toHaveText('trained for everything');
      });

      await test.step('the owner locks the account: the other browser is out', async () => {
        await page.getByRole('button', { name: 'Lock Teodor Lusk' }).click();
        await expect(page.getByText('The account is locked, and its devices are signed out.')).toBeVisible();
        await other.goto(`${server.url}/cases`);
        await expect(other.getByRole('heading', { level: 1 })).toHaveText('Sign in');
      });
      await other.close();
    });

    await test.step('all of it stands in the audit log', async () => {
      await page.goto(`${server.url}/shop/audit`);
      for (const act of ['shop set up', 'person invited', 'person locked']) await expect(page.getByText(act).first()).toBeVisible();
      await expect(page.getByText('person: Teodor Lusk').first()).toBeVisible();
    });
  } finally {
    await page.goto('about:blank');
    await server.stop();
    rmSync(folder, { recursive: true, force: true });
  }
});

test('sign-in: wrong, right, back to where one wanted to go, and out', async ({ page }) => {
  await page.goto('/cases?state=closed');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Sign in');
  await seeNoViolations(page);
  await page.getByLabel('Name').fill('ines marrow');
  await page.getByLabel('Password').fill('wrong');
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('Name and password don’t match. Check both, then try again.');
  await expect(page.getByLabel('Name')).toHaveValue('ines marrow');
  await page.getByLabel('Password').fill(people['Ines Marrow'].password);
  await page.keyboard.press('Enter');
  await page.waitForURL('/cases?state=closed');
  const kept = await page.context().cookies();
  expect(kept.filter((c) => c.httpOnly && c.sameSite === 'Lax')).toHaveLength(1);

  await page.getByRole('button', { name: /Ines Marrow, lead/ }).click();
  await page.getByRole('menuitem', { name: 'Sign out' }).click();
  await page.waitForURL('/sign-in');
  // The old cookie, kept by somebody, opens nothing.
  await page.context().addCookies(kept);
  await page.goto('/cases');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Sign in');
});

test('too many wrong tries: how long to wait is said, and the time over it goes on', async ({ page, advance }) => {
  await page.goto('/sign-in');
  const attempt = async (password: string) => {
    await page.getByLabel('Name').fill('Maud Ferrow');
    await page.getByLabel('Password').fill(password);
    const answered = page.waitForResponse((r) => r.request().method() === 'POST');
    await page.getByRole('button', { name: 'Sign in', exact: true }).click();
    return (await answered).status();
  };
  for (let i = 0; i < 5; i += 1) expect(await attempt(`wrong ${i}`)).toBe(403);
  expect(await attempt(people['Maud Ferrow'].password)).toBe(429);
  await expect(page.getByRole('alert')).toContainText('Too many wrong tries. Wait 0:30 (minutes and seconds), then try again.');
  await advance(30);
  await attempt(people['Maud Ferrow'].password);
  await page.waitForURL('/');
});

test('one touch in the demo, and the passwords are said', async ({ page }) => {
  await page.goto('/sign-in');
  await expect(page.getByText('low tide at wexmoor')).toBeVisible();
  await page.getByRole('button', { name: 'Sign in as Teodor Lusk' }).click();
  await page.waitForURL('/');
  await expect(page.getByRole('button', { name: /Teodor Lusk, technician/ })).toBeVisible();
});

test('a device at a bay locks by itself, shows the waits, and opens with the PIN where it was', async ({ page, advance }) => {
  await page.goto('/sign-in?to=/cases/5');
  await page.getByLabel('Name').fill('Teodor Lusk');
  await page.getByLabel('Password').fill(people['Teodor Lusk'].password);
  await page.getByLabel('This device stays at a bay').check();
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await page.waitForURL('/cases/5');
  await advance(19 * 60);
  // What an open page asks by itself does not keep the device open.
  expect((await page.request.get('/clock')).status()).toBe(200);
  await expect(page.getByRole('button', { name: /Teodor Lusk/ })).toBeVisible();
  await expect(page).toHaveURL('/cases/5');
  await advance(2 * 60);
  await page.waitForURL(/\/unlock/);
  await expect(page.getByText('Teodor Lusk is signed in on this device.')).toBeVisible();
  await expect(page.getByText(/Bay 1/)).toBeVisible();
  expect(await page.content()).not.toContain('Gantry');
  await seeNoViolations(page);
  // No other address shows more.
  await page.goto('/shop');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Locked');
  await page.goto('/cases/5');

  await page.getByLabel('PIN, six digits').fill('111111');
  await page.getByRole('button', { name: 'Unlock' }).click();
  await expect(page.getByRole('alert')).toContainText('Wrong PIN. 4 tries are left.');
  await page.getByLabel('PIN, six digits').fill(people['Teodor Lusk'].pin);
  await page.getByRole('button', { name: 'Unlock' }).click();
  await page.waitForURL('/cases/5');

  await test.step('locked by hand, and the fifth wrong PIN asks for the password', async () => {
    await page.getByRole('button', { name: /Teodor Lusk/ }).click();
    await page.getByRole('menuitem', { name: 'Lock this device' }).click();
    await page.waitForURL(/\/unlock/);
    for (const left of ['4 tries are left', '3 tries are left', '2 tries are left', 'One try is left']) {
      await page.getByLabel('PIN, six digits').fill('000000');
      await page.getByRole('button', { name: 'Unlock' }).click();
      await expect(page.getByRole('alert')).toContainText(left);
    }
    await page.getByLabel('PIN, six digits').fill('000000');
    await page.getByRole('button', { name: 'Unlock' }).click();
    await page.waitForURL('/sign-in');
  });
});

test('devices are signed out from the shop, and the page in use says so at its next act', async ({ page, browser, baseURL }) => {
  await page.goto('/sign-in');
  await page.getByRole('button', { name: 'Sign in as Maud Ferrow' }).click();
  await page.waitForURL('/');
  const other = await browser.newPage();
  await other.goto(`${baseURL}/sign-in`);
  await other.getByRole('button', { name: 'Sign in as Teodor Lusk' }).click();
  await other.waitForURL(`${baseURL}/`);
  await page.goto('/shop/devices');
  const rows = page.getByRole('listitem').filter({ hasText: 'Teodor Lusk' });
  const before = await rows.count();
  await rows.first().getByRole('button').click();
  await expect(page.getByText('The device is signed out.')).toBeVisible();
  await expect(rows).toHaveCount(before - 1);
  await other.goto(`${baseURL}/cases/5`);
  await expect(other.getByRole('heading', { level: 1 })).toHaveText('Sign in');
  await other.close();
});

test('signed out while something is typed: the page says so, keeps it, and goes on after signing in', async ({ page, context, baseURL }) => {
  await page.goto('/sign-in?to=/cases/5');
  await page.getByRole('button', { name: 'Sign in as Ines Marrow' }).click();
  await page.waitForURL('/cases/5');
  await alive(page);
  await openRow(page, 'Park the case');
  const reason = page.getByLabel('Why it has to wait');
  await reason.fill('Waits for a key from the dealer');
  // Signed out from elsewhere: another tab of the same browser.
  const other = await context.newPage();
  await other.goto(`${baseURL}/`);
  await other.getByRole('button', { name: /Ines Marrow/ }).click();
  await other.getByRole('menuitem', { name: /Sign out/ }).click();
  await other.waitForURL(/\/sign-in/);
  await expect(page.getByRole('status').filter({ hasText: 'You are signed out here. What you typed stays.' })).toBeVisible();
  // Coming back to the page leads nowhere else.
  await page.evaluate(() => window.dispatchEvent(new Event('focus')));
  await page.getByRole('button', { name: 'Park it' }).click();
  await expect(page.getByText('You are signed out here. Sign in in a new tab of this browser, then send this again')).toBeVisible();
  await expect(reason).toHaveValue('Waits for a key from the dealer');
  const opened = context.waitForEvent('page');
  await page.getByRole('link', { name: 'Sign in in a new tab' }).click();
  const tab = await opened;
  await tab.getByRole('button', { name: 'Sign in as Ines Marrow' }).click();
  await tab.waitForURL(`${baseURL}/`);
  await expect(page.getByText('You are signed out here. What you typed stays.')).toBeHidden();
  await expect(reason).toHaveValue('Waits for a key from the dealer');
  await page.getByRole('button', { name: 'Park it' }).click();
  await expect(page.getByText('Waits for a key from the dealer')).toBeVisible();
});
