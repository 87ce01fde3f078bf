import { createHash, randomUUID } from 'node:crypto';
import { and, eq, inArray } from 'drizzle-orm';
import { contentHash, type DocumentBody, type DocumentKind, parseBody } from '../../content/reader';
import { parseWith } from '../../core/library/parseWith';
import { compile, fold, type Procedure, type RunEvent } from '../../core/procedure';
import { type ResolvedParam, valuesOf } from '../../core/library';
import type { Problem } from '../../core/units';
import { fromElsewhere, initialsOf } from '../accounts/people';
import { refreshCaseSearch } from '../cases';
import { type Act, actOnce } from '../commands';
import type { Db, Tx } from '../db/open';
import {
  ability,
  authority,
  caseFile,
  caseKey,
  counterReading,
  custody,
  customer,
  document,
  evidence,
  identification,
  lampLook,
  lampReading,
  type LineKind,
  measurement,
  part,
  person,
  photo,
  run,
  runEvent,
  stateChange,
  stepTry,
} from '../db/schema';
import { Refused, refused } from '../expected';
import { notify } from '../live';
import type { Kept } from '../measurements/form';
import { freeKeyCode } from '../openCase';
import { encodePhoto, type Encoded } from '../photos';
import { caseForm } from './form';
import { unpack } from './zip';

type Pin = { id: string; version: number; hash: string };
type By = { by: string; at: number };
/** The parsed form of form.ts; rows go into tables of the same fields. */
interface CaseFileForm {
  people: { id: string; name: string }[];
  documents: (Pin & { kind: DocumentKind; body: DocumentBody })[];
  case: Omit<typeof caseFile.$inferSelect, 'id' | 'domain' | 'bayId' | 'customerId' | 'search' | `family${string}` | `profile${string}`> & {
    number: string;
    family: Pin;
    profile: Pin | null;
    customer: { name: string; phone: string; erasedAt: number | null } | null;
  };
  keys: Omit<typeof caseKey.$inferSelect, 'caseId'>[];
  parts: Omit<typeof part.$inferSelect, 'caseId'>[];
  authority: ({ kind: string; note: string } & By)[];
  custody: ({ tag: string; act: 'received' | 'returned'; contact: string } & By)[];
  counters: ({ counter: string; unit: string; phase: 'before' | 'after'; value: number } & By)[];
  states: ({ state: 'open' | 'parked' | 'closed'; reason: string } & By)[];
  abilities: ({ key: string; ability: string; result: 'yes' | 'no'; source: 'told' | 'seen' } & By)[];
  runs: {
    id: number;
    procedure: Pin;
    params: Record<string, ResolvedParam>;
    status: 'running' | 'finished' | 'stopped';
    startedAt: number;
    endedAt: number | null;
    events: RunEvent[];
  }[];
  identifications: ({ seen: Record<string, string>; family: Pin; profile: Pin | null; carried: string[]; proven: Record<string, number> } & By)[];
  looks: (Omit<typeof lampLook.$inferSelect, 'caseId' | 'keyTag'> & {
    key: string | null;
    readings: Omit<typeof lampReading.$inferSelect, 'id' | 'lookId'>[];
  })[];
  measurements: (Omit<typeof measurement.$inferSelect, 'caseId' | 'keyTag' | 'raw'> & { key: string | null; raw: Kept })[];
  stepTries: Omit<typeof stepTry.$inferSelect, 'caseId'>[];
  evidence: {
    id: string;
    seq: number;
    kind: LineKind;
    test: string;
    outcome: string | null;
    key: string | null;
    note: string;
    replaces: string | null;
    minutes: number | null;
    run: number | null;
    event: string | null;
    look: string | null;
    measurement: string | null;
    familyHash: string;
    by: string;
    occurredAt: number;
    receivedAt: number;
  }[];
  photos: ({ file: string; key: string | null; caption: string } & By)[];
}

const entryName = /^(case\.json|photos\/[0-9a-f-]{36}\.(jpg|png))$/;

/**
 * Takes over a case that another shop exported: checked whole, then taken whole in one transaction, or refused whole with everything that is
 * wrong with it. Runs that were going on are taken over as stopped: their clock was another shop's.
 */
