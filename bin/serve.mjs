#!/usr/bin/env node
// Starts the built server. Settings come from the environment (README).
import { existsSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';

const root = dirname(dirname(fileURLToPath(import.meta.url)));
const built = join(root, 'build/server/index.js');
if (!existsSync(built)) {
  console.error('There is no build yet. Run: npm ci && npm run build');
  process.exit(1);
}
process.env.NODE_ENV ??= 'production';
const { start } = await import(pathToFileURL(built).href);
const env = process.env;
const port = Number(env.PORT ?? 4600);
if (!Number.isInteger(port) || port < 0 || port > 65535) {
  console.error(`PORT=${env.PORT}: expected a port number from 0 to 65535.`);
  process.exit(1);
}
const proxies = (env.BLOODSTONE_PROXIES ?? '')
  .split(',')
  .map((p) => p.trim())
  .filter(Boolean);
if (env.BLOODSTONE_URL && proxies.length === 0)
  console.error(
    'BLOODSTONE_URL is set and BLOODSTONE_PROXIES is not: behind a proxy everybody seems to come from its address. Name the addresses of your proxies there.',
  );
const metricsToken = env.BLOODSTONE_METRICS_TOKEN;
if (metricsToken !== undefined && metricsToken.length < 16) {
  console.error('BLOODSTONE_METRICS_TOKEN: expected a secret of at least 16 characters, or nothing at all.');
  process.exit(1);
}
const { url } = await start({
  root,
  host: env.HOST ?? '127.0.0.1',
  port,
  templates: join(root, 'build/templates'),
  worker: join(root, 'build/server/weighingWorker.js'),
  reading: join(root, 'build/server/readingProcess.js'),
  manualClock: env.BLOODSTONE_CLOCK === 'manual',
  compareKept: env.BLOODSTONE_COMPARE === '1',
  demo: env.BLOODSTONE_DEMO === '1',
  fresh: env.BLOODSTONE_FRESH === '1',
  history: env.BLOODSTONE_DEMO_HISTORY === '1',
  simulatedMeter: env.BLOODSTONE_SIMULATED_METER === '1',
  proxies,
  vault: {
    ...(env.BLOODSTONE_VAULT ? { folder: resolve(env.BLOODSTONE_VAULT) } : {}),
    ...(env.BLOODSTONE_VAULT_KEY ? { key: env.BLOODSTONE_VAULT_KEY } : {}),
  },
  ...(env.BLOODSTONE_BACKUP
    ? {
        backup: {
          folder: resolve(env.BLOODSTONE_BACKUP),
          ...(env.BLOODSTONE_BACKUP_PASSWORD ? { password: env.BLOODSTONE_BACKUP_PASSWORD } : {}),
          ...(env.BLOODSTONE_BACKUP_KEY ? { keyPath: resolve(env.BLOODSTONE_BACKUP_KEY) } : {}),
        },
      }
    : {}),
  ...(metricsToken ? { metricsToken } : {}),
  ...(env.BLOODSTONE_URL ? { address: env.BLOODSTONE_URL } : {}),
  ...(env.DATABASE_URL ? { url: env.DATABASE_URL } : { folder: resolve(env.BLOODSTONE_DATA ?? join(root, '.data/shop')) }),
});
console.log(`Bloodstone is ready at ${url}`);
