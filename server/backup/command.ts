// `bloodstone backup | restore | verify | check | move`: a shop's data at the command line. cli/bloodstone.ts starts it as a process of its own, since the rest of the command line has
// no database.
import { existsSync, mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Command, CommanderError } from 'commander';
import { FolderLocked } from '../db/lock';
import { openDatabase, type OpenDatabase } from '../db/open';
import { DiskFull } from '../db/space';
import { checkAll, type Checked } from './check';
import { readHead } from './container';
import { BackupProblem, type BackupSecret, keyFile, password, readKeyFile } from './key';
import { nameOf } from './keeping';
import { makeBackup } from './make';
import { restoreBackup, type RestoreTo } from './restore';

const root = join(fileURLToPath(import.meta.url), '../../..');
const migrations = join(root, 'server/db/migrations');
const templates = existsSync(join(root, 'build/templates')) ? join(root, 'build/templates') : undefined;

interface Common {
  json?: boolean;
}
interface Secrets {
  key?: string;
}
interface Where {
  data: string;
  url?: string;
  vault?: string;
}

const program = new Command('bloodstone').exitOverride().showHelpAfterError('(see --help)');
const command = (form: string, what: string) => program.command(form).description(what).option('--json', 'print one JSON document and nothing else');
const withSecret = (c: Command) =>
  c.option('--key <file>', 'key file of the backups; otherwise BLOODSTONE_BACKUP_PASSWORD, or the file in BLOODSTONE_BACKUP_KEY');
const withData = (c: Command) =>
  c
    .option('--data <folder>', 'the shop’s data folder', process.env.BLOODSTONE_DATA ?? join(root, '.data/shop'))
    .option('--url <address>', 'a PostgreSQL server in place of the folder', process.env.DATABASE_URL)
    .option('--vault <folder>', 'folder of the vault’s keys; in the data folder, if nothing else is said', process.env.BLOODSTONE_VAULT);

const print = (options: Common, result: unknown, lines: string[]) =>
  process.stdout.write(options.json ? `${JSON.stringify(result)}\n` : `${lines.join('\n')}\n`);
/** How far it is, for whoever watches. */
const told = (share: number) => {
  if (process.stderr.isTTY) process.stderr.write(`\r${Math.round(share * 100)} % `);
};
const toldRows = (rows: number) => {
  if (process.stderr.isTTY) process.stderr.write(`\r${rows} rows `);
};

function secretOf({ key }: Secrets, make = false, isNew: (path: string) => void = () => {}): BackupSecret {
  const words = process.env.BLOODSTONE_BACKUP_PASSWORD;
  const file = key ?? process.env.BLOODSTONE_BACKUP_KEY;
  if (file !== undefined) {
    if (make && !existsSync(file)) isNew(resolve(file));
    return make ? keyFile(resolve(file)) : readKeyFile(resolve(file));
  }
  if (words !== undefined) return password(words);
  throw new BackupProblem('A backup is opened with a key file or a password. Name the file with --key, or set BLOODSTONE_BACKUP_PASSWORD.');
}

const vaultOf = ({ data, url, vault }: Where): string => resolve(vault ?? (url ? join(root, '.data/vault') : join(data, 'vault')));

async function opened<T>({ data, url }: Where, work: (database: OpenDatabase) => Promise<T>): Promise<T> {
  if (!url && !existsSync(join(data, 'pg'))) throw new BackupProblem(`${resolve(data)} holds no shop’s data. Name the data folder with --data.`);
  const database = await openDatabase({ ...(url ? { url } : { folder: resolve(data) }), migrations, ...(templates ? { templates } : {}) });
  try {
    return await work(database);
  } finally {
    await database.close();
  }
}

const contentsLines = (r: { rows: number; files: number; tables: Record<string, number> }) => [
  `${r.rows} rows in ${Object.keys(r.tables).length} tables, ${r.files} key files of the vault`,
];
const checkLines = ({ rows, runs, problems }: Checked) =>
  problems.length > 0 ? problems : [`${rows} rows read, ${runs} runs followed from their events: nothing is wrong`];
/** Makes the process end with 1 where something is wrong. */
const failedBy = ({ problems }: Checked) => {
  if (problems.length > 0) process.exitCode = 1;
};

