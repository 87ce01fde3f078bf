import { eq } from 'drizzle-orm';
import { captureAside } from '../../db/schema';
import { loadCase } from '../../record/cases';
import type { BurstsRaw } from '../../record/measured';
import { Harness, lead, refusal, technician } from '../../services/harness.testing';
import { exportCase } from '../../transfer/exportCase';
import { importCase } from '../../transfer/importCase';
import { capturesOf, shopTheory } from './baselines';
import { parseMeasurement } from './form';
import { recordMeasurement } from './record';
import { parseSetAside, setCaptureAside } from './setAside';

let harness: Harness;
let there: Harness;
beforeAll(async () => {
  harness = await Harness.open();
  there = await Harness.open();
});
afterAll(() => Promise.all([harness.close(), there.close()]));

const keys = [
  { tag: 'A', here: 'on' },
  { tag: 'B', here: 'on' },
];
const open = (more: Record<string, unknown> = {}) => harness.openCase({ system: 'family:transponder-dwell', keys, ...more });
const bursts = (count: number, lengthMs: number, spacingMs = 120) =>
  Array.from({ length: count }, (_, i) => ({
    startS: 0.05 + (i * spacingMs) / 1000,
    durationS: lengthMs / 1000,
    amplitude: 0.4,
    carrierHz: 125_000,
    notches: 0,
  }));
const foil = bursts(7, 31);
const accepted = bursts(1, 47);
const capture = (
  caseId: number,
  condition: string,
  list: ReturnType<typeof bursts>,
  more: Record<string, unknown> = {},
  raw: Record<string, unknown> = {},
) => ({
  kind: 'bursts',
  case: caseId,
  ...more,
  raw: {
    name: 'scope.csv',
    condition,
    probe: 'loop 20 mm',
    place: 'lock',
    storedKeys: 2,
    samples: 1_000_000,
    sampleRateHz: 1e6,
    noise: 0.01,
    bursts: list,
    quality: list.length > 0 ? 'good' : 'nothing',
    limits: [],
    ...raw,
  },
});
const record = (form: Record<string, unknown>, actor = technician) => recordMeasurement(harness.services, harness.act(actor), parseMeasurement(form));
const ledger = async (id: number) => (await loadCase(harness.db, id))!.evidence.map((e) => [e.test, e.outcome, e.key]);

test('two keys refused: like the foil, nothing answered; an object is removed: like an accepted key', async () => {
  const id = await open();
  for (let i = 0; i < 2; i += 1)
    expect(await record(capture(id, 'foil', foil))).toEqual({ say: 'Baseline, key in foil: 7 bursts.', answered: [], simulated: false });
  for (const key of ['A', 'B']) {
    const read = await record(capture(id, 'asked', bursts(7, 31.2), { key }));
    expect(read.say).toMatch(/^7 bursts\. Nothing answered\. It looks like the captures where no key could answer/);
    expect(read.answered).toEqual(['Bursts of the antenna coil, against a key in foil']);
  }
  expect(await record(capture(id, 'accepted', accepted, { key: 'A' }))).toMatchObject({ say: 'Baseline, tag A, accepted: 1 burst.', answered: [] });
  expect((await record(capture(id, 'asked', bursts(1, 47.2), { key: 'B' }))).say).toMatch(/^1 burst\. Like an accepted key\./);
  expect(await ledger(id)).toEqual([
    ['bursts', 'nothing', 'A'],
    ['bursts', 'nothing', 'B'],
    ['bursts', 'accepted', 'B'],
  ]);
  // What it was compared with is kept as it was then.
  const { measurements } = (await loadCase(harness.db, id))!;
  const asked = measurements.find((m) => m.key === 'B' && m.verdict.includes('accepted'))!.raw as BurstsRaw;
  expect(asked.against.map((k) => `${k.condition} ${k.key ?? '-'} ${k.count}`).sort()).toEqual(['accepted A 1', 'foil - 7', 'foil - 7']);
});

test('without a capture in foil only the number counts, as a weak hint in a test of its own', async () => {
  const id = await open();
  expect((await record(capture(id, 'asked', accepted, { key: 'A' }))).answered).toEqual(['Number of bursts, by rule of thumb']);
  await record(capture(id, 'asked', foil, { key: 'A' }));
  await record(capture(id, 'asked', [], { key: 'B' }));
  // No key, no evidence about a key.
  await record(capture(id, 'asked', foil));
  expect(await ledger(id)).toEqual([
    ['burstCount', 'one', 'A'],
    ['burstCount', 'several', 'A'],
    ['burstCount', 'noBurst', 'B'],
  ]);
  // An own baseline moves the diagnosis more than the rule of thumb.
  const family = harness.services.library.families.get('transponder-dwell')!;
  const ratio = (test: string, outcome: string) => {
    const rows = family.tests.find((t) => t.id === test)!.p as Record<string, Record<string, number>>;
    return rows['immobilizer.accepts']![outcome]! / rows['immobilizer.misses']![outcome]!;
  };
  expect(ratio('bursts', 'accepted')).toBeGreaterThan(5 * ratio('burstCount', 'one'));
});

