import { and, asc, count, desc, eq, inArray, isNull, max, ne } from 'drizzle-orm';
import { LRUCache } from 'lru-cache';
import { valuesOf } from '../../core/library';
import { type Paces, pacesOf } from '../../core/procedure';
import type { Db } from '../db/open';
import { lesson, run, runEvent } from '../db/schema';
import type { Services } from '../services/services';
import { programOf } from './runs';

/** So many runs of a procedure are looked through, the newest first. */
const mostRuns = 40;
/** Procedures whose times are kept. */
const mostKept = 200;

/** Runs that have ended, without those of cases that the shop does not learn from. */
const counts = and(ne(run.status, 'running'), isNull(lesson.leftOut));

/** By database: times that were counted, by the runs that they were counted from. */
const counted = new WeakMap<Db, LRUCache<string, Promise<Paces>>>();

/** How long each act of a procedure took in this shop, over all its versions, without cases that it does not learn from. */
export async function shopPaces(services: Services, procedureId: string): Promise<Paces> {
  const { kept, database } = services;
  const ended = await kept.read('runs that have ended', [run, lesson], async () => {
    const rows = await database.db
      .select({ procedure: run.procedureId, last: max(run.id), n: count() })
      .from(run)
      .leftJoin(lesson, eq(lesson.caseId, run.caseId))
      .where(counts)
      .groupBy(run.procedureId);
    // An older run may end after a newer one: the number tells of it.
    return Object.fromEntries(rows.map((r) => [r.procedure, `${r.last} ${r.n}`]));
  });
  const last = ended[procedureId];
  if (last === undefined) return {};
  let known = counted.get(database.db);
  if (!known) counted.set(database.db, (known = new LRUCache({ max: mostKept })));
  const name = `${procedureId} ${last}`;
  const before = known.get(name);
  if (before) return before;
  const paces = countPaces(services, procedureId);
  known.set(name, paces);
  paces.catch(() => known.delete(name));
  return paces;
}

async function countPaces({ database: { db }, documents }: Services, procedureId: string): Promise<Paces> {
  const runs = await db
    .select({ run })
    .from(run)
    .leftJoin(lesson, eq(lesson.caseId, run.caseId))
    .where(and(eq(run.procedureId, procedureId), counts))
    .orderBy(desc(run.id))
    .limit(mostRuns);
  const events = await db
    .select({ runId: runEvent.runId, event: runEvent.event })
    .from(runEvent)
    .where(
      inArray(
        runEvent.runId,
        runs.map((r) => r.run.id),
      ),
    )
    .orderBy(asc(runEvent.runId), asc(runEvent.seq));
  const paces: Record<string, number[]> = {};
  for (const { run: r } of runs) {
    const procedure = await documents.procedure({ id: r.procedureId, version: r.procedureVersion, hash: r.procedureHash });
    const own = events.filter((e) => e.runId === r.id).map((e) => e.event);
    for (const { step, seconds } of pacesOf(programOf(procedure), valuesOf(r.params), own)) (paces[step] ??= []).push(seconds);
  }
  return paces;
}
