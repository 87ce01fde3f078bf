import { sql } from 'drizzle-orm';
import sharp from 'sharp';
import { attachPhoto } from '../cases/photos';
import { readReport } from '../cases/report';
import { parseScan, recordScan } from '../cases/scans';
import { parkCase } from '../cases/closing';
import { loadCase } from '../record/cases';
import { Harness, lead, refusal, technician } from '../services/harness.testing';
import { answerStep, beginPlan, endPlan, mostEntries, recordCauses, recordFits, recordSaved, recordVariant } from './acts';
import { parseCausesForm, parseEndForm, parseFitsForm, parsePlanForm, parseSavedForm, parseStepForm, parseVariantForm } from './forms';
import { jobOf } from './job';

let harness: Harness;
beforeAll(async () => {
  harness = await Harness.open();
});
afterAll(() => harness.close());

const needs = () => ({ db: harness.db, documents: harness.services.documents, library: harness.services.library });
/** Milliseconds that have passed besides. */
let passed = 0;
const act = () => harness.act(technician, harness.services.clock.now() + passed);
const tools = ['scan tool', 'programming tool'];
const plan = (id: number, more: Record<string, unknown> = {}, as = act()) =>
  beginPlan(needs(), as, id, parsePlanForm({ replaced: { engine: 'new' }, tools, ...more }));
const step = (id: number, name: string, answer: string, note = '', as = act()) =>
  answerStep(needs(), as, id, parseStepForm({ step: name, answer, note }));
const variant = (id: number, side: string, numbers: Record<string, string>, again: Record<string, string> = { part: numbers.part! }, more = {}) =>
  recordVariant(needs(), act(), id, parseVariantForm({ part: 'engine', side, numbers, again, ...more }));
const saved = (id: number, answers: Record<string, string>) => recordSaved(needs(), act(), id, parseSavedForm({ part: 'engine', answers }));
const causes = (id: number, answers: Record<string, string>, note = '') =>
  recordCauses(needs(), act(), id, parseCausesForm({ part: 'engine', answers, note }));
const job = async (id: number) => {
  const record = (await loadCase(harness.db, id))!;
  return jobOf(record, await harness.services.documents.family(record.family));
};
const entries = async (id: number) => (await loadCase(harness.db, id))!.replacement;

test('a plan is kept as it was made, worked step by step, and said in the report', async () => {
  const id = await harness.openCase();
  expect(await job(id)).toBeNull();
  await plan(id);
  const first = (await job(id))!;
  expect(first.steps.map((s) => s.step.id).slice(0, 4)).toEqual(['readOld.engine', 'compareVariant.engine', 'findCause.engine', 'swapModule.engine']);
  expect(first.parts).toMatchObject([{ part: 'engine', title: 'ECM', old: null, new: null }]);
  expect(first.next).toBe('readOld.engine');

  const items = first.parts[0]!.saved.map((s) => s.item);
  expect(items).toContain('codes');
  await saved(id, Object.fromEntries(items.map((item) => [item, 'saved'])));
  expect((await job(id))!.next).toBe('compareVariant.engine');
  await variant(id, 'old', { part: '70 213', serial: 'S1' });
  await variant(id, 'new', { part: '70 214', serial: 'S2' });
  expect((await job(id))!.steps[1]!.state).toBe('stopped');
  await recordFits(needs(), act(), id, parseFitsForm({ part: 'engine', reason: 'The service information lists it in its place.' }));
  expect((await job(id))!.next).toBe('findCause.engine');
  const checks = first.parts[0]!.causes.map((c) => c.id);
  await causes(id, Object.fromEntries(checks.map((c) => [c, 'good'])), 'all with the engine warm');
  expect((await job(id))!.next).toBe('swapModule.engine');
  await step(id, 'swapModule.engine', 'failed', 'a pin is bent');
  expect((await job(id))!.next).toBe('swapModule.engine');
  await step(id, 'swapModule.engine', 'leftOut', 'done by the body shop');
  expect((await job(id))!.settled).toBe(4);

  const lines = (await readReport(harness.services, id))!.lines.map((l) => `${l.what} | ${l.detail}`);
  for (const line of [
    /^Replacement planned \| ECM: new\. With the tools at hand, \d+ steps$/,
    /^Read before it comes out: ECM \| VIN stored in it: saved; /,
    /^Numbers of the new part: ECM \| part number 70 214, serial number S2\. Typed twice$/,
    /^Accepted although its numbers differ: ECM \| The service information lists it in its place\.$/,
    /^What may have damaged it: ECM \(all with the engine warm\) \| Ignition coils .*: good; Spark plugs/,
    /^Swap the module with the power off: failed \| a pin is bent$/,
  ])
    expect(lines).toContainEqual(expect.stringMatching(line));
});

