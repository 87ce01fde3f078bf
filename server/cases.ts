import { asc, desc, eq, inArray, type SQL } from 'drizzle-orm';
import type { Library } from '../content/reader';
import { type Ability, abilities, type AbilityResult, type DocumentPin, mainFirst, type OnRecord } from '../core/library';
import { type Act, actOnce } from './commands';
import type { Db, Reader, Tx } from './db/open';
import { ability, authority, bay, caseFile, caseKey, customer, evidence, person, run } from './db/schema';
import { refused } from './expected';
import type { NewCase } from './forms';
import { notify } from './live';
import { may } from './rights';

export interface CaseKey {
  tag: string;
  role: string;
  note: string;
  present: boolean;
}
export interface LedgerEntry {
  id: string;
  test: string;
  outcome: string | null;
  key: string | null;
  note: string;
  replaces: string | null;
  runId: number | null;
  by: string;
  occurredAt: number;
}
export interface Judgement {
  key: string;
  ability: Ability;
  result: AbilityResult;
  by: string;
  at: number;
}
/** A case with everything that belongs to it. */
export interface CaseRecord {
  id: number;
  number: string;
  state: 'open' | 'closed';
  bay: string | null;
  vehicle: string;
  year: number | null;
  identification: string;
  plate: string;
  customer: { name: string; phone: string } | null;
  words: string;
  changed: { what: string; note: string }[];
  symptoms: string[];
  family: DocumentPin;
  profile: DocumentPin | null;
  openedAt: number;
  openedBy: string;
  closedAt: number | null;
  closedBy: string | null;
  outcome: string | null;
  keys: CaseKey[];
  authority: { kind: string; note: string; by: string; at: number }[];
  evidence: LedgerEntry[];
  runs: { id: number; procedure: DocumentPin; status: 'running' | 'finished' | 'stopped'; startedAt: number; endedAt: number | null }[];
  judgements: Judgement[];
}

export const caseNumber = (id: number): string => String(id).padStart(4, '0');

/** What gates ask of a case. */
export function onRecord(record: Pick<CaseRecord, 'authority' | 'keys'>): OnRecord {
  return {
    authority: record.authority.length > 0,
    keysAbsent: record.keys.filter((k) => !k.present).map((k) => k.tag),
    keysHere: mainFirst(record.keys.filter((k) => k.present)),
  };
}

/** Latest judgement of each ability of each key. */
export function grid(record: Pick<CaseRecord, 'judgements'>): Map<string, Judgement> {
  return new Map(record.judgements.map((j) => [`${j.key} ${j.ability}`, j]));
}

/** Every key that is here was judged in every ability since the last run ended. */
export function isVerified(record: Pick<CaseRecord, 'judgements' | 'keys' | 'runs'>): boolean {
  const present = record.keys.filter((k) => k.present);
  const since = Math.max(0, ...record.runs.map((r) => r.endedAt ?? r.startedAt));
  const latest = grid(record);
  return present.length > 0 && present.every((k) => Object.keys(abilities).every((a) => (latest.get(`${k.tag} ${a}`)?.at ?? -1) >= since));
}

export async function loadCase(db: Reader, id: number): Promise<CaseRecord | undefined> {
  return (await loadCases(db, [id]))[0];
}

