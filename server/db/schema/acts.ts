// Accepted commands, and who did what.
import { index, integer, json, pgTable, serial, text } from 'drizzle-orm/pg-core';
import { moment } from './columns';
import { person } from './people';

/** Table. Accepted commands by their browser-made id: the same id again is answered from here and done only once. Forgotten after a month (server/acts/commands.ts). */
export const command = pgTable(
  'command',
  {
    id: text().primaryKey(),
    /** SHA-256 of what was asked: the same id with another payload is a conflict. */
    hash: text().notNull(),
    answer: json().$type<{ value?: unknown }>().notNull(),
    at: moment('at').notNull(),
  },
  (t) => [index('command_at').on(t.at)],
);

export const audit = pgTable(
  'audit',
  {
    id: serial().primaryKey(),
    at: moment('at').notNull(),
    /** Null where nobody was signed in. */
    by: text().references(() => person.id),
    action: text().notNull(),
    caseId: integer('case_id'),
    detail: json().$type<Record<string, unknown>>().notNull(),
  },
  (t) => [index('audit_case').on(t.caseId)],
);

/** Tables whose rows are only ever added; a trigger of the first migration holds it. */
export const appendOnly = [
  'document',
  'authority',
  'run_event',
  'evidence',
  'ability',
  'audit',
  'custody',
  'counter_reading',
  'scan',
  'replacement',
  'state_change',
  'lamp_look',
  'lamp_reading',
  'measurement',
  'step_try',
  'capture_aside',
  'price_book',
] as const;
