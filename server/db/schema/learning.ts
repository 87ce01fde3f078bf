// What closed cases have taught: a lesson for each, their sums by system type, and what came from other shops.
import { sql } from 'drizzle-orm';
import { boolean, index, integer, json, pgTable, serial, text } from 'drizzle-orm/pg-core';
import type { Exchange, Lesson, Tallies } from '../../../core/learning';
import { caseFile } from './cases';
import { moment, versioned } from './columns';
import { person } from './people';

/** Table. What a closed case teaches; it goes when the case is opened again or comes back, and stays unused while it is taken out. */
export const lesson = pgTable(
  'lesson',
  {
    caseId: integer('case_id')
      .primaryKey()
      .references(() => caseFile.id),
    familyId: text('family_id').notNull(),
    lesson: versioned<Lesson>('lesson', 'lesson').notNull(),
    /** Beside the lesson, so that the few of many are found. */
    missed: boolean().notNull(),
    /** Why it does not count; null: it does. */
    leftOut: text('left_out'),
  },
  (t) => [
    index('lesson_missed')
      .on(t.caseId)
      .where(sql`missed`),
    index('lesson_left_out')
      .on(t.caseId)
      .where(sql`left_out is not null`),
  ],
);

/** Table. Sums of the lessons that count, by system type. */
export const tally = pgTable('tally', {
  familyId: text('family_id').primaryKey(),
  tallies: versioned<Tallies>('tallies', 'tallies').notNull(),
});

/** Table. What another shop has learned, as it came; removed whole. */
export const learnedElsewhere = pgTable('learned_elsewhere', {
  id: serial().primaryKey(),
  shop: text().notNull(),
  families: json().$type<Exchange['families']>().notNull(),
  by: text()
    .notNull()
    .references(() => person.id),
  at: moment('at').notNull(),
});
