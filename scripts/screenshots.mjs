// `npm run screenshots`: one current picture of each main view, from the demo data on a clock that stands still.
import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { prepare, root } from './prepare.mjs';

prepare();
const folder = mkdtempSync(join(tmpdir(), 'bloodstone-shots-'));
const server = spawn(process.execPath, ['bin/serve.mjs'], {
  env: { ...process.env, PORT: '0', BLOODSTONE_DATA: folder, BLOODSTONE_DEMO: '1', BLOODSTONE_CLOCK: 'manual', LOG_LEVEL: 'error' },
  stdio: ['ignore', 'pipe', 'inherit'],
});
const url = await new Promise((resolve) =>
  server.stdout.on('data', (chunk) => /ready at (\S+)/.test(String(chunk)) && resolve(/ready at (\S+)/.exec(String(chunk))[1])),
);

const wide = { width: 1280, height: 800 };
const shots = [
  ['floor', '/', 'light', wide],
  ['case', '/cases/5', 'light', wide],
  ['new-case', '/cases/new', 'light', wide],
  ['run', '/cases/4/runs/2', 'dark', wide],
  ['run-phone', '/cases/4/runs/2', 'dark', { width: 390, height: 844 }],
  ['verify', '/cases/3/verify', 'light', wide],
  ['report', '/cases/3/report', 'light', { width: 900, height: 1200 }],
  ['library', '/library', 'dark', wide],
];
const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
});
for (const [name, path, colorScheme, viewport] of shots) {
  const page = await browser.newPage({ viewport, colorScheme });
  await page.goto(url + path);
  await page.evaluate(() => document.fonts.ready);
  await page.waitForFunction(() => document.querySelector('h1') !== null);
  await page.screenshot({ path: join(root, `docs/screenshots/${name}.png`) });
  await page.close();
}
await browser.close();
server.kill('SIGTERM');
await new Promise((resolve) => server.once('exit', resolve));
rmSync(folder, { recursive: true, force: true });
