// `npm run vault -- rotate [folder]`: exchanges the vault's master key. The server must be stopped: it would wrap by the old one in between.
import { existsSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { lockFolder } from '../db/lock';
import { rotateMaster } from './keys';

const [what, given = join(process.env.BLOODSTONE_DATA ?? '.data/shop', 'vault')] = process.argv.slice(2);
const folder = resolve(given);

async function rotate(): Promise<string> {
  if (!existsSync(join(folder, 'master.key')))
    throw new Error(
      `${folder} has no master.key. Name the vault’s folder: npm run vault -- rotate FOLDER. A key given by BLOODSTONE_VAULT_KEY is put into that file first.`,
    );
  const data = dirname(folder);
  const held = existsSync(join(data, 'pg')) ? await lockFolder(data) : undefined;
  try {
    const count = rotateMaster(folder);
    return `The master key is exchanged; ${count} ${count === 1 ? 'case has' : 'cases have'} its keys wrapped by the new one. Keep a copy of master.key apart from the data, and destroy copies of the old one.`;
  } finally {
    held?.release();
  }
}

try {
  if (what !== 'rotate') throw new Error('Use: npm run vault -- rotate [folder of the vault]');
  console.log(await rotate());
} catch (error) {
  console.error((error as Error).message);
  process.exitCode = 1;
}