/** Several cases, each whole, in a fixed number of queries. */
export async function loadCases(db: Reader, ids: number[]): Promise<CaseRecord[]> {
  if (ids.length === 0) return [];
  const rows = await db
    .select()
    .from(caseFile)
    .leftJoin(bay, eq(caseFile.bayId, bay.id))
    .leftJoin(customer, eq(caseFile.customerId, customer.id))
    .where(inArray(caseFile.id, ids))
    .orderBy(asc(caseFile.id));
  if (rows.length === 0) return [];
  const people = new Map((await db.select({ id: person.id, name: person.name }).from(person)).map((p) => [p.id, p.name]));
  const name = (personId: string | null) => (personId === null ? '' : (people.get(personId) ?? personId));
  const keys = await db.select().from(caseKey).where(inArray(caseKey.caseId, ids)).orderBy(asc(caseKey.tag));
  const seen = await db.select().from(authority).where(inArray(authority.caseId, ids)).orderBy(asc(authority.id));
  const entries = await db.select().from(evidence).where(inArray(evidence.caseId, ids)).orderBy(asc(evidence.seq));
  const runs = await db.select().from(run).where(inArray(run.caseId, ids)).orderBy(asc(run.id));
  const judged = await db.select().from(ability).where(inArray(ability.caseId, ids)).orderBy(asc(ability.id));
  return rows.map(({ case_file: c, bay: stands, customer: owner }) => {
    const mine = <T extends { caseId: number }>(list: T[]) => list.filter((r) => r.caseId === c.id);
    return {
      id: c.id,
      number: caseNumber(c.id),
      state: c.state,
      bay: stands?.name ?? null,
      vehicle: c.vehicle,
      year: c.year,
      identification: c.identification,
      plate: c.plate,
      customer: owner ? { name: owner.name, phone: owner.phone } : null,
      words: c.words,
      changed: c.changed,
      symptoms: c.symptoms,
      family: { id: c.familyId, version: c.familyVersion, hash: c.familyHash },
      profile: c.profileId ? { id: c.profileId, version: c.profileVersion!, hash: c.profileHash! } : null,
      openedAt: c.openedAt,
      openedBy: name(c.openedBy),
      closedAt: c.closedAt,
      closedBy: name(c.closedBy),
      outcome: c.outcome,
      keys: mine(keys).map(({ tag, role, note, present }) => ({ tag, role, note, present })),
      authority: mine(seen).map((a) => ({ kind: a.kind, note: a.note, by: name(a.by), at: a.at })),
      evidence: mine(entries).map((e) => ({
        id: e.id,
        test: e.test,
        outcome: e.outcome,
        key: e.keyTag,
        note: e.note,
        replaces: e.replaces,
        runId: e.runId,
        by: name(e.by),
        occurredAt: e.occurredAt,
      })),
      runs: mine(runs).map((r) => ({
        id: r.id,
        procedure: { id: r.procedureId, version: r.procedureVersion, hash: r.procedureHash },
        status: r.status,
        startedAt: r.startedAt,
        endedAt: r.endedAt,
      })),
      judgements: mine(judged).map((j) => ({ key: j.keyTag, ability: j.ability as Ability, result: j.result, by: name(j.by), at: j.at })),
    };
  });
}

export interface CaseRow {
  id: number;
  number: string;
  bay: string | null;
  vehicle: string;
  plate: string;
  words: string;
  openedAt: number;
  closedAt: number | null;
  outcome: string | null;
}

/** How many rows a list shows; older ones come by key. */
const pageSize = 50;

/** The rows of lists and of find, newest first. */
export async function caseRows(db: Reader, where: SQL | undefined, limit: number): Promise<CaseRow[]> {
  const rows = await db
    .select({
      id: caseFile.id,
      bay: bay.name,
      vehicle: caseFile.vehicle,
      plate: caseFile.plate,
      words: caseFile.words,
      openedAt: caseFile.openedAt,
      closedAt: caseFile.closedAt,
      outcome: caseFile.outcome,
    })
    .from(caseFile)
    .leftJoin(bay, eq(caseFile.bayId, bay.id))
    .where(where)
    .orderBy(desc(caseFile.id))
    .limit(limit);
  return rows.map((r) => ({ ...r, number: caseNumber(r.id) }));
}

export const listCases = (db: Reader, state: 'open' | 'closed'): Promise<CaseRow[]> => caseRows(db, eq(caseFile.state, state), pageSize);

export async function listBays(db: Reader): Promise<{ id: string; name: string }[]> {
  return db.select({ id: bay.id, name: bay.name }).from(bay).orderBy(asc(bay.position));
}

/** The system chosen at intake, as pins to the versions that are current now. */
function systemPins(library: Library, system: string): { family: DocumentPin; profile: DocumentPin | null } {
  const [kind, id] = system.split(':') as ['family' | 'profile', string];
  const pin = (k: 'family' | 'profile', name: string): DocumentPin => {
    const found = library.documents.find((d) => d.kind === k && d.id === name);
    if (!found) throw refused(400, 'unknownSystem', `"${name}" is not in the library. Choose one of the list.`, 'system');
    return { id: found.id, version: found.version, hash: found.hash };
  };
  if (kind === 'family') return { family: pin('family', id), profile: null };
  const profile = pin('profile', id);
  return { profile, family: pin('family', library.profiles.get(id)!.family) };
}