export async function importCase(db: Db, act: Act, file: Uint8Array): Promise<{ id: number }> {
  const files = await unpack(file, entryName);
  const body = readJson(files);
  const { form, photos } = await check(body, files);
  return actOnce(
    db,
    act,
    { right: 'importCase', action: 'case imported', payload: contentHash(body), caseOf: (made) => made.id, detail: { number: form.case.number } },
    (tx) => enter(tx, act, form, photos),
  );
}

function readJson(files: Map<string, Uint8Array>): unknown {
  const json = files.get('case.json');
  if (!json) throw refused(400, 'noCaseFile', 'The file holds no case.json. Choose the file that the other shop exported.', 'file');
  try {
    return JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(json)) as unknown;
  } catch {
    throw refused(400, 'notJson', 'case.json in the file can’t be read. Export the case again.', 'file');
  }
}

async function check(body: unknown, files: Map<string, Uint8Array>): Promise<{ form: CaseFileForm; photos: Map<string, Encoded> }> {
  const parsed = parseWith<CaseFileForm>(caseForm, body);
  if (!parsed.ok) throw new Refused(400, parsed.problems.slice(0, 200));
  const form = parsed.value;
  const problems: Problem[] = [...names(form), ...documents(form)];
  if (problems.length === 0) problems.push(...replays(form));
  const photos = new Map<string, Encoded>();
  for (const [i, { file }] of form.photos.entries()) {
    const data = files.get(file);
    try {
      if (data) photos.set(file, await encodePhoto(data));
      else problems.push({ code: 'photoMissing', path: `photos[${i}].file`, message: `${file} is not in the file. Export the case again.` });
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      problems.push(...error.problems.map((p) => ({ ...p, path: `photos[${i}].file` })));
    }
  }
  if (problems.length > 0) throw new Refused(400, problems.slice(0, 200));
  return { form, photos };
}

/** Everything that one part of the file says of another. */
function names(form: CaseFileForm): Problem[] {
  const problems: Problem[] = [];
  const people = new Set(form.people.map((p) => p.id));
  const tags = new Set([...form.keys, ...form.parts].map((k) => k.tag));
  const keys = new Set(form.keys.map((k) => k.tag));
  const unknown = (path: string, what: string, name: string) =>
    problems.push({ code: 'unknownName', path, message: `${what} ${JSON.stringify(name)} is not in the file. Export the case again.` });
  const person = (path: string, name: string | null) => name !== null && !people.has(name) && unknown(path, 'Person', name);
  person('case.openedBy', form.case.openedBy);
  person('case.closedBy', form.case.closedBy);
  for (const list of [
    'authority',
    'custody',
    'counters',
    'states',
    'abilities',
    'identifications',
    'measurements',
    'stepTries',
    'evidence',
    'photos',
  ] as const)
    form[list].forEach((row, i) => person(`${list}[${i}].by`, row.by));
  form.custody.forEach((row, i) => !tags.has(row.tag) && unknown(`custody[${i}].tag`, 'Tag', row.tag));
  for (const list of ['abilities', 'measurements', 'evidence', 'photos'] as const)
    form[list].forEach((row, i) => row.key !== null && !keys.has(row.key) && unknown(`${list}[${i}].key`, 'Key', row.key));
  const runs = new Set(form.runs.map((r) => r.id));
  const lines = new Set<string>();
  form.evidence.forEach((row, i) => {
    if (row.run !== null && !runs.has(row.run)) unknown(`evidence[${i}].run`, 'Run', String(row.run));
    if (row.replaces !== null && !lines.has(row.replaces)) unknown(`evidence[${i}].replaces`, 'An earlier line', row.replaces);
    if (row.look !== null && !form.looks.some((l) => l.id === row.look)) unknown(`evidence[${i}].look`, 'A look at the lamp', row.look);
    if (row.measurement !== null && !form.measurements.some((m) => m.id === row.measurement))
      unknown(`evidence[${i}].measurement`, 'A measurement', row.measurement);
    if (row.kind !== 'test' && row.outcome !== null && !['works', 'fails', 'done'].includes(row.outcome))
      problems.push({ code: 'unknownName', path: `evidence[${i}].outcome`, message: 'A repair works, fails or is done. Export the case again.' });
    lines.add(row.id);
  });
  const twice = (list: string, ids: (string | number)[]) => {
    if (new Set(ids).size !== ids.length)
      problems.push({ code: 'twice', path: list, message: `An id stands twice in ${list}. Export the case again.` });
  };
  twice(
    'keys',
    [...form.keys, ...form.parts].map((k) => k.tag),
  );
  twice(
    'evidence',
    form.evidence.map((e) => e.id),
  );
  twice(
    'evidence',
    form.evidence.map((e) => e.seq),
  );
  twice(
    'looks',
    form.looks.map((l) => l.id),
  );
  twice(
    'measurements',
    form.measurements.map((m) => m.id),
  );
  twice(
    'stepTries',
    form.stepTries.map((t) => t.id),
  );
  twice(
    'runs',
    form.runs.map((r) => r.id),
  );
  twice(
    'runs',
    form.runs.flatMap((r) => r.events.map((e) => e.id)),
  );
  if ((form.case.state === 'closed') !== (form.case.closedAt !== null && form.case.closedBy !== null))
    problems.push({
      code: 'state',
      path: 'case.closedAt',
      message: 'A closed case has a moment and a person of closing, an open one has none. Export the case again.',
    });
  return problems;
}

