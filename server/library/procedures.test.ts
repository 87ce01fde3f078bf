import { randomUUID } from 'node:crypto';
import { eq } from 'drizzle-orm';
import { contentHash } from '../../content/reader';
import { addedAfter, draftOf, linesOf, movedBy, redirected, refigured, reworded, type Step, without, type Written } from '../../core/procedure';
import { recordAuthority } from '../cases/authority';
import { readCasePage } from '../cases/caseView';
import { caseFile, document } from '../db/schema';
import { stepNotes } from '../runs/notes';
import { Harness, lead, refusal, technician } from '../services/harness.testing';
import { parseYamlSent } from './forms';
import { importDocument } from './importDocument';
import {
  copyProcedure,
  parseProcedureForm,
  parseStepsForm,
  procedureVersions,
  procedureYaml,
  proceduresOf,
  saveProcedure,
  saveSteps,
} from './procedures';
import { setRetired } from './shopDocuments';
import { commandRun, loadRun, startRun } from '../runs/runs';

let harness: Harness;
beforeAll(async () => {
  harness = await Harness.open();
});
afterAll(() => harness.close());

const text = '1. Turn the ignition on.\n2. Wait 10 minutes.\n3. Turn the ignition off.\n4. Repeat steps 1 to 3 two more times.';
const written = (): Written => ({ text, noReturn: 's1', steps: draftOf(text).steps.map((s, i) => ({ ...s, id: `s${i + 1}` })) });
const form = (more: object = {}) => ({
  from: 0,
  title: 'Relearn, from the folder',
  family: 'transponder-dwell',
  source: 'Folder 3, page 12',
  effect: 'replacesKeys',
  cautions: [],
  written: written(),
  ...more,
});
const save = async (id: string, more: object = {}, actor = lead) =>
  saveProcedure(harness.db, harness.services.library, harness.act(actor), id, parseProcedureForm(form(more)));
const step = (i: number, more: object): Written => ({ ...written(), steps: written().steps.map((s, k) => (k === i ? { ...s, ...more } : s)) });

test('a lead saves one; a technician may not', async () => {
  const { id, version } = await save('');
  expect(version).toBe(1);
  const [newest] = await procedureVersions(harness.db, id);
  expect(newest).toMatchObject({
    origin: 'shop',
    by: lead.name,
    procedure: { title: 'Relearn, from the folder', checked: null, written: written() },
  });
  expect(newest!.procedure.steps.map((s) => Object.keys(s)[0])).toEqual(['id', 'id', 'repeat']);
  expect(await refusal(save('', {}, technician))).toMatchObject({ status: 403 });
});

test('the next version keeps the one before; a stale or unchanged one is refused; checked is who and when', async () => {
  const { id } = await save('');
  expect(await refusal(save(id, { from: 1 }))).toMatchObject({ status: 409, code: 'unchanged' });
  expect((await save(id, { from: 1, written: step(1, { minS: 660 }) })).version).toBe(2);
  expect(await refusal(save(id, { from: 1, written: step(1, { minS: 700 }) }))).toMatchObject({ status: 409, code: 'stale' });
  await save(id, { from: 2, written: step(1, { minS: 660 }), check: 'on' });
  const versions = await procedureVersions(harness.db, id);
  expect(versions.map((v) => v.procedure.written!.steps[1]!.minS)).toEqual([660, 660, 600]);
  expect(versions[0]!.procedure.checked).toMatchObject({ by: lead.name });
});

test.each([
  ['no title', { title: ' ' }, 'title', ''],
  ['no source', { source: '' }, 'source', ''],
  ['a system type that is none', { family: 'steam' }, 'family', '"steam" is not a system type of the library.'],
  ['an effect that is none', { effect: 'magic' }, 'effect', ''],
  ['a caution that is none', { cautions: ['dragons'] }, 'cautions[1]', '"dragons"'],
  ['no steps', { written: { text, steps: [] } }, 'written.steps', ''],
  ['a kind that is none', { written: step(0, { kind: 'sing' }) }, 'written.steps[0].kind', 'do, wait, hold'],
  ['a time that is too long', { written: step(1, { minS: 90_000 }) }, 'written.steps[1].minS', '86400'],
  ['two steps of one name', { written: step(1, { id: 's1' }) }, 'written.steps[1]', ''],
  ['a repeat from a later step', { written: step(3, { from: 's4' }) }, 'written.steps[3].from', 'Choose an earlier step.'],
  ['a point of no return that is gone', { written: { ...written(), noReturn: 's9' } }, 'written.noReturn', 'point of no return'],
  ['no point of no return', { written: { text, steps: written().steps } }, 'steps', 'point of no return'],
  ['something else', { written: 'steps' }, 'written', ''],
])('%s is refused with its place', async (_name, more, path, said) => {
  const refused = await refusal(Promise.resolve().then(() => save('', more)));
  expect(refused).toMatchObject({ status: 400, message: expect.stringContaining(said) });
  expect((refused as { path: string }).path).toBe(path);
});

