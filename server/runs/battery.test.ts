import { reserveOf, type RunReserve } from '../../core/procedure';
import { valuesOf } from '../../core/library';
import { Harness, refusal } from '../services/harness.testing';
import { readReport } from '../cases/report';
import { exportCase } from '../transfer/exportCase';
import { importCase } from '../transfer/importCase';
import { readFloor } from '../floor/floor';
import { stripClocks } from './strip';
import { parseRunCommand } from './forms';
import { caseWithRuns, commandRun, foldRun, loadRun, programOf, startRun } from './runs';

let harness: Harness;
let there: Harness;
beforeAll(async () => {
  harness = await Harness.open();
  there = await Harness.open();
});
afterAll(async () => {
  await harness.close();
  await there.close();
});

const facts = { type: 'agm', capacityAh: 80, ageYears: 1, temperatureC: 15, loadAmps: 7, supplyAmps: 0 };
const load = async (runId: number) => (await loadRun(harness.db, harness.services.documents, runId))!;
async function send(runId: number, body: object) {
  const act = harness.act();
  const command = parseRunCommand({ id: act.id, expectedSeq: (await load(runId)).events.length, occurredAt: act.now, ...body });
  return commandRun(harness.db, harness.services.documents, act, runId, command);
}
async function begun() {
  const { db, services } = harness;
  const caseId = await harness.openCase({ system: 'family:transponder-dwell', authority: [{ kind: 'registration', note: '' }] });
  const { id } = await startRun(db, services.documents, services.library, harness.act(), caseId, 'relearn-ignition-on');
  await send(id, { type: 'answer', step: 'rested', answer: 'measured', value: 12.6 });
  return { caseId, runId: id };
}
const reserve = async (runId: number): Promise<RunReserve | undefined> => {
  const run = await load(runId);
  return reserveOf(programOf(run.procedure), valuesOf(run.params), foldRun(run));
};

test('what is entered of the battery is kept with the run, told in the report, and goes with an exported case', async () => {
  const { caseId, runId } = await begun();
  expect(await reserve(runId)).toMatchObject({ typical: true, restedVolts: 12.6 });
  await send(runId, { type: 'battery', facts });
  expect(await reserve(runId)).toMatchObject({ typical: false, facts });

  const { zip } = await exportCase(harness.db, harness.act(), caseId);
  const copy = await importCase(there.with, there.act(), zip);
  const [run] = (await caseWithRuns(there.services, copy.id))!.runs;
  // A run that was going on is stopped where it comes to.
  expect(run!.events.slice(-2)).toMatchObject([{ type: 'battery', facts }, { type: 'stopped' }]);
  expect(JSON.stringify(await readReport(harness.services, caseId))).toContain('Battery: AGM, 80 Ah, age 1 yr, 15 °C, load 7 A');
});

test('every page is told when another vehicle’s battery gets low', async () => {
  const { runId } = await begun();
  const clock = async () => (await stripClocks(harness.services)).find((c) => c.id === `run ${runId}`)!;
  expect((await clock()).batteryAt).toBeNull();
  for (const step of ['loads', 'loadOn']) await send(runId, { type: 'answer', step, answer: 'done' });
  await harness.services.clock.advance(60_000);
  await send(runId, { type: 'answer', step: 'loaded', answer: 'measured', value: 12.05 });
  const found = (await reserve(runId))!;
  expect((await clock()).batteryAt).toBe(found.sureUntil - 5 * 60_000);
  const lane = (await readFloor(harness.services)).lanes.find((l) => l.case?.runId === runId)!;
  expect(lane.case).toMatchObject({
    batteryAt: found.sureUntil - 5 * 60_000,
    doing: expect.stringMatching(/^Relearn without a scan tool, ignition on/),
  });
});

test('the next run of the case knows it, but for the maintainer', async () => {
  const { caseId, runId } = await begun();
  await send(runId, { type: 'battery', facts: { ...facts, supplyAmps: 10 } });
  await send(runId, { type: 'stop', reason: 'tea' });
  const { db, services } = harness;
  const { id } = await startRun(db, services.documents, services.library, harness.act(), caseId, 'relearn-ignition-on');
  await send(id, { type: 'answer', step: 'rested', answer: 'measured', value: 12.7 });
  expect(await reserve(id)).toMatchObject({ typical: false, facts: { ...facts, supplyAmps: 0 }, restedVolts: 12.7 });
});

test.each([
  [{ ...facts, type: 'lithium' }, 'facts.type', 'flooded, agm'],
  [{ ...facts, capacityAh: 1 }, 'facts.capacityAh', '4'],
  [{ ...facts, supplyAmps: 201 }, 'facts.supplyAmps', '200'],
  [{ type: 'agm' }, 'facts.capacityAh', ''],
  ['a big one', 'facts', ''],
])('facts that can’t be, %j, are refused with their place, and nothing is recorded', async (wrong, path, said) => {
  const { runId } = await begun();
  const before = (await load(runId)).events.length;
  expect(await refusal(Promise.resolve().then(() => send(runId, { type: 'battery', facts: wrong })))).toMatchObject({
    status: 400,
    path,
    message: expect.stringContaining(said),
  });
  expect((await load(runId)).events).toHaveLength(before);
});