/** Pinned documents are there, are what their hash says, and can be read. */
function documents(form: CaseFileForm): Problem[] {
  const problems: Problem[] = [];
  const there = new Set(form.documents.map((d) => `${d.kind} ${d.id} ${d.version} ${d.hash}`));
  const pinned: [string, DocumentKind, Pin][] = [
    ['case.family', 'family', form.case.family],
    ...(form.case.profile ? [['case.profile', 'profile', form.case.profile] as [string, DocumentKind, Pin]] : []),
    ...form.identifications.flatMap((x, i): [string, DocumentKind, Pin][] => [
      [`identifications[${i}].family`, 'family', x.family],
      ...(x.profile ? [[`identifications[${i}].profile`, 'profile', x.profile] as [string, DocumentKind, Pin]] : []),
    ]),
    ...form.measurements.flatMap((m, i): [string, DocumentKind, Pin][] =>
      m.raw.ladder ? [[`measurements[${i}].raw.ladder`, 'ladder', m.raw.ladder]] : [],
    ),
    ...form.stepTries.map((t, i): [string, DocumentKind, Pin] => [`stepTries[${i}].ladder`, 'ladder', t.ladder]),
    ...form.runs.map((r, i): [string, DocumentKind, Pin] => [`runs[${i}].procedure`, 'procedure', r.procedure]),
  ];
  for (const [path, kind, { id, version, hash }] of pinned)
    if (!there.has(`${kind} ${id} ${version} ${hash}`))
      problems.push({ code: 'documentMissing', path, message: `${kind} "${id}" version ${version} is not in the file. Export the case again.` });
  form.documents.forEach((d, i) => {
    const path = `documents[${i}]`;
    if (contentHash(d.body) !== d.hash)
      problems.push({
        code: 'hash',
        path,
        message: `${d.kind} "${d.id}" version ${d.version} was changed since it was exported. Export the case again.`,
      });
    try {
      parseBody(d.kind, d.body);
    } catch (error) {
      problems.push({ code: 'document', path, message: (error as Error).message });
    }
  });
  return problems;
}

/** A run's events must be possible ones: they are gone through as the page would. */
function replays(form: CaseFileForm): Problem[] {
  return form.runs.flatMap((r, i): Problem[] => {
    const found = form.documents.find((d) => d.kind === 'procedure' && d.hash === r.procedure.hash);
    try {
      if (r.events[0]?.type !== 'started' || r.events.some((e, n) => e.seq !== n)) throw new Error('order');
      fold(compile(parseBody('procedure', found!.body) as Procedure), valuesOf(r.params), r.events);
      return [];
    } catch {
      return [{ code: 'events', path: `runs[${i}].events`, message: 'These events can’t have happened in this procedure. Export the case again.' }];
    }
  });
}