test('only like is compared with like: probe, place, stored keys, and simulated only with simulated, which is no evidence', async () => {
  const id = await open();
  await record(capture(id, 'foil', foil));
  await record(capture(id, 'foil', foil, { simulated: true }, { probe: 'coil 5 mm' }));
  const answered = async (raw: Record<string, unknown>, more: Record<string, unknown> = {}) =>
    (await record(capture(id, 'asked', foil, { key: 'A', ...more }, raw))).answered;
  expect(await answered({})).toEqual(['Bursts of the antenna coil, against a key in foil']);
  expect(await answered({ probe: 'LOOP 20 MM' })).toEqual(['Bursts of the antenna coil, against a key in foil']);
  for (const other of [{ probe: 'coil 5 mm' }, { place: 'dash' }, { storedKeys: 3 }, { storedKeys: null }])
    expect(await answered(other)).toEqual(['Number of bursts, by rule of thumb']);
  expect(await answered({ probe: 'coil 5 mm' }, { simulated: true })).toEqual([]);
});

test('captures of this vehicle are those of its VIN too; of no other vehicle', async () => {
  const identification = '1HGCM82633A004352';
  const [before, now, other] = [await open({ identification }), await open({ identification }), await open()];
  await record(capture(before, 'foil', foil));
  await record(capture(before, 'accepted', accepted, { key: 'A' }));
  const [own, none] = await Promise.all([now, other].map(async (id) => capturesOf(harness.db, (await loadCase(harness.db, id))!)));
  // A tag of another case is another key.
  expect(own!.map((c) => `${c.condition} ${c.key}`).sort()).toEqual(['accepted null', 'foil null']);
  expect(none).toEqual([]);
});

test('captures of other vehicles of the model: a weak hint that takes the rule of thumb away where it says otherwise; like ones only, and no longer than needed', async () => {
  const profile = { system: 'profile:tarn-gantry' };
  const other = await open(profile);
  await record(capture(other, 'foil', foil));
  await record(capture(other, 'foil', bursts(7, 31.1)));
  // On this model an accepted key is asked three times.
  const asksThrice = bursts(3, 47, 200);
  await record(capture(other, 'accepted', asksThrice, { key: 'A' }));
  await record(capture(other, 'accepted', asksThrice, { key: 'A' }));
  const id = await open(profile);
  const read = await record(capture(id, 'asked', asksThrice, { key: 'A' }));
  expect(read.say).toMatch(/^3 bursts\. By other vehicles of this model: like an accepted key\./);
  expect(read.answered).toEqual([]);
  // Where both mean the same it is as weak as the rule alone.
  expect((await record(capture(id, 'asked', foil, { key: 'A' }))).answered).toEqual(['Number of bursts, by rule of thumb']);
  // Another probe, another model: nothing to compare with.
  const ruled = /^3 bursts\. 3 bursts\. Rule of thumb/;
  expect((await record(capture(id, 'asked', asksThrice, { key: 'A' }, { probe: 'coil 5 mm' }))).say).toMatch(ruled);
  expect((await record(capture(await open(), 'asked', asksThrice, { key: 'A' }))).say).toMatch(ruled);
  // Its own take their place.
  await record(capture(id, 'foil', foil));
  expect((await record(capture(id, 'asked', foil, { key: 'B' }))).answered).toEqual(['Bursts of the antenna coil, against a key in foil']);
  const others = async ({ db }: Harness, of: number) =>
    (await loadCase(db, of))!.measurements.map((m) => (m.raw as BurstsRaw).against.filter((k) => k.ofModel).length).sort();
  expect(await others(harness, id)).toEqual([0, 0, 4, 4, 4]);
  // What it was compared with goes to another shop with it.
  const { zip } = await exportCase(harness.db, harness.act(lead), id);
  const { id: copy } = await importCase(there.with, there.act(lead), zip);
  expect(await others(there, copy)).toEqual([0, 0, 4, 4, 4]);
});

