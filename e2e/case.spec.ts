import { alive, choose, expect, openCase, test } from './harness';

test('refused: the chain shows what is doubtful, tests follow key by key, a mistake is withdrawn', async ({ page }) => {
  await openCase(page, {
    vehicle: 'Orrin Thimble, refused',
    system: /timed relearn with ignition on, typical numbers/,
    keys: [{ tag: 'A' }, { tag: 'B' }],
  });
  await expect(page.getByText('typical', { exact: false }).first()).toBeVisible();
  await page.getByRole('button', { name: 'Lit, then flashing fast' }).click();
  await expect(page.getByRole('button', { name: /^Key accepted.*bad$/ })).toBeVisible();
  // A key's letter is large enough for a gloved finger.
  const letter = (await page.getByRole('link', { name: 'Key A', exact: true }).boundingBox())!;
  expect(Math.min(letter.width, letter.height)).toBeGreaterThanOrEqual(44);
  for (const link of ['Antenna coil', 'Key(?! accepted)'])
    await expect(page.getByRole('button', { name: new RegExp(`^${link}.*not sure$`) })).toBeVisible();
  await expect(page.getByText('Refused. Work on the immobilizer only')).toBeVisible();

  // What is proposed is the business of diagnosis.spec.ts; any other test may be chosen on the link that it touches.
  const tests = page.getByRole('region', { name: 'Tests for Key accepted' });
  // A doubtful link says why.
  await page
    .getByRole('region', { name: 'Start chain' })
    .getByRole('button', { name: /^Antenna coil/ })
    .click();
  await expect(page.getByText(/would look the same\. Below 5 % it counts as good, from 80 % as bad\./)).toBeVisible();
  await page.getByRole('button', { name: /^Key accepted/ }).click();
  await tests.getByRole('link', { name: 'Cover, ornament or ring at the lock' }).click();
  await expect(
    page.getByRole('heading', {
      level: 2,
      name: 'Take covers, ornaments and metal rings off the key and away from the lock. Turn the ignition on again.',
    }),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Removed, still refused' }).click();
  await expect(page).toHaveURL(/\/cases\/\d+$/);
  await page.goto(`${page.url()}?do=secondKey&key=B`);
  await alive(page);
  await expect(page.getByRole('heading', { level: 2, name: 'Turn the ignition on with another key.' })).toBeVisible();
  await expect(page.getByRole('radio', { name: 'tag B' })).toBeChecked();
  await page.keyboard.press('1');
  await expect(page.getByRole('button', { name: /^Key accepted A no · B yes not sure$/ })).toBeVisible();
  await expect(page.getByText("One key that works doesn't clear the antenna coil.")).toBeVisible();

  await page
    .getByRole('region', { name: 'Start chain' })
    .getByRole('button', { name: /^Key(?! accepted)/ })
    .click();
  await page.getByRole('region', { name: 'Tests for Key', exact: true }).getByRole('link', { name: 'Read the key in a key reader' }).click();
  await expect(page).toHaveURL(/do=keyRead/);
  await page.reload();
  await page.getByRole('button', { name: 'Nothing, and the key reader works' }).click();
  await expect(page.getByText('Nothing, and the key reader works').last()).toBeVisible();

  await test.step('a link tells what speaks on it', async () => {
    await page
      .getByRole('region', { name: 'Start chain' })
      .getByRole('button', { name: /^Key(?! accepted)/ })
      .click();
    await expect(page.getByText('The chip in the key head answers with its ID.')).toBeVisible();
    await expect(page.locator('[data-marked]')).not.toHaveCount(0);
  });

  await test.step('a withdrawn line stays, struck out, and the chain follows', async () => {
    const lamp = page.getByRole('listitem').filter({ hasText: 'Security light, tag A' });
    await lamp.getByRole('button', { name: 'Withdraw' }).click();
    await expect(page.getByText('Security light withdrawn by Ines Marrow')).toBeVisible();
    await expect(page.getByRole('button', { name: /^Key accepted.*(good|not sure)$/ })).toBeVisible();
  });
});

test('accepted with nothing swapped: leave the immobilizer, look at interlocks and starter', async ({ page }) => {
  await openCase(page, { vehicle: 'Orrin Thimble, accepted' });
  await page.getByRole('button', { name: 'Lit for some seconds, then out' }).click();
  await expect(
    page.getByText(
      'The key is accepted and nothing was replaced. Leave the immobilizer alone and check brake, clutch and park switches, starter, fuel and spark.',
    ),
  ).toBeVisible();
  await expect(page.getByRole('button', { name: /^Start enabled.*not checked$/ })).toBeVisible();
  await test.step('the start is asked with its cautions first', async () => {
    await page
      .getByRole('region', { name: 'Start chain' })
      .getByRole('button', { name: /^Starter/ })
      .click();
    await page.getByRole('region', { name: 'Tests for Starter' }).getByRole('link', { name: 'What the engine does' }).click();
    await expect(page.getByRole('button', { name: 'No crank, no click' })).toBeDisabled();
    await page.keyboard.press('1');
    await expect(page.getByText('Park or neutral, parking brake on.')).toBeVisible();
    await page.getByLabel('All precautions taken').check();
    await page.getByRole('button', { name: 'Starts and dies' }).click();
    await expect(page.getByRole('button', { name: /^Start enabled.*not sure$/ })).toBeVisible();
    await expect(page.getByText("that doesn't clear the ECM. Check the start enable.")).toBeVisible();
  });
});

test('a case without keys says what that means', async ({ page }) => {
  await page.goto('/cases/new');
  await page.getByLabel('Customer concern').fill('All keys lost.');
  await page.getByLabel('Vehicle *').fill('Calder Parcel, no key');
  await choose(page, 'System type', /Tarn Gantry/);
  await page.getByRole('button', { name: 'Remove key A' }).click();
  await expect(page.getByText('without a key nothing can be learned in the car')).toBeVisible();
  await page.getByRole('button', { name: 'Open the case' }).click();
  await page.waitForURL(/\/cases\/\d+$/);
  await expect(page.getByText('No key belongs to this case.')).toBeVisible();
});
