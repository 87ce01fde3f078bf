import { letOthersIn } from './turns';
import { createHash } from 'node:crypto';
import { chmodSync, cpSync, existsSync, mkdirSync, readdirSync, readFileSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import { drizzle as drizzlePg } from 'drizzle-orm/node-postgres';
import { migrate as migratePg } from 'drizzle-orm/node-postgres/migrator';
import type { PgDatabase, PgQueryResultHKT } from 'drizzle-orm/pg-core';
import { drizzle } from 'drizzle-orm/pglite';
import { migrate } from 'drizzle-orm/pglite/migrator';
import pg from 'pg';
import { log } from '../base/log';
import { unwatched } from '../base/watchdog';
import { earOf } from './hear';
import { lockFolder } from './lock';
import { LastingPool } from './pool';
import * as schema from './schema';
import { endless, openSpace, roomToStart, type Space } from './space';
import { Statements } from './statements';
import { initParams, newSegmentBytes, startParams, SyncedFs, syncTree } from './synced';
import { syncFile, syncFolder } from '../base/disk';

export type Db = PgDatabase<PgQueryResultHKT, typeof schema>;
/** Reads on the database, or inside a transaction. */
export type Reader = Pick<Db, 'select' | 'selectDistinctOn' | 'query'>;
export type Tx = Parameters<Parameters<Db['transaction']>[0]>[0];

/** The one opened database of a server: queries, notifications and a clean end. */
export interface OpenDatabase {
  db: Db;
  /** @param missed told when the line was broken and is there again */
  listen(channel: string, heard: (payload: string) => void, missed: () => void): Promise<void>;
  /** Does work that two servers on one database must not do at once. */
  alone<T>(work: () => Promise<T>): Promise<T>;
  /** Brings it up to date with the migrations of a folder, which begin with those that it has. */
  migrate(migrations: string): Promise<void>;
  /** Takes what was deleted from these tables out of the files as well, and out of the log. */
  purge(tables: readonly string[]): Promise<void>;
  /** Room on the disk that it writes to. */
  space: Space;
  /** Every statement that was asked of it. */
  statements: Statements;
  /** This server alone writes to it, so `statements` has seen every change. */
  ours: boolean;
  /** How often it has had files written through to the disk, and parts of its log that are not there yet; zeros where that is not ours to see. */
  synced(): { syncs: number; unsynced: number };
  close(): Promise<void>;
}

/** How a PostgreSQL server is used. */
export interface PoolSettings {
  /** Connections at most. */
  connections: number;
  /** Longest wait for one of them, and for a new one, s; then the act is refused rather than left hanging. */
  waitS: number;
  /** Longest time of one statement, s; migrations have none. */
  statementS: number;
}
export const usualPool: PoolSettings = { connections: 10, waitS: 5, statementS: 60 };

export interface WhereToOpen {
  /** A PostgreSQL server; otherwise PGlite in `folder`, or in memory without one. */
  url?: string;
  pool?: PoolSettings;
  folder?: string;
  migrations: string;
  /** Throw away what is in the folder, once it is ours alone: the demo begins anew each time. */
  fresh?: boolean;
  /** Folder where a ready-made empty database is kept, so that a first start need not run initdb. */
  templates?: string;
  /** The folder as the database sees it; tests look into what it writes. */
  openFs?: (dataDir: string) => SyncedFs;
  /** Name of the content of a filled database that may lie there too; in a folder it is taken in place of the empty one. */
  world?: string;
}

export async function openDatabase(where: WhereToOpen): Promise<OpenDatabase> {
  return where.url ? openServer(where.url, where.migrations, where.pool ?? usualPool) : openPglite(where);
}

async function openPglite({
  folder,
  migrations,
  templates,
  world,
  fresh: anew,
  openFs = (dataDir) => new SyncedFs(dataDir),
}: WhereToOpen): Promise<OpenDatabase> {
  if (folder) await roomToStart(folder);
  const held = folder ? await lockFolder(folder) : undefined;
  try {
    const dataDir = folder ? join(folder, 'pg') : undefined;
    if (dataDir && anew) rmSync(dataDir, { recursive: true, force: true });
    const filled = templates && world ? worldPath(templates, migrations, world) : undefined;
    if (dataDir && filled && !existsSync(dataDir) && existsSync(filled)) copyWhole(filled, dataDir);
    const template = templates ? templatePath(templates, migrations) : undefined;
    const fresh = !dataDir || !existsSync(join(dataDir, 'PG_VERSION'));
    const loadDataDir = fresh && template && existsSync(template) ? new Blob([readFileSync(template)]) : undefined;
    if (folder) closeToOthers(folder);
    // The database's own mark of who runs on the folder: ours has told already, and one that a power cut left empty would keep it from starting for good.
    if (dataDir) rmSync(join(dataDir, 'postmaster.pid'), { force: true });
    const fs = dataDir ? openFs(dataDir) : undefined;
    if (fs && held) fs.stalled = held.check;
    const client = await PGlite.create({
      ...(fs ? { fs, startParams: startParams(segmentBytes(dataDir!)) } : {}),
      ...(fresh ? { initDbStartParams: initParams } : {}),
      ...(loadDataDir ? { loadDataDir } : {}),
    });
    letOthersIn(client);
    const statements = new Statements();
    const db = drizzle(client, { schema, logger: statements });
    await migrate(db, { migrationsFolder: migrations });
    // What a new folder begins with was not asked to be on the disk by anybody.
    if (fresh && dataDir) syncTree(dataDir);
    const space = folder ? openSpace(folder, segmentBytes(dataDir!)) : endless;
    return {
      db: db as unknown as Db,
      space,
      statements,
      ours: true,
      alone: (work) => work(),
      migrate: (folder) => migrate(db, { migrationsFolder: folder }),
      purge: (tables) =>
        unwatched(async () => {
          for (const table of tables) await client.exec(`vacuum full "${table}"`);
          // The log up to here is not needed any more, and goes; the second time also what the first has written.
          for (let i = 0; i < 2; i += 1) await client.exec('select pg_switch_wal(); checkpoint');
        }),
      async listen(channel, heard) {
        await client.listen(channel, heard);
      },
      synced: () => ({ syncs: fs?.syncs ?? 0, unsynced: fs?.unsynced.size ?? 0 }),
      async close() {
        if (!(await space.roomy())) space.release();
        await client.close();
        held?.release();
      },
    };
  } catch (error) {
    held?.release();
    throw error;
  }
}

/** Name of the lock under which one server at a time migrates and enters content. */
const startLock = 4_600_001;

async function openServer(url: string, migrations: string, { connections, waitS, statementS }: PoolSettings): Promise<OpenDatabase> {
  const connectMs = waitS * 1000;
  const pool = new LastingPool({
    connectionString: url,
    max: connections,
    connectionTimeoutMillis: connectMs,
    statement_timeout: statementS * 1000,
    // A server that can't be reached any more ends no statement by itself.
    query_timeout: (statementS + 1) * 1000,
    keepAlive: true,
  });
  const statements = new Statements();
  const db = drizzlePg(pool, { schema, logger: statements });
  const alone = async <T>(work: (client: pg.Client) => Promise<T>): Promise<T> => {
    const client = new pg.Client({ connectionString: url });
    client.on('error', (error) => log.warn({ err: error }, 'The connection that holds the start lock broke.'));
    await client.connect();
    try {
      await client.query('select pg_advisory_lock($1)', [startLock]);
      return await work(client);
    } finally {
      // The lock goes with the connection.
      await client.end().catch(() => undefined);
    }
  };
  // Over the lock's own connection, which may take as long as it takes.
  const migrateFrom = (folder: string) => alone((client) => migratePg(drizzlePg(client), { migrationsFolder: folder }));
  await migrateFrom(migrations);
  const ear = earOf(url, connectMs);
  return {
    db: db as unknown as Db,
    alone,
    migrate: migrateFrom,
    // Its log and its backups are that server's business.
    purge: async (tables) => {
      for (const table of tables) await pool.query(`vacuum "${table}"`);
    },
    space: endless,
    statements,
    ours: false,
    synced: () => ({ syncs: 0, unsynced: 0 }),
    listen: ear.listen,
    async close() {
      await ear.close();
      await pool.end();
    },
  };
}

/** A folder and everything in it are this user's alone; one of an older version was open to all. */
function closeToOthers(folder: string): void {
  chmodSync(folder, 0o700);
  for (const entry of readdirSync(folder, { recursive: true, withFileTypes: true })) {
    const path = join(entry.parentPath, entry.name);
    if (entry.isDirectory()) chmodSync(path, 0o700);
    else if (entry.isFile()) chmodSync(path, 0o600);
  }
}

/** Step in which the log of a folder grows, as its files show; a new folder gets ours. */
function segmentBytes(dataDir: string): number {
  const wal = join(dataDir, 'pg_wal');
  const name = existsSync(wal) ? readdirSync(wal).find((n) => /^[0-9A-F]{24}$/.test(n)) : undefined;
  return name === undefined ? newSegmentBytes : statSync(join(wal, name)).size;
}

/** Named by the migrations it was made with, so that an old template is never loaded. */
const templatePath = (templates: string, migrations: string): string => join(templates, `empty-${migrationsName(migrations)}.tar.gz`);

/** Named by its migrations and its content. */
export const worldPath = (templates: string, migrations: string, content: string): string =>
  join(templates, `world-${migrationsName(migrations)}-${content}`);

/** Copies a folder; under its new name it is there whole or not at all. */
export function copyWhole(from: string, to: string): void {
  const beside = `${to}.${process.pid}`;
  cpSync(from, beside, { recursive: true });
  syncTree(beside);
  rmSync(to, { recursive: true, force: true });
  renameSync(beside, to);
  syncFolder(dirname(to));
}

function migrationsName(migrations: string): string {
  const hash = createHash('sha256').update(initParams.join());
  for (const name of readdirSync(migrations).sort()) if (name.endsWith('.sql')) hash.update(name).update(readFileSync(join(migrations, name)));
  return hash.digest('hex').slice(0, 16);
}

/** Makes the template once: runs initdb and the migrations, and keeps the result as one file. */
export async function ensureTemplate(templates: string, migrations: string): Promise<string> {
  const path = templatePath(templates, migrations);
  if (existsSync(path)) return path;
  const client = await PGlite.create({ initDbStartParams: initParams });
  await migrate(drizzle(client), { migrationsFolder: migrations });
  const dump = await client.dumpDataDir('gzip');
  await client.close();
  mkdirSync(templates, { recursive: true });
  writeFileSync(`${path}.${process.pid}`, Buffer.from(await dump.arrayBuffer()));
  syncFile(`${path}.${process.pid}`);
  renameSync(`${path}.${process.pid}`, path);
  syncFolder(templates);
  return path;
}
