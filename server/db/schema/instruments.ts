// What the instruments of the bench saw and read.
import { sql } from 'drizzle-orm';
import { boolean, doublePrecision, index, integer, json, pgTable, serial, text } from 'drizzle-orm/pg-core';
import type { LampReading } from '../../../core/lamp';
import type { DocumentPin, LampMoment } from '../../../core/library';
import { caseFile } from './cases';
import { moment, versioned } from './columns';
import { person } from './people';

/** Table. A lamp that was watched: the raw taps, kept as they came. */
export const lampLook = pgTable(
  'lamp_look',
  {
    id: text().primaryKey(),
    caseId: integer('case_id')
      .notNull()
      .references(() => caseFile.id),
    keyTag: text('key_tag'),
    moment: text().$type<LampMoment>().notNull(),
    origin: text().$type<LookOrigin>().notNull(),
    /** Name of the file it came from. */
    file: text().notNull(),
    /** Begin and end of each light, seconds from the beginning of the look; none when it was judged by eye. */
    lit: versioned<[number, number][]>('lit', 'lights').notNull(),
    litAtEnd: boolean('lit_at_end').notNull(),
    lengthS: doublePrecision('length_s').notNull(),
    by: text()
      .notNull()
      .references(() => person.id),
    at: moment('at').notNull(),
  },
  (t) => [index('lamp_look_case').on(t.caseId)],
);

/** Table. How a look was read in one family; another family, another reading. */
export const lampReading = pgTable(
  'lamp_reading',
  {
    id: serial().primaryKey(),
    lookId: text('look_id')
      .notNull()
      .references(() => lampLook.id),
    family: json().$type<DocumentPin>().notNull(),
    state: text().$type<LampReading['state']>().notNull(),
    /** The likeliest pattern, or `none`. */
    pattern: text().notNull(),
    /** How likely it is; null when it was judged by eye. */
    p: doublePrecision(),
    verdict: text().notNull(),
    at: moment('at').notNull(),
  },
  (t) => [index('lamp_reading_look').on(t.lookId)],
);

/** Table. What an instrument of the bench measured in a case: all that was read, as it came, and what it was taken for. */
export const measurement = pgTable(
  'measurement',
  {
    id: text().primaryKey(),
    caseId: integer('case_id')
      .notNull()
      .references(() => caseFile.id),
    keyTag: text('key_tag'),
    kind: text().$type<MeasurementKind>().notNull(),
    /** By its form in server/ledger/measurements/form.ts. */
    raw: versioned<unknown>('raw', 'raw').notNull(),
    verdict: text().notNull(),
    /** Steps of a key's pellets, by side; null for other kinds. */
    steps: json().$type<(number | null)[]>(),
    /** Where the values come from a simulated device. */
    simulated: boolean().notNull(),
    by: text()
      .notNull()
      .references(() => person.id),
    at: moment('at').notNull(),
  },
  (t) => [index('measurement_case').on(t.caseId), index('measurement_ladder').on(sql`((${t.raw} -> 'ladder') ->> 'id')`)],
);
export const measurementKinds = ['pellet', 'wiring', 'wiggle', 'trials', 'bursts', 'slots'] as const;
export type MeasurementKind = (typeof measurementKinds)[number];

/** Table. A capture of bursts that was made wrongly: nothing is compared with it any more. */
export const captureAside = pgTable(
  'capture_aside',
  {
    /** Of the measurement. */
    id: text()
      .primaryKey()
      .references(() => measurement.id),
    caseId: integer('case_id')
      .notNull()
      .references(() => caseFile.id),
    reason: text().notNull(),
    by: text()
      .notNull()
      .references(() => person.id),
    at: moment('at').notNull(),
  },
  (t) => [index('capture_aside_case').on(t.caseId)],
);

/** Table. A step of a ladder that was tried with a resistor, while nobody knows the right one. */
export const stepTry = pgTable(
  'step_try',
  {
    id: text().primaryKey(),
    caseId: integer('case_id')
      .notNull()
      .references(() => caseFile.id),
    ladder: json().$type<DocumentPin>().notNull(),
    step: integer().notNull(),
    /** What was put in place of the contacts, in ohms. */
    resistor: text().notNull(),
    /** Null takes the try back that `replaces` names. */
    result: text().$type<'refused' | 'accepted'>(),
    replaces: text(),
    by: text()
      .notNull()
      .references(() => person.id),
    at: moment('at').notNull(),
  },
  (t) => [index('step_try_case').on(t.caseId)],
);

/** Where a look comes from: tapped along with, a file of an instrument, a film that was watched, or judged without taps. */
export type LookOrigin = 'tapped' | 'file' | 'film' | 'eye';
