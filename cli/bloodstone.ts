import { bloodstone } from './commands';

process.exitCode = await bloodstone(process.argv.slice(2));
