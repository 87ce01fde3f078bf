import { cpSync, existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join, resolve, sep } from 'node:path';
import { sql } from 'drizzle-orm';
import { drizzle } from 'drizzle-orm/node-postgres';
import pg from 'pg';
import { lockFolder } from '../db/lock';
import { openDatabase, type OpenDatabase } from '../db/open';
import { syncFolder } from '../base/disk';
import { syncTree } from '../db/synced';
import { type Piece, readBackup } from './container';
import { BackupProblem, type BackupSecret } from './key';
import type { Contents } from './make';
import { type Asking, type Column, holdsShop, inAnyOrder, loadChunk, type Sequence, setSequence } from './rows';

/** Where a backup goes: a new folder; a PostgreSQL server, with the vault's keys in a folder; or memory alone. */
export type RestoreTo = { folder: string } | { url: string; vault: string } | 'memory';

export interface Restored extends Contents {
  /** When the backup was made, ISO 8601, and the newest act in it, ms of the shop's clock. */
  newestAct: number | null;
}

export interface HowToRestore {
  migrations: string;
  templates?: string;
  /** Puts it over a shop's data that is there. */
  overwrite?: boolean;
  told?: (rows: number) => void;
  /** Looks at what was restored before it takes its place; what it throws stops the restore. */
  look?: (database: OpenDatabase) => Promise<void>;
}

/**
 * Restores a backup, of this version's form or of an older one, which is then brought up to date. All or nothing: on an error everything is as it was. A folder's data that was
 * there stays beside it under another name.
 * @throws BackupProblem
 */
export async function restoreBackup(path: string, secret: BackupSecret, to: RestoreTo, how: HowToRestore): Promise<Restored> {
  const pieces = readBackup(path, secret);
  const first = (await pieces.next()).value as Piece | undefined;
  if (first?.head.kind !== 'start' || typeof first.head.schema !== 'number')
    throw new BackupProblem(`${path} has no beginning. Take another backup.`);
  const old = migrationsUpTo(how.migrations, first.head.schema);
  const open = (where: { folder?: string; url?: string }) =>
    openDatabase({ ...where, migrations: old ?? how.migrations, ...(how.templates ? { templates: how.templates } : {}) });
  try {
    if (to === 'memory') return await filled(await open({}), pieces, path, null, how);
    if ('folder' in to)
      return await intoFolder(to.folder, how, (folder) => open({ folder }).then((d) => filled(d, pieces, path, join(folder, 'vault'), how)));
    return await intoServer(to.url, how, () => open({ url: to.url }).then((d) => filled(d, pieces, path, to.vault, how)));
  } finally {
    await pieces.return(undefined);
    if (old) rmSync(old, { recursive: true, force: true });
  }
}

/** A folder with the migrations that a backup's database had; null where they are all of today's. @throws BackupProblem for one that is not known here */
function migrationsUpTo(migrations: string, schema: number): string | null {
  const journal = JSON.parse(readFileSync(join(migrations, 'meta/_journal.json'), 'utf8')) as { entries: { when: number; tag: string }[] };
  const entries = journal.entries.filter((e) => e.when <= schema);
  if (entries.at(-1)?.when !== schema)
    throw new BackupProblem('This backup is of another version of Bloodstone, most likely a newer one. Restore it with that one.');
  if (entries.length === journal.entries.length) return null;
  const folder = mkdtempSync(join(tmpdir(), 'bloodstone-migrations-'));
  mkdirSync(join(folder, 'meta'));
  for (const { tag } of entries) cpSync(join(migrations, `${tag}.sql`), join(folder, `${tag}.sql`));
  writeFileSync(join(folder, 'meta/_journal.json'), JSON.stringify({ ...journal, entries }));
  return folder;
}

/** Fills an empty database, brings it up to date, looks at it, and closes it. */
async function filled(
  database: OpenDatabase,
  pieces: AsyncIterable<Piece>,
  path: string,
  vault: string | null,
  how: HowToRestore,
): Promise<Restored> {
  try {
    const counted: Contents = { tables: {}, rows: 0, files: 0 };
    let ended: Partial<Contents> | null = null;
    await database.db.transaction(async (tx) => {
      await inAnyOrder(tx, async () => {
        for await (const piece of pieces) {
          if (piece.head.kind === 'end') ended = piece.head as Partial<Contents>;
          else await take(tx, piece, vault, counted);
          how.told?.(counted.rows);
        }
      });
    });
    const end = ended as Partial<Contents> | null;
    const same = end && JSON.stringify([end.rows, end.files, end.tables]) === JSON.stringify([counted.rows, counted.files, counted.tables]);
    if (!same) throw new BackupProblem(`${path}: what is in it is not what its end says. Take another backup.`);
    await database.migrate(how.migrations);
    const { rows } = (await database.db.execute(sql`select max(at)::text as at from audit`)) as unknown as { rows: { at: string | null }[] };
    await how.look?.(database);
    return { ...counted, newestAct: rows[0]?.at ? Number(rows[0].at) : null };
  } finally {
    await database.close();
  }
}

