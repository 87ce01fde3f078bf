// What there is before there is a case.
import { type AnyPgColumn, integer, json, pgTable, serial, text } from 'drizzle-orm/pg-core';
import type { ToldCaller } from '../../../core/call';
import type { LampMoment } from '../../../core/library';
import { customer, caseFile } from './cases';
import { moment, versioned } from './columns';
import { person } from './people';

/** Table. What was typed into an intake that is not finished. */
export const draft = pgTable('draft', {
  id: text().primaryKey(),
  by: text()
    .notNull()
    .references(() => person.id),
  /** Fields of the form as they stand in it, checked only when the case is opened. */
  fields: json().$type<Record<string, unknown>>().notNull(),
  updatedAt: moment('updated_at').notNull(),
});

/** Table. A call before there is a vehicle. It may become the intake of a case. */
export const call = pgTable('call', {
  id: serial().primaryKey(),
  customerId: integer('customer_id').references(() => customer.id),
  vehicle: text().notNull(),
  plate: text().notNull(),
  words: text().notNull(),
  /** `family:…` or `profile:…`; empty when the caller can't say. */
  system: text().notNull(),
  /** Answers to the questions of the call sheet. */
  answers: json().$type<Record<string, string>>().notNull(),
  /** What the lamp does in a film that was watched, tapped along. */
  film: versioned<FilmedLamp>('film', 'film'),
  /** What the caller was told, as it stood on the sheet. */
  told: json().$type<ToldCaller>().notNull(),
  /** The case that it became. */
  caseId: integer('case_id').references((): AnyPgColumn => caseFile.id),
  by: text()
    .notNull()
    .references(() => person.id),
  at: moment('at').notNull(),
  changedAt: moment('changed_at').notNull(),
});

export interface FilmedLamp {
  moment: LampMoment;
  lit: [number, number][];
  litAtEnd: boolean;
  lengthS: number;
}
