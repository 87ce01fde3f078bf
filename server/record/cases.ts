import { caseNumber } from '../base/caseNumber';
import { asc, eq, getTableColumns, inArray } from 'drizzle-orm';
import { type AbilityEntry, abilityEntries, isJudged } from '../../core/keys';
import { type Ability, type DocumentPin, type Family, type KeyKind, mainFirst, type OnRecord } from '../../core/library';
import type { Reader, Tx } from '../db/open';
import {
  ability,
  authority,
  bay,
  caseFile,
  caseKey,
  type CaseKind,
  type CaseState,
  type Complaint,
  type Conclusion,
  type Condition,
  counterReading,
  custody,
  customer,
  type RepairActionKind,
  evidence,
  identification,
  type NewKeyPlan,
  part,
  person,
  photo,
  run,
  stateChange,
} from '../db/schema';
import { refused } from '../base/expected';
import { type LookLine, looksOf } from './looks';
import { type MeasurementLine, measurementsOf } from './lines';
import { refreshSearch } from './search';

export interface CaseKey {
  tag: string;
  /** Short code of its label. */
  code: string;
  role: string;
  kind: KeyKind;
  marks: string;
  colour: string;
  condition: string;
  cell: string;
  note: string;
  present: boolean;
  /** A new key that is to be fitted, with what was ordered. */
  toFit: NewKeyPlan | null;
}
export interface CustodyLine {
  tag: string;
  act: 'received' | 'returned';
  /** Name of the other person; empty when erased or not told. */
  person: string;
  by: string;
  at: number;
}
export interface CounterLine {
  counter: string;
  unit: string;
  phase: 'before' | 'after';
  value: number;
  by: string;
  at: number;
}
export interface PhotoLine {
  id: string;
  keyTag: string | null;
  caption: string;
  width: number;
  height: number;
  by: string;
  at: number;
}
interface LedgerLine {
  id: string;
  /** Place in the ledger, from 1; tests and repair actions share the numbers. */
  seq: number;
  key: string | null;
  note: string;
  replaces: string | null;
  /** How long it took; null: nobody counted. */
  minutes: number | null;
  by: string;
  occurredAt: number;
  /** Version of the family in whose words it was recorded. */
  familyHash: string;
  /** Recorded when the vehicle was taken for another system; it stays, and does not count. */
  foreign: boolean;
}
export interface LedgerEntry extends LedgerLine {
  test: string;
  outcome: string | null;
  runId: number | null;
  /** The look that was read for it. */
  lookId: string | null;
  /** The measurement that it is taken from. */
  measurementId: string | null;
}
/** Something done about a fault. */
export interface RepairAction extends LedgerLine {
  kind: RepairActionKind;
  fault: string;
  /** `done`: repaired, and not tried since. Null withdraws the line that `replaces` names. */
  result: 'works' | 'fails' | 'done' | null;
}
/** A case with everything that belongs to it. */
export interface CaseRecord {
  id: number;
  number: string;
  kind: CaseKind;
  state: CaseState;
  bay: string | null;
  vehicle: string;
  year: number | null;
  identification: string;
  plate: string;
  customer: { id: number; name: string; phone: string; erasedAt: number | null } | null;
  words: string;
  changed: { what: string; note: string; on?: string }[];
  symptoms: string[];
  complaint: Complaint;
  condition: Condition;
  family: DocumentPin;
  profile: DocumentPin | null;
  openedAt: number;
  openedBy: string;
  closedAt: number | null;
  closedBy: string | null;
  outcome: string | null;
  closing: 'done' | 'notDone' | null;
  conclusion: Conclusion | null;
  /** Fault that was found to be the cause, or `somethingElse`. */
  conclusionFault: string | null;
  keys: CaseKey[];
  parts: { tag: string; what: string; label: string; note: string }[];
  custody: CustodyLine[];
  counters: CounterLine[];
  photos: PhotoLine[];
  states: { state: CaseState; reason: string; by: string; at: number }[];
  authority: { kind: string; note: string; by: string; at: number }[];
  /** What was seen of the vehicle and which system was chosen, in order of time. */
  identifications: {
    seen: Record<string, string>;
    family: DocumentPin;
    profile: DocumentPin | null;
    carried: string[];
    proven: Record<string, number>;
    by: string;
    at: number;
  }[];
  evidence: LedgerEntry[];
  /** Repairs, and causes that were brought back to see them fail. */
  repairActions: RepairAction[];
  /** Lamps that were watched, with their raw taps. */
  looks: LookLine[];
  /** What instruments of the bench measured, with all readings. */
  measurements: MeasurementLine[];
  runs: { id: number; procedure: DocumentPin; status: 'running' | 'finished' | 'stopped'; startedAt: number; endedAt: number | null }[];
  /** What people judged or were told of the abilities of keys; what tests showed stands in the ledger. */
  judgements: AbilityEntry[];
}

