// Kinds of columns that several tables have.
import { bigint, customType } from 'drizzle-orm/pg-core';
import { asStored, readStored, type StoredKind } from './stored';

/** A moment: milliseconds of the case's clock (server/services/clock.ts), not of any wall clock. */
export const moment = (name: string) => bigint(name, { mode: 'number' });

/** Words of a case in the form PostgreSQL searches (server/record/search.ts). */
export const searchWords = customType<{ data: string }>({ dataType: () => 'tsvector' });
export const binary = customType<{ data: Uint8Array }>({ dataType: () => 'bytea' });

/** JSON that carries the version of its form; what is read is always of today's (stored.ts). */
export const versioned = <T>(name: string, kind: StoredKind) =>
  customType<{ data: T; driverData: unknown }>({
    dataType: () => 'json',
    toDriver: (value) => JSON.stringify(asStored(kind, value)),
    fromDriver: (stored) => readStored(kind, typeof stored === 'string' ? JSON.parse(stored) : stored) as T,
  })(name);