test('a wrong baseline is set aside with a reason, once; what was compared with it stays', async () => {
  const id = await open();
  await record(capture(id, 'foil', accepted));
  expect((await record(capture(id, 'asked', accepted, { key: 'A' }))).say).toMatch(/Nothing answered/);
  const wrong = (await capturesOf(harness.db, (await loadCase(harness.db, id))!)).find((c) => c.condition === 'foil');
  const form = { case: id, capture: wrong!.id, reason: 'The foil had a gap.' };
  const tries = await Promise.allSettled(
    Array.from({ length: 100 }, () => setCaptureAside(harness.db, harness.act(technician), parseSetAside(form))),
  );
  expect(tries.filter((t) => t.status === 'fulfilled')).toHaveLength(1);
  const problem = await refusal(setCaptureAside(harness.db, harness.act(technician), parseSetAside(form)));
  expect(problem).toMatchObject({ status: 409, message: 'This capture is not one of the case, or was set aside already. Look at the list again.' });
  expect((await record(capture(id, 'asked', accepted, { key: 'A' }))).answered).toEqual(['Number of bursts, by rule of thumb']);
  expect(await ledger(id)).toEqual([
    ['bursts', 'nothing', 'A'],
    ['burstCount', 'one', 'A'],
  ]);
  expect(await harness.db.select().from(captureAside).where(eq(captureAside.caseId, id))).toMatchObject([
    { id: wrong!.id, reason: 'The foil had a gap.' },
  ]);
});

test('what is too near to the noise is kept and answers nothing; captures of the same thing count together', async () => {
  const id = await open();
  await record(capture(id, 'foil', foil));
  const read = await record(capture(id, 'asked', [], { key: 'A' }, { quality: 'notMeasurable', limits: ['weak'] }));
  expect(read).toMatchObject({ say: 'Not measurable: something is there, too near to the noise to be counted.', answered: [] });
  const repeats = [{ count: 7, lengthMs: 31, spacingMs: 120 }];
  await record(capture(id, 'asked', foil, { key: 'B' }, { repeats }));
  expect((await loadCase(harness.db, id))!.measurements.find((m) => m.key === 'B')!.raw).toMatchObject({ repeats });
});

test('what does not fit is refused, each with its field', async () => {
  const id = await open();
  const problems = async (form: Record<string, unknown>) => {
    try {
      await record(form);
    } catch (error) {
      return (error as { problems: { path: string; message: string }[] }).problems.map((p) => `${p.path}: ${p.message}`);
    }
    return ['accepted'];
  };
  expect(await problems(capture(id, 'asked', foil, { key: 'Q' }))).toEqual(['key: Tag Q is not here. Choose a key of the case.']);
  for (const [raw, path] of [
    [{ condition: 'other' }, 'raw.condition'],
    [{ samples: 1 }, 'raw.samples'],
    [{ storedKeys: 41 }, 'raw.storedKeys'],
    [{ sampleRateHz: 'fast' }, 'raw.sampleRateHz'],
    [{ bursts: [{ startS: 0 }] }, 'raw.bursts[0].durationS'],
    [{ quality: 'fine' }, 'raw.quality'],
  ] as const)
    expect((await problems(capture(id, 'asked', foil, {}, raw)))[0]).toMatch(new RegExp(`^${path.replace(/[[\].]/g, '\\$&')}: `));
});

test('the theory of stored keys: of real captures of one vehicle, not of simulated ones', async () => {
  const before = await shopTheory(harness.db);
  const id = await open();
  await record(capture(id, 'noKey', bursts(5, 31)));
  await record(capture(id, 'noKey', bursts(8, 31), {}, { storedKeys: 3 }));
  await record(capture(id, 'noKey', bursts(9, 31), { simulated: true }, { storedKeys: 4 }));
  const after = await shopTheory(harness.db);
  expect([after.forIt - before.forIt, after.against - before.against]).toEqual([1, 0]);
  expect(after.points).toContainEqual({ storedKeys: 3, count: 8, times: 1 });
  expect(after.points.find((p) => p.storedKeys === 4)).toBeUndefined();
});

test('captures go to another shop with their case, those set aside as such', async () => {
  const id = await open();
  await record(capture(id, 'foil', foil));
  await record(capture(id, 'foil', accepted));
  await record(capture(id, 'asked', foil, { key: 'A' }));
  const [, wrong] = await capturesOf(harness.db, (await loadCase(harness.db, id))!);
  await setCaptureAside(harness.db, harness.act(technician), parseSetAside({ case: id, capture: wrong!.id, reason: 'No foil was on it.' }));
  const { zip } = await exportCase(harness.db, harness.act(lead), id);
  const { id: copy } = await importCase(there.with, there.act(lead), zip);
  const [own, taken] = await Promise.all([
    capturesOf(harness.db, (await loadCase(harness.db, id))!),
    capturesOf(there.db, (await loadCase(there.db, copy))!),
  ]);
  expect(taken.map(({ id: line, condition, key, raw }) => ({ line, condition, key, raw }))).toEqual(
    own.map(({ id: line, condition, key, raw }) => ({ line, condition, key, raw })),
  );
  expect(taken).toHaveLength(2);
});
