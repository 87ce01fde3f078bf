import { randomUUID } from 'node:crypto';
import { and, asc, desc, eq, isNotNull, ne, sql } from 'drizzle-orm';
import { assessKey, historyPrior, type Ladder, received, searchSteps, type StepSearch, unknownMeter, withReading } from '../../core/ladder';
import { closedBecause, resolveParams } from '../../core/library';
import { paramsAt } from '../../core/procedure';
import { type CaseRecord, onRecord, openCaseForChange } from '../record/cases';
import { type Act, actOnce } from '../acts/commands';
import type { Db, Reader } from '../db/open';
import { bay, caseFile, document, measurement, person, run, runEvent, stepTry } from '../db/schema';
import type { Documents } from '../library/documents';
import { refused } from '../base/expected';
import { ladderNamed } from '../library/ladders';
import { append, checkEvidence } from './ledger';
import { notify } from '../acts/live';
import { testsOf } from './measurements/record';
import type { PelletRaw } from '../record/measured';
import { caseNumbers } from './numbers';
import { choice, line, needed, whole } from '../base/field';
import { rowId } from '../base/fields';
import { parseForm } from '../base/parseForm';
import type { Services } from '../services/services';

/** A step that was tried with a resistor. */
export interface Try {
  id: string;
  /** The ladder that the step is one of. */
  ladder: string;
  step: number;
  resistor: string;
  result: 'refused' | 'accepted';
  at: number;
}

/** How long a try takes when nobody says it, seconds. */
export const usualTryS = 60;
/** Measured keys that are counted for what this shop meets; older ones say less. */
const countedKeys = 500;

export interface Search {
  ladder: Ladder;
  tries: Try[];
  accepted: Try | null;
  /** When the lockout of the last refusal is over, milliseconds of the case's clock; null: none runs. */
  lockedUntil: number | null;
  lockoutS: number;
  /** Whether the lockout was looked up for this vehicle. */
  lockoutKnown: boolean;
  tryS: number;
  /** What is left, in order; null: nothing. */
  plan: StepSearch | null;
  /** Keys of this ladder that the shop measured, and whether a reading of a key of this case counts too. */
  history: number;
  reading: boolean;
  /** What shuts the gate; empty: open. */
  shut: string[];
}

/** Every try of a case in order of time, those that were taken back among them. */
export async function everyTry(db: Reader, caseId: number): Promise<(Try & { by: string; gone: boolean })[]> {
  const rows = await db
    .select({ row: stepTry, by: person.name })
    .from(stepTry)
    .innerJoin(person, eq(person.id, stepTry.by))
    .where(eq(stepTry.caseId, caseId))
    .orderBy(asc(stepTry.at), asc(stepTry.id));
  const back = new Set(rows.flatMap((r) => r.row.replaces ?? []));
  return rows.flatMap(({ row: { id, ladder, step, resistor, result, at }, by }) =>
    result === null ? [] : [{ id, ladder: ladder.id, step, resistor, result, at, by, gone: back.has(id) }],
  );
}

/** Tries that were not taken back; of one ladder, or of all. */
const triesOf = async (db: Reader, caseId: number, ladderId?: string): Promise<Try[]> =>
  (await everyTry(db, caseId)).filter((t) => !t.gone && (ladderId === undefined || t.ladder === ladderId)).map(({ by: _by, gone: _gone, ...t }) => t);

/** The wait after a wrong step on this vehicle, seconds. */
async function lockoutOf(
  db: Reader,
  documents: Documents,
  record: Pick<CaseRecord, 'id' | 'family' | 'profile'>,
): Promise<{ seconds: number; known: boolean }> {
  const family = await documents.family(record.family, db);
  const profile = record.profile ? await documents.profile(record.profile, db) : undefined;
  const param = paramsAt(resolveParams(family, profile), await caseNumbers(db, record.id)).lockout;
  if (typeof param?.value !== 'number') return { seconds: 0, known: false };
  return { seconds: param.value * (param.unit === 'min' ? 60 : 1), known: param.status === 'verified' };
}

