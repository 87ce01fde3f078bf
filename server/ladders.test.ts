import { Bench, lead, refusal, technician } from './bench.testing';
import { importLadder, ladderCsv, ladderNamed, ladderYaml, listLadders, parseLadderForm, saveLadder } from './ladders';

let bench: Bench;
beforeAll(async () => {
  bench = await Bench.open();
}, 60_000);
afterAll(() => bench.close());

const steps = 'step,nominal,low,high\n1,100,90,110\n2,150,140,160\n';
const form = (more: Record<string, unknown> = {}) =>
  parseLadderForm({ title: 'Our ladder', source: 'folder 3, page 9', pellets: 1, contactOhms: '', ppmPerKelvin: '', steps, check: false, ...more });
const save = (id: string, more: Record<string, unknown> = {}, actor = lead) =>
  saveLadder(bench.db, bench.services.library, bench.act(actor), id, form(more));
const find = (id: string) => ladderNamed(bench.db, bench.services.library, id);

test('the shipped ladders are there, by title', async () => {
  const ladders = await listLadders(bench.db, bench.services.library);
  expect(ladders.map((l) => [l.ladder.id, l.origin])).toEqual([
    ['dunmore-pair', 'shipped'],
    ['tarn-ten', 'shipped'],
    ['veskar-twelve', 'shipped'],
  ]);
});

test('a ladder of the shop: made, changed as its next version, checked by name', async () => {
  const { id } = await save('', { contactOhms: '4.5', ppmPerKelvin: '-200' });
  expect(id).toMatch(/^shop-our-ladder-/);
  expect((await find(id)).ladder).toMatchObject({
    version: 1,
    checked: null,
    contactOhms: 4.5,
    ppmPerKelvin: -200,
    steps: [{ step: 1, nominal: 100 }, { step: 2 }],
  });
  await save(id, { steps: `${steps}3,200,190,210`, check: 'on' });
  const { ladder, origin } = await find(id);
  expect(origin).toBe('shop');
  expect(ladder).toMatchObject({ version: 2, checked: { by: 'Ines Marrow', on: expect.stringMatching(/^\d{4}-\d\d-\d\d$/) } });
  expect(ladder.steps).toHaveLength(3);
  expect(ladder.contactOhms).toBeUndefined();
  expect(ladderCsv(ladder)).toBe(`${steps}3,200,190,210`);
});

test('goes out as YAML and comes in again as the next version; under a shipped name it is refused', async () => {
  const { ladder } = await find('tarn-ten');
  const import_ = (yaml: string) => importLadder(bench.db, bench.services.library, bench.act(lead), yaml);
  expect(await refusal(import_(ladderYaml(ladder)))).toMatchObject({ status: 409, code: 'shipped' });
  const own = ladderYaml({ ...ladder, id: 'shop-tarn', version: 7 });
  expect(await import_(own)).toEqual({ id: 'shop-tarn' });
  expect(await import_(own)).toEqual({ id: 'shop-tarn' });
  expect((await find('shop-tarn')).ladder).toMatchObject({ version: 2, title: 'Tarn ladder of ten' });
  expect(await refusal(import_('kind: ladder'))).toMatchObject({ status: 400 });
  expect(await refusal(import_('a: ['))).toMatchObject({ status: 400 });
  expect(await refusal(import_('x'.repeat(1_000_001)))).toMatchObject({ status: 413 });
});

test('windows that overlap are refused at the field, with their line', async () => {
  expect(await refusal(save('', { steps: 'step,nominal,low,high\n1,100,90,110\n2,120,105,130' }))).toMatchObject({
    status: 400,
    path: 'steps',
    message: 'line 3, low: The window of step 2 begins at 105 Ω, inside the window of step 1, which ends at 110 Ω. Part them.',
  });
});

test('only who may edits; what is not there is said; a form without a source is refused', async () => {
  expect(await refusal(save('', {}, technician))).toMatchObject({ status: 403 });
  expect(await refusal(find('nowhere'))).toMatchObject({ status: 400, code: 'noLadder' });
  expect(await refusal(find('__proto__'))).toMatchObject({ code: 'noLadder' });
  expect(await refusal(save('A b'))).toMatchObject({ status: 404 });
  expect(() => form({ source: ' ' })).toThrow();
  expect(() => form({ pellets: 3 })).toThrow();
});

test('two who save at once get two versions', async () => {
  const { id } = await save('');
  await Promise.all([save(id, { title: 'One' }), save(id, { title: 'Other' })]);
  expect((await find(id)).ladder.version).toBe(3);
});
