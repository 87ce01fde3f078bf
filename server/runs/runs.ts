import { and, asc, eq, inArray, max } from 'drizzle-orm';
import type { Library } from '../../content/reader';
import { closedBecause, type DocumentPin, type OnRecord, type ResolvedParam, resolveParams, serves, valuesOf, withNumbers } from '../../core/library';
import {
  apply,
  type BatteryFacts,
  compile,
  decide,
  evidenceOf,
  fold,
  keysRefused,
  lacking,
  paramsAt,
  type Procedure,
  type Program,
  proposedKeys,
  type RunEvent,
  type RunState,
  valuesAt,
} from '../../core/procedure';
import { type CaseRecord, keysHere, loadCase, onRecord, openCaseForChange, stillOpen } from '../record/cases';
import { type Act, actOnce } from '../acts/commands';
import type { Db, Reader, Tx } from '../db/open';
import { bay, caseFile, run, runEvent } from '../db/schema';
import type { Documents } from '../library/documents';
import { procedureToRun } from '../library/procedures';
import { refused } from '../base/expected';
import type { RunCommand } from './forms';
import { append, withdrawal } from '../ledger/ledger';
import { notify } from '../acts/live';
import { withinAgreement } from '../billing/agreed';
import { caseNumbers, readNumber } from '../ledger/numbers';
import { may } from '../acts/rights';
import type { Services } from '../services/services';

/** A run with all that is needed to fold and show it, here or in the browser. */
export interface RunRecord {
  id: number;
  caseId: number;
  procedure: Procedure;
  params: Record<string, ResolvedParam>;
  events: RunEvent[];
  status: 'running' | 'finished' | 'stopped';
}

const programs = new WeakMap<Procedure, Program>();
/** A procedure is laid out once; pinned documents are the same objects each time. */
export function programOf(procedure: Procedure): Program {
  let program = programs.get(procedure);
  if (!program) programs.set(procedure, (program = compile(procedure)));
  return program;
}

const folded = new WeakMap<RunRecord, RunState>();
/** A run that has no new event is the same record, and stands where it stood. */
export function foldRun(r: RunRecord): RunState {
  let state = folded.get(r);
  if (!state) folded.set(r, (state = fold(programOf(r.procedure), valuesOf(r.params), r.events)));
  return state;
}

const pinOf = (row: typeof run.$inferSelect): DocumentPin => ({ id: row.procedureId, version: row.procedureVersion, hash: row.procedureHash });

export async function loadRun(db: Reader, documents: Documents, id: number): Promise<RunRecord | undefined> {
  const [row] = await db.select().from(run).where(eq(run.id, id));
  return row && runOf(db, documents, row);
}

async function runOf(db: Reader, documents: Documents, row: typeof run.$inferSelect): Promise<RunRecord> {
  const rows = await db.select({ event: runEvent.event }).from(runEvent).where(eq(runEvent.runId, row.id)).orderBy(asc(runEvent.seq));
  return recordOf(
    db,
    documents,
    row,
    rows.map((r) => r.event),
  );
}

const recordOf = async (db: Reader, documents: Documents, row: typeof run.$inferSelect, events: RunEvent[]): Promise<RunRecord> => ({
  id: row.id,
  caseId: row.caseId,
  procedure: await documents.procedure(pinOf(row), db),
  params: row.params,
  events,
  status: row.status,
});

export interface OpenRun extends RunRecord {
  vehicle: string;
  bay: string | null;
  record: OnRecord;
}

/** A run as its page shows it. */
export const keptRun = ({ kept, database, documents }: Services, id: number): Promise<RunRecord | undefined> =>
  kept.read(`run ${id}`, [run, runEvent], () => loadRun(database.db, documents, id));

/** Open runs as they were read last, by shop: one that has no new event since is the same record, and its fold is kept with it. */
const lastRead = new WeakMap<Services, Map<number, OpenRun>>();

/** Every run that is going on in the shop. */
export const keptOpenRuns = (services: Services): Promise<OpenRun[]> =>
  services.kept.read('open runs', [run, runEvent, caseFile, bay], async () => {
    const runs = await openRuns(services, lastRead.get(services) ?? new Map<number, OpenRun>());
    lastRead.set(services, new Map(runs.map((r) => [r.id, r])));
    return runs;
  });

