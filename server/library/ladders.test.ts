import { Harness, lead, refusal, technician } from '../services/harness.testing';
import { importDocument } from './importDocument';
import { ladderCsv, ladderNamed, ladderVersions, ladderYaml, listLadders, offeredLadders, parseLadderForm, saveLadder } from './ladders';
import { setRetired } from './shopDocuments';

let harness: Harness;
beforeAll(async () => {
  harness = await Harness.open();
});
afterAll(() => harness.close());

const steps = 'step,nominal,low,high\n1,100,90,110\n2,150,140,160\n';
const form = (more: Record<string, unknown> = {}) =>
  parseLadderForm({
    from: 0,
    title: 'Our ladder',
    source: 'folder 3, page 9',
    pellets: 1,
    contactOhms: '',
    ppmPerKelvin: '',
    steps,
    check: false,
    ...more,
  });
const save = (id: string, more: Record<string, unknown> = {}, actor = lead) => saveLadder(harness.db, harness.act(actor), id, form(more));
const find = (id: string) => ladderNamed(harness.db, id);
const offered = async (inUse?: string) => (await offeredLadders(harness.services, inUse)).map((l) => l.pin.id);

test('the shipped ladders are there, by title', async () => {
  const ladders = await listLadders(harness.db, harness.services.library);
  expect(ladders.map((l) => [l.ladder.id, l.origin])).toEqual([
    ['dunmore-pair', 'shipped'],
    ['tarn-ten', 'shipped'],
    ['veskar-twelve', 'shipped'],
  ]);
});

test('a ladder of the shop: made, changed as its next version, checked by name; each version stays as it was', async () => {
  const { id, version } = await save('', { contactOhms: '4.5', ppmPerKelvin: '-200' });
  expect(id).toMatch(/^shop-our-ladder-/);
  expect(version).toBe(1);
  expect((await find(id)).ladder).toMatchObject({
    version: 1,
    checked: null,
    contactOhms: 4.5,
    ppmPerKelvin: -200,
    steps: [{ step: 1, nominal: 100 }, { step: 2 }],
  });
  expect(await save(id, { from: 1, steps: `${steps}3,200,190,210`, check: 'on' })).toMatchObject({ id, version: 2 });
  const { ladder, origin } = await find(id);
  expect(origin).toBe('shop');
  expect(ladder).toMatchObject({ version: 2, checked: { by: 'Ines Marrow', on: expect.stringMatching(/^\d{4}-\d\d-\d\d$/) } });
  expect(ladder.steps).toHaveLength(3);
  expect(ladder.contactOhms).toBeUndefined();
  expect(ladderCsv(ladder)).toBe(`${steps}3,200,190,210`);
  expect((await ladderVersions(harness.db, id)).map((v) => [v.pin.version, v.ladder.steps.length, v.by])).toEqual([
    [2, 3, lead.name],
    [1, 2, lead.name],
  ]);
  // A number that changed has not been checked; the same once more is no version.
  await save(id, { from: 2 });
  expect((await find(id)).ladder).toMatchObject({ version: 3, checked: null });
  expect(await refusal(save(id, { from: 3 }))).toMatchObject({ status: 409, message: 'Nothing was changed, so there is nothing to save.' });
});

test('a retired ladder is not offered, except where it is in use; it comes back; the shipped are not retired', async () => {
  const { id } = await save('', { title: 'Old one' });
  expect(await offered()).toContain(id);
  await setRetired(harness.db, harness.act(lead), 'ladder', id, true);
  expect(await offered()).not.toContain(id);
  expect(await offered(id)).toContain(id);
  await setRetired(harness.db, harness.act(lead), 'ladder', id, false);
  expect(await offered()).toContain(id);
  expect(await refusal(setRetired(harness.db, harness.act(lead), 'ladder', 'tarn-ten', true))).toMatchObject({
    status: 409,
    message: 'Shipped documents can’t be retired. Only a value chart of the shop can.',
  });
  expect(await refusal(setRetired(harness.db, harness.act(technician), 'ladder', id, true))).toMatchObject({ status: 403 });
});

test('goes out as YAML and comes in again as the same; changed, as the next version; under a shipped name it is refused', async () => {
  const { ladder } = await find('tarn-ten');
  const import_ = (yaml: string) => importDocument(harness.with, harness.act(lead), yaml);
  expect(await refusal(import_(ladderYaml(ladder)))).toMatchObject({
    status: 409,
    path: 'id',
    message: '"tarn-ten" is the name of a shipped value chart. Give yours another id, such as shop-tarn-ten.',
  });
  const own = ladderYaml({ ...ladder, id: 'shop-tarn', version: 7 });
  expect(await import_(own)).toEqual({ kind: 'ladder', id: 'shop-tarn', version: 1, known: false });
  expect(await import_(own)).toEqual({ kind: 'ladder', id: 'shop-tarn', version: 1, known: true });
  expect(await import_(own.replace('of ten', 'of the ten'))).toEqual({ kind: 'ladder', id: 'shop-tarn', version: 2, known: false });
  expect((await find('shop-tarn')).ladder).toMatchObject({ version: 2, title: 'Tarn chart of the ten values' });
  expect(await refusal(import_('kind: ladder'))).toMatchObject({ status: 400 });
  expect(await refusal(import_('a: ['))).toMatchObject({ status: 400 });
  expect(await refusal(import_('x'.repeat(1_000_001)))).toMatchObject({ status: 413 });
});

test('windows that overlap are refused at the field, with their line', async () => {
  expect(await refusal(save('', { steps: 'step,nominal,low,high\n1,100,90,110\n2,120,105,130' }))).toMatchObject({
    status: 400,
    path: 'steps',
    message: 'line 3, low: The window of value 2 begins at 105 Ω, inside the window of value 1, which ends at 110 Ω. Separate them.',
  });
});

test('only who may edits; what is not there is said; a form without a source is refused', async () => {
  expect(await refusal(save('', {}, technician))).toMatchObject({ status: 403 });
  expect(await refusal(find('nowhere'))).toMatchObject({ status: 400, code: 'noLadder' });
  expect(await refusal(find('__proto__'))).toMatchObject({ code: 'noLadder' });
  expect(await refusal(save('A b'))).toMatchObject({ status: 404, message: 'This value chart was not found.' });
  expect(await refusal(save('tarn-ten', { from: 1 }))).toMatchObject({ status: 409, code: 'shipped' });
  expect(() => form({ source: ' ' })).toThrow();
  expect(() => form({ pellets: 3 })).toThrow();
});

test('two who save at once: one is saved, the other is told', async () => {
  const { id } = await save('');
  const both = await Promise.allSettled([save(id, { from: 1, title: 'One' }), save(id, { from: 1, title: 'Other' })]);
  expect(both.map((b) => b.status).sort()).toEqual(['fulfilled', 'rejected']);
  expect(both.find((b) => b.status === 'rejected')).toMatchObject({
    reason: { problems: [{ message: expect.stringMatching(/^Someone saved version 2 meanwhile\./) }] },
  });
  expect((await find(id)).ladder.version).toBe(2);
});