test('a scan settles the step of the network, every key the last one', async () => {
  const id = await harness.openCase();
  await plan(id);
  const first = (await job(id))!;
  for (const s of first.steps) {
    if (s.step.place === 'scan') break;
    passed += 1000;
    await step(id, s.step.id, 'leftOut', 'for this test');
  }
  expect((await job(id))!.next).toBe('clearNetwork');
  const scan = (text: string) =>
    recordScan(needs(), act(), id, parseScan({ text, phase: 'after', coverage: { immobilizer: 'answered', engine: 'answered' } }));
  passed += 1000;
  await scan('ECM U0100 present');
  expect((await job(id))!.next).toBe('clearNetwork');
  passed += 1000;
  await scan('');
  expect((await job(id))!.steps.find((s) => s.step.id === 'clearNetwork')).toMatchObject({ state: 'done', through: 'scan' });
});

test('what came out without being read asks for nothing to be saved, and its counters stay lost', async () => {
  const id = await harness.openCase();
  await plan(id, { unread: ['engine'] });
  const now = (await job(id))!;
  expect(now.parts[0]!.saved).toEqual([]);
  expect(now.steps.map((s) => s.step.id)).not.toContain('readOld.engine');
  expect(now.steps.map((s) => s.step.id)).not.toContain('restoreCounters.engine');
});

test('an ECM that is in already: where it comes from is evidence; one that is still to be fitted says nothing of the fault', async () => {
  const id = await harness.openCase();
  const evidence = async () => (await loadCase(harness.db, id))!.evidence.map((e) => [e.test, e.outcome]);
  await plan(id, { replaced: { engine: 'donor' } });
  expect(await evidence()).toEqual([]);
  await plan(id, { replaced: { engine: 'donor' }, installed: ['engine'] });
  expect(await evidence()).toEqual([['moduleOrigin', 'used']]);
  await plan(id, { replaced: { engine: 'repaired' }, installed: ['engine'] });
  expect(await evidence()).toHaveLength(1);
});

test('numbers typed twice: what differs is said by place; a photo stands in for the second time', async () => {
  const id = await harness.openCase();
  await plan(id);
  expect(await refusal(variant(id, 'old', { part: 'A1B2' }, { part: 'A182' }))).toMatchObject({
    status: 400,
    path: 'again.part',
    message: expect.stringMatching(/^Part number: The second entry differs: .*B.*8.*\.$/),
  });
  expect(await refusal(variant(id, 'old', { part: 'A1B2' }, {}))).toMatchObject({
    path: 'again.part',
    message: 'Part number: Type it a second time, from the label.',
  });
  expect(await refusal(variant(id, 'old', { supplier: 'one' }, {}))).toMatchObject({ path: 'numbers.part' });
  expect(await refusal(variant(id, 'old', { part: 'A1B2' }, {}, { photo: '17' }))).toMatchObject({
    path: 'photo',
    message: 'This photo is not in the case. Choose one that is, take one of the label, or type the numbers twice.',
  });
  const label = await sharp({ create: { width: 20, height: 10, channels: 3, background: 'red' } })
    .png()
    .toBuffer();
  await attachPhoto(harness.with, act(), id, label, { caption: 'label of the old ECM', key: null });
  const { at } = (await loadCase(harness.db, id))!.photos[0]!;
  await variant(id, 'old', { part: 'A1B2' }, {}, { photo: String(at) });
  expect((await job(id))!.parts[0]!.old).toMatchObject({ checked: 'photo', photo: at, variant: { part: 'A1B2' } });
  expect(await refusal(recordFits(needs(), act(), id, parseFitsForm({ part: 'engine', reason: 'listed' })))).toMatchObject({ status: 409 });
  expect(await entries(id)).toHaveLength(2);
});