async function openRuns({ database: { db }, documents }: Services, before: ReadonlyMap<number, OpenRun>): Promise<OpenRun[]> {
  const rows = await db
    .select({ id: run.id, vehicle: caseFile.vehicle, bay: bay.name, last: max(runEvent.seq) })
    .from(run)
    .innerJoin(caseFile, eq(run.caseId, caseFile.id))
    .leftJoin(bay, eq(caseFile.bayId, bay.id))
    .leftJoin(runEvent, eq(runEvent.runId, run.id))
    .where(eq(run.status, 'running'))
    .groupBy(run.id, caseFile.vehicle, bay.name)
    .orderBy(asc(run.id));
  const moved = rows.filter((r) => before.get(r.id)?.events.at(-1)?.seq !== r.last).map((r) => r.id);
  const read = await runsOf(db, documents, moved);
  return rows.flatMap(({ id, vehicle, bay }) => {
    const known = before.get(id);
    // One that moved and was not read has ended between the two questions.
    const record = moved.includes(id) ? read.get(id) : known;
    if (known && record === known && known.vehicle === vehicle && known.bay === bay) return known;
    return record ? { ...record, vehicle, bay, record: { authority: true, keysAbsent: [] } } : [];
  });
}

/** These runs with their events, by id; each document is read once. */
async function runsOf(db: Db, documents: Documents, ids: readonly number[]): Promise<Map<number, RunRecord>> {
  if (ids.length === 0) return new Map();
  const rows = await db
    .select()
    .from(run)
    .where(and(inArray(run.id, [...ids]), eq(run.status, 'running')));
  const events = await db
    .select({ runId: runEvent.runId, event: runEvent.event })
    .from(runEvent)
    .where(inArray(runEvent.runId, [...ids]))
    .orderBy(asc(runEvent.runId), asc(runEvent.seq));
  const byRun = new Map<number, RunEvent[]>(ids.map((id) => [id, []]));
  for (const { runId, event } of events) byRun.get(runId)!.push(event);
  const runs = new Map<number, RunRecord>();
  for (const row of rows) runs.set(row.id, await recordOf(db, documents, row, byRun.get(row.id)!));
  return runs;
}

/**
 * Begins a run: gate, keys, and the numbers as they are now.
 * @param chosen tags in their order; left open: those that the procedure asks for
 */
export async function startRun(
  db: Db,
  documents: Documents,
  library: Library,
  act: Act,
  caseId: number,
  procedureId: string,
  chosen?: readonly string[],
): Promise<{ id: number }> {
  return actOnce(
    db,
    act,
    { right: 'work', action: 'run started', payload: [caseId, procedureId, ...(chosen ? [chosen] : [])], caseId },
    async (tx) => {
      const record = await openCaseForChange(tx, caseId);
      const found = await procedureToRun(tx, library, procedureId);
      if (!found) throw refused(400, 'unknownProcedure', `"${procedureId}" is not in the library.`, 'procedure');
      const { pin, procedure } = found;
      if (!serves(procedure, record.family.id))
        throw refused(
          400,
          'wrongFamily',
          `"${procedure.title}" belongs to another system type than this vehicle. Identify the system first.`,
          'procedure',
        );
      if (record.runs.some((r) => r.status === 'running'))
        throw refused(409, 'running', 'A run of this case is already in progress. Open it from the case.');
      const shut = closedBecause(procedure.effect, onRecord(record));
      if (shut.length > 0) throw refused(403, 'gateClosed', shut.join(' '));
      const here = keysHere(record);
      if (here.length === 0) throw refused(409, 'noKeys', 'No key is here. The run needs the main key in your hand.');
      const keys = [...(chosen ?? proposedKeys(procedure.keys, here))];
      const unfit = keysRefused(procedure.keys, here, keys);
      if (unfit !== null) throw refused(409, 'keysUnfit', unfit, 'keys');
      const family = await documents.family(record.family, tx);
      await withinAgreement(tx, record, family, procedure, act.now);
      const profile = record.profile ? await documents.profile(record.profile, tx) : undefined;
      // What an earlier run of this case had to ask for is known now.
      const params = paramsAt(resolveParams(withNumbers(family, procedure), profile), await caseNumbers(tx, caseId));
      const missing = lacking(procedure, family);
      if (missing.length > 0) {
        const names = missing.map((name) => library.families.get(record.family.id)?.params[name]?.label ?? name).join(', ');
        throw refused(
          409,
          'olderType',
          `This case uses an older version of its system type, which has no number for: ${names}. Identify the system again, then start the run.`,
          'procedure',
        );
      }
      const [created] = await tx
        .insert(run)
        .values({
          caseId,
          procedureId: pin.id,
          procedureVersion: pin.version,
          procedureHash: pin.hash,
          params,
          status: 'running',
          startedAt: act.now,
        })
        .returning({ id: run.id });
      const id = created!.id;
      const event: RunEvent = {
        id: act.id,
        seq: 0,
        actor: { id: act.actor.id, name: act.actor.name },
        occurredAt: act.now,
        receivedAt: act.now,
        type: 'started',
        keys,
      };
      await tx.insert(runEvent).values({ runId: id, seq: 0, id: event.id, event });
      const facts = await batteryOf(
        tx,
        record.runs.map((r) => r.id),
      );
      if (facts) {
        const { type: _started, keys: _keys, ...common } = event;
        // Whether a maintainer is still connected nobody knows.
        const known: RunEvent = { ...common, id: `${act.id}-battery`, seq: 1, type: 'battery', facts: { ...facts, supplyAmps: 0 } };
        await tx.insert(runEvent).values({ runId: id, seq: 1, id: known.id, event: known });
      }
      await notify(tx, { what: 'run', id, caseId });
      return { id };
    },
  );
}