async function enter(tx: Tx, act: Act, form: CaseFileForm, photos: Map<string, Encoded>): Promise<{ id: number }> {
  const c = form.case;
  const [same] = await tx.select({ id: caseFile.id }).from(caseFile).where(eq(caseFile.uid, c.uid));
  if (same) throw refused(409, 'hereAlready', `This case is in this shop already, as case ${String(same.id).padStart(4, '0')}.`, 'file');
  const eventIds = form.runs.flatMap((r) => r.events.map((e) => e.id));
  const evidenceIds = form.evidence.map((e) => e.id);
  const lookIds = form.looks.map((l) => l.id);
  const measurementIds = form.measurements.map((m) => m.id);
  if (
    (eventIds.length > 0 && (await tx.select({ id: runEvent.id }).from(runEvent).where(inArray(runEvent.id, eventIds)).limit(1)).length > 0) ||
    (lookIds.length > 0 && (await tx.select({ id: lampLook.id }).from(lampLook).where(inArray(lampLook.id, lookIds)).limit(1)).length > 0) ||
    (measurementIds.length > 0 &&
      (await tx.select({ id: measurement.id }).from(measurement).where(inArray(measurement.id, measurementIds)).limit(1)).length > 0) ||
    (form.stepTries.length > 0 &&
      (
        await tx
          .select({ id: stepTry.id })
          .from(stepTry)
          .where(
            inArray(
              stepTry.id,
              form.stepTries.map((t) => t.id),
            ),
          )
          .limit(1)
      ).length > 0) ||
    (evidenceIds.length > 0 && (await tx.select({ id: evidence.id }).from(evidence).where(inArray(evidence.id, evidenceIds)).limit(1)).length > 0)
  )
    throw refused(409, 'hereAlready', 'Lines of this case are in this shop already under another case.', 'file');
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
  for (const key of form.keys) {
    const taken = (await tx.select({ tag: caseKey.tag }).from(caseKey).where(eq(caseKey.code, key.code))).length > 0;
    await tx.insert(caseKey).values({ ...key, caseId, code: taken ? await freeKeyCode(tx) : key.code });
  }
  const by = <T extends { by: string }>(rows: T[]) => rows.map((r) => ({ ...r, caseId, by: who(r.by) }));
  if (form.parts.length > 0) await tx.insert(part).values(form.parts.map((p) => ({ ...p, caseId })));
  if (form.authority.length > 0) await tx.insert(authority).values(by(form.authority));
  for (const { contact, ...line } of by(form.custody)) {
    const contactId = contact === '' ? null : (await tx.insert(customer).values({ name: contact, phone: '' }).returning({ id: customer.id }))[0]!.id;
    await tx.insert(custody).values({ ...line, contactId });
  }
  if (form.counters.length > 0) await tx.insert(counterReading).values(by(form.counters));
  if (form.states.length > 0) await tx.insert(stateChange).values(by(form.states));
  if (form.abilities.length > 0) await tx.insert(ability).values(by(form.abilities).map(({ key, ...a }) => ({ ...a, keyTag: key })));
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
              reason: 'Taken over from another shop.',
            },
          ]
        : [];
    await tx.insert(runEvent).values([...r.events, ...stop].map((event) => ({ runId: entered!.id, seq: event.seq, id: event.id, event })));
  }
  if (form.identifications.length > 0) await tx.insert(identification).values(by(form.identifications));
  for (const { key, readings, ...look } of by(form.looks)) {
    await tx.insert(lampLook).values({ ...look, keyTag: key });
    if (readings.length > 0) await tx.insert(lampReading).values(readings.map((r) => ({ ...r, lookId: look.id })));
  }
  if (form.measurements.length > 0) await tx.insert(measurement).values(by(form.measurements).map(({ key, ...m }) => ({ ...m, keyTag: key })));
  if (form.stepTries.length > 0) await tx.insert(stepTry).values(by(form.stepTries));
  if (form.evidence.length > 0)
    await tx.insert(evidence).values(
      form.evidence.map(({ key, run: runId, event, look, measurement: measured, ...e }) => ({
        ...e,
        caseId,
        keyTag: key,
        runId: runId === null ? null : runs.get(runId)!,
        eventId: event,
        lookId: look,
        measurementId: measured,
        by: who(e.by),
      })),
    );
  for (const p of by(form.photos)) {
    const { file, key, ...line } = p;
    await tx.insert(photo).values({ ...line, id: randomUUID(), keyTag: key, ...photos.get(file)! });
  }
  await refreshCaseSearch(tx, caseId);
  await notify(tx, { what: 'case', id: caseId });
  return { id: caseId };
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
        `This shop’s library has another ${d.kind} "${d.id}" version ${d.version}. The case can’t be taken over until one of them has another version.`,
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
