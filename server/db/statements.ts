import type { Logger } from 'drizzle-orm';

/** A table that a statement changes. */
const writing = /\b(?:insert\s+into|update|delete\s+from)\s+"(\w+)"/gi;
/** Words of statements that change something; one that has none of them only reads. */
const changing = /\b(?:insert|update|delete|truncate|alter|drop|create)\b/i;

/**
 * Sees every statement that is asked of a database: counts them, and for each table those that may have changed it. A statement that changes something
 * and doesn't say what counts for every table.
 */
export class Statements implements Logger {
  asked = 0;
  readonly #changes = new Map<string, number>();
  #anywhere = 0;

  logQuery(query: string): void {
    this.asked += 1;
    const tables = [...query.matchAll(writing)].map((m) => m[1]!);
    for (const table of tables) this.#changes.set(table, (this.#changes.get(table) ?? 0) + 1);
    if (tables.length > 0) return;
    // A lock for the time of a transaction names a word of the list and changes nothing.
    if (changing.test(query.replace(/\bfor (?:no key )?update\b/gi, ''))) this.#anywhere += 1;
  }

  /** Grows with every statement that may have changed one of the tables. */
  changes(tables: readonly string[]): number {
    return tables.reduce((sum, t) => sum + (this.#changes.get(t) ?? 0), this.#anywhere);
  }
}
