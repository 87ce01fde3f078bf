import { spawnSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { bloodstone } from './commands';
import { dataCommands } from './dataCommands';

const args = process.argv.slice(2);
if (Object.hasOwn(dataCommands, args[0] ?? '')) {
  // They need the database, which nothing else of the command line does.
  const own = fileURLToPath(new URL('../server/backup/command.ts', import.meta.url));
  process.exitCode = spawnSync(process.execPath, ['--import', 'tsx', own, ...args], { stdio: 'inherit' }).status ?? 1;
} else process.exitCode = await bloodstone(args);
