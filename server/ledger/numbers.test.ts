import { Harness, lead, refusal, technician } from '../services/harness.testing';
import { loadCase } from '../record/cases';
import { readCasePage } from '../cases/caseView';
import { closeNotDone } from '../cases/closing';
import { parseRunCommand } from '../runs/forms';
import { caseNumbers, saveNumbers } from './numbers';
import { profileVersions } from '../library/profiles';
import { exportCase } from '../transfer/exportCase';
import { importCase } from '../transfer/importCase';
import { commandRun, foldRun, loadRun, startRun } from '../runs/runs';

let harness: Harness;
beforeAll(async () => {
  harness = await Harness.open();
});
afterAll(() => harness.close());

const relearn = 'relearn-ignition-on';
/** A case of a vehicle that no library knows, with a run that has just begun. */
async function unknownVehicle(system = 'family:transponder-dwell') {
  const { db, services } = harness;
  const caseId = await harness.openCase({ system, vehicle: 'Old estate, brown', authority: [{ kind: 'registration', note: '' }] });
  const run = async () => (await startRun(db, services.documents, services.library, harness.act(), caseId, relearn)).id;
  return { caseId, run, runId: await run() };
}
async function give(runId: number, name: string, value: string, actor = lead, more: { confirmed?: boolean } = {}) {
  const act = harness.act(actor);
  const run = (await loadRun(harness.db, harness.services.documents, runId))!;
  const said = { type: 'number', name, value, source: 'page 7', ...more };
  const command = parseRunCommand({ id: act.id, expectedSeq: run.events.length, occurredAt: act.now, ...said });
  return commandRun(harness.db, harness.services.documents, act, runId, command);
}
const stop = async (runId: number) => {
  const act = harness.act();
  const run = (await loadRun(harness.db, harness.services.documents, runId))!;
  await commandRun(harness.db, harness.services.documents, act, runId, {
    id: act.id,
    expectedSeq: run.events.length,
    occurredAt: act.now,
    type: 'stop',
    reason: 'tea',
  });
};
const keep = (caseId: number, title = 'Old estate', actor = lead) =>
  saveNumbers(harness.db, harness.services.library, harness.act(actor), caseId, title);

test('a number given in a run is kept in the next one, and as a profile that the case goes on with', async () => {
  const { caseId, run, runId } = await unknownVehicle();
  expect(await refusal(keep(caseId))).toMatchObject({ status: 409, message: 'No number was looked up in this case yet.' });
  await give(runId, 'dwell', '480,5', technician);
  await give(runId, 'dwell', '505 s', technician);
  expect((await foldRun((await loadRun(harness.db, harness.services.documents, runId))!)).given.dwell).toEqual({
    value: 505,
    source: 'page 7',
    by: technician.name,
  });
  await stop(runId);
  const next = (await loadRun(harness.db, harness.services.documents, await run()))!;
  expect(next.params.dwell).toMatchObject({ value: 505, status: 'verified', source: `page 7 (${technician.name})` });

  expect(await refusal(keep(caseId, 'Old estate', technician))).toMatchObject({ status: 403 });
  const { profile } = await keep(caseId);
  expect((await profileVersions(harness.db, profile))[0]!.profile).toMatchObject({
    title: 'Old estate',
    family: 'transponder-dwell',
    values: { dwell: { value: 505, source: 'page 7', by: technician.name } },
    checked: null,
  });
  expect((await loadCase(harness.db, caseId))!.profile).toMatchObject({ id: profile, version: 1 });

  // The next number goes into the same profile.
  await give(next.id, 'offMin', '7');
  await keep(caseId, 'ignored');
  const versions = await profileVersions(harness.db, profile);
  expect(versions.map((v) => Object.keys(v.profile.values).sort())).toEqual([['dwell', 'offMin'], ['dwell']]);
  expect((await loadCase(harness.db, caseId))!.profile!.version).toBe(2);
});