/** How often the shop met each step in other cases, in the ladder's order. */
async function countsOf(db: Reader, ladder: Ladder, caseId: number): Promise<number[]> {
  const rows = await db
    .select({ steps: measurement.steps })
    .from(measurement)
    .where(
      and(
        eq(measurement.kind, 'pellet'),
        isNotNull(measurement.steps),
        ne(measurement.caseId, caseId),
        sql`${measurement.raw}->'ladder'->>'id' = ${ladder.id}`,
      ),
    )
    .orderBy(desc(measurement.at))
    .limit(countedKeys);
  const met = rows.flatMap((r) => r.steps ?? []);
  return ladder.steps.map((s) => met.filter((m) => m === s.step).length);
}

/** Everything that the search for an unknown step shows. @throws Refused when the ladder is not there */
export async function readSearch(services: Services, record: CaseRecord, ladderId: string, tryS = usualTryS): Promise<Search> {
  const { database, documents, clock } = services;
  const { db } = database;
  const { ladder } = await services.kept.read(`chart ${ladderId}`, [document], () => ladderNamed(db, ladderId));
  const tries = await triesOf(db, record.id, ladder.id);
  const counts = await countsOf(db, ladder, record.id);
  const read = readingOf(record, ladder);
  const prior = read ? withReading(historyPrior(counts), read) : historyPrior(counts);
  const lockout = await lockoutOf(db, documents, record);
  const last = tries.findLast((t) => t.result === 'refused');
  const until = last ? last.at + lockout.seconds * 1000 : 0;
  const [standsIn] = testsOf(await documents.family(record.family, db), 'substitute');
  return {
    ladder,
    tries,
    accepted: tries.find((t) => t.result === 'accepted') ?? null,
    lockedUntil: until > clock.now() ? until : null,
    lockoutS: lockout.seconds,
    lockoutKnown: lockout.known,
    tryS,
    plan: searchSteps(
      ladder.steps.map((s, i) => ({ step: s.step, p: prior[i]! })),
      { tryS, lockoutS: lockout.seconds },
      tries.filter((t) => t.result === 'refused').map((t) => t.step),
    ),
    history: counts.reduce((s, c) => s + c, 0),
    reading: read !== null,
    shut: closedBecause(standsIn?.effect ?? 'standsIn', onRecord(record)),
  };
}

/** What the latest reading of a key of the case says of the steps; a key that does not work may still be near its step. */
function readingOf(record: CaseRecord, ladder: Ladder): number[] | null {
  const latest = record.measurements.findLast((m) => m.kind === 'pellet' && m.raw.ladder?.id === ladder.id);
  if (!latest || ladder.pellets !== 1) return null;
  const raw = latest.raw as PelletRaw & { meter?: typeof unknownMeter };
  const key = assessKey(
    raw.groups.map((g) => ({ ...g, readings: g.readings.map(received) })),
    ladder,
    { meter: raw.meter ?? unknownMeter, leadOhms: raw.leadOhms, temperatureC: raw.temperatureC },
  );
  return key.pellets[0]!.joint.steps.map((s) => s.p);
}

export const parseTry = (data: unknown) =>
  parseForm(
    {
      case: needed(rowId),
      ladder: needed(line(60).min(1)),
      step: needed(whole(0, 9999)),
      resistor: needed(line(120).min(1)),
      result: needed(choice('refused', 'accepted')),
    },
    data,
  );
export type TryForm = ReturnType<typeof parseTry>;
export const parseTakeBack = (data: unknown) => parseForm({ case: needed(rowId), try: needed(line(60).min(1)) }, data);

/**
 * Records one try. An accepted one is evidence that the immobilizer takes a value in place of the contacts; a refused one says nothing of the immobilizer, since it was
 * the wrong step.
 * @throws Refused before a shut gate, and while a lockout runs: a try then proves nothing
 */
