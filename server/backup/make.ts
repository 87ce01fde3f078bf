import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { sql } from 'drizzle-orm';
import type { OpenDatabase } from '../db/open';
import { type Piece, writeBackup } from './container';
import type { BackupSecret } from './key';
import { type Asking, dumpRows, sequencesOf } from './rows';

/** What is in a backup, as its last piece says. */
export interface Contents {
  tables: Record<string, number>;
  rows: number;
  /** Files of the vault. */
  files: number;
}

export interface MadeBackup extends Contents {
  bytes: number;
}

export interface WhatToBackUp {
  database: OpenDatabase;
  /** Folder of the vault's keys; they go along as they are, each wrapped. */
  vault?: string;
  /** The vault's master key as well: whoever opens the backup then opens everything in it. */
  masterKey?: boolean;
}

/**
 * Makes a backup of one moment while everybody works: every row of every table, and the keys of the vault.
 * @param made the moment, ISO 8601
 * @param told how far it is, 0 to 1
 */
export async function makeBackup(
  { database, vault, masterKey = false }: WhatToBackUp,
  path: string,
  secret: BackupSecret,
  made: string,
  { told = () => {}, signal }: { told?: (share: number) => void; signal?: AbortSignal } = {},
): Promise<MadeBackup> {
  const contents: Contents = { tables: {}, rows: 0, files: 0 };
  const { bytes } = await database.db.transaction(
    async (tx) => writeBackup(path, secret, made, piecesOf(tx, vault, masterKey, contents, told), signal),
    { isolationLevel: 'repeatable read', accessMode: 'read only' },
  );
  return { ...contents, bytes };
}

/** When the newest migration of a database was written: names the form its rows have. */
export async function schemaOf(db: Asking): Promise<number> {
  const { rows } = (await db.execute(sql`select max(created_at)::text as at from drizzle.__drizzle_migrations`)) as unknown as {
    rows: { at: string }[];
  };
  return Number(rows[0]!.at);
}

async function* piecesOf(
  db: Asking,
  vault: string | undefined,
  masterKey: boolean,
  contents: Contents,
  told: (share: number) => void,
): AsyncGenerator<Piece> {
  const none = Buffer.alloc(0);
  yield { head: { kind: 'start', schema: await schemaOf(db) }, body: none };
  for await (const { table, columns, rows, text, share } of dumpRows(db)) {
    contents.tables[table] = (contents.tables[table] ?? 0) + rows;
    contents.rows += rows;
    told(share);
    yield { head: { kind: 'rows', table, columns, rows }, body: Buffer.from(text) };
  }
  yield { head: { kind: 'sequences', sequences: await sequencesOf(db) }, body: none };
  // Read after the rows: a key that came meanwhile has no row, and no row is without its key.
  for (const path of vault ? filesOf(vault) : []) {
    if (!masterKey && path.startsWith('master.key')) continue;
    contents.files += 1;
    yield { head: { kind: 'file', path }, body: readFileSync(join(vault!, path)) };
  }
  yield { head: { kind: 'end', ...contents }, body: none };
}

/** Files of the vault, by their paths in it. */
function filesOf(vault: string): string[] {
  if (!existsSync(vault)) return [];
  return readdirSync(vault, { recursive: true, withFileTypes: true })
    .filter((e) => e.isFile() && /(\.key|\.next)$/.test(e.name))
    .map((e) => join(e.parentPath, e.name).slice(vault.length + 1))
    .sort();
}