withSecret(withData(command('backup <folder>', 'make a backup into a folder; with the server stopped, or of a PostgreSQL server')))
  .option('--with-master-key', 'the vault’s master key goes along: whoever opens the backup then opens everything in the vault')
  .action(async (folder: string, options: Common & Secrets & Where & { withMasterKey?: boolean }) => {
    mkdirSync(folder, { recursive: true, mode: 0o700 });
    const secret = secretOf(options, true, (path) =>
      process.stderr.write(`${path} was made: it opens the backups. Keep a copy of it apart from them.\n`),
    );
    const at = Date.now();
    const file = join(resolve(folder), nameOf(at));
    const made = await opened(options, (database) =>
      makeBackup({ database, vault: vaultOf(options), masterKey: options.withMasterKey ?? false }, file, secret, new Date(at).toISOString(), {
        told,
      }),
    );
    print(options, { file, ...made }, [`${file}: ${(made.bytes / 1e6).toFixed(1)} MB`, ...contentsLines(made)]);
  });

withSecret(command('verify <file>', 'restore a backup into memory, and look through all of it')).action(
  async (file: string, options: Common & Secrets) => {
    const { made } = readHead(file).head;
    let checked: Checked = { rows: 0, runs: 0, problems: [] };
    const restored = await restoreBackup(file, secretOf(options), 'memory', {
      migrations,
      ...(templates ? { templates } : {}),
      told: toldRows,
      look: async (database) => void (checked = await checkAll(database)),
    });
    const newest = restored.newestAct === null ? null : new Date(restored.newestAct).toISOString();
    print(options, { made, ...restored, newestAct: newest, runs: checked.runs, problems: checked.problems }, [
      `made ${made}; newest act ${newest ?? 'none'}`,
      ...contentsLines(restored),
      ...checkLines(checked),
    ]);
    failedBy(checked);
  },
);

withSecret(command('restore <file>', 'restore a backup into a new data folder, or into a PostgreSQL server'))
  .option('--to <folder>', 'the new data folder')
  .option('--to-url <address>', 'the PostgreSQL server')
  .option('--to-vault <folder>', 'with a server: folder of the vault’s keys', join(root, '.data/vault'))
  .option('--overwrite', 'put it over a shop’s data that is there')
  .action(async (file: string, options: Common & Secrets & { to?: string; toUrl?: string; toVault: string; overwrite?: boolean }) => {
    if ((options.to === undefined) === (options.toUrl === undefined)) program.error('Name where it goes: either --to FOLDER or --to-url ADDRESS.');
    const to: RestoreTo = options.toUrl === undefined ? { folder: resolve(options.to!) } : { url: options.toUrl, vault: resolve(options.toVault) };
    const restored = await restoreBackup(file, secretOf(options), to, {
      migrations,
      ...(templates ? { templates } : {}),
      overwrite: options.overwrite ?? false,
      told: toldRows,
    });
    print(options, restored, contentsLines(restored));
  });

withData(command('check', 'read a whole database: checksums, stored forms, runs, keys of the vault')).action(async (options: Common & Where) => {
  const checked = await opened(options, (database) => checkAll(database, vaultOf(options), told));
  print(options, checked, checkLines(checked));
  failedBy(checked);
});

withData(command('move', 'move a shop from its data folder to a PostgreSQL server; stopped in the middle, start it again'))
  .requiredOption('--to-url <address>', 'the PostgreSQL server')
  .option('--overwrite', 'put it over a shop’s data that is there')
  .action(async (options: Common & Where & { toUrl: string; overwrite?: boolean }) => {
    const folder = mkdtempSync(join(tmpdir(), 'bloodstone-move-'));
    try {
      const [file, secret] = [join(folder, 'move.backup'), keyFile(join(folder, 'move.key'))];
      const { url: _none, ...from } = options;
      await opened(from, (database) => makeBackup({ database }, file, secret, new Date().toISOString(), { told }));
      // The vault's keys stay where they are.
      const vault = vaultOf(from);
      const restored = await restoreBackup(
        file,
        secret,
        { url: options.toUrl, vault },
        { migrations, overwrite: options.overwrite ?? false, told: toldRows },
      );
      print(options, restored, [...contentsLines(restored), `Start the server with DATABASE_URL of that server, and BLOODSTONE_VAULT=${vault}.`]);
    } finally {
      rmSync(folder, { recursive: true, force: true });
    }
  });

try {
  await program.parseAsync(process.argv);
} catch (error) {
  if (error instanceof CommanderError) process.exitCode = error.exitCode === 0 ? 0 : 2;
  else if (error instanceof BackupProblem || error instanceof FolderLocked || error instanceof DiskFull) {
    process.stderr.write(`${error.message.replaceAll('\n', ' ')}\n`);
    process.exitCode = 1;
  } else throw error;
}
