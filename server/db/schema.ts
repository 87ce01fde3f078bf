import { bigint, boolean, doublePrecision, foreignKey, index, integer, json, pgTable, primaryKey, serial, text, unique } from 'drizzle-orm/pg-core';
import type { DocumentBody, DocumentKind } from '../../content/reader';
import type { ResolvedParam } from '../../core/library';
import type { RunEvent } from '../../core/procedure';

/** A moment: milliseconds of the case's clock (server/clock.ts), not of any wall clock. */
const moment = (name: string) => bigint(name, { mode: 'number' });

export type Role = 'technician' | 'lead' | 'owner';

export const person = pgTable('person', {
  id: text().primaryKey(),
  name: text().notNull(),
  initials: text().notNull(),
  roles: json().$type<Role[]>().notNull(),
});

export const clockDomain = pgTable('clock_domain', {
  id: text().primaryKey(),
  rate: doublePrecision().notNull(),
  /** At this moment of the domain … */
  anchorClock: moment('anchor_clock').notNull(),
  /** … the wall clock said this, */
  anchorWall: moment('anchor_wall').notNull(),
  /** and this machine, in this boot, had been up so long. */
  bootId: text('boot_id'),
  anchorUptime: moment('anchor_uptime'),
  /** When the time had to be taken from the wall clock after a reboot: from this moment on it rests on it. */
  wallSince: moment('wall_since'),
});

export const bay = pgTable('bay', { id: text().primaryKey(), name: text().notNull(), position: integer().notNull() });

/** Every version of every library document; rows are never changed. `body` is json, not jsonb: the order of answers is their order on screen. */
export const document = pgTable(
  'document',
  {
    kind: text().$type<DocumentKind>().notNull(),
    id: text().notNull(),
    version: integer().notNull(),
    hash: text().notNull(),
    origin: text().$type<'shipped' | 'shop'>().notNull(),
    body: json().$type<DocumentBody>().notNull(),
    enteredAt: moment('entered_at').notNull(),
  },
  (t) => [primaryKey({ columns: [t.kind, t.id, t.version] })],
);

/** Personal data stands by itself, so that it can be exported and erased. */
export const customer = pgTable('customer', { id: serial().primaryKey(), name: text().notNull(), phone: text().notNull() });

export const caseFile = pgTable(
  'case_file',
  {
    id: serial().primaryKey(),
    domain: text()
      .notNull()
      .references(() => clockDomain.id),
    state: text().$type<'open' | 'closed'>().notNull(),
    bayId: text('bay_id').references(() => bay.id),
    customerId: integer('customer_id').references(() => customer.id),
    vehicle: text().notNull(),
    year: integer(),
    identification: text().notNull(),
    plate: text().notNull(),
    words: text().notNull(),
    changed: json().$type<{ what: string; note: string }[]>().notNull(),
    symptoms: json().$type<string[]>().notNull(),
    familyId: text('family_id').notNull(),
    familyVersion: integer('family_version').notNull(),
    familyHash: text('family_hash').notNull(),
    profileId: text('profile_id'),
    profileVersion: integer('profile_version'),
    profileHash: text('profile_hash'),
    openedAt: moment('opened_at').notNull(),
    openedBy: text('opened_by')
      .notNull()
      .references(() => person.id),
    closedAt: moment('closed_at'),
    closedBy: text('closed_by').references(() => person.id),
    outcome: text(),
  },
  (t) => [index('case_file_state').on(t.state, t.id)],
);

export const caseKey = pgTable(
  'case_key',
  {
    caseId: integer('case_id')
      .notNull()
      .references(() => caseFile.id),
    tag: text().notNull(),
    role: text().notNull(),
    note: text().notNull(),
    present: boolean().notNull(),
  },
  (t) => [primaryKey({ columns: [t.caseId, t.tag] })],
);

export const authority = pgTable('authority', {
  id: serial().primaryKey(),
  caseId: integer('case_id')
    .notNull()
    .references(() => caseFile.id),
  kind: text().notNull(),
  note: text().notNull(),
  by: text()
    .notNull()
    .references(() => person.id),
  at: moment('at').notNull(),
});

export const run = pgTable(
  'run',
  {
    id: serial().primaryKey(),
    caseId: integer('case_id')
      .notNull()
      .references(() => caseFile.id),
    procedureId: text('procedure_id').notNull(),
    procedureVersion: integer('procedure_version').notNull(),
    procedureHash: text('procedure_hash').notNull(),
    /** The numbers this run works with, as they were at its start, each with its source. */
    params: json().$type<Record<string, ResolvedParam>>().notNull(),
    /** Follows from the events; kept here so that open runs are found without reading them all. */
    status: text().$type<'running' | 'finished' | 'stopped'>().notNull(),
    startedAt: moment('started_at').notNull(),
    endedAt: moment('ended_at'),
  },
  (t) => [index('run_status').on(t.status), index('run_case').on(t.caseId)],
);

export const runEvent = pgTable(
  'run_event',
  {
    runId: integer('run_id')
      .notNull()
      .references(() => run.id),
    seq: integer().notNull(),
    id: text().notNull().unique(),
    event: json().$type<RunEvent>().notNull(),
  },
  (t) => [primaryKey({ columns: [t.runId, t.seq] })],
);

export const evidence = pgTable(
  'evidence',
  {
    id: text().primaryKey(),
    caseId: integer('case_id')
      .notNull()
      .references(() => caseFile.id),
    seq: integer().notNull(),
    test: text().notNull(),
    /** Null withdraws the entry that `replaces` names. */
    outcome: text(),
    keyTag: text('key_tag'),
    note: text().notNull(),
    replaces: text(),
    /** The run's event that brought it, if a run did. */
    runId: integer('run_id').references(() => run.id),
    eventId: text('event_id'),
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

/** One judgement of one ability of one key; the latest counts. */
export const ability = pgTable(
  'ability',
  {
    id: serial().primaryKey(),
    caseId: integer('case_id').notNull(),
    keyTag: text('key_tag').notNull(),
    ability: text().notNull(),
    result: text().$type<'yes' | 'no' | 'cannotJudge'>().notNull(),
    by: text()
      .notNull()
      .references(() => person.id),
    at: moment('at').notNull(),
  },
  (t) => [foreignKey({ columns: [t.caseId, t.keyTag], foreignColumns: [caseKey.caseId, caseKey.tag] }), index('ability_case').on(t.caseId)],
);

/** Accepted commands by their browser-made id: the same id again is answered from here and done only once. */
export const command = pgTable('command', {
  id: text().primaryKey(),
  /** SHA-256 of what was asked: the same id with another payload is a conflict. */
  hash: text().notNull(),
  answer: json().$type<{ value?: unknown }>().notNull(),
  at: moment('at').notNull(),
});

export const audit = pgTable('audit', {
  id: serial().primaryKey(),
  at: moment('at').notNull(),
  by: text()
    .notNull()
    .references(() => person.id),
  action: text().notNull(),
  caseId: integer('case_id'),
  detail: json().$type<Record<string, unknown>>().notNull(),
});

/** Tables whose rows are only ever added; a trigger of the first migration holds it. */
export const appendOnly = ['document', 'authority', 'run_event', 'evidence', 'ability', 'command', 'audit'] as const;
