import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import { drizzle as drizzlePg } from 'drizzle-orm/node-postgres';
import { migrate as migratePg } from 'drizzle-orm/node-postgres/migrator';
import type { PgDatabase, PgQueryResultHKT } from 'drizzle-orm/pg-core';
import { drizzle } from 'drizzle-orm/pglite';
import { migrate } from 'drizzle-orm/pglite/migrator';
import pg from 'pg';
import { lockFolder } from './lock';
import * as schema from './schema';

export type Db = PgDatabase<PgQueryResultHKT, typeof schema>;
/** Reads on the database, or inside a transaction. */
export type Reader = Pick<Db, 'select' | 'selectDistinctOn'>;
export type Tx = Parameters<Parameters<Db['transaction']>[0]>[0];

/** The one opened database of a server: queries, notifications and a clean end. */
export interface OpenDatabase {
  db: Db;
  listen(channel: string, heard: (payload: string) => void): Promise<void>;
  close(): Promise<void>;
}

export interface WhereToOpen {
  /** A PostgreSQL server; otherwise PGlite in `folder`, or in memory without one. */
  url?: string;
  folder?: string;
  migrations: string;
  /** Throw away what is in the folder, once it is ours alone: the demo begins anew each time. */
  fresh?: boolean;
  /** Folder where a ready-made empty database is kept, so that a first start need not run initdb. */
  templates?: string;
}

export async function openDatabase(where: WhereToOpen): Promise<OpenDatabase> {
  return where.url ? openServer(where.url, where.migrations) : openPglite(where);
}

async function openPglite({ folder, migrations, templates, fresh: anew }: WhereToOpen): Promise<OpenDatabase> {
  const release = folder ? lockFolder(folder) : () => {};
  try {
    const dataDir = folder ? join(folder, 'pg') : undefined;
    if (dataDir && anew) rmSync(dataDir, { recursive: true, force: true });
    const template = templates ? templatePath(templates, migrations) : undefined;
    const fresh = !dataDir || !existsSync(join(dataDir, 'PG_VERSION'));
    const loadDataDir = fresh && template && existsSync(template) ? new Blob([readFileSync(template)]) : undefined;
    const client = await PGlite.create({ ...(dataDir ? { dataDir } : {}), ...(loadDataDir ? { loadDataDir } : {}) });
    const db = drizzle(client, { schema });
    await migrate(db, { migrationsFolder: migrations });
    return {
      db: db as unknown as Db,
      async listen(channel, heard) {
        await client.listen(channel, heard);
      },
      async close() {
        await client.close();
        release();
      },
    };
  } catch (error) {
    release();
    throw error;
  }
}

async function openServer(url: string, migrations: string): Promise<OpenDatabase> {
  const pool = new pg.Pool({ connectionString: url, max: 10 });
  const db = drizzlePg(pool, { schema });
  await migratePg(db, { migrationsFolder: migrations });
  const ears: pg.Client[] = [];
  return {
    db: db as unknown as Db,
    async listen(channel, heard) {
      const client = new pg.Client({ connectionString: url });
      await client.connect();
      client.on('notification', (n) => heard(n.payload ?? ''));
      await client.query(`LISTEN ${channel}`);
      ears.push(client);
    },
    async close() {
      await Promise.all(ears.map((c) => c.end()));
      await pool.end();
    },
  };
}

/** Named by the migrations it was made with, so that an old template is never loaded. */
function templatePath(templates: string, migrations: string): string {
  const hash = createHash('sha256');
  for (const name of readdirSync(migrations).sort()) if (name.endsWith('.sql')) hash.update(name).update(readFileSync(join(migrations, name)));
  return join(templates, `empty-${hash.digest('hex').slice(0, 16)}.tar.gz`);
}

/** Makes the template once: runs initdb and the migrations, and keeps the result as one file. */
export async function ensureTemplate(templates: string, migrations: string): Promise<string> {
  const path = templatePath(templates, migrations);
  if (existsSync(path)) return path;
  const client = await PGlite.create();
  await migrate(drizzle(client), { migrationsFolder: migrations });
  const dump = await client.dumpDataDir('gzip');
  await client.close();
  mkdirSync(templates, { recursive: true });
  writeFileSync(`${path}.${process.pid}`, Buffer.from(await dump.arrayBuffer()));
  renameSync(`${path}.${process.pid}`, path);
  return path;
}
