import { Harness } from '../services/harness.testing';
import { openDocuments } from '../library/documents';
import { setPlace, parsePlace } from '../floor/acts';
import { parseRunCommand } from './forms';
import { commandRun, keptOpenRuns, loadRun, startRun } from './runs';
import { firstClocks, stripClocks } from './strip';

let harness: Harness;
beforeEach(async () => {
  harness = await Harness.open();
});
afterEach(() => harness.close());

async function start(bay?: string): Promise<{ caseId: number; id: number }> {
  const { db, services } = harness;
  const caseId = await harness.openCase({
    system: 'family:transponder-dwell',
    authority: [{ kind: 'registration', note: '' }],
    ...(bay === undefined ? {} : { bay: await harness.bay(bay) }),
  });
  const { id } = await startRun(db, services.documents, services.library, harness.act(), caseId, 'relearn-ignition-on');
  return { caseId, id };
}
async function send(id: number, body: object): Promise<void> {
  const { db, services } = harness;
  const act = harness.act();
  const { events } = (await loadRun(db, services.documents, id))!;
  await commandRun(db, services.documents, act, id, parseRunCommand({ id: act.id, expectedSeq: events.length, occurredAt: act.now, ...body }));
}
const open = () => keptOpenRuns(harness.services);
const measured = { type: 'answer', step: 'rested', answer: 'measured', value: 12.6 };

test('an open run without a new event is the same record as before, one with one is read anew, and each is what is stored', async () => {
  const [a, b] = [await start(), await start()];
  const before = await open();
  expect(before.map((r) => r.id)).toEqual([a.id, b.id]);
  await send(b.id, measured);
  const after = await open();
  expect(after[0]).toBe(before[0]);
  expect(after[1]).not.toBe(before[1]);
  for (const run of after) expect(run).toMatchObject((await loadRun(harness.db, harness.services.documents, run.id))!);
  expect(after[1]!.events).toHaveLength(2);
});

test('a bay that is changed is told of a run that has not moved; one that ends, and one that begins, are told too', async () => {
  const [a, b] = [await start('Bay 1'), await start()];
  expect((await open()).map((r) => r.bay)).toEqual(['Bay 1', null]);
  await setPlace(harness.db, harness.act(), parsePlace({ caseId: a.caseId, bay: await harness.bay('Bay 2') }));
  expect((await open()).map((r) => [r.bay, r.events.length])).toEqual([
    ['Bay 2', 1],
    [null, 1],
  ]);
  await send(a.id, { type: 'stop', reason: 'the customer wants it back' });
  const c = await start();
  expect((await open()).map((r) => r.id)).toEqual([b.id, c.id]);
});

test('an answer that is taken back stands as what is stored, though the run is as long as before', async () => {
  const { id } = await start();
  await send(id, measured);
  const [before] = await open();
  await send(id, { type: 'takeBack', event: before!.events.at(-1)!.id });
  await send(id, { ...measured, value: 12.9 });
  const [after] = await open();
  expect(after!.events).toEqual((await loadRun(harness.db, harness.services.documents, id))!.events);
  expect(JSON.stringify(after!.events)).toContain('12.9');
});

test('the strip shows thirteen at most, those that need somebody first, and counts the rest', async () => {
  for (let i = 0; i < 15; i += 1) await start();
  const all = await stripClocks(harness.services);
  expect(all).toHaveLength(15);
  const { clocks, more } = await firstClocks(harness.services);
  expect(clocks).toEqual(all.slice(0, 13));
  expect(more).toBe(2);
});

test('a document that a hundred ask for at once is read into its form once: all get the same object', async () => {
  const { id } = await start();
  const { procedure } = (await loadRun(harness.db, harness.services.documents, id))!;
  const { hash } = harness.services.library.documents.find(
    (d) => d.kind === 'procedure' && d.id === procedure.id && d.version === procedure.version,
  )!;
  const documents = openDocuments(harness.db);
  const all = await Promise.all(Array.from({ length: 100 }, () => documents.procedure({ id: procedure.id, version: procedure.version, hash })));
  expect(new Set(all).size).toBe(1);
  expect(all[0]).toEqual(procedure);
});