/** What gates ask of a case. Parts that came without a vehicle need the identity of their sender as well. */
export function onRecord(record: Pick<CaseRecord, 'kind' | 'authority' | 'keys'>): OnRecord {
  const kinds = record.authority.map((a) => a.kind);
  return {
    authority: kinds.some((kind) => kind !== 'sender'),
    ...(record.kind === 'parts' ? { senderMissing: !kinds.includes('sender') } : {}),
    keysAbsent: record.keys.filter((k) => !k.present && k.toFit === null).map((k) => k.tag),
    keysHere: mainFirst(record.keys.filter((k) => k.present)),
  };
}

/** All that is known of the abilities of the case's keys, in order of time. */
export const entriesOf = (record: Pick<CaseRecord, 'judgements' | 'evidence'>, family: Family): AbilityEntry[] =>
  abilityEntries(record.judgements, counting(record.evidence), family.tests);

/** Lines of the ledger that speak of the system as it is taken for now. */
export const counting = <Line extends LedgerLine>(lines: readonly Line[]): Line[] => lines.filter((e) => !e.foreign);

/** The moment of the last thing that was done to the car, ms: what was seen of its keys before says nothing any more. 0: nothing was done. */
export function provenSince(record: Pick<CaseRecord, 'runs' | 'repairActions'>): number {
  const repairs = counting(record.repairActions).filter((d) => d.kind === 'repair' && d.result !== null);
  return Math.max(0, ...record.runs.map((r) => r.endedAt ?? r.startedAt), ...repairs.map((d) => d.occurredAt));
}