test('a case of the type is offered it and runs its own version; one that is retired is not offered any more', async () => {
  const { db, services } = harness;
  const { id } = await save('', { title: 'Another one' });
  const caseId = await harness.openCase({ system: 'family:transponder-dwell', authority: [{ kind: 'registration', note: '' }] });
  expect((await proceduresOf(services, 'transponder-dwell')).map((p) => p.id)).toContain(id);
  expect((await proceduresOf(services, 'pellet')).map((p) => p.id)).not.toContain(id);
  const run = await startRun(db, services.documents, services.library, harness.act(), caseId, id);
  await save(id, { title: 'Another one', from: 1, written: step(1, { minS: 700 }) });
  const [wait] = (await loadRun(db, services.documents, run.id))!.procedure.written!.steps.filter((s) => s.kind === 'wait');
  expect(wait!.minS).toBe(600);

  await setRetired(db, harness.act(lead), 'procedure', id, true);
  expect((await proceduresOf(services, 'transponder-dwell')).map((p) => p.id)).not.toContain(id);
  const other = await harness.openCase({ system: 'family:transponder-dwell', authority: [{ kind: 'registration', note: '' }] });
  expect(await refusal(startRun(db, services.documents, services.library, harness.act(), other, id))).toMatchObject({ code: 'unknownProcedure' });
});

test('out as YAML and in again in another shop; what its lint refuses stays out', async () => {
  const there = await Harness.open();
  try {
    const { id } = await save('', { title: 'To the other shop' });
    const [newest] = await procedureVersions(harness.db, id);
    const yaml = procedureYaml(newest!.procedure);
    const on = there.with;
    expect(await importDocument(on, there.act(lead), parseYamlSent({ text: yaml }))).toEqual({ kind: 'procedure', id, version: 1, known: false });
    expect(await importDocument(on, there.act(lead), parseYamlSent({ text: yaml }))).toMatchObject({ known: true });
    expect((await procedureVersions(there.db, id))[0]!.procedure).toEqual(newest!.procedure);
    expect(
      await refusal(importDocument(on, there.act(lead), parseYamlSent({ text: yaml.replace('family: transponder-dwell', 'family: steam') }))),
    ).toMatchObject({ path: 'family' });
    expect(await refusal(importDocument(on, there.act(lead), parseYamlSent({ text: yaml.replace('id: noReturn', 'id: s1') })))).toMatchObject({
      status: 400,
    });
  } finally {
    await there.close();
  }
});

