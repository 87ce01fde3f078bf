import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { getTableName, is, isNull } from 'drizzle-orm';
import { PgTable } from 'drizzle-orm/pg-core';
import type { Db, OpenDatabase } from '../db/open';
import * as schema from '../db/schema';
import { openDocuments } from '../library/documents';
import { foldRun, loadRun } from '../runs/runs';
import { dumpRows, partsOf } from './rows';

/** What a look through a whole database found. */
export interface Checked {
  rows: number;
  runs: number;
  /** What is wrong, each a sentence; empty: nothing. */
  problems: string[];
}

/** The database's own words for what it can't read, without the statement. */
const said = (error: unknown): string => {
  const { cause, message } = error as { cause?: { message?: string }; message: string };
  return cause?.message ?? message;
};
/** Codes of PostgreSQL for damage: data corrupted, index corrupted (appendix A). Anything else that breaks is told too; these name what it is. */
const isDamage = (error: unknown) => ['XX001', 'XX002'].includes((error as { cause?: { code?: string } }).cause?.code ?? '');

/**
 * Reads a whole database: every page of every table, whose checksums the database itself compares; every stored form with its version; every run, folded from its events; and
 * whether what is sealed has its key.
 * @param vault folder of the vault's keys, where they are at hand
 */
export async function checkAll(database: OpenDatabase, vault?: string, told: (share: number) => void = () => {}): Promise<Checked> {
  const { db } = database;
  const problems: string[] = [];
  let rows = 0;
  try {
    for await (const chunk of dumpRows(db)) {
      rows += chunk.rows;
      told(chunk.share * 0.5);
    }
  } catch (error) {
    problems.push(`A table can’t be read${isDamage(error) ? ': its file is damaged' : ''}: ${said(error)}. Restore the last backup.`);
    return { rows, runs: 0, problems };
  }
  const known = new Map(Object.values(schema).flatMap((table): [string, PgTable][] => (is(table, PgTable) ? [[getTableName(table), table]] : [])));
  const wrong = new Set<string>();
  for await (const { table, where, share } of partsOf(db)) {
    const own = known.get(table);
    if (!own || wrong.has(table)) continue;
    try {
      await db.select().from(own).where(where);
      told(0.5 + share * 0.3);
    } catch (error) {
      wrong.add(table);
      problems.push(`Table ${table} holds what this version does not know: ${said(error)}.`);
    }
  }
  told(0.8);
  const runs = await db.select({ id: schema.run.id, status: schema.run.status }).from(schema.run);
  const documents = openDocuments(db);
  for (const { id } of runs) {
    try {
      const record = await loadRun(db, documents, id);
      foldRun(record!);
    } catch (error) {
      problems.push(`Run ${id} can’t be followed from its events: ${said(error)}.`);
    }
  }
  if (vault !== undefined) problems.push(...(await keysMissing(db, vault)));
  told(1);
  return { rows, runs: runs.length, problems };
}

async function keysMissing(db: Db, vault: string): Promise<string[]> {
  const items = await db.select({ id: schema.sealed.id, caseId: schema.sealed.caseId }).from(schema.sealed).where(isNull(schema.sealed.destroyedAt));
  return items
    .filter(({ id, caseId }) => !existsSync(join(vault, 'keys', String(caseId), `${id}.key`)))
    .map(({ id, caseId }) => `Sealed item ${id} of case ${caseId} has no key: nobody opens it any more.`);
}
