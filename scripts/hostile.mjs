// `npm run hostile -- --seed N --size N`: builds what is missing, then scripts/hostileRun.ts.
import { prepare, run } from './prepare.mjs';

prepare();
process.exit(run(process.execPath, ['--import', 'tsx', 'scripts/hostileRun.ts', ...process.argv.slice(2)]));
