// How the shop's backups are kept.
import { integer, pgTable, text } from 'drizzle-orm/pg-core';

/** Table. How often a backup is made, hours, and how many stay (server/backup/keeping.ts): one row, or none until the owner says otherwise. */
export const backupRule = pgTable('backup_rule', {
  id: text().$type<'rule'>().primaryKey(),
  everyHours: integer('every_hours').notNull(),
  days: integer().notNull(),
  weeks: integer().notNull(),
  months: integer().notNull(),
});
