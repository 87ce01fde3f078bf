import { Harness, lead, refusal, technician } from '../services/harness.testing';
import { loadCase } from '../record/cases';
import { drawerCsv, parseDrawer, readDrawer, saveDrawer } from '../shop/drawer';
import { readFloor } from '../floor/floor';
import { stripClocks } from '../runs/strip';
import { parseMeasurement } from './measurements/form';
import { recordMeasurement } from './measurements/record';
import { readReport } from '../cases/report';
import { parseTakeBack, parseTry, readSearch, recordTry, takeBackTry } from './stepSearch';
import { exportCase } from '../transfer/exportCase';
import { importCase } from '../transfer/importCase';

let harness: Harness;
beforeAll(async () => {
  harness = await Harness.open();
});
afterAll(() => harness.close());

const keys = [{ tag: 'A', role: 'user', kind: 'pellet', here: 'on' }];
const authority = [{ kind: 'registration', note: 'seen' }];
const open = (more: Record<string, unknown> = {}) => harness.openCase({ system: 'profile:veskar-ledger', keys, authority, ...more });
const minutes = (n: number) => harness.services.clock.advance(n * 60_000);
const tried = (caseId: number, step: number, result: 'refused' | 'accepted', actor = technician) =>
  recordTry(harness.services, harness.act(actor), parseTry({ case: caseId, ladder: 'veskar-twelve', step, resistor: '1.2 kΩ + 220 Ω', result }));
const search = async (on: Harness, caseId: number, ladder = 'veskar-twelve') => readSearch(on.services, (await loadCase(on.db, caseId))!, ladder);
const read = (caseId: number) => search(harness, caseId);
const measured = (caseId: number, ohms: number) =>
  recordMeasurement(
    harness.services,
    harness.act(),
    parseMeasurement({
      kind: 'pellet',
      case: caseId,
      key: 'A',
      ladder: 'veskar-twelve',
      raw: { leadOhms: 0.4, temperatureC: 20, groups: [{ side: 1, turned: false, readings: [ohms, ohms + 1, ohms - 1] }] },
    }),
  );

test('every step alike at first; the lockout of the vehicle’s own sheet', async () => {
  const s = await read(await open());
  expect(s.plan!.order).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12]);
  expect(s).toMatchObject({ lockoutS: 300, lockoutKnown: true, tryS: 60, lockedUntil: null, history: 0, reading: false, shut: [], accepted: null });
  // 12 tries of a minute and 11 waits of five.
  expect(s.plan!.worstSeconds).toBe(12 * 60 + 11 * 300);
  expect(s.plan!.expectedSeconds).toBeCloseTo(6.5 * 60 + 5.5 * 300, 6);
});

test('behind authority: without it nothing is recorded', async () => {
  const id = await open({ authority: [] });
  expect((await read(id)).shut[0]).toContain('No authority is on record.');
  expect(await refusal(tried(id, 1, 'refused', lead))).toMatchObject({ status: 403, code: 'gateClosed' });
  expect((await read(id)).tries).toEqual([]);
});

test('refused ones are crossed out, the lockout runs over a restart of the page, and stands in the strip', async () => {
  const id = await open();
  await tried(id, 1, 'refused');
  let s = await read(id);
  expect(s.tries).toMatchObject([{ step: 1, result: 'refused', resistor: '1.2 kΩ + 220 Ω' }]);
  expect(s.plan!.order[0]).toBe(2);
  expect(s.lockedUntil).toBe(harness.services.clock.now() + 300_000);
  expect((await stripClocks(harness.services)).find((c) => c.id === `steps ${id}`)).toMatchObject({
    to: `/bench/steps?case=${id}&ladder=veskar-twelve`,
    round: 'lockout',
    attention: 'none',
    wait: { until: s.lockedUntil, startedAt: s.lockedUntil! - 300_000 },
  });
  expect((await readFloor(harness.services)).lanes.some((l) => l.case?.id === id)).toBe(true);
  // A try inside the lockout would be refused whatever it is.
  expect(await refusal(tried(id, 2, 'refused'))).toMatchObject({ status: 409, code: 'lockedOut' });
  await minutes(4.99);
  expect(await refusal(tried(id, 2, 'refused'))).toMatchObject({ code: 'lockedOut' });
  await minutes(0.01);
  s = await read(id);
  expect(s.lockedUntil).toBeNull();
  expect((await stripClocks(harness.services)).some((c) => c.id === `steps ${id}`)).toBe(false);
  await tried(id, 2, 'accepted');
  s = await read(id);
  expect(s.accepted).toMatchObject({ step: 2 });
  expect((await loadCase(harness.db, id))!.evidence).toMatchObject([
    { test: 'fixedResistor', outcome: 'accepted', note: 'Value 2 of Veskar chart of twelve values, with 1.2 kΩ + 220 Ω.' },
  ]);
});

