// Procedures that were gone through, event by event.
import { index, integer, json, pgTable, primaryKey, serial, text } from 'drizzle-orm/pg-core';
import type { ResolvedParam } from '../../../core/library';
import type { RunEvent } from '../../../core/procedure';
import { caseFile } from './cases';
import { moment, versioned } from './columns';

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
    event: versioned<RunEvent>('event', 'event').notNull(),
  },
  (t) => [primaryKey({ columns: [t.runId, t.seq] })],
);
