// `npm run demo`: from a fresh clone to the running demo. Node's own modules only, since nothing may be installed yet.
import { join } from 'node:path';
import { prepare, root } from './prepare.mjs';

prepare();
// The demo begins anew each time; a shop's own data lies elsewhere.
process.env.BLOODSTONE_DATA = join(root, '.data/demo');
process.env.BLOODSTONE_DEMO = '1';
process.env.BLOODSTONE_BACKUP ??= join(root, '.data/demo-backups');
process.env.BLOODSTONE_FRESH = '1';
// Two years of generated cases, for the shop to have learned from.
process.env.BLOODSTONE_DEMO_HISTORY = '1';
process.env.LOG_LEVEL ??= 'warn';
delete process.env.DATABASE_URL;
console.log('Loading the demo world …');
await import('../bin/serve.mjs');
console.log('Everything in it is invented. Stop it with Ctrl+C.');