test('also afterwards: a closed case keeps its version, and says where its numbers are kept', async () => {
  const { caseId, runId } = await unknownVehicle();
  await give(runId, 'dwell', '515');
  await stop(runId);
  await closeNotDone(harness.db, harness.act(), caseId, { returned: [], reason: 'The customer took it away.' });
  expect((await readCasePage(harness.services, caseId))!.kept).toBeNull();
  const { profile } = await keep(caseId, 'Estate of the dyer');
  expect((await loadCase(harness.db, caseId))!.profile).toBeNull();
  expect(await readCasePage(harness.services, caseId)).toMatchObject({
    kept: { id: profile, title: 'Estate of the dyer' },
    learnt: [{ words: '8:35' }],
  });
});

test('with a shipped profile a copy of it is made', async () => {
  const { caseId, runId } = await unknownVehicle('profile:tarn-gantry');
  await give(runId, 'offMin', '6');
  const { profile } = await keep(caseId, 'Our pickup');
  const kept = (await profileVersions(harness.db, profile))[0]!.profile;
  expect(Object.keys(kept.values).length).toBeGreaterThan(3);
  expect(kept.values.offMin).toMatchObject({ value: 6, by: lead.name });
});

test.each([
  ['dwell', 'soon', 'value', 'You typed "soon". Type seconds, or as m:ss, such as 420, 7:00 or 7 min.'],
  ['dwell', '-3', 'value.value', '-3 can’t be used here. Use 0 or more.'],
  ['gone', '3', 'value', /^System type "transponder-dwell" has no parameter "gone"\./],
  ['constructor', '3', 'value', /has no parameter "constructor"/],
  ['cycles', '9', 'value', /^This number contradicts the others of the procedure \(min 9 is above max \d\. Swap them\.\) Check both again\.$/],
  [
    'offMin',
    '9999',
    'value',
    /^This number contradicts the others of the procedure \(min and max: 9999 s is not below \d+ s\. Correct one of them\.\)/,
  ],
])('%s = %j is refused, and nothing is recorded', async (name, value, path, message) => {
  const { caseId, runId } = await unknownVehicle();
  expect(await refusal(give(runId, name, value))).toMatchObject({
    status: 400,
    path,
    message: typeof message === 'string' ? message : expect.stringMatching(message),
  });
  expect(await caseNumbers(harness.db, caseId)).toEqual({});
});

test.each([
  ['100', '"100" is 1:40 (100 s). Outside the usual range (7:00 to 15:00). Is it right?'],
  ['419', '"419" is 6:59 (419 s). Outside the usual range (7:00 to 15:00). Is it right?'],
  ['15:01', '"15:01" is 15:01 (901 s). Outside the usual range (7:00 to 15:00). Is it right?'],
])('%s is outside the usual range: asked again, and taken when it is said again', async (typed, message) => {
  const { caseId, runId } = await unknownVehicle();
  expect(await refusal(give(runId, 'dwell', typed))).toMatchObject({ status: 409, code: 'unusual', path: 'value', message });
  expect(await caseNumbers(harness.db, caseId)).toEqual({});
  await give(runId, 'dwell', typed, lead, { confirmed: true });
  expect(Object.keys(await caseNumbers(harness.db, caseId))).toEqual(['dwell']);
});
test.each(['420', '7:00', '7 min', '900', '15 min'])('%s is within it, and taken at once', async (typed) => {
  const { caseId, runId } = await unknownVehicle();
  await give(runId, 'dwell', typed);
  expect((await caseNumbers(harness.db, caseId)).dwell!.value).toBe(typed.startsWith('7') || typed === '420' ? 420 : 900);
});

test('a case with a number that was looked up is exported and taken over with it', async () => {
  const { caseId, runId } = await unknownVehicle();
  // Outside the usual range, so it was asked again.
  await give(runId, 'dwell', '100', lead, { confirmed: true });
  const { zip } = await exportCase(harness.db, harness.act(), caseId);
  const there = await Harness.open();
  try {
    const { id } = await importCase(there.with, there.act(), zip);
    expect(await caseNumbers(there.db, id)).toEqual({ dwell: { value: 100, source: 'page 7', by: lead.name } });
  } finally {
    await there.close();
  }
});
