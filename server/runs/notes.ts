import { desc, eq, inArray } from 'drizzle-orm';
import { caseFile, run, runEvent } from '../db/schema';
import type { Services } from '../services/services';

/** A note that somebody made at a step while a run went on. */
export interface StepNote {
  step: string;
  note: string;
  by: string;
  /** Milliseconds. */
  at: number;
  caseId: number;
}

/** So many runs are looked through for notes, the newest first, and so many notes of a step are told. */
const mostRuns = 200;
const mostOfStep = 5;

/** Notes made at the steps of procedures, the newest first; those that were taken back are left out. */
export const stepNotes = ({ kept, database: { db } }: Services, procedures: readonly string[]): Promise<StepNote[]> =>
  kept.read(`step notes ${procedures.join(' ')}`, [run, runEvent, caseFile], async () => {
    const rows = await db
      .select({ id: run.id, caseId: run.caseId })
      .from(run)
      .innerJoin(caseFile, eq(run.caseId, caseFile.id))
      .where(inArray(run.procedureId, [...procedures]))
      .orderBy(desc(run.id))
      .limit(mostRuns);
    if (rows.length === 0) return [];
    const caseOf = new Map(rows.map((r) => [r.id, r.caseId]));
    const events = await db
      .select({ runId: runEvent.runId, event: runEvent.event })
      .from(runEvent)
      .where(inArray(runEvent.runId, [...caseOf.keys()]))
      .orderBy(desc(runEvent.runId), desc(runEvent.seq));
    const retracted = new Set(events.flatMap(({ runId, event }) => (event.type === 'retracted' ? [`${runId} ${event.event}`] : [])));
    const counts = new Map<string, number>();
    return events.flatMap(({ runId, event }): StepNote[] => {
      const note =
        event.type === 'answered' || event.type === 'interrupted' || (event.type === 'noted' && !event.late)
          ? event.note
          : event.type === 'waived'
            ? event.reason
            : undefined;
      if (!note || !('step' in event) || retracted.has(`${runId} ${event.id}`)) return [];
      const count = (counts.get(event.step) ?? 0) + 1;
      counts.set(event.step, count);
      return count > mostOfStep ? [] : [{ step: event.step, note, by: event.actor.name, at: event.occurredAt, caseId: caseOf.get(runId)! }];
    });
  });
