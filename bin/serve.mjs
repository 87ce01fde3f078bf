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
/** A whole number of the environment, within bounds. */
function whole(name, usual, least, most, what) {
  const given = Number(env[name] ?? usual);
  if (Number.isInteger(given) && given >= least && given <= most) return given;
  console.error(`${name}=${env[name]}: expected ${what} from ${least} to ${most}.`);
  process.exit(1);
}
const pool = {
  connections: whole('DATABASE_POOL', 10, 2, 200, 'a number of connections'),
  waitS: whole('DATABASE_WAIT', 5, 1, 60, 'seconds'),
  statementS: whole('DATABASE_STATEMENT', 60, 1, 600, 'seconds'),
};
const port = whole('PORT', 4600, 0, 65_535, 'a port number');
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
  ...(env.DATABASE_URL ? { url: env.DATABASE_URL, pool } : { folder: resolve(env.BLOODSTONE_DATA ?? join(root, '.data/shop')) }),
});
console.log(`Bloodstone is ready at ${url}`);