test('a try that was recorded by mistake is taken back, once, and its lockout with it', async () => {
  const id = await open();
  await tried(id, 5, 'refused');
  const [t] = (await read(id)).tries;
  const back = () => takeBackTry(harness.db, harness.act(), parseTakeBack({ case: id, try: t!.id }));
  await back();
  expect(await read(id)).toMatchObject({ tries: [], lockedUntil: null });
  // In the report it stays, struck out.
  expect((await readReport(harness.services, id))!.lines).toContainEqual(
    expect.objectContaining({ what: 'Value 5 tried with a resistor', detail: 'Refused. 1.2 kΩ + 220 Ω', by: technician.name, gone: true }),
  );
  expect(await refusal(back())).toMatchObject({ status: 404 });
  expect(await refusal(takeBackTry(harness.db, harness.act(), parseTakeBack({ case: id, try: 'gone' })))).toMatchObject({ status: 404 });
});

test('what the shop measured elsewhere and a reading of this key decide the order', async () => {
  const others = [await open(), await open()];
  await measured(others[0]!, 2430);
  await measured(others[1]!, 2431);
  const id = await open();
  let s = await read(id);
  expect(s).toMatchObject({ history: 2, reading: false });
  expect(s.plan!.order[0]).toBe(8);
  expect(s.plan!.chances[0]).toBeCloseTo(3 / 14, 9);
  // Between values 6 and 7, nearer to 6: those two first.
  await measured(id, 1485);
  s = await read(id);
  expect(s.reading).toBe(true);
  expect(s.plan!.order[0]).toBe(6);
  // Its own readings are not counted as history once more.
  expect(s.history).toBe(2);
});

test('all refused: nothing is left; strange steps, ladders and closed cases are refused', async () => {
  const id = await open();
  for (let step = 1; step <= 12; step += 1) {
    await tried(id, step, 'refused');
    await minutes(5);
  }
  expect((await read(id)).plan).toBeNull();
  expect(await refusal(tried(id, 13, 'refused'))).toMatchObject({ status: 400, path: 'step' });
  expect(await refusal(search(harness, id, 'nowhere'))).toMatchObject({ code: 'noLadder' });
  expect(() => parseTry({ case: id, ladder: 'x', step: 1, resistor: 'r', result: 'perhaps' })).toThrow();
});

test('goes along to another shop', async () => {
  const there = await Harness.open();
  const id = await open();
  await tried(id, 3, 'refused');
  const { zip } = await exportCase(harness.db, harness.act(lead), id);
  const taken = (await importCase(there.with, there.act(lead), zip)).id;
  expect((await search(there, taken)).tries).toMatchObject([{ step: 3, result: 'refused' }]);
  await there.close();
});

test('the drawer: saved as CSV, wrong lines said, emptied again', async () => {
  expect(await readDrawer(harness.db)).toEqual({ resistors: [], senseVolts: 5 });
  const csv = 'ohms,tolerance_percent,count,watts\n220,1,4,0.25\n1200,1,3,0.25';
  const save = (resistors: string, senseVolts: unknown = 5, actor = lead) =>
    saveDrawer(harness.db, harness.act(actor), parseDrawer({ resistors, senseVolts }));
  await save(csv, '4.5');
  const drawer = await readDrawer(harness.db);
  expect(drawer).toMatchObject({ senseVolts: 4.5, resistors: [{ ohms: 220, tolerance: 0.01, count: 4, watts: 0.25 }, { ohms: 1200 }] });
  expect(drawerCsv(drawer.resistors)).toBe(csv);
  expect(await refusal(save('ohms\n220'))).toMatchObject({
    status: 400,
    path: 'resistors',
    message: expect.stringContaining('Begin with the header ohms,tolerance_percent,count,watts.'),
  });
  expect(await refusal(save(csv, 5, technician))).toMatchObject({ status: 403 });
  expect(() => parseDrawer({ resistors: csv, senseVolts: 0 })).toThrow();
  await save('');
  expect((await readDrawer(harness.db)).resistors).toEqual([]);
});
