// `npm run screenshots`: one current picture of each main view, from the demo data on a clock that stands still; with names only those, such as `-- bursts`.
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { prepare, root } from './prepare.mjs';
import { start } from './server.mjs';

prepare();
const folder = mkdtempSync(join(tmpdir(), 'bloodstone-shots-'));
const server = await start(folder, { BLOODSTONE_CLOCK: 'manual', BLOODSTONE_DEMO_HISTORY: '1' });
const { url } = server;

/** Four flashes a second, tapped by a steady hand. */
function keptLook() {
  const lit = Array.from({ length: 20 }, (_, i) => [0.35 + i * 0.25 + (i % 3) * 0.02, 0.48 + i * 0.25 + (i % 4) * 0.015]);
  return ['bloodstone.kept.look.bench', JSON.stringify({ lit, litAtEnd: false, lengthS: 6, origin: 'tapped', file: '' })];
}

/** Readings that this tab kept: a key of step 6, a little low. */
function keptSheet() {
  const groups = { '1in': [1391, 1388, 1384, 1379, 1386, 1383], '1turned': [1389, 1386, 1385], '2in': [], '2turned': [] };
  const sheet = { lead: '0.4', temperature: '70', groups, column: [], vehicleStep: '', stepSource: '', simulated: false };
  return ['bloodstone.kept.ladder.8.A', JSON.stringify(sheet)];
}
/** A plan that is worked: a used ECM for one of the demo's cars. */
async function beginPlan() {
  const answer = await fetch(`${url}/cases/5/replacement`, {
    method: 'POST',
    headers: { Origin: url, Cookie: cookie },
    body: new URLSearchParams({ intent: 'plan', commandId: 'screenshots-plan', 'replaced.engine': 'donor', 'tools.0': 'scan tool' }),
    redirect: 'manual',
  });
  if (answer.status !== 302) throw new Error(`The plan of the picture could not be begun: ${answer.status}`);
}
const wide = { width: 1280, height: 800 };
const shots = [
  ['floor', '/', 'light', wide],
  ['case', '/cases/5', 'light', wide],
  ['cases', '/cases', 'light', wide],
  ['new-case', '/cases/new', 'light', wide],
  ['key', '/cases/5/keys/A', 'light', wide],
  ['run', '/cases/4/runs/2', 'dark', wide],
  ['run-phone', '/cases/4/runs/2', 'dark', { width: 390, height: 844 }],
  ['options', '/cases/5/options', 'light', wide],
  ['papers', '/cases/3/papers', 'light', wide],
  ['learned', '/shop/learned', 'light', wide],
  ['library', '/library', 'light', wide],
  ['family', '/library/infrared', 'dark', wide],
  ['identify', '/cases/5/identify', 'light', wide],
  ['triage', '/cases/5/triage', 'dark', { width: 390, height: 844 }],
  ['call', '/calls/1', 'light', wide],
  // A look that this tab kept: the ring's lamp, refused.
  ['lamp', '/bench/lamp?system=family:ring', 'dark', wide, keptLook()],
  ['ladder', '/bench/ladder?case=8&key=A', 'light', wide, keptSheet()],
  // A capture of the simulated source.
  ['bursts', '/bench/bursts?case=5', 'light', wide],
];
const cookie = await server.comeIn('Maud Ferrow');
shots.push(['plan', '/cases/5/replacement', 'light', wide]);
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
});
const [name, value] = cookie.split('=');
const wanted = process.argv.slice(2);
for (const [shot, path, colorScheme, viewport, kept] of shots.filter(([shot]) => wanted.length === 0 || wanted.includes(shot))) {
  const context = await browser.newContext({ viewport, colorScheme });
  await context.addCookies([{ name, value, url }]);
  if (kept) await context.addInitScript(`sessionStorage.setItem(${kept.map((k) => JSON.stringify(k)).join(', ')})`);
  // The last one: the case leads to its plan from here on.
  if (shot === 'plan') await beginPlan();
  const page = await context.newPage();
  await page.goto(url + path);
  await page.evaluate(() => document.fonts.ready);
  await page.waitForFunction(() => document.querySelector('h1') !== null);
  if (shot === 'bursts') {
    await page.getByText('Practice with a simulated source').click();
    await page.getByRole('button', { name: 'Record from it' }).click();
    await page.locator('section[aria-label="Capture A"] figure svg path').waitFor({ timeout: 60_000 });
    await page.evaluate('scrollTo(0, 0)');
    // Buttons fade in.
    await page.waitForTimeout(600);
  }
  if (shot === 'lamp') await page.getByRole('img', { name: /^Timeline/ }).waitFor();
  if (shot === 'ladder') await page.locator('.recharts-scatter-symbol').nth(6).waitFor();
  // The answer that looks far ahead, and its answers open.
  if (shot === 'case') await page.locator('[aria-busy=false] button:enabled[class*=outcome]').first().waitFor();
  await page.screenshot({ path: join(root, `docs/screenshots/${shot}.png`) });
  await context.close();
}
await browser.close();
await server.stop();
rmSync(folder, { recursive: true, force: true });
