// What is known in a case, line by line.
import { doublePrecision, foreignKey, index, integer, pgTable, serial, text, unique } from 'drizzle-orm/pg-core';
import type { AbilityResult } from '../../../core/library';
import { caseFile, caseKey } from './cases';
import { moment } from './columns';
import { lampLook, measurement } from './instruments';
import { person } from './people';
import { run } from './runs';

/**
 * What a line of the ledger tells: a test; a repair; the suspected cause brought back once to see it fail, and taken away again; one try of those that
 * confirm a fix.
 */
export const repairActionKinds = ['repair', 'broughtBack', 'takenAway', 'triedAgain'] as const;
export type RepairActionKind = (typeof repairActionKinds)[number];
export type LineKind = 'test' | RepairActionKind;

export const evidence = pgTable(
  'evidence',
  {
    id: text().primaryKey(),
    caseId: integer('case_id')
      .notNull()
      .references(() => caseFile.id),
    seq: integer().notNull(),
    kind: text().$type<LineKind>().notNull().default('test'),
    /** Id of the test; of the fault, where something was done about one. */
    test: text().notNull(),
    /** Of a test its outcome, else `works` or `fails`. Null withdraws the entry that `replaces` names. */
    outcome: text(),
    keyTag: text('key_tag'),
    note: text().notNull(),
    replaces: text(),
    /** The run's event that brought it, if a run did. */
    runId: integer('run_id').references(() => run.id),
    eventId: text('event_id'),
    /** The look that was read, if a lamp was. */
    lookId: text('look_id').references(() => lampLook.id),
    /** The measurement that it is taken from, if an instrument made one. */
    measurementId: text('measurement_id').references(() => measurement.id),
    /** How long it took, counted from the opening of the test or put right by hand; null: nobody counted. */
    minutes: doublePrecision(),
    /** The version of the family whose words were on the buttons. */
    familyHash: text('family_hash').notNull(),
    by: text()
      .notNull()
      .references(() => person.id),
    occurredAt: moment('occurred_at').notNull(),
    receivedAt: moment('received_at').notNull(),
  },
  (t) => [unique('evidence_case_seq').on(t.caseId, t.seq), foreignKey({ columns: [t.replaces], foreignColumns: [t.id] })],
);

/** Table. One judgement of one ability of one key; the latest counts. */
export const ability = pgTable(
  'ability',
  {
    id: serial().primaryKey(),
    caseId: integer('case_id').notNull(),
    keyTag: text('key_tag').notNull(),
    ability: text().notNull(),
    result: text().$type<AbilityResult>().notNull(),
    /** What the customer says is kept apart from what somebody here saw. */
    source: text().$type<'told' | 'seen'>().notNull().default('seen'),
    by: text()
      .notNull()
      .references(() => person.id),
    at: moment('at').notNull(),
  },
  (t) => [foreignKey({ columns: [t.caseId, t.keyTag], foreignColumns: [caseKey.caseId, caseKey.tag] }), index('ability_case').on(t.caseId)],
);
