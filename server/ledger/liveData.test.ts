import { loadCase } from '../record/cases';
import { readCasePage } from '../cases/caseView';
import { Harness, lead, refusal, technician } from '../services/harness.testing';
import { parseLiveData, recordLiveData, viewLiveData } from './liveData';

let harness: Harness;
beforeAll(async () => {
  harness = await Harness.open();
});
afterAll(() => harness.close());

const record = (id: number, form: Record<string, unknown>, act = harness.act(technician)) =>
  recordLiveData(harness.db, harness.services.documents, act, id, parseLiveData(form));
const linesOf = async (id: number) => (await loadCase(harness.db, id))!.evidence.map((e) => [e.test, e.outcome, e.key, e.note]);
const view = async (id: number) => {
  const known = (await loadCase(harness.db, id))!;
  return viewLiveData(known, await harness.services.documents.family(known.family));
};

test('each value is a line of its own, with the key where it belongs to one, and moves its links', async () => {
  const id = await harness.openCase();
  expect(await record(id, { key: 'A', values: { validKey: 'yes', releaseReceived: 'wrong', supplyRead: 'good', keysStored: '' } })).toEqual([
    'Live data "valid key"',
    'Start enable received, ECM live data',
    'Voltage at the immobilizer, live data',
  ]);
  expect(await linesOf(id)).toEqual([
    ['validKey', 'yes', 'A', 'read off live data'],
    ['releaseReceived', 'wrong', null, 'read off live data'],
    ['supplyRead', 'good', null, 'read off live data'],
  ]);
  const page = (await readCasePage(harness.services, id))!;
  const links = Object.fromEntries(page.diagnosis.links.map((l) => [l.id, l.state]));
  expect(links).toMatchObject({ power: 'holds', network: 'holds', startEnabled: 'broken' });
  const { values } = await view(id);
  expect(values.find((v) => v.id === 'releaseReceived')).toMatchObject({
    links: [expect.any(String), expect.any(String)],
    last: { say: 'Start enable received, but not valid', key: null },
  });
  expect(values.find((v) => v.id === 'keysStored')!.last).toBeNull();
});

test('every system type has the values that tell, each once, with its links', async () => {
  const known = (await loadCase(harness.db, await harness.openCase()))!;
  for (const family of harness.services.library.families.values()) {
    const { values } = viewLiveData(known, family);
    const ids = values.map((v) => v.id);
    // Its own test of a value stands for the general one.
    const own = (general: string) => family.tests.find((t) => t.live && t.same === general)?.id ?? general;
    expect({ family: family.id, ids }).toMatchObject({
      ids: expect.arrayContaining([own('keyRecognized'), own('releaseAsked'), 'releaseReceived', 'supplyRead']),
    });
    if (family.tests.some((t) => t.id === 'keysStored')) expect(ids).toContain('keysStored');
    expect(new Set(ids).size).toBe(ids.length);
    for (const v of values) expect({ family: family.id, value: v.id, links: v.links.length > 0 }).toMatchObject({ links: true });
    const proposed = family.tests.filter((t) => ['keyRecognized', 'releaseReceived', 'supplyRead'].includes(t.id));
    expect(proposed.map((t) => t.recorded)).toEqual([true, true, true]);
  }
});

test.each<[string, Record<string, unknown>, object]>([
  [
    'nothing',
    { values: {} },
    { status: 400, code: 'nothing', path: 'values', message: 'No value is chosen. Choose what the scan tool shows, then save.' },
  ],
  ['nothing but what was not read', { values: { supplyRead: '' } }, { code: 'nothing' }],
  [
    'a test that is no live data',
    { values: { battery: 'good' } },
    { status: 400, code: 'unknownTest', message: expect.stringMatching(/^"battery" is not a live data value of this system type\. Use some of: /) },
  ],
  [
    'a result that does not exist',
    { values: { supplyRead: 'purple' } },
    { code: 'unknownOutcome', message: '"purple" is not a result of "Voltage at the immobilizer, live data". Use one of: good, low, noAnswer.' },
  ],
  [
    'a value of a key without one',
    { values: { validKey: 'yes' } },
    { code: 'keyMissing', message: 'Choose the key it was seen with. Here are: A, B.' },
  ],
  ['a key that is not here', { key: 'Z', values: { validKey: 'yes' } }, { code: 'keyMissing' }],
  ['one good and one bad value: neither', { values: { supplyRead: 'good', releaseReceived: 'purple' } }, { code: 'unknownOutcome' }],
])('refused: %s', async (_name, form, problem) => {
  const id = await harness.openCase();
  expect(await refusal(Promise.resolve().then(() => record(id, form)))).toMatchObject(problem);
  expect(await linesOf(id)).toEqual([]);
});

test('100 at once under one id are one, under their own a hundred', async () => {
  const id = await harness.openCase();
  const act = harness.act(technician);
  await Promise.all(Array.from({ length: 100 }, () => record(id, { values: { supplyRead: 'low' } }, act)));
  expect(await linesOf(id)).toHaveLength(1);
  await Promise.all(Array.from({ length: 100 }, () => record(id, { values: { supplyRead: 'good' } }, harness.act(lead))));
  expect(await linesOf(id)).toHaveLength(101);
  expect((await view(id)).values.find((v) => v.id === 'supplyRead')!.last!.say).toBe('Same as at the battery');
});