export async function recordTry(services: Services, act: Act, form: TryForm): Promise<void> {
  const { documents } = services;
  const what = {
    right: 'recordEvidence',
    action: 'value tried',
    payload: form,
    caseId: form.case,
    detail: { step: form.step, result: form.result },
  } as const;
  await actOnce(services.database.db, act, what, async (tx) => {
    const record = await openCaseForChange(tx, form.case);
    const family = await documents.family(record.family, tx);
    const { ladder, pin } = await ladderNamed(tx, form.ladder);
    const [test] = testsOf(family, 'substitute');
    const shut = closedBecause(test?.effect ?? 'standsIn', onRecord(record));
    if (shut.length > 0) throw refused(403, 'gateClosed', shut.join(' '));
    if (!ladder.steps.some((s) => s.step === form.step)) throw refused(400, 'unknownStep', `The value chart has no value ${form.step}.`, 'step');
    const tries = await triesOf(tx, form.case);
    const last = tries.findLast((t) => t.result === 'refused');
    const lockout = await lockoutOf(tx, documents, record);
    if (last && act.now < last.at + lockout.seconds * 1000)
      throw refused(409, 'lockedOut', 'The lockout from the last try is still on: any value tried now is refused. Wait for it to end.');
    await tx.insert(stepTry).values({
      id: randomUUID(),
      caseId: form.case,
      ladder: pin,
      step: form.step,
      resistor: form.resistor,
      result: form.result,
      replaces: null,
      by: act.actor.id,
      at: act.now,
    });
    const outcome = form.result === 'accepted' ? test?.instrument?.as.accepted : undefined;
    if (test && outcome !== undefined) {
      checkEvidence(record, family, { test: test.id, outcome, note: '' });
      const note = `Value ${form.step} of ${ladder.title}, with ${form.resistor}.`;
      await append(tx, record.id, [
        {
          caseId: record.id,
          test: test.id,
          outcome,
          keyTag: null,
          note,
          replaces: null,
          familyHash: record.family.hash,
          by: act.actor.id,
          occurredAt: act.now,
          receivedAt: act.now,
        },
      ]);
    }
    await notify(tx, { what: 'case', id: record.id });
    return null;
  });
}

/** Takes back a try that was recorded by mistake: it stays in the record, and does not count. */
export async function takeBackTry(db: Db, act: Act, form: { case: number; try: string }): Promise<void> {
  const what = { right: 'recordEvidence', action: 'try of a value undone', payload: form, caseId: form.case, detail: { try: form.try } } as const;
  await actOnce(db, act, what, async (tx) => {
    await openCaseForChange(tx, form.case);
    const [row] = await tx
      .select()
      .from(stepTry)
      .where(and(eq(stepTry.caseId, form.case), eq(stepTry.id, form.try)));
    if (!row || row.result === null || !(await triesOf(tx, form.case)).some((t) => t.id === form.try))
      throw refused(404, 'noTry', 'This try is not in the record of this case, or was already undone. Check again.');
    await tx.insert(stepTry).values({ ...row, id: randomUUID(), result: null, replaces: form.try, by: act.actor.id, at: act.now });
    await notify(tx, { what: 'case', id: form.case });
    return null;
  });
}

interface RunningLockout {
  caseId: number;
  vehicle: string;
  bay: string | null;
  startedAt: number;
  until: number;
  ladder: string;
}

/** Lockouts that run now in open cases, for the strip and the Floor. */
export async function runningLockouts(services: Services): Promise<RunningLockout[]> {
  const now = services.clock.now();
  const started = await services.kept.read('lockouts', [stepTry, caseFile, bay, run, runEvent], () => latestLockouts(services, now));
  return started.filter((l) => l.until > now);
}

/** The lockout of the last try of each open case where a value was tried within a day, whether or not it still runs. */
async function latestLockouts({ database: { db }, documents }: Services, now: number) {
  // No lockout is longer than a day, and a shop rarely has one search open.
  const rows = await db
    .selectDistinctOn([stepTry.caseId], { file: caseFile, bay: bay.name })
    .from(stepTry)
    .innerJoin(caseFile, eq(caseFile.id, stepTry.caseId))
    .leftJoin(bay, eq(bay.id, caseFile.bayId))
    .where(and(eq(caseFile.state, 'open'), sql`${stepTry.at} > ${now - 86_400_000}`))
    .orderBy(stepTry.caseId);
  const found: RunningLockout[] = [];
  for (const { file: c, bay: stands } of rows) {
    const last = (await triesOf(db, c.id)).at(-1);
    if (last?.result !== 'refused') continue;
    const { seconds } = await lockoutOf(db, documents, {
      id: c.id,
      family: { id: c.familyId, version: c.familyVersion, hash: c.familyHash },
      profile: c.profileId ? { id: c.profileId, version: c.profileVersion!, hash: c.profileHash! } : null,
    });
    found.push({ caseId: c.id, vehicle: c.vehicle, bay: stands, startedAt: last.at, until: last.at + seconds * 1000, ladder: last.ladder });
  }
  return found;
}