/** Every key that is here was seen in every ability its family asks for, since the last run ended. */
export function isVerified(record: Pick<CaseRecord, 'judgements' | 'keys' | 'runs' | 'evidence' | 'repairActions'>, family: Family): boolean {
  const present = record.keys.filter((k) => k.present).map((k) => k.tag);
  return isJudged(entriesOf(record, family), present, family.verify, provenSince(record));
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
  const parts = await db.select().from(part).where(inArray(part.caseId, ids)).orderBy(asc(part.tag));
  const handed = await db
    .select({ line: custody, person: customer.name })
    .from(custody)
    .leftJoin(customer, eq(custody.contactId, customer.id))
    .where(inArray(custody.caseId, ids))
    .orderBy(asc(custody.id));
  const read = await db.select().from(counterReading).where(inArray(counterReading.caseId, ids)).orderBy(asc(counterReading.id));
  const { data: _data, ...photoColumns } = getTableColumns(photo);
  const photos = await db.select(photoColumns).from(photo).where(inArray(photo.caseId, ids)).orderBy(asc(photo.at), asc(photo.id));
  const identified = await db.select().from(identification).where(inArray(identification.caseId, ids)).orderBy(asc(identification.id));
  const looks = await looksOf(db, ids, (id) => rows.find((r) => r.case_file.id === id)!.case_file.familyId);
  const measured = await measurementsOf(db, ids, name);
  const states = await db.select().from(stateChange).where(inArray(stateChange.caseId, ids)).orderBy(asc(stateChange.id));
  return rows.map(({ case_file: c, bay: stands, customer: owner }) => {
    const mine = <T extends { caseId: number }>(list: T[]) => list.filter((r) => r.caseId === c.id);
    const families = new Map(mine(identified).map((l) => [l.family.hash, l.family.id]));
    const carried = new Set(mine(identified).at(-1)?.carried);
    const line = (e: (typeof entries)[number]): LedgerLine => ({
      id: e.id,
      seq: e.seq,
      key: e.keyTag,
      note: e.note,
      replaces: e.replaces,
      minutes: e.minutes,
      by: name(e.by),
      occurredAt: e.occurredAt,
      familyHash: e.familyHash,
      foreign: (families.get(e.familyHash) ?? c.familyId) !== c.familyId && !carried.has(e.id),
    });
    return {
      id: c.id,
      number: caseNumber(c.id),
      kind: c.kind,
      state: c.state,
      bay: stands?.name ?? null,
      vehicle: c.vehicle,
      year: c.year,
      identification: c.identification,
      plate: c.plate,
      customer: owner ? { id: owner.id, name: owner.name, phone: owner.phone, erasedAt: owner.erasedAt } : null,
      words: c.words,
      changed: c.changed,
      symptoms: c.symptoms,
      complaint: c.complaint,
      condition: c.condition,
      family: { id: c.familyId, version: c.familyVersion, hash: c.familyHash },
      profile: c.profileId ? { id: c.profileId, version: c.profileVersion!, hash: c.profileHash! } : null,
      openedAt: c.openedAt,
      openedBy: name(c.openedBy),
      closedAt: c.closedAt,
      closedBy: name(c.closedBy),
      outcome: c.outcome,
      closing: c.closing,
      conclusion: c.conclusion,
      conclusionFault: c.conclusionFault,
      keys: mine(keys).map(({ caseId: _caseId, kind, ...key }) => ({ ...key, kind: kind as KeyKind })),
      parts: mine(parts).map(({ tag, what, label, note }) => ({ tag, what, label, note })),
      custody: handed
        .filter((h) => h.line.caseId === c.id)
        .map(({ line: l, person: other }) => ({
          tag: l.tag,
          act: l.act,
          person: l.contactId === null ? (owner?.name ?? '') : (other ?? ''),
          by: name(l.by),
          at: l.at,
        })),
      counters: mine(read).map((r) => ({ counter: r.counter, unit: r.unit, phase: r.phase, value: r.value, by: name(r.by), at: r.at })),
      photos: mine(photos).map((p) => ({
        id: p.id,
        keyTag: p.keyTag,
        caption: p.caption,
        width: p.width,
        height: p.height,
        by: name(p.by),
        at: p.at,
      })),
      states: mine(states).map((x) => ({ state: x.state, reason: x.reason, by: name(x.by), at: x.at })),
      authority: mine(seen).map((a) => ({ kind: a.kind, note: a.note, by: name(a.by), at: a.at })),
      identifications: mine(identified).map((l) => ({
        seen: l.seen,
        family: l.family,
        profile: l.profile,
        carried: l.carried,
        proven: l.proven,
        by: name(l.by),
        at: l.at,
      })),
      evidence: mine(entries)
        .filter((e) => e.kind === 'test')
        .map((e) => ({ ...line(e), test: e.test, outcome: e.outcome, runId: e.runId, lookId: e.lookId, measurementId: e.measurementId })),
      repairActions: mine(entries).flatMap((e) =>
        e.kind === 'test' ? [] : [{ ...line(e), kind: e.kind, fault: e.test, result: e.outcome as RepairAction['result'] }],
      ),
      looks: looks.get(c.id) ?? [],
      measurements: measured.get(c.id) ?? [],
      runs: mine(runs).map((r) => ({
        id: r.id,
        procedure: { id: r.procedureId, version: r.procedureVersion, hash: r.procedureHash },
        status: r.status,
        startedAt: r.startedAt,
        endedAt: r.endedAt,
      })),
      judgements: mine(judged).map((j) => ({
        key: j.keyTag,
        ability: j.ability as Ability,
        result: j.result,
        source: j.source,
        by: name(j.by),
        at: j.at,
      })),
    };
  });
}

/** The case, locked for this transaction, if it is there and still open. */
export async function openCaseForChange(tx: Tx, id: number): Promise<CaseRecord> {
  const record = await caseForChange(tx, id);
  if (record.state === 'closed') throw refused(409, 'closed', `Case ${caseNumber(id)} is closed. Nothing more can be recorded in it.`);
  if (record.state === 'parked') throw refused(409, 'parked', `Case ${caseNumber(id)} is parked. Reopen it first.`);
  return record;
}

/** The case, locked for this transaction, in whatever state it is. */
export async function caseForChange(tx: Tx, id: number): Promise<CaseRecord> {
  const [row] = await tx.select({ id: caseFile.id }).from(caseFile).where(eq(caseFile.id, id)).for('update');
  if (!row) throw refused(404, 'noCase', `There is no case ${caseNumber(id)}.`);
  return (await loadCase(tx, id))!;
}

/** Writes the case's words for search anew, from what is stored now. */
export async function refreshCaseSearch(tx: Tx, id: number): Promise<void> {
  const record = (await loadCase(tx, id))!;
  await refreshSearch(tx, id, {
    ...record,
    customer: record.customer?.name ?? '',
    phone: record.customer?.phone ?? '',
    keys: record.keys.flatMap((k) => [k.tag, k.code]),
  });
}
