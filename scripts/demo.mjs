// `npm run demo`: from a fresh clone to the running demo. Node's own modules only, since nothing may be installed yet.
import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { prepare, root } from './prepare.mjs';

prepare();
const data = join(root, '.data/demo');
// The demo begins anew each time; a shop's own data lies elsewhere.
rmSync(join(data, 'pg'), { recursive: true, force: true });
process.env.BLOODSTONE_DATA = data;
process.env.BLOODSTONE_DEMO = '1';
process.env.LOG_LEVEL ??= 'warn';
delete process.env.DATABASE_URL;
console.log('Loading the demo world …');
await import('../bin/serve.mjs');
console.log('Everything in it is invented. Stop it with Ctrl+C.');
