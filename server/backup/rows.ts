import { sql, type SQL } from 'drizzle-orm';
import type { Db } from '../db/open';

/** Anything that answers a statement: a database, or a transaction of one. */
export type Asking = Pick<Db, 'execute'>;

export interface Column {
  name: string;
  /** As PostgreSQL names it. */
  type: string;
}
/** Some rows of a table: a JSON array of rows, each an array of texts as PostgreSQL writes the values, or null. */
export interface Chunk {
  table: string;
  columns: Column[];
  rows: number;
  text: string;
}
export interface Sequence {
  name: string;
  last: string;
}

/** So much is read at once, bytes as stored. */
const chunkBytes = 1 << 20;
const pageBytes = 8192;

async function ask<T>(db: Asking, query: SQL): Promise<T[]> {
  return ((await db.execute(query)) as unknown as { rows: T[] }).rows;
}

interface Table {
  name: string;
  pages: number;
  bytes: number;
}

/** Every table of the shop's, as the database itself lists them, so that none is forgotten. */
async function tablesOf(db: Asking): Promise<Table[]> {
  return (
    await ask<{ name: string; heap: string; whole: string }>(
      db,
      sql`select c.relname as name, pg_relation_size(c.oid)::text as heap, pg_table_size(c.oid)::text as whole
        from pg_class c where c.relkind = 'r' and c.relnamespace = 'public'::regnamespace order by c.relname`,
    )
  ).map(({ name, heap, whole }) => ({ name, pages: Math.ceil(Number(heap) / pageBytes), bytes: Number(whole) }));
}

/** Columns that are stored; those that the database makes by itself are left out. */
const columnsOf = (db: Asking, table: string): Promise<Column[]> =>
  ask<Column>(
    db,
    sql`select attname as name, format_type(atttypid, atttypmod) as type from pg_attribute
      where attrelid = format('public.%I', ${table}::text)::regclass and attnum > 0 and not attisdropped and attgenerated = '' order by attnum`,
  );

const quoted = (name: string): SQL => sql`${sql.identifier(name)}`;
/** A row as a list of texts: exact for every type, and the same on every server. */
const rowOf = (columns: readonly Column[]): SQL =>
  sql`json_build_array(${sql.join(
    columns.map((c) => sql`${quoted(c.name)}::text`),
    sql`, `,
  )})`;

/** Some rows of a table, about a megabyte as stored: a condition that picks them. */
interface Part {
  table: string;
  where: SQL;
  /** How much of everything lies before it, 0 to 1. */
  share: number;
}

/** Every table in parts, so that none is ever in memory whole. */
export async function* partsOf(db: Asking): AsyncGenerator<Part> {
  const tables = await tablesOf(db);
  const all = tables.reduce((n, t) => n + t.bytes, 0) || 1;
  let done = 0;
  for (const { name, pages, bytes } of tables) {
    const step = Math.max(1, Math.floor((chunkBytes * pages) / Math.max(bytes, 1)));
    for (let page = 0; page < pages; page += step) {
      const within = sql`ctid >= ${`(${page},0)`}::tid and ctid < ${`(${page + step},0)`}::tid`;
      // A page of photographs is many megabytes: those rows go one by one.
      const single = step === 1 && bytes / pages > 4 * chunkBytes;
      const places = single ? await ask<{ at: string }>(db, sql`select ctid::text as at from ${quoted(name)} where ${within}`) : null;
      for (const where of places ? places.map(({ at }) => sql`ctid = ${at}::tid`) : [within])
        yield { table: name, where, share: (done + (bytes * page) / pages) / all };
    }
    done += bytes;
  }
}

/**
 * Every row of every table, a piece at a time. What it reads belongs together when it is given a transaction that sees one moment.
 * @throws the database's own error where a page is damaged
 */
export async function* dumpRows(db: Asking): AsyncGenerator<Chunk & { share: number }> {
  let of: { table: string; columns: Column[] } | undefined;
  for await (const { table, where, share } of partsOf(db)) {
    if (of?.table !== table) of = { table, columns: await columnsOf(db, table) };
    const { columns } = of;
    const [found] = await ask<{ n: number; rows: string | null }>(
      db,
      sql`select count(*)::int as n, json_agg(${rowOf(columns)})::text as rows from ${quoted(table)} where ${where}`,
    );
    if (found!.n > 0) yield { table, columns, rows: found!.n, text: found!.rows!, share };
  }
}

export const sequencesOf = (db: Asking): Promise<Sequence[]> =>
  ask<Sequence>(
    db,
    sql`select sequencename as name, last_value::text as last from pg_sequences where schemaname = 'public' and last_value is not null order by 1`,
  );

/** Puts rows into a table that has the columns they were taken from. */
export async function loadChunk(db: Asking, { table, columns, text }: Chunk): Promise<void> {
  const values = columns.map((c, i) => sql`(v->>${sql.raw(String(i))})::${sql.raw(c.type)}`);
  await db.execute(
    sql`insert into ${quoted(table)} (${sql.join(
      columns.map((c) => quoted(c.name)),
      sql`, `,
    )})
      select ${sql.join(values, sql`, `)} from json_array_elements(${text}::json) as e(v)`,
  );
}

export async function setSequence(db: Asking, { name, last }: Sequence): Promise<void> {
  await db.execute(sql`select setval(format('public.%I', ${name}::text)::regclass, ${last}::bigint)`);
}

/**
 * Lets work put rows in any order: what refers to other rows is looked at when it is done.
 * @param db a transaction of whoever owns the tables
 */
export async function inAnyOrder(db: Asking, work: () => Promise<void>): Promise<void> {
  const links = await ask<{ table: string; name: string }>(
    db,
    sql`select c.relname as table, k.conname as name from pg_constraint k join pg_class c on c.oid = k.conrelid
      where k.contype = 'f' and c.relnamespace = 'public'::regnamespace and not k.condeferrable`,
  );
  const alter = async (how: SQL) => {
    for (const l of links) await db.execute(sql`alter table ${quoted(l.table)} alter constraint ${quoted(l.name)} ${how}`);
  };
  await alter(sql`deferrable initially deferred`);
  await work();
  await db.execute(sql`set constraints all immediate`);
  await alter(sql`not deferrable`);
}

/** Whether there are rows of a shop: a database that was only migrated, or filled with shipped content, has none. */
export async function holdsShop(db: Asking): Promise<boolean> {
  for (const { name } of await tablesOf(db)) {
    if (name === 'document' || name === 'clock_domain') continue;
    const [found] = await ask<{ some: boolean }>(db, sql`select exists (select 1 from ${quoted(name)}) as some`);
    if (found!.some) return true;
  }
  return false;
}