export async function createCase(db: Db, library: Library, act: Act, form: NewCase): Promise<{ id: number }> {
  return actOnce(db, act, { right: 'openCase', action: 'case opened', payload: form }, async (tx) => {
    const { family, profile } = systemPins(library, form.system);
    const bays = await listBays(tx);
    if (form.bay !== '' && !bays.some((b) => b.id === form.bay))
      throw refused(400, 'unknownBay', 'This bay does not exist. Choose one of the list.', 'bay');
    const customerId =
      form.customer === '' && form.phone === ''
        ? null
        : (await tx.insert(customer).values({ name: form.customer, phone: form.phone }).returning({ id: customer.id }))[0]!.id;
    const [created] = await tx
      .insert(caseFile)
      .values({
        domain: 'shop',
        state: 'open',
        bayId: form.bay === '' ? null : form.bay,
        customerId,
        vehicle: form.vehicle,
        year: form.year ?? null,
        identification: form.identification,
        plate: form.plate,
        words: form.words,
        changed: form.changed.map((what) => ({ what, note: form.changedNote })),
        symptoms: form.symptoms,
        familyId: family.id,
        familyVersion: family.version,
        familyHash: family.hash,
        profileId: profile?.id ?? null,
        profileVersion: profile?.version ?? null,
        profileHash: profile?.hash ?? null,
        openedAt: act.now,
        openedBy: act.actor.id,
      })
      .returning({ id: caseFile.id });
    const id = created!.id;
    if (form.keys.length > 0)
      await tx.insert(caseKey).values(form.keys.map((k) => ({ caseId: id, tag: k.tag, role: k.role, note: k.note, present: k.here })));
    if (form.authority?.kind)
      await tx.insert(authority).values({ caseId: id, kind: form.authority.kind, note: form.authority.note, by: act.actor.id, at: act.now });
    await notify(tx, { what: 'case', id });
    return { id };
  });
}

/** The case, locked for this transaction, if it is there and still open. */
export async function openCaseForChange(tx: Tx, id: number): Promise<CaseRecord> {
  const [row] = await tx.select({ state: caseFile.state }).from(caseFile).where(eq(caseFile.id, id)).for('update');
  if (!row) throw refused(404, 'noCase', `There is no case ${caseNumber(id)}.`);
  if (row.state === 'closed') throw refused(409, 'closed', `Case ${caseNumber(id)} is closed. Nothing more can be recorded in it.`);
  return (await loadCase(tx, id))!;
}

export async function recordAuthority(db: Db, act: Act, caseId: number, form: { kind: string; note: string }): Promise<void> {
  await actOnce(db, act, { right: 'recordAuthority', action: 'authority recorded', payload: [caseId, form], caseId }, async (tx) => {
    await openCaseForChange(tx, caseId);
    await tx.insert(authority).values({ caseId, kind: form.kind, note: form.note, by: act.actor.id, at: act.now });
    await notify(tx, { what: 'case', id: caseId });
    return null;
  });
}

export async function recordVerification(db: Db, act: Act, caseId: number, results: Record<string, Record<string, string>>): Promise<void> {
  await actOnce(db, act, { right: 'verifyKeys', action: 'keys verified', payload: [caseId, results], caseId }, async (tx) => {
    const record = await openCaseForChange(tx, caseId);
    const rows = Object.entries(results).flatMap(([tag, judged]) => {
      if (!record.keys.some((k) => k.tag === tag)) throw refused(400, 'unknownKey', `Tag ${tag} does not belong to this case.`, `results.${tag}`);
      return Object.entries(judged).map(([a, result]) => ({
        caseId,
        keyTag: tag,
        ability: a,
        result: result as AbilityResult,
        by: act.actor.id,
        at: act.now,
      }));
    });
    if (rows.length === 0) throw refused(400, 'nothing', 'Nothing was judged yet. Choose an answer for at least one ability of a key.', 'results');
    await tx.insert(ability).values(rows);
    await notify(tx, { what: 'case', id: caseId });
    return null;
  });
}

export async function closeCase(db: Db, act: Act, caseId: number, form: { outcome: string; reason: string }): Promise<void> {
  await actOnce(db, act, { right: 'closeCase', action: 'case closed', payload: [caseId, form], caseId }, async (tx) => {
    const record = await openCaseForChange(tx, caseId);
    if (record.runs.some((r) => r.status === 'running'))
      throw refused(409, 'running', 'A run of this case is still going on. Finish it or stop it first.');
    if (!isVerified(record)) {
      if (form.reason === '')
        throw refused(
          400,
          'notVerified',
          'Not every key has been verified. Verify them, or let a lead write here why the case is closed all the same.',
          'reason',
        );
      if (!may(act.actor, 'closeWithoutProof'))
        throw refused(403, 'notAllowed', 'Only a lead may close a case without proof. Ask the lead.', 'reason');
    }
    const outcome = form.reason === '' ? form.outcome : `${form.outcome} Closed without proof: ${form.reason}`;
    await tx.update(caseFile).set({ state: 'closed', closedAt: act.now, closedBy: act.actor.id, outcome }).where(eq(caseFile.id, caseId));
    await notify(tx, { what: 'case', id: caseId });
    return null;
  });
}
