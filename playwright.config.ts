import { defineConfig } from '@playwright/test';

export const port = 4650;

/** One server with the demo world on a clock that tests move by hand; tests run one after the other, since that clock is one for all. */
export default defineConfig({
  testDir: 'e2e',
  workers: 1,
  fullyParallel: false,
  // Room for a machine that is slow and shared: a limit here catches what hangs, not what is slow (npm run bench watches that).
  timeout: 360_000,
  expect: { timeout: 25_000 },
  reporter: [['list'], ['json', { outputFile: 'test-results/browser.json' }]],
  use: {
    baseURL: `http://127.0.0.1:${port}`,
    viewport: { width: 1280, height: 800 },
    timezoneId: 'UTC',
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
      args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
    },
    actionTimeout: 40_000,
    navigationTimeout: 60_000,
    trace: 'retain-on-failure',
  },
  webServer: {
    command: 'node e2e/server.mjs',
    url: `http://127.0.0.1:${port}/healthz`,
    timeout: 120_000,
    reuseExistingServer: false,
    env: { PORT: String(port), BLOODSTONE_CLOCK: 'manual', BLOODSTONE_DEMO: '1', BLOODSTONE_DATA: 'test-results/data', LOG_LEVEL: 'error' },
  },
});
