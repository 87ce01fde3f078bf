import { defineConfig } from '@playwright/test';

/** Each worker has a server of its own (e2e/server.ts), so that its clock is moved for nobody else; the tests of a file run one after the other. */
export default defineConfig({
  testDir: 'e2e',
  globalSetup: './e2e/server.ts',
  workers: 2,
  fullyParallel: false,
  // Room for a machine that is slow and shared: a limit here catches what hangs, not what is slow (npm run bench watches that).
  timeout: 360_000,
  expect: { timeout: 25_000 },
  reporter: [['list'], ['json', { outputFile: 'test-results/browser.json' }]],
  use: {
    viewport: { width: 1280, height: 800 },
    timezoneId: 'UTC',
    // Each test begins in a browser that has kept nothing; what is kept is looked at in offline.spec.
    serviceWorkers: 'block',
    // Nothing moves by itself, so nobody waits for it to come to rest.
    contextOptions: { reducedMotion: 'reduce' },
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium-headless-shell',
      args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
    },
    actionTimeout: 40_000,
    navigationTimeout: 60_000,
    // Recording every step costs as much as the steps themselves; ask for it where a failure is looked into.
    trace: process.env.TRACE === '1' ? 'retain-on-failure' : 'off',
  },
});
