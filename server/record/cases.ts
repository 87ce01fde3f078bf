import { caseNumber } from '../base/caseNumber';
import { asc, eq, inArray, sql } from 'drizzle-orm';
import { type AbilityEntry, abilityEntries, isJudged } from '../../core/keys';
import { type Ability, type DocumentPin, type Family, type KeyKind, mainFirst, type OnRecord } from '../../core/library';
import type { Scan } from '../../core/codes';
import type { KeyHere } from '../../core/procedure';
import type { Learned } from '../../core/diagnosis';
import type { Kept as KeptOffer } from '../../core/options';
import type { Made } from '../../core/replacement';
import type { Reader, Tx } from '../db/open';
import {
  caseFile,
  type CaseKind,
  type CaseState,
  type Complaint,
  type Conclusion,
  type Condition,
  type MeasurementKind,
  type RepairActionKind,
  type NewKeyPlan,
} from '../db/schema';
import { refused } from '../base/expected';
import { type LookLine, looksIn } from './looks';
import type { Kept } from './measured';
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
/** A scan of the case, with who made it. */
export interface ScanLine {
  id: number;
  phase: 'before' | 'after';
  found: Scan;
  cleared: boolean;
  note: string;
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
/** A measurement as the page of a case shows it. */
export interface MeasurementLine {
  id: string;
  kind: MeasurementKind;
  key: string | null;
  raw: Kept;
  verdict: string;
  simulated: boolean;
  by: string;
  at: number;
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
  scans: ScanLine[];
  /** What was done and written down after parts were replaced, in order of time. */
  replacement: Made[];
  /** What was offered, agreed to and declined, what the papers say, and what was heard afterwards, in order of time. */
  offers: KeptOffer[];
  /** The case that came back as this one. */
  cameFrom: number | null;
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
    learned: Learned | null;
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

/** The keys that are here, as a run asks for them. */
export const keysHere = (record: Pick<CaseRecord, 'keys'>): KeyHere[] =>
  record.keys.filter((k) => k.present).map((k) => ({ tag: k.tag, role: k.role, isNew: k.toFit !== null }));

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

/** Several cases, each whole, in one statement. */
export async function loadCases(db: Reader, ids: number[]): Promise<CaseRecord[]> {
  if (ids.length === 0) return [];
  const rows = await wholeCases(db, ids);
  return rows.map((row) => recordOf(row, (id) => (id === null ? '' : (row.people[id] ?? id))));
}

const wholeCases = (db: Reader, ids: number[]) =>
  db.query.caseFile.findMany({
    columns: { uid: false, domain: false, search: false },
    // Names of everybody, since each line names who recorded it.
    extras: { people: sql<Record<string, string>>`(select json_object_agg(p.id, p.name) from person p)`.as('people') },
    where: (c) => inArray(c.id, ids),
    orderBy: (c) => asc(c.id),
    with: {
      bay: { columns: { name: true } },
      customer: true,
      keys: { orderBy: (k) => asc(k.tag), columns: { caseId: false } },
      parts: { orderBy: (x) => asc(x.tag), columns: { caseId: false } },
      custody: { orderBy: (l) => asc(l.id), with: { contact: { columns: { name: true } } } },
      counters: { orderBy: (r) => asc(r.id) },
      scans: { orderBy: (r) => asc(r.id), columns: { caseId: false } },
      replacement: { orderBy: (r) => asc(r.id), columns: { caseId: false, id: false } },
      offers: { orderBy: (r) => asc(r.id), columns: { caseId: false, id: false } },
      photos: { orderBy: (x) => [asc(x.at), asc(x.id)], columns: { data: false, type: false, caseId: false } },
      states: { orderBy: (x) => asc(x.id) },
      authority: { orderBy: (a) => asc(a.id) },
      identifications: { orderBy: (l) => asc(l.id) },
      evidence: { orderBy: (e) => asc(e.seq) },
      abilities: { orderBy: (j) => asc(j.id) },
      looks: { orderBy: (l) => [asc(l.at), asc(l.id)], with: { readings: { orderBy: (r) => asc(r.id) } } },
      measurements: { orderBy: (m) => [asc(m.at), asc(m.id)], columns: { caseId: false, steps: false } },
      runs: { orderBy: (r) => asc(r.id), columns: { params: false } },
    },
  });

function recordOf(c: Awaited<ReturnType<typeof wholeCases>>[number], name: (personId: string | null) => string): CaseRecord {
  const families = new Map(c.identifications.map((l) => [l.family.hash, l.family.id]));
  const carried = new Set(c.identifications.at(-1)?.carried);
  const line = (e: (typeof c.evidence)[number]): LedgerLine => ({
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
    bay: c.bay?.name ?? null,
    vehicle: c.vehicle,
    year: c.year,
    identification: c.identification,
    plate: c.plate,
    customer: c.customer,
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
    keys: c.keys.map((k) => ({ ...k, kind: k.kind as KeyKind })),
    parts: c.parts,
    custody: c.custody.map((l) => ({
      tag: l.tag,
      act: l.act,
      person: l.contactId === null ? (c.customer?.name ?? '') : (l.contact?.name ?? ''),
      by: name(l.by),
      at: l.at,
    })),
    counters: c.counters.map((r) => ({ counter: r.counter, unit: r.unit, phase: r.phase, value: r.value, by: name(r.by), at: r.at })),
    scans: c.scans.map((s) => ({ ...s, by: name(s.by) })),
    replacement: c.replacement.map(({ entry, by, at }) => ({ ...entry, by: name(by), at })),
    offers: c.offers.map(({ entry, by, at }) => ({ ...entry, by: name(by), at })),
    cameFrom: c.cameFrom,
    photos: c.photos.map((p) => ({ ...p, by: name(p.by) })),
    states: c.states.map((x) => ({ state: x.state, reason: x.reason, by: name(x.by), at: x.at })),
    authority: c.authority.map((a) => ({ kind: a.kind, note: a.note, by: name(a.by), at: a.at })),
    identifications: c.identifications.map((l) => ({
      seen: l.seen,
      family: l.family,
      profile: l.profile,
      carried: l.carried,
      proven: l.proven,
      learned: l.learned,
      by: name(l.by),
      at: l.at,
    })),
    evidence: c.evidence
      .filter((e) => e.kind === 'test')
      .map((e) => ({ ...line(e), test: e.test, outcome: e.outcome, runId: e.runId, lookId: e.lookId, measurementId: e.measurementId })),
    repairActions: c.evidence.flatMap((e) =>
      e.kind === 'test' ? [] : [{ ...line(e), kind: e.kind, fault: e.test, result: e.outcome as RepairAction['result'] }],
    ),
    looks: looksIn(c.looks, c.familyId),
    measurements: c.measurements.map(({ keyTag, raw, by, ...m }) => ({ ...m, key: keyTag, raw: raw as Kept, by: name(by) })),
    runs: c.runs.map((r) => ({
      id: r.id,
      procedure: { id: r.procedureId, version: r.procedureVersion, hash: r.procedureHash },
      status: r.status,
      startedAt: r.startedAt,
      endedAt: r.endedAt,
    })),
    judgements: c.abilities.map((j) => ({
      key: j.keyTag,
      ability: j.ability as Ability,
      result: j.result,
      source: j.source,
      by: name(j.by),
      at: j.at,
    })),
  };
}

/** The case, locked for this transaction, if it is there and still open. */
export const openCaseForChange = async (tx: Tx, id: number): Promise<CaseRecord> => stillOpen(await caseForChange(tx, id));

/** @throws Refused when nothing can be recorded in it now */
export function stillOpen(record: CaseRecord): CaseRecord {
  const { id } = record;
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
