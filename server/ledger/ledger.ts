import { randomUUID } from 'node:crypto';
import { sql } from 'drizzle-orm';
import { closedBecause, type Family } from '../../core/library';
import { type CaseRecord, onRecord, openCaseForChange } from '../record/cases';
import { type Act, actOnce, doneAt } from '../acts/commands';
import type { Db, Tx } from '../db/open';
import { evidence } from '../db/schema';
import type { Documents } from '../library/documents';
import { refused } from '../base/expected';
import type { NewRepairAction, NewEvidence } from './forms';
import { notify } from '../acts/live';

type NewEntry = Omit<typeof evidence.$inferInsert, 'seq' | 'id'>;

/** Adds lines at the end of a case's ledger; the caller holds the case's lock. */
export async function append(tx: Tx, caseId: number, entries: NewEntry[]): Promise<void> {
  if (entries.length === 0) return;
  const next = (i: number) =>
    sql<number>`(select coalesce(max(${evidence.seq}), 0) + ${i + 1}::int from ${evidence} where ${evidence.caseId} = ${caseId})`;
  await tx.insert(evidence).values(entries.map((e, i) => ({ ...e, id: randomUUID(), seq: next(i) })));
}

/** Records what a test showed. A correction names the entry it replaces. */
export async function recordEvidence(db: Db, documents: Documents, act: Act, caseId: number, form: NewEvidence): Promise<void> {
  const detail = { test: form.test, outcome: form.outcome, ...(form.key ? { key: form.key } : {}) };
  await actOnce(db, act, { right: 'recordEvidence', action: 'evidence recorded', payload: [caseId, form], caseId, detail }, async (tx) => {
    const record = await openCaseForChange(tx, caseId);
    const family = await documents.family(record.family, tx);
    await appendTest(tx, record, family, act, form);
    await notify(tx, { what: 'case', id: caseId });
    return null;
  });
}

/** Adds what a test showed, within an act that records something larger; the caller holds the case's lock. */
export async function appendTest(tx: Tx, record: CaseRecord, family: Family, act: Act, form: NewEvidence): Promise<void> {
  checkEvidence(record, family, form);
  await append(tx, record.id, [{ ...lineOf(record, act, form), test: form.test, outcome: form.outcome }]);
}

/** Withdraws an entry that was recorded by mistake: it stays in the ledger, struck out. */
export async function withdrawEvidence(db: Db, act: Act, caseId: number, entryId: string): Promise<void> {
  await actOnce(db, act, { right: 'recordEvidence', action: 'evidence withdrawn', payload: [caseId, entryId], caseId }, async (tx) => {
    const record = await openCaseForChange(tx, caseId);
    const repairAction = record.repairActions.find((d) => d.id === entryId);
    const entry = repairAction
      ? { ...repairAction, test: repairAction.fault, outcome: repairAction.result }
      : record.evidence.find((e) => e.id === entryId);
    if (!entry || entry.outcome === null) throw refused(404, 'noEntry', 'This line is not in the record of this case.');
    if ([...record.evidence, ...record.repairActions].some((e) => e.replaces === entryId))
      throw refused(409, 'replaced', 'This line has already been corrected. Check again.');
    await append(tx, caseId, [{ ...withdrawal(record, entry, act), ...(repairAction ? { kind: repairAction.kind } : {}) }]);
    await notify(tx, { what: 'case', id: caseId });
    return null;
  });
}

export const withdrawal = (record: CaseRecord, entry: { id: string; test: string; key: string | null }, act: Act): NewEntry => ({
  ...lineOf(record, act, { note: '', replaces: entry.id, ...(entry.key === null ? {} : { key: entry.key }) }),
  test: entry.test,
  outcome: null,
});

/** What every line has, whatever it tells. */
const lineOf = (record: CaseRecord, act: Act, form: { key?: string; note: string; replaces?: string; minutes?: number }) => ({
  caseId: record.id,
  keyTag: form.key ?? null,
  note: form.note,
  replaces: form.replaces ?? null,
  minutes: form.minutes ?? null,
  familyHash: record.family.hash,
  by: act.actor.id,
  occurredAt: doneAt(act),
  receivedAt: act.now,
});

