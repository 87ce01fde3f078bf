import { randomUUID } from 'node:crypto';
import { and, asc, eq, inArray } from 'drizzle-orm';
import type { DocumentKind } from '../../content/reader';
import type { DocumentPin } from '../../core/library';
import { caseForChange } from '../record/cases';
import { type Act, actOnce } from '../acts/commands';
import type { Db, Reader } from '../db/open';
import { caseFile, custody, customer, document, lampLook, lampReading, person, photo, run, runEvent } from '../db/schema';
import { formName, formVersion } from './form';
import { readLists } from './lists';
import { pack } from '../reading/zip';

const pinOf = (id: string, version: number, hash: string): DocumentPin => ({ id, version, hash });

/** A whole case with its documents and photos as one file, as rows rather than as a page shows them. */
export async function exportCase(db: Db, act: Act, caseId: number): Promise<{ name: string; zip: Uint8Array }> {
  await actOnce(db, act, { right: 'exportCase', action: 'case exported', payload: caseId, caseId }, async () => null);
  return db.transaction(async (tx) => {
    const record = await caseForChange(tx, caseId);
    const [row] = await tx.select().from(caseFile).where(eq(caseFile.id, caseId));
    const c = row!;
    const of = <T extends { caseId: unknown }>(table: T) => eq(table.caseId as typeof run.caseId, caseId);
    const runs = await tx.select().from(run).where(of(run)).orderBy(asc(run.id));
    const events =
      runs.length === 0
        ? []
        : await tx
            .select()
            .from(runEvent)
            .where(
              inArray(
                runEvent.runId,
                runs.map((r) => r.id),
              ),
            )
            .orderBy(asc(runEvent.seq));
    const listed = await readLists(tx, caseId);
    const pins: [DocumentKind, DocumentPin][] = [
      ['family', record.family],
      ...(record.profile ? [['profile', record.profile] as [DocumentKind, DocumentPin]] : []),
      ...record.identifications.flatMap((i): [DocumentKind, DocumentPin][] => [
        ['family', i.family],
        ...(i.profile ? [['profile', i.profile] as [DocumentKind, DocumentPin]] : []),
      ]),
      ...listed.measurements.flatMap(({ raw }): [DocumentKind, DocumentPin][] => ('ladder' in raw ? [['ladder', raw.ladder]] : [])),
      ...listed.stepTries.map((t): [DocumentKind, DocumentPin] => ['ladder', t.ladder]),
      ...runs.map((r): [DocumentKind, DocumentPin] => ['procedure', pinOf(r.procedureId, r.procedureVersion, r.procedureHash)]),
    ];
    const contacts = new Map(
      (await tx.select().from(customer).innerJoin(custody, eq(custody.contactId, customer.id)).where(of(custody))).map((r) => [
        r.customer.id,
        r.customer.name,
      ]),
    );
    // In the order of the case's page, which the shop that takes it over keeps.
    const place = new Map(record.looks.map((l, i) => [l.id, i]));
    const looks = (await tx.select().from(lampLook).where(of(lampLook))).sort((a, b) => place.get(a.id)! - place.get(b.id)!);
    const readings =
      looks.length === 0
        ? []
        : await tx
            .select()
            .from(lampReading)
            .where(
              inArray(
                lampReading.lookId,
                looks.map((l) => l.id),
              ),
            )
            .orderBy(asc(lampReading.id));
    const photos = await tx.select().from(photo).where(of(photo)).orderBy(asc(photo.at));
    const files = photos.map((p) => ({ ...p, file: `photos/${randomUUID()}.${p.type === 'image/png' ? 'png' : 'jpg'}` }));
    const body = {
      form: formName,
      version: formVersion,
      exportedAt: new Date(act.now).toISOString(),
      people: await tx.select({ id: person.id, name: person.name }).from(person),
      documents: await documentsOf(tx, pins),
      case: {
        uid: c.uid,
        number: record.number,
        kind: c.kind,
        state: c.state,
        vehicle: c.vehicle,
        year: c.year,
        identification: c.identification,
        plate: c.plate,
        words: c.words,
        symptoms: c.symptoms,
        complaint: c.complaint,
        condition: c.condition,
        changed: c.changed,
        family: record.family,
        profile: record.profile,
        openedAt: c.openedAt,
        openedBy: c.openedBy,
        closedAt: c.closedAt,
        closedBy: c.closedBy,
        outcome: c.outcome,
        closing: c.closing,
        conclusion: c.conclusion,
        conclusionFault: c.conclusionFault,
        customer: record.customer ? { name: record.customer.name, phone: record.customer.phone, erasedAt: record.customer.erasedAt } : null,
      },
      ...listed,
      custody: (await tx.select().from(custody).where(of(custody)).orderBy(asc(custody.id))).map((x) => ({
        tag: x.tag,
        act: x.act,
        contact: x.contactId === null ? '' : (contacts.get(x.contactId) ?? ''),
        by: x.by,
        at: x.at,
      })),
      runs: runs.map((r) => ({
        id: r.id,
        procedure: pinOf(r.procedureId, r.procedureVersion, r.procedureHash),
        params: r.params,
        status: r.status,
        startedAt: r.startedAt,
        endedAt: r.endedAt,
        events: events.filter((e) => e.runId === r.id).map((e) => e.event),
      })),
      looks: looks.map(({ caseId: _case, keyTag, ...l }) => ({
        ...l,
        key: keyTag,
        readings: readings.filter((r) => r.lookId === l.id).map(({ id: _id, lookId: _look, ...r }) => r),
      })),
      photos: files.map(({ file, keyTag, caption, by, at }) => ({ file, key: keyTag, caption, by, at })),
    };
    const named = usedPeople(body);
    const json = new TextEncoder().encode(JSON.stringify({ ...body, people: body.people.filter((p) => named.has(p.id)) }, null, 1));
    return { name: `case-${record.number}.zip`, zip: pack({ 'case.json': json, ...Object.fromEntries(files.map((f) => [f.file, f.data])) }) };
  });
}

async function documentsOf(tx: Reader, pins: [DocumentKind, DocumentPin][]) {
  const found = new Map<string, { kind: DocumentKind; id: string; version: number; hash: string; body: unknown }>();
  for (const [kind, pin] of pins) {
    const [row] = await tx
      .select()
      .from(document)
      .where(and(eq(document.kind, kind), eq(document.id, pin.id), eq(document.version, pin.version)));
    if (row) found.set(`${kind} ${pin.id} ${pin.version}`, { kind, id: row.id, version: row.version, hash: row.hash, body: row.body });
  }
  return [...found.values()];
}

/** Everyone who stands under something in the file. */
function usedPeople(value: unknown, used = new Set<string>()): Set<string> {
  if (Array.isArray(value)) for (const v of value) usedPeople(v, used);
  else if (typeof value === 'object' && value !== null)
    for (const [name, v] of Object.entries(value)) {
      if (['by', 'openedBy', 'closedBy'].includes(name) && typeof v === 'string') used.add(v);
      else usedPeople(v, used);
    }
  return used;
}