/** What was entered last of the battery in earlier runs of a case. */
async function batteryOf(tx: Tx, runIds: readonly number[]): Promise<BatteryFacts | undefined> {
  if (runIds.length === 0) return undefined;
  const rows = await tx
    .select({ event: runEvent.event })
    .from(runEvent)
    .where(inArray(runEvent.runId, [...runIds]))
    .orderBy(asc(runEvent.runId), asc(runEvent.seq));
  const retracted = new Set(rows.flatMap(({ event }) => (event.type === 'retracted' ? [event.event] : [])));
  return rows.flatMap(({ event }) => (event.type === 'battery' && !retracted.has(event.id) ? [event.facts] : [])).at(-1);
}

/** Takes one command for a run: decided on the events as they are now, recorded with its evidence, or refused with a sentence. */
export async function commandRun(db: Db, documents: Documents, act: Act, runId: number, given: RunCommand): Promise<{ seq: number }> {
  let caseId: number | undefined;
  const detail = { run: runId, ...('step' in given ? { step: given.step } : {}), ...('reason' in given ? { reason: given.reason } : {}) };
  const what = { right: 'work', action: `run: ${given.type}`, payload: [runId, given], caseOf: () => caseId!, detail } as const;
  return actOnce(db, act, what, async (tx) => {
    // One statement locks run and case; what is read after it is as it is now.
    const [row] = await tx.select({ run }).from(run).innerJoin(caseFile, eq(run.caseId, caseFile.id)).where(eq(run.id, runId)).for('update');
    if (!row) throw refused(404, 'noRun', 'This run was not found.');
    caseId = row.run.caseId;
    const record = stillOpen((await loadCase(tx, caseId))!);
    const current = await runOf(tx, documents, row.run);
    const program = programOf(current.procedure);
    const values = valuesOf(current.params);
    const before = foldRun(current);
    const actor = { id: act.actor.id, name: act.actor.name };
    const command =
      given.type === 'number'
        ? {
            ...given,
            value: readNumber(
              withNumbers(await documents.family(record.family, tx), current.procedure),
              current.procedure,
              valuesAt(values, before),
              {
                name: given.name,
                value: String(given.value),
                confirmed: given.confirmed === true,
              },
            ),
          }
        : given;
    const decision = decide(program, values, before, { ...command, actor }, act.now, {
      record: onRecord(record),
      mayWaive: may(act.actor, 'waivePrecondition'),
    });
    if (!decision.ok) throw refused(409, decision.refusal.code, decision.refusal.message);
    let state = before;
    for (const event of decision.events) {
      const next = apply(program, values, state, event);
      await tx.insert(runEvent).values({ runId, seq: event.seq, id: event.id, event });
      await recordEvidenceOf(tx, record, program, act, runId, state, next, event);
      state = next;
    }
    if (state.status !== before.status) {
      await tx
        .update(run)
        .set({ status: state.status, endedAt: state.status === 'running' ? null : state.lastAt })
        .where(eq(run.id, runId));
    }
    await notify(tx, { what: 'run', id: runId, caseId });
    return { seq: state.seq };
  });
}

/** What an answer says becomes a line of the ledger; an answer taken back withdraws its line. */
async function recordEvidenceOf(
  tx: Tx,
  record: CaseRecord,
  program: Program,
  act: Act,
  runId: number,
  before: RunState,
  after: RunState,
  event: RunEvent,
): Promise<void> {
  if (event.type === 'retracted') {
    const rows = await tx.query.evidence.findMany({ where: (e) => and(eq(e.runId, runId), eq(e.eventId, event.event)) });
    await append(
      tx,
      record.id,
      rows.map((r) => withdrawal(record, { id: r.id, test: r.test, key: r.keyTag }, act)),
    );
    return;
  }
  await append(
    tx,
    record.id,
    evidenceOf(program, before, after, event).map(({ test, outcome, key }) => ({
      caseId: record.id,
      test,
      outcome,
      keyTag: key === '' ? null : key,
      note: '',
      runId,
      eventId: event.id,
      familyHash: record.family.hash,
      by: act.actor.id,
      occurredAt: event.occurredAt,
      receivedAt: event.receivedAt,
    })),
  );
}

/** A case with its runs as the report tells them. */
export async function caseWithRuns(services: Services, caseId: number): Promise<{ record: CaseRecord; runs: RunRecord[] } | undefined> {
  const record = await services.cases.one(caseId);
  if (!record) return undefined;
  const runs = await Promise.all(record.runs.map((r) => keptRun(services, r.id)));
  return { record, runs: runs.filter((r) => r !== undefined) };
}
