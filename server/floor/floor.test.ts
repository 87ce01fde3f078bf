import { eq } from 'drizzle-orm';
import { audit, caseFile, shop } from '../db/schema';
import { closeCase } from '../cases/closing';
import { Harness, lead, owner, refusal, technician } from '../services/harness.testing';
import { mostTechnicians, parsePlace, parseTechnicians, setPlace, setTechnicians } from './acts';
import { readFloor } from './floor';

let harness: Harness;
beforeEach(async () => {
  harness = await Harness.open();
});
afterEach(() => harness.close());
const floor = (ahead?: 'hour' | 'day') => readFloor(harness.services, ahead);
const lane = async (id: number) => (await floor()).lanes.find((l) => l.case?.id === id)!;
const minutes = (ms: number) => Math.round((ms - harness.services.clock.now()) / 60_000);
const read = async (form: () => unknown) => form();
const place = (caseId: number, more: { bay?: string; promisedAt?: number } = {}) =>
  setPlace(harness.db, harness.act(technician), parsePlace({ caseId, bay: '', ...more }));

test('without a case: nothing is planned, and it says what to do', async () => {
  expect(await floor()).toMatchObject({ readyAt: null, notes: [], technicians: 1, unplanned: 0, touch: { say: 'No case is open.', to: null } });
});

test('one technician goes from case to case, two begin both at once', async () => {
  const [a, b] = [await harness.openCase({ bay: await harness.bay('Bay 1') }), await harness.openCase({ bay: await harness.bay('Bay 2') })];
  const begins = async (id: number) => minutes((await lane(id)).spans[0]!.from);
  expect([await begins(a), await begins(b)].sort((x, y) => x - y)[0]).toBe(0);
  expect(Math.max(await begins(a), await begins(b))).toBeGreaterThan(0);
  const alone = (await floor()).readyAt!;
  await setTechnicians(harness.db, harness.act(technician), 2);
  expect([await begins(a), await begins(b)]).toEqual([0, 0]);
  expect((await floor()).readyAt!).toBeLessThan(alone);
  const [line] = await harness.db.select().from(audit).where(eq(audit.action, 'technicians at work'));
  expect(line).toMatchObject({ by: technician.id, detail: { technicians: 2 } });
});

test('what is likely after the next test is less sure than the test, by the diagnosis', async () => {
  const { spans } = await lane(await harness.openCase());
  expect(spans[0]).toMatchObject({ kind: 'hands', sure: 1 });
  const fix = spans.find((s) => s.label === 'likely: fix')!;
  expect(fix.sure).toBeGreaterThan(0);
  expect(fix.sure).toBeLessThan(0.95);
  expect(fix.from).toBeGreaterThanOrEqual(spans[0]!.until);
});

test('a promise is shown, goes before what was promised nothing, and what is late says so', async () => {
  const [first, second] = [await harness.openCase({ bay: await harness.bay('Bay 1') }), await harness.openCase({ bay: await harness.bay('Bay 2') })];
  const now = harness.services.clock.now();
  await place(second, { bay: await harness.bay('Bay 2'), promisedAt: now + 60_000 });
  expect((await lane(second)).case).toMatchObject({ promisedAt: now + 60_000, late: true });
  expect((await lane(first)).case).toMatchObject({ promisedAt: null, late: false });
  expect((await lane(second)).spans[0]!.from).toBe(now);
  expect((await floor()).notes).toEqual([{ kind: 'late', bay: 'Bay 2', minutes: expect.any(Number) }]);
  await place(second, { bay: await harness.bay('Bay 2') });
  expect((await lane(second)).case!.promisedAt).toBeNull();
  expect((await floor()).notes).toEqual([]);
});

test('a case moves between bays; a bay that is not there, and a case that is closed, are refused', async () => {
  const id = await harness.openCase({ bay: await harness.bay('Bay 1') });
  await place(id, { bay: await harness.bay('Bay 2') });
  expect(await lane(id)).toMatchObject({ bay: 'Bay 2' });
  await place(id);
  expect(await lane(id)).toMatchObject({ bay: 'No bay' });
  expect(await refusal(place(id, { bay: 'nowhere' }))).toMatchObject({ status: 400, path: 'bay' });
  await closeCase(harness.db, harness.services.documents, harness.act(lead), id, {
    outcome: 'Sent away.',
    reason: 'The customer wants nothing more done.',
    returned: [],
    conclusion: 'unknown',
    absentTold: true,
  });
  expect(await refusal(place(id))).toMatchObject({ status: 409 });
  const [row] = await harness.db.select({ bayId: caseFile.bayId }).from(caseFile).where(eq(caseFile.id, id));
  expect(row!.bayId).toBeNull();
});

test('forms are read through one schema', async () => {
  expect(parseTechnicians({ technicians: String(mostTechnicians) })).toEqual({ technicians: mostTechnicians });
  for (const technicians of ['0', String(mostTechnicians + 1), '1.5', 'two', ''])
    expect(await refusal(read(() => parseTechnicians({ technicians })))).toMatchObject({ status: 400, path: 'technicians' });
  expect(parsePlace({ caseId: '3', bay: '' })).toEqual({ caseId: 3, bay: '', promisedAt: null });
  expect(await refusal(read(() => parsePlace({ caseId: '3', bay: '', promisedAt: 'soon' })))).toMatchObject({ status: 400, path: 'promisedAt' });
});

test('a shop without data is told what to do', async () => {
  await harness.db.delete(shop);
  expect(await refusal(setTechnicians(harness.db, harness.act(owner), 2))).toMatchObject({
    status: 409,
    message: 'This shop has no data yet. Write its name under Shop first.',
  });
});

test('more cases than are planned at once are counted', async () => {
  for (let i = 0; i < 14; i += 1) await harness.openCase({ vehicle: `Orrin Thimble ${i}` });
  const found = await floor('day');
  expect(found).toMatchObject({ unplanned: 2, horizonMs: 8 * 60 * 60_000 });
  expect(found.lanes.filter((l) => l.case)).toHaveLength(14);
});