test('what can’t be: no plan, nothing to do, an unknown step, one that waits, no reason, no authority, a case that is not open', async () => {
  const id = await harness.openCase();
  expect(await refusal(step(id, 'readOld.engine', 'done'))).toMatchObject({
    status: 409,
    message: expect.stringContaining('No plan is being worked'),
  });
  expect(await refusal(plan(id, { replaced: {} }))).toMatchObject({ status: 409, message: 'Nothing has to be done for this.' });
  expect(await refusal(plan(id, { tools: [] }))).toMatchObject({ status: 409, message: expect.stringContaining('start it') });
  await plan(id);
  expect(await refusal(step(id, 'toString', 'done'))).toMatchObject({ status: 400, path: 'step' });
  expect(await refusal(step(id, 'swapModule.engine', 'done'))).toMatchObject({ status: 409, message: expect.stringContaining('waits for steps') });
  expect(await refusal(step(id, 'readOld.engine', 'leftOut'))).toMatchObject({
    status: 400,
    path: 'note',
    message: 'Write down why it is left out.',
  });
  expect(await refusal(step(id, 'readOld.engine', 'failed'))).toMatchObject({ path: 'note', message: 'Write down how it failed.' });
  expect(await refusal(saved(id, {}))).toMatchObject({ status: 400, path: 'answers' });
  expect(await refusal(causes(id, { nobodyKnows: 'good' }))).toMatchObject({ status: 400, path: 'answers' });
  for (const name of ['readOld.engine', 'compareVariant.engine', 'findCause.engine']) await step(id, name, 'leftOut', 'not today');
  expect(await refusal(step(id, 'swapModule.engine', 'done'))).toMatchObject({ status: 409, message: expect.stringContaining('uthority') });
  await endPlan(needs(), act(), id, parseEndForm({ reason: 'the old ECM was fine' }));
  expect(await job(id)).toBeNull();
  expect(await refusal(endPlan(needs(), act(), id, parseEndForm({ reason: 'again' })))).toMatchObject({ status: 409 });
  await parkCase(harness.db, harness.act(lead), id, 'waits for a part');
  expect(await refusal(plan(id))).toMatchObject({ status: 409 });
  for (const bad of [
    { replaced: { radio: 'new' } },
    { replaced: { engine: 'stolen' } },
    { replaced: { engine: 'new' }, installed: ['radio'] },
    { replaced: { engine: 'new' }, tools: Array.from({ length: 21 }, (_, i) => `tool ${i}`) },
  ])
    expect(() => parsePlanForm(bad)).toThrow();
  expect(() => parseStepForm({ step: '../x', answer: 'done' })).toThrow();
  expect(() => parseEndForm({ reason: '' })).toThrow();
});

test('a hundred at once under one id are one entry, under their own ids a hundred; then the case is full', async () => {
  const id = await harness.openCase();
  await plan(id);
  const one = act();
  await Promise.all(Array.from({ length: 100 }, () => step(id, 'readOld.engine', 'failed', 'no answer', one)));
  expect(await entries(id)).toHaveLength(2);
  await Promise.all(Array.from({ length: 100 }, () => step(id, 'readOld.engine', 'failed', 'no answer')));
  expect(await entries(id)).toHaveLength(102);
  await harness.db.execute(
    sql`insert into replacement (case_id, entry, "by", at) select ${id}, '{"v":1,"kind":"end","reason":"x"}', ${technician.id}, 1 from generate_series(103, ${mostEntries})`,
  );
  expect(await refusal(plan(id))).toMatchObject({ status: 409, message: `A case holds ${mostEntries} entries about replaced parts at most.` });
});

test('rows are only ever added', async () => {
  await expect(harness.db.execute(sql`update replacement set at = 1`)).rejects.toThrow();
  await expect(harness.db.execute(sql`delete from replacement`)).rejects.toThrow();
});
