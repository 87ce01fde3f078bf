// Kinds of columns that several tables have.
import { bigint, customType } from 'drizzle-orm/pg-core';

/** A moment: milliseconds of the case's clock (server/services/clock.ts), not of any wall clock. */
export const moment = (name: string) => bigint(name, { mode: 'number' });

/** Words of a case in the form PostgreSQL searches (server/record/search.ts). */
export const searchWords = customType<{ data: string }>({ dataType: () => 'tsvector' });
export const binary = customType<{ data: Uint8Array }>({ dataType: () => 'bytea' });