describe('a copy of a shipped procedure', () => {
  const copy = async (id = 'write-slot', actor = lead) => copyProcedure(harness.db, harness.services.library, harness.act(actor), id);
  const newest = async (id: string) => (await procedureVersions(harness.db, id))[0]!.procedure;
  const put = (id: string, from: number, more: object) =>
    saveSteps(harness.db, harness.services.library, harness.act(lead), id, parseStepsForm({ from, title: 'Ours', source: 'Folder 3', ...more }));

  test('is the same step by step, offered beside it, and remembers what it is of', async () => {
    const { id } = await copy();
    const [own, shipped] = [await newest(id), harness.services.library.procedures.get('write-slot')!];
    expect(own).toMatchObject({
      title: `${shipped.title}, own copy`,
      checked: null,
      version: 1,
      copyOf: { id: 'write-slot', version: shipped.version },
    });
    expect(own.steps).toEqual(shipped.steps);
    expect((await proceduresOf(harness.services, 'slot-store')).map((p) => p.id)).toContain(id);
    expect(await refusal(copy('write-slot', technician))).toMatchObject({ status: 403 });
    expect(await refusal(copy('gone'))).toMatchObject({ status: 404 });
  });
  test('edited: another order, other words, a step of its own; the version before stays', async () => {
    const { id } = await copy();
    const { steps } = await newest(id);
    const now = addedAfter(reworded(movedBy(steps, 'clear', -1), 'prove', { hint: 'The gray programmer.' }), 'negative', 'Tape the post.');
    expect((await put(id, 1, { steps: now })).version).toBe(2);
    const versions = await procedureVersions(harness.db, id);
    expect(versions.map((v) => v.procedure.title)).toEqual(['Ours', 'Write a key into an empty slot, own copy']);
    expect(versions[0]!.procedure.steps).toEqual(now);
    expect(versions[1]!.procedure.steps).toEqual(steps);
    expect(await refusal(put(id, 1, { steps }))).toMatchObject({ status: 409, code: 'stale' });
    expect(await refusal(put(id, 2, { steps: now }))).toMatchObject({ status: 409, code: 'unchanged' });
  });
  test.each<[string, (steps: Step[]) => unknown[], string]>([
    ['a figure that is none', (s) => refigured(s, linesOf(s).find((l) => l.kind === 'wait')!.id, 'min', 'soon'), 'min'],
    [
      'an answer that leads to a stop that is not there',
      (s) => {
        const { id, leads } = linesOf(s).find((l) => l.leads.length > 0)!;
        return redirected(s, id, { ...leads[0]!, to: 'stop.gone' });
      },
      'gone',
    ],
    ['a step that another one points at is gone', (s) => without(s, 'slot'), '"slot"'],
    ['the point of no return is gone', (s) => without(s, 'sure'), 'no step is a commitment'],
    ['no words', (s) => reworded(s, 'prove', { words: '  ' }), ''],
    ['steps that are none', () => [{ id: 'x', shout: 'y' }], 'no known kind of step'],
  ])('%s: refused with a path, nothing saved', async (_what, change, message) => {
    const { id } = await copy();
    const { steps } = await newest(id);
    const refused = await refusal(put(id, 1, { steps: change(steps) }));
    expect(refused).toMatchObject({ status: 400 });
    expect(JSON.stringify(refused)).toContain(JSON.stringify(message).slice(1, -1));
    expect(await procedureVersions(harness.db, id)).toHaveLength(1);
  });
  test('one that was made from a text is not edited this way', async () => {
    const { id } = await save('');
    expect(await refusal(put(id, 1, { steps: (await newest(id)).steps }))).toMatchObject({ status: 409, code: 'written' });
  });
  test('notes made in runs of what it was copied from are told by step, the newest first; one that was taken back is not', async () => {
    const caseId = await harness.openCase({ system: 'family:slot-store', authority: [{ kind: 'registration', note: '' }] });
    const { id: runId } = await startRun(harness.db, harness.services.documents, harness.services.library, harness.act(), caseId, 'write-slot');
    const tell = (command: object) =>
      commandRun(harness.db, harness.services.documents, harness.act(), runId, { expectedSeq: 0, occurredAt: 0, ...command } as never);
    const seq = async () => (await loadRun(harness.db, harness.services.documents, runId))!.events.length;
    const say = async (command: object) => tell({ id: randomUUID(), ...command, expectedSeq: await seq(), occurredAt: harness.services.clock.now() });
    await say({ type: 'interrupt', what: 'left', note: 'Posts are hidden under the seat.' });
    expect(await stepNotes(harness.services, ['write-slot'])).toEqual([
      { step: 'rested', note: 'Posts are hidden under the seat.', by: expect.any(String), at: expect.any(Number), caseId },
    ]);
    expect(await stepNotes(harness.services, ['relearn-cylinder'])).toEqual([]);
    await say({ type: 'note', note: 'The window was shut.' });
    expect((await stepNotes(harness.services, ['write-slot'])).map((n) => n.note)).toEqual([
      'The window was shut.',
      'Posts are hidden under the seat.',
    ]);
    const noted = (await loadRun(harness.db, harness.services.documents, runId))!.events.at(-1)!;
    await say({ type: 'takeBack', event: noted.id });
    expect((await stepNotes(harness.services, ['write-slot'])).map((n) => n.note)).toEqual(['Posts are hidden under the seat.']);
    expect(await refusal(say({ type: 'note', note: '  ' }))).toMatchObject({ status: 409, code: 'noteMissing' });
  });
});

test('a case on an older version of its system type is not offered what names a number that it lacks, and is told why', async () => {
  const { db, services } = harness;
  const { keysMax: _gone, ...params } = services.library.families.get('status-record')!.params;
  const body = { ...services.library.families.get('status-record')!, version: 900, params };
  const hash = contentHash(body);
  await db.insert(document).values({ kind: 'family', id: body.id, version: 900, hash, origin: 'shipped', body, enteredAt: 0 });
  const caseId = await harness.openCase({ system: 'family:status-record', authority: [{ kind: 'registration', note: '' }] });
  const offered = async () => (await readCasePage(services, caseId))!.procedures.map((p) => p.id);
  expect(await offered()).toContain('learn-keys-status');
  await db.update(caseFile).set({ familyVersion: 900, familyHash: hash }).where(eq(caseFile.id, caseId));
  await recordAuthority(db, harness.act(), caseId, { kind: 'registration', note: 'seen again' } as never);
  expect(await offered()).toEqual(['retest-without-interference']);
  expect((await readCasePage(services, caseId))!.everyVehicle.map((p) => p.id)).toContain('swap-module');
  expect(await refusal(startRun(db, services.documents, services.library, harness.act(), caseId, 'learn-keys-status'))).toMatchObject({
    status: 409,
    code: 'olderType',
    message: expect.stringContaining('which has no number for: Keys it can store'),
  });
});

// Last, since the shop has a copy of each from here on.
test('every shipped procedure can be copied and edited, however deep its steps stand', async () => {
  for (const [id, shipped] of harness.services.library.procedures) {
    const made = await copyProcedure(harness.db, harness.services.library, harness.act(lead), id);
    const { steps } = (await procedureVersions(harness.db, made.id))[0]!.procedure;
    const words = linesOf(steps).find((l) => l.hint !== null)!.id;
    const form = parseStepsForm({ from: 1, title: 'Ours', source: 'Folder 3', steps: reworded(steps, words, { hint: 'Ours.' }) });
    const saved = saveSteps(harness.db, harness.services.library, harness.act(lead), made.id, form);
    expect([
      shipped.id,
      await saved.then(
        (s) => s.version,
        (e: unknown) => e,
      ),
    ]).toEqual([shipped.id, 2]);
  }
});