/** @throws Refused for what is no outcome of the family's tests, for a key that is not here, and before a shut gate */
export function checkEvidence(record: CaseRecord, family: Family, form: NewEvidence): void {
  const test = family.tests.find((t) => t.id === form.test);
  if (!test)
    throw refused(
      400,
      'unknownTest',
      `"${form.test}" is not a test of this system type. Use one of: ${family.tests.map((t) => t.id).join(', ')}.`,
      'test',
    );
  if (!(form.outcome in test.outcomes))
    throw refused(
      400,
      'unknownOutcome',
      `"${form.outcome}" is not a result of "${test.title}". Use one of: ${Object.keys(test.outcomes).join(', ')}.`,
      'outcome',
    );
  if (test.perKey) {
    const here = record.keys.filter((k) => k.present).map((k) => k.tag);
    if (form.key === undefined || !here.includes(form.key))
      throw refused(400, 'keyMissing', `Choose the key it was seen with. Here are: ${here.join(', ') || 'none'}.`, 'key');
  } else if (form.key !== undefined) throw refused(400, 'keyNotMeant', `"${test.title}" does not belong to a key. Leave the key out.`, 'key');
  const shut = closedBecause(test.effect, onRecord(record));
  if (shut.length > 0) throw refused(403, 'gateClosed', shut.join(' '));
  if (form.replaces !== undefined) {
    const old = record.evidence.find((e) => e.id === form.replaces);
    if (!old) throw refused(400, 'noEntry', 'The line to correct is not in the record of this case. Check again.', 'replaces');
    if (record.evidence.some((e) => e.replaces === form.replaces))
      throw refused(409, 'replaced', 'This line has already been corrected. Check again.', 'replaces');
  }
}

/** Records a repair and whether it helped, or that its cause was brought back and taken away again. */
export async function recordRepairAction(db: Db, documents: Documents, act: Act, caseId: number, form: NewRepairAction): Promise<void> {
  const detail = { kind: form.kind, fault: form.fault, result: form.result, ...(form.key ? { key: form.key } : {}) };
  await actOnce(db, act, { right: 'recordEvidence', action: 'repair recorded', payload: [caseId, form], caseId, detail }, async (tx) => {
    const record = await openCaseForChange(tx, caseId);
    checkRepairAction(record, await documents.family(record.family, tx), form);
    await append(tx, caseId, [{ ...lineOf(record, act, form), kind: form.kind, test: form.fault, outcome: form.result }]);
    await notify(tx, { what: 'case', id: caseId });
    return null;
  });
}

/** @throws Refused for what is no fault of the family, for a key that does not belong to the case, and before a shut gate */
function checkRepairAction(record: CaseRecord, family: Family, form: NewRepairAction): void {
  const fault = family.faults?.find((f) => f.id === form.fault);
  if (!fault)
    throw refused(
      400,
      'unknownFault',
      `"${form.fault}" is not a fault of this system type. Use one of: ${(family.faults ?? []).map((f) => f.id).join(', ') || 'none'}.`,
      'fault',
    );
  const tags = record.keys.map((k) => k.tag);
  if (form.key !== undefined && !(fault.perKey && tags.includes(form.key)))
    throw refused(
      400,
      'keyNotMeant',
      fault.perKey ? `Choose the key: ${tags.join(', ') || 'none is here'}.` : `"${fault.title}" is not in a key. Leave the key out.`,
      'key',
    );
  const shut = fault.cure.effect ? closedBecause(fault.cure.effect, onRecord(record)) : [];
  if (form.kind === 'repair' && shut.length > 0) throw refused(403, 'gateClosed', shut.join(' '));
  if (form.replaces === undefined) return;
  if (!record.repairActions.some((d) => d.id === form.replaces))
    throw refused(400, 'noEntry', 'The line to correct is not in the record of this case. Check again.', 'replaces');
  if (record.repairActions.some((d) => d.replaces === form.replaces))
    throw refused(409, 'replaced', 'This line has already been corrected. Check again.', 'replaces');
}
