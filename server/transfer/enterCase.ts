import { createHash, randomUUID } from 'node:crypto';
import { and, eq, inArray } from 'drizzle-orm';
import type { PgTable } from 'drizzle-orm/pg-core';
import type { RunEvent } from '../../core/procedure';
import { fromElsewhere, initialsOf } from '../accounts/people';
import { refreshCaseSearch } from '../record/cases';
import type { Act } from '../acts/commands';
import type { Tx } from '../db/open';
import {
  caseFile,
  caseKey,
  custody,
  customer,
  document,
  evidence,
  lampLook,
  lampReading,
  measurement,
  person,
  photo,
  run,
  runEvent,
  stepTry,
} from '../db/schema';
import { refused } from '../base/expected';
import { notify } from '../acts/live';
import { freeKeyCode } from '../cases/openCase';
import type { Encoded } from '../reading/picture';
import type { CaseFileForm } from './form';
import { asColumns, type ListName, lists } from './lists';

/** Writes a case that was checked into the tables: runs that were going on are stopped, keys get codes that are free here, people stand by name only. */
export async function enterCase(tx: Tx, act: Act, form: CaseFileForm, photos: Map<string, Encoded>): Promise<{ id: number }> {
  const c = form.case;
  const [same] = await tx.select({ id: caseFile.id }).from(caseFile).where(eq(caseFile.uid, c.uid));
  if (same) throw refused(409, 'hereAlready', `This case is already in this shop, as case ${String(same.id).padStart(4, '0')}.`, 'file');
  if (await anyHere(tx, form)) throw refused(409, 'hereAlready', 'Lines of this case are already in this shop, under another case.', 'file');
  await enterDocuments(tx, act, form);
  const people = await enterPeople(tx, act, form);
  const who = (id: string) => people.get(id)!;
  const customerId = c.customer ? (await tx.insert(customer).values(c.customer).returning({ id: customer.id }))[0]!.id : null;
  const { number: _number, family, profile, customer: _customer, openedBy, closedBy, ...row } = c;
  const [made] = await tx
    .insert(caseFile)
    .values({
      ...row,
      domain: 'shop',
      bayId: null,
      customerId,
      familyId: family.id,
      familyVersion: family.version,
      familyHash: family.hash,
      profileId: profile?.id ?? null,
      profileVersion: profile?.version ?? null,
      profileHash: profile?.hash ?? null,
      openedBy: who(openedBy),
      closedBy: closedBy === null ? null : who(closedBy),
    })
    .returning({ id: caseFile.id });
  const caseId = made!.id;
  const by = <T extends { by: string }>(rows: T[]) => rows.map((r) => ({ ...r, caseId, by: who(r.by) }));
  const runs = new Map<number, number>();
  for (const r of form.runs) {
    const [entered] = await tx
      .insert(run)
      .values({
        caseId,
        procedureId: r.procedure.id,
        procedureVersion: r.procedure.version,
        procedureHash: r.procedure.hash,
        params: r.params,
        status: r.status === 'running' ? 'stopped' : r.status,
        startedAt: r.startedAt,
        endedAt: r.endedAt ?? r.events.at(-1)!.receivedAt,
      })
      .returning({ id: run.id });
    runs.set(r.id, entered!.id);
    const last = r.events.at(-1)!;
    const stop: RunEvent[] =
      r.status === 'running'
        ? [
            {
              id: randomUUID(),
              seq: last.seq + 1,
              actor: { id: act.actor.id, name: act.actor.name },
              occurredAt: last.occurredAt,
              receivedAt: last.receivedAt,
              type: 'stopped',
              reason: 'Imported from another shop.',
            },
          ]
        : [];
    await enter(
      tx,
      runEvent,
      [...r.events, ...stop].map((event) => ({ runId: entered!.id, seq: event.seq, id: event.id, event })),
    );
  }
  for (const { key, readings, ...look } of by(form.looks)) {
    await tx.insert(lampLook).values({ ...look, keyTag: key });
    await enter(
      tx,
      lampReading,
      readings.map((r) => ({ ...r, lookId: look.id })),
    );
  }
  const codes = new Map<string, string>();
  const isTaken = async (code: string) =>
    [...codes.values()].includes(code) || (await tx.select({ tag: caseKey.tag }).from(caseKey).where(eq(caseKey.code, code))).length > 0;
  for (const { tag, code: own } of form.keys) {
    let code = own;
    while (await isTaken(code)) code = await freeKeyCode(tx);
    codes.set(tag, code);
  }
  // Labels and runs have other names here.
  const here = {
    ...form,
    keys: form.keys.map((k) => ({ ...k, code: codes.get(k.tag)! })),
    evidence: form.evidence.map((e) => ({ ...e, run: e.run === null ? null : runs.get(e.run)! })),
  };
  for (const name of Object.keys(lists) as ListName[])
    await enter(
      tx,
      lists[name].table,
      here[name].map((row) => ({ ...asColumns(name, row), caseId, ...('by' in row ? { by: who(row.by) } : {}) })),
    );
  for (const { contact, ...line } of by(form.custody)) {
    const contactId = contact === '' ? null : (await tx.insert(customer).values({ name: contact, phone: '' }).returning({ id: customer.id }))[0]!.id;
    await tx.insert(custody).values({ ...line, contactId });
  }
  for (const p of by(form.photos)) {
    const { file, key, ...line } = p;
    await tx.insert(photo).values({ ...line, id: randomUUID(), keyTag: key, ...photos.get(file)! });
  }
  await refreshCaseSearch(tx, caseId);
  await notify(tx, { what: 'case', id: caseId });
  return { id: caseId };
}

