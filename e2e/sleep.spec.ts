import { answer, expect, instruction, intoDwell, openCase, prepare, startRun, test } from './harness';

/** What the page's timer shows, in seconds; past its end it counts up. */
const left = (text: string): number => {
  const [, sign, m, s] = /^(\+?)(\d+):(\d\d)$/.exec(text.trim())!;
  return (sign === '+' ? -1 : 1) * (Number(m) * 60 + Number(s));
};

test('a page that sleeps for 20 minutes, and a wall clock that jumps by an hour both ways: the time is right, and a tap counts once', async ({
  page,
  advance,
}) => {
  const path = await openCase(page, { vehicle: 'Tarn Gantry, lid closed', system: /Tarn Gantry/, changed: ['ECM replaced'], authority: true });
  await page.getByRole('button', { name: 'Lit for some seconds, then out' }).click();
  await startRun(page);
  await prepare(page);
  await intoDwell(page, advance);
  const timer = page.getByRole('timer');
  const shown = async () => left(await timer.innerText());
  expect(await shown()).toBeGreaterThan(550);

  await test.step('the wall clock jumps: nothing moves', async () => {
    for (const jump of [3_600_000, -7_200_000, 3_600_000]) {
      const before = await shown();
      await page.evaluate((ms) => {
        const real = Date.now;
        const from = (window as unknown as { plainNow?: () => number }).plainNow ?? real;
        (window as unknown as { plainNow: () => number }).plainNow = from;
        const moved = ((window as unknown as { moved?: number }).moved ?? 0) + ms;
        (window as unknown as { moved: number }).moved = moved;
        Date.now = () => from.call(Date) + moved;
      }, jump);
      await page.evaluate(() => window.dispatchEvent(new Event('focus')));
      await expect.poll(async () => Math.abs((await shown()) - before)).toBeLessThanOrEqual(3);
    }
  });

  await test.step('twenty minutes with the lid closed: the first look after waking is right', async () => {
    // The page's own clock stands still meanwhile, the server's does not.
    const session = await page.context().newCDPSession(page);
    await session.send('Page.setWebLifecycleState', { state: 'frozen' });
    await advance(1200);
    await session.send('Page.setWebLifecycleState', { state: 'active' });
    await page.evaluate(() => window.dispatchEvent(new Event('focus')));
    // 560 s are over since 640 s, and both limits have passed.
    await expect.poll(shown).toBeLessThanOrEqual(-638);
    expect(await shown()).toBeGreaterThan(-660);
    await expect(page.getByText('Still on past the stop time.', { exact: false })).toBeVisible();
  });

  await test.step('the tap after it counts once, and the moment that was not seen is told as such', async () => {
    await answer(page, 'Light is out');
    await expect(instruction(page)).toHaveText('Turn the key off.');
    await page.goto(`${path}/report`);
    await expect(page.getByText('Light is out', { exact: false })).toHaveCount(1);
    await expect(page.getByText(/moment unseen/)).toHaveCount(1);
  });
});
