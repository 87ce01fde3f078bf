// A PostgreSQL server of Debian for tests and benches: on a port of its own, with its data thrown away at the end. As root it is run by its own user.
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { spawnSync } from 'node:child_process';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** Where Debian puts its programs, by version; empty where it is not installed. */
export const postgresBins = () =>
  existsSync('/usr/lib/postgresql')
    ? readdirSync('/usr/lib/postgresql')
        .map((version) => join('/usr/lib/postgresql', version, 'bin'))
        .filter((bin) => existsSync(join(bin, 'initdb')))
    : [];

/** @returns null where there are no programs, or it does not start */
export function startPostgres(port) {
  const bin = postgresBins().at(-1);
  if (!bin) return null;
  const root = process.getuid?.() === 0;
  const folder = mkdtempSync(join(tmpdir(), 'bloodstone-postgres-'));
  if (root) spawnSync('chown', ['postgres', folder]);
  const command = (name, args) => {
    const line = [join(bin, name), ...args];
    const [first, ...rest] = root ? ['runuser', '-u', 'postgres', '--', ...line] : line;
    return spawnSync(first, rest, { stdio: 'ignore', cwd: folder }).status === 0;
  };
  const data = join(folder, 'data');
  const options = `-p ${port} -k ${folder} -c listen_addresses=127.0.0.1 -c max_connections=200 -c fsync=off`;
  const start = () => command('pg_ctl', ['-D', data, '-o', options, '-w', 'start']);
  const end = () => {
    command('pg_ctl', ['-D', data, '-m', 'immediate', 'stop']);
    rmSync(folder, { recursive: true, force: true });
  };
  if (!command('initdb', ['-D', data, '-A', 'trust', '-U', 'test']) || !start()) {
    end();
    return null;
  }
  return {
    url: `postgres://test@127.0.0.1:${port}/postgres`,
    /** SIGKILL. */
    kill: () => process.kill(Number(readFileSync(join(data, 'postmaster.pid'), 'utf8').split('\n', 1)[0]), 'SIGKILL'),
    /** Begins again, which it refuses while something of the killed one still runs. @returns whether it did */
    start,
    end,
  };
}