async function take(tx: Asking, { head, body }: Piece, vault: string | null, counted: Contents): Promise<void> {
  switch (head.kind) {
    case 'rows': {
      const { table, columns, rows } = head as { table: string; columns: Column[]; rows: number };
      await loadChunk(tx, { table, columns, rows, text: body.toString() });
      counted.tables[table] = (counted.tables[table] ?? 0) + rows;
      counted.rows += rows;
      return;
    }
    case 'sequences':
      for (const sequence of head.sequences as Sequence[]) await setSequence(tx, sequence);
      return;
    case 'file': {
      counted.files += 1;
      if (vault === null) return;
      const file = resolve(vault, String(head.path));
      if (!file.startsWith(resolve(vault) + sep)) throw new BackupProblem(`A file of the vault would lie outside of it: ${String(head.path)}.`);
      mkdirSync(dirname(file), { recursive: true, mode: 0o700 });
      writeFileSync(file, body, { mode: 0o600, flush: true });
      return;
    }
    default:
      throw new BackupProblem(`There is a piece of an unknown kind: ${String(head.kind)}.`);
  }
}

/** Beside the folder first; then it takes its place. */
async function intoFolder(folder: string, { overwrite = false }: HowToRestore, fill: (folder: string) => Promise<Restored>): Promise<Restored> {
  const there = existsSync(folder) && readdirSync(folder).length > 0;
  if (there && !overwrite)
    throw new BackupProblem(
      `${folder} is not empty. Name a new folder, or add --overwrite: what is there is then kept beside it under another name.`,
    );
  if (there) await mustBeFree(folder);
  const beside = `${folder}.restoring-${process.pid}`;
  rmSync(beside, { recursive: true, force: true });
  mkdirSync(beside, { recursive: true, mode: 0o700 });
  try {
    const restored = await fill(beside);
    syncTree(beside);
    if (there) renameSync(folder, `${folder}.before-${new Date().toISOString().slice(0, 19).replaceAll(':', '-')}`);
    else rmSync(folder, { recursive: true, force: true });
    renameSync(beside, folder);
    syncFolder(dirname(folder));
    return restored;
  } catch (error) {
    rmSync(beside, { recursive: true, force: true });
    throw error;
  }
}

/** @throws FolderLocked while a server has the folder */
async function mustBeFree(folder: string): Promise<void> {
  (await lockFolder(folder)).release();
}

/** What a server has goes under another name until the backup is in its place. */
async function intoServer(url: string, { overwrite = false }: HowToRestore, fill: () => Promise<Restored>): Promise<Restored> {
  const client = new pg.Client({ connectionString: url });
  // A connection that breaks fails the next statement, which is said.
  client.on('error', () => undefined);
  await client.connect();
  const all = async (statements: readonly string[]) => {
    await client.query('begin');
    for (const statement of statements) await client.query(statement);
    await client.query('commit');
  };
  try {
    const migrated = ((await client.query("select 1 from pg_namespace where nspname = 'drizzle'")).rowCount ?? 0) > 0;
    if (!overwrite && (await holdsShop(drizzle(client) as unknown as Asking)))
      throw new BackupProblem('The database holds a shop’s data. Name an empty one, or add --overwrite: what is there is then gone.');
    await all([
      'alter schema public rename to public_before',
      'create schema public',
      ...(migrated ? ['alter schema drizzle rename to drizzle_before'] : []),
    ]);
    try {
      const restored = await fill();
      await all(['drop schema public_before cascade', ...(migrated ? ['drop schema drizzle_before cascade'] : [])]);
      return restored;
    } catch (error) {
      await client.query('rollback').catch(() => undefined);
      await all([
        'drop schema public cascade',
        'alter schema public_before rename to public',
        'drop schema if exists drizzle cascade',
        ...(migrated ? ['alter schema drizzle_before rename to drizzle'] : []),
      ]);
      throw error;
    }
  } finally {
    await client.end();
  }
}
