import { desc, eq, inArray, ne, and, asc } from 'drizzle-orm';
import { valuesOf } from '../../core/library';
import { type ExtraTries, extraTries } from '../../core/procedure';
import { run, runEvent } from '../db/schema';
import type { Services } from '../services/services';
import { programOf } from './runs';

/** So many runs of a procedure are looked through, the newest first. */
const mostRuns = 200;

/** How often an extra cycle of a procedure brought it in this shop, over all its versions; runs that are still going on don't count. */
export const shopOdds = ({ kept, database: { db }, documents }: Services, procedureId: string): Promise<ExtraTries> =>
  kept.read(`odds ${procedureId}`, [run], async () => {
    const rows = await db
      .select()
      .from(run)
      .where(and(eq(run.procedureId, procedureId), ne(run.status, 'running')))
      .orderBy(desc(run.id))
      .limit(mostRuns);
    if (rows.length === 0) return { tried: 0, brought: 0 };
    const ids = rows.map((r) => r.id);
    const events = await db
      .select({ runId: runEvent.runId, event: runEvent.event })
      .from(runEvent)
      .where(inArray(runEvent.runId, ids))
      .orderBy(asc(runEvent.runId), asc(runEvent.seq));
    const total = { tried: 0, brought: 0 };
    for (const r of rows) {
      const procedure = await documents.procedure({ id: r.procedureId, version: r.procedureVersion, hash: r.procedureHash });
      const own = events.filter((e) => e.runId === r.id).map((e) => e.event);
      const { tried, brought } = extraTries(programOf(procedure), valuesOf(r.params), own);
      total.tried += tried;
      total.brought += brought;
    }
    return total;
  });
