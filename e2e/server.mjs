// The built server on a fresh folder, for the browser tests.
import { rmSync } from 'node:fs';

rmSync(process.env.BLOODSTONE_DATA, { recursive: true, force: true });
await import('../bin/serve.mjs');
