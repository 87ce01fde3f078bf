import { isDeepStrictEqual } from 'node:util';
import { getTableName, type Table } from 'drizzle-orm';
import { LRUCache } from 'lru-cache';
import type { OpenDatabase } from './open';
import type { Statements } from './statements';

/** What is needed to read something that is kept. */
export interface Keeping {
  database: OpenDatabase;
  kept: Kept;
}

/** What is kept at most; the one that was not asked for longest goes first. */
const mostKept = 2_000;

/**
 * Values read from the database, kept until a statement writes to one of the tables they were read from. Only where this server alone writes: with a
 * database server that others may write to as well, everything is read each time. Whoever gets a value must not change it.
 */
export class Kept {
  readonly #values = new LRUCache<string, { changes: number; value: Promise<unknown> }>({ max: mostKept });

  /**
   * @param statements of the one connection that writes; null: others write too
   * @param compare reads each kept value anew and throws where it is another; for tests
   */
  constructor(
    private readonly statements: Statements | null,
    private readonly compare = false,
  ) {}

  /** How often a statement may have changed one of the tables; null where nobody knows. */
  changes(tables: readonly Table[]): number | null {
    return this.statements && this.statements.changes(tables.map(getTableName));
  }

  /** @param name what is read; the same name is the same value */
  async read<T>(name: string, tables: readonly Table[], load: () => PromiseLike<T>): Promise<T> {
    // Counted before it is read: what is written meanwhile makes it old at once.
    const changes = this.changes(tables);
    if (changes === null) return await load();
    const before = this.#values.get(name);
    if (before?.changes === changes) {
      const value = (await before.value) as T;
      if (this.compare) await this.#mustEqual(name, tables, changes, value, load);
      return value;
    }
    // A query begins each time somebody waits for it: here once.
    const value = Promise.resolve(load());
    this.#values.set(name, { changes, value });
    try {
      return await value;
    } catch (error) {
      if (this.#values.peek(name)?.value === value) this.#values.delete(name);
      throw error;
    }
  }

  async #mustEqual<T>(name: string, tables: readonly Table[], changes: number, value: T, load: () => PromiseLike<T>): Promise<void> {
    const fresh = await load();
    if (this.changes(tables) === changes && !isDeepStrictEqual(fresh, value)) throw new Error(`What is kept of "${name}" is not what is stored`);
  }
}