/** Rows that go into one statement: of the widest table still far from the 65,535 values that a statement may hold. */
const rowsAtOnce = 500;

/** Enters any number of rows; none is no statement. */
async function enter<T extends PgTable>(tx: Tx, table: T, rows: T['$inferInsert'][]): Promise<void> {
  for (let from = 0; from < rows.length; from += rowsAtOnce) await tx.insert(table).values(rows.slice(from, from + rowsAtOnce) as never);
}

/** Whether a line of the case is in this shop already; their ids are the same everywhere. */
async function anyHere(tx: Tx, form: CaseFileForm): Promise<boolean> {
  const lines = [
    [runEvent, form.runs.flatMap((r) => r.events)],
    [lampLook, form.looks],
    [measurement, form.measurements],
    [stepTry, form.stepTries],
    [evidence, form.evidence],
  ] as const;
  for (const [table, rows] of lines) {
    const ids = rows.map((r) => r.id);
    for (let from = 0; from < ids.length; from += rowsAtOnce) {
      const found = await tx
        .select({ id: table.id })
        .from(table)
        .where(inArray(table.id, ids.slice(from, from + rowsAtOnce)))
        .limit(1);
      if (found.length > 0) return true;
    }
  }
  return false;
}

/** Documents this shop does not have are entered beside its own; the same version with another content would make old cases lie. */
async function enterDocuments(tx: Tx, act: Act, form: CaseFileForm): Promise<void> {
  for (const d of form.documents) {
    const [have] = await tx
      .select({ hash: document.hash })
      .from(document)
      .where(and(eq(document.kind, d.kind), eq(document.id, d.id), eq(document.version, d.version)));
    if (have && have.hash !== d.hash)
      throw refused(
        409,
        'otherDocument',
        `This shop’s library has another ${d.kind} "${d.id}" version ${d.version}. The case can’t be imported until one of them has another version.`,
        'file',
      );
    if (!have)
      await tx
        .insert(document)
        .values({ kind: d.kind, id: d.id, version: d.version, hash: d.hash, origin: 'case', body: d.body, enteredAt: act.now });
  }
}

/** People of the other shop stand in the records by name; they can never sign in here. */
async function enterPeople(tx: Tx, act: Act, form: CaseFileForm): Promise<Map<string, string>> {
  const ids = new Map<string, string>();
  for (const { id, name } of form.people) {
    const own = `${fromElsewhere}${createHash('sha256').update(`${id} ${name}`).digest('hex').slice(0, 24)}`;
    await tx
      .insert(person)
      .values({ id: own, name, initials: initialsOf(name), state: 'recorded', createdAt: act.now })
      .onConflictDoNothing();
    ids.set(id, own);
  }
  return ids;
}
