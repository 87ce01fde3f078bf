import { defineConfig } from '@playwright/test';

export const port = 4650;

/** One server with the demo world on a clock that tests move by hand; tests run one after the other, since that clock is one for all. */
export default defineConfig({
  testDir: 'e2e',
  workers: 1,
  fullyParallel: false,
  timeout: 120_000,
  expect: { timeout: 8000 },
  reporter: [['list'], ['json', { outputFile: 'test-results/browser.json' }]],
  use: {
    baseURL: `http://127.0.0.1:${port}`,
    viewport: { width: 1280, height: 800 },
    timezoneId: 'UTC',
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
      args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
    },
    actionTimeout: 12_000,
    navigationTimeout: 20_000,
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
