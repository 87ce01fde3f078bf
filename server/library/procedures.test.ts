import { draftOf, type Written } from '../../core/procedure';
import { Harness, lead, refusal, technician } from '../services/harness.testing';
import { parseYamlSent } from './forms';
import { importDocument } from './importDocument';
import { parseProcedureForm, procedureVersions, procedureYaml, proceduresOf, saveProcedure } from './procedures';
import { setRetired } from './shopDocuments';
import { loadRun, startRun } from '../runs/runs';

let harness: Harness;
beforeAll(async () => {
  harness = await Harness.open();
}, 60_000);
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
