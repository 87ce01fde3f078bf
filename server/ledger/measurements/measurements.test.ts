import { Harness, lead, refusal, technician } from '../../services/harness.testing';
import { loadCase } from '../../record/cases';
import { enterSimulatedMeter, parseMeter, saveMeter } from '../../shop/meters';
import { readReport } from '../../cases/report';
import { exportCase } from '../../transfer/exportCase';
import { importCase } from '../../transfer/importCase';
import { unpack } from '../../reading/zip';
import { copiedOf } from './copied';
import { parseMeasurement } from './form';
import { recordMeasurement } from './record';

let harness: Harness;
let there: Harness;
beforeAll(async () => {
  harness = await Harness.open();
  there = await Harness.open();
});
afterAll(() => Promise.all([harness.close(), there.close()]));

const keys = [
  { tag: 'A', role: 'user', kind: 'pellet', here: 'on' },
  { tag: 'B', role: 'user', kind: 'pellet', here: 'on' },
];
const pelletCase = (more: Record<string, unknown> = {}) => harness.openCase({ system: 'profile:veskar-ledger', keys, ...more });
const circumstances = { leadOhms: 0.4, temperatureC: 20 };
const group = (readings: (number | null)[], turned = false, side = 1) => ({ side, turned, readings });
const pellet = (caseId: number, raw: Record<string, unknown>, more: Record<string, unknown> = {}) => ({
  kind: 'pellet',
  case: caseId,
  key: 'A',
  ladder: 'veskar-twelve',
  raw: { ...circumstances, groups: [group([1391, 1388, 1384, 1386])], ...raw },
  ...more,
});
const record = (form: Record<string, unknown>, actor = technician) => recordMeasurement(harness.services, harness.act(actor), parseMeasurement(form));
const ledger = async (id: number) => (await loadCase(harness.db, id))!.evidence.map((e) => [e.test, e.outcome, e.key]);

test('a key that is read answers its test, and keeps every reading with ladder and circumstances', async () => {
  const id = await pelletCase();
  const read = await record(pellet(id, {}));
  expect(read).toEqual({
    say: expect.stringMatching(/^Value 6\. Sure \(over 99\.9 %\)\./),
    answered: ['Measure the resistor chip'],
    simulated: false,
  });
  const found = (await loadCase(harness.db, id))!;
  expect(found.evidence).toMatchObject([{ test: 'pelletOhms', outcome: 'step', key: 'A', note: read.say, measurementId: found.measurements[0]!.id }]);
  expect(found.measurements).toMatchObject([
    {
      kind: 'pellet',
      key: 'A',
      by: 'Orla Quibb',
      simulated: false,
      verdict: read.say,
      raw: {
        ...circumstances,
        groups: [group([1391, 1388, 1384, 1386])],
        ladder: { id: 'veskar-twelve', version: 3, hash: expect.stringMatching(/^[0-9a-f]{64}$/) },
      },
    },
  ]);
  const { lines } = (await readReport(harness.services, id))!;
  expect(lines.filter((l) => l.measurement)).toMatchObject([
    { what: 'Measure the resistor chip, tag A', detail: expect.stringContaining('Value 6. Sure'), measurement: { id: found.measurements[0]!.id } },
  ]);
});

test('a key that cannot be told yet is no evidence, and stands in the report with its readings', async () => {
  const id = await pelletCase();
  // At the edge of its window, one reading with leads and temperature not known.
  const read = await record(pellet(id, { leadOhms: null, temperatureC: null, groups: [group([1480])] }));
  expect(read.answered).toEqual([]);
  const { lines } = (await readReport(harness.services, id))!;
  expect(lines.filter((l) => l.measurement)).toMatchObject([
    { what: 'Key measured, tag A', detail: read.say, measurement: { raw: { groups: [group([1480])] } } },
  ]);
});

test.each([
  ['between steps', [1600, 1601, 1600], 'between'],
  ['overloads', [null, null, null], 'unstable'],
  ['next to nothing', [0.5, 0.4, 0.5], 'unstable'],
  ['jumping', [1400, 1600, 1250, 1500], 'unstable'],
])('a key that is %s', async (_what, readings, outcome) => {
  const id = await pelletCase();
  await record(pellet(id, { groups: [group(readings)] }));
  expect(await ledger(id)).toEqual([['pelletOhms', outcome, 'A']]);
});

test('a value at the edge is kept, and is no evidence', async () => {
  const id = await pelletCase();
  const read = await record(pellet(id, { groups: [group([1484, 1485])] }));
  expect(read.answered).toEqual([]);
  expect(await ledger(id)).toEqual([]);
  expect((await loadCase(harness.db, id))!.measurements).toHaveLength(1);
});

test('the vehicle’s own step: the same, another, and not sure enough to say', async () => {
  const id = await pelletCase();
  const same = await record(pellet(id, { vehicleSteps: [6], stepSource: 'label in the glove box' }));
  expect(same).toEqual({
    say: expect.stringContaining('The vehicle has 6 (label in the glove box): the same.'),
    answered: ['Measure the resistor chip', "This key's value against the vehicle's"],
    simulated: false,
  });
  await record(pellet(id, { vehicleSteps: [7] }, { key: 'B' }));
  expect(await ledger(id)).toEqual([
    ['pelletOhms', 'step', 'A'],
    ['stepMatches', 'equal', 'A'],
    ['pelletOhms', 'step', 'B'],
    ['stepMatches', 'other', 'B'],
  ]);
  expect((await record(pellet(id, { vehicleSteps: [6], groups: [group([1484, 1485])] }))).answered).toEqual([]);
  expect(await refusal(record(pellet(id, { vehicleSteps: [13] })))).toMatchObject({
    status: 400,
    path: 'raw.vehicleSteps',
    message: expect.stringContaining('The value chart has no value 13.'),
  });
  expect(await refusal(record(pellet(id, { vehicleSteps: [6, 7] })))).toMatchObject({
    message: 'A key of this value chart has one value. Give as many.',
  });
});

test('against the column: equal, higher, lower, open; what is not clear is no evidence', async () => {
  const wire = async (column: (number | null)[]) => {
    const id = await pelletCase();
    const read = await record({
      kind: 'wiring',
      case: id,
      ladder: 'veskar-twelve',
      raw: { ...circumstances, key: [1400.4, 1401.4, 1399.4], column },
    });
    return [(await ledger(id)).map(([test, outcome]) => `${test} ${outcome}`).join(), read.say];
  };
  expect((await wire([1403, 1404, 1402]))[0]).toBe('columnOhms equal');
  // This vehicle's sheet says 7 Ω, the ladder 9.
  expect((await wire([1440, 1441, 1439]))[1]).toContain('good contacts add at most 7 Ω');
  expect((await wire([1440, 1441, 1439]))[0]).toBe('columnOhms higher');
  expect((await wire([1330, 1331, 1329]))[0]).toBe('columnOhms lower');
  expect((await wire([null, null]))[0]).toBe('columnOhms open');
  expect((await wire([1400, 1700, 1250, 1500]))[0]).toBe('columnOhms higher');
  // Not listed, the meter's digits alone leave 20 Ω open.
  expect((await wire([1414, 1415, 1416]))[0]).toBe('');
});

test('a column that is moved, and looks that are counted', async () => {
  const id = await pelletCase();
  const samples = (open: boolean) => Array.from({ length: 80 }, (_none, i) => [i / 10, open && i === 40 ? null : 1400]);
  await record({ kind: 'wiggle', case: id, raw: { samples: samples(false), marks: [] } });
  await record({ kind: 'wiggle', case: id, raw: { samples: samples(true), marks: [[3, 'tilt up']] } });
  expect(await ledger(id)).toEqual([
    ['tilt', 'same', null],
    ['tilt', 'changes', null],
  ]);
  const ring = await harness.openCase({ system: 'family:ring' });
  const looks = (n: number, hits: number) => Array.from({ length: n }, (_none, i) => ({ atS: i * 3, hit: i < hits, key: i % 2 ? 'A' : null }));
  const count = async (n: number, hits: number) =>
    record({ kind: 'trials', case: ring, raw: { what: 'Coil field', hit: 'emits', looks: looks(n, hits) } });
  // Nine of nine are one short of the ten that the test speaks of.
  expect(await count(9, 9)).toEqual({
    say: expect.stringContaining('1 more checks before it counts in the diagnosis.'),
    answered: [],
    simulated: false,
  });
  expect((await count(10, 10)).answered).toEqual(['Antenna coil field']);
  expect((await count(3, 1)).answered).toEqual(['Antenna coil field']);
  expect((await count(12, 0)).answered).toEqual(['Antenna coil field']);
  expect((await ledger(ring)).map(([, outcome]) => outcome)).toEqual(['always', 'sometimes', 'never']);
});

test('a system without such a test keeps the readings, and nothing is claimed', async () => {
  const id = await harness.openCase();
  expect((await record(pellet(id, {}))).answered).toEqual([]);
  expect((await loadCase(harness.db, id))!.measurements).toHaveLength(1);
});

test('the meter as it is described counts, and stays with the readings', async () => {
  const id = await pelletCase();
  const { id: meter } = await saveMeter(
    harness.db,
    harness.act(lead),
    parseMeter({ name: 'Harness meter', address: '', ranges: [{ upToOhms: 1e6, percent: 0.1, digits: 1, resolutionOhms: 0.1 }] }),
  );
  const wire = {
    kind: 'wiring',
    case: id,
    ladder: 'veskar-twelve',
    raw: { ...circumstances, key: [1400.4, 1401.4, 1399.4], column: [1414, 1415, 1416] },
  };
  expect((await record({ ...wire, meter })).answered).toEqual(['The same key at the steering-column connector']);
  expect((await loadCase(harness.db, id))!.measurements.at(-1)!.raw.meter).toEqual({
    name: 'Harness meter',
    ranges: [{ upToOhms: 1e6, percent: 0.1, digits: 1, resolutionOhms: 0.1 }],
  });
  expect(await refusal(record({ ...wire, meter: 'gone' }))).toMatchObject({ status: 400, path: 'meter' });
});

test('what can’t be a measurement is refused with its place', async () => {
  const id = await pelletCase();
  const says = async (form: Record<string, unknown>) => {
    try {
      parseMeasurement(form);
    } catch (error) {
      return (error as { problems: { path: string }[] }).problems.map((p) => p.path);
    }
    return refusal(record(form));
  };
  expect(await says(pellet(id, { groups: [group([-1])] }))).toEqual(['raw.groups[0].readings[0]']);
  expect(await says(pellet(id, { groups: [group([])] }))).toEqual(['raw.groups[0].readings']);
  expect(await says(pellet(id, { groups: [group([1]), group([2])] }))).toEqual(['raw.groups[1]']);
  expect(await says(pellet(id, { groups: [group(Array.from({ length: 1001 }, () => 1))] }))).toEqual(['raw.groups[0].readings']);
  expect(await says(pellet(id, {}, { ladder: undefined }))).toEqual(['ladder']);
  expect(await says(pellet(id, {}, { kind: 'burst' }))).toEqual(['kind']);
  expect(await says({ kind: 'wiggle', case: id, raw: { samples: [[0, 'x']] } })).toEqual(['raw.samples[0][1]']);
  expect(await says(pellet(id, {}, { ladder: 'nowhere' }))).toMatchObject({ status: 400, path: 'ladder' });
  expect(await says(pellet(id, {}, { key: 'Z' }))).toMatchObject({ status: 400, path: 'key' });
  expect(await says(pellet(id, { groups: [group([1400], false, 2)] }))).toMatchObject({
    path: 'raw.groups',
    message: expect.stringContaining('has one resistor chip'),
  });
  expect(await says(pellet(999_999, {}))).toMatchObject({ status: 404 });
});

test('the same act twice is done once', async () => {
  const id = await pelletCase();
  const act = harness.act();
  const form = parseMeasurement(pellet(id, {}));
  const first = await recordMeasurement(harness.services, act, form);
  expect(await recordMeasurement(harness.services, act, form)).toEqual(first);
  expect((await loadCase(harness.db, id))!.measurements).toHaveLength(1);
});

test('goes along to another shop with its ladder, and is refused when its readings are not ones', async () => {
  const id = await pelletCase();
  await record(pellet(id, {}));
  await record({
    kind: 'wiggle',
    case: id,
    raw: {
      samples: [
        [0, 1400],
        [1, null],
      ],
      marks: [],
    },
  });
  const { zip } = await exportCase(harness.db, harness.act(lead), id);
  const { id: taken } = await importCase(there.with, there.act(lead), zip);
  const [mine, theirs] = [(await loadCase(harness.db, id))!, (await loadCase(there.db, taken))!];
  expect(theirs.measurements).toEqual(mine.measurements);
  expect(theirs.evidence.map((e) => e.measurementId)).toEqual(mine.evidence.map((e) => e.measurementId));
  const file = JSON.parse(new TextDecoder().decode((await unpack(zip, /./)).get('case.json'))) as { documents: { kind: string }[] };
  expect(file.documents.map((d) => d.kind)).toContain('ladder');
  expect(await refusal(importCase(there.with, there.act(lead), zip))).toMatchObject({ status: 409 });
});

test('what is copied by hand on a vehicle: its alphabet from the family, its length from the profile', async () => {
  const copied = async (system: string) => copiedOf(harness.services, (await loadCase(harness.db, await harness.openCase({ system })))!);
  expect(await copied('profile:veskar-codex')).toEqual([
    { name: 'secretLength', label: 'Digits of the secret', alphabet: 'hex', length: 28, known: true },
  ]);
  expect(await copied('family:slot-store')).toEqual([
    { name: 'labelDigits', label: 'Digits on the label of the box', alphabet: 'decimal', length: 9, known: false },
  ]);
  expect(await copied('family:ring')).toEqual([]);
});

describe('what no vehicle was measured for', () => {
  test.each([
    ['the bench says it', { simulated: true }],
    ['the meter is the simulated one', { meter: 'simulated' }],
  ])('is kept with its mark and answers no test: %s', async (_what, more) => {
    await enterSimulatedMeter(harness.db, 5025);
    const id = await pelletCase();
    const read = await record(pellet(id, {}, more));
    expect(read).toMatchObject({ simulated: true, answered: [] });
    const found = (await loadCase(harness.db, id))!;
    expect(found.evidence).toEqual([]);
    expect(found.measurements).toMatchObject([{ simulated: true }]);
    const { lines } = (await readReport(harness.services, id))!;
    expect(lines.filter((l) => l.measurement)).toMatchObject([{ detail: expect.stringMatching(/^Simulated meter\. Value 6\./) }]);
  });
});

describe('key slots', () => {
  const slotsForm = (id: number, raw: Record<string, unknown> = {}, more: Record<string, unknown> = {}) => ({
    kind: 'slots',
    case: id,
    layout: 'dunmore-five',
    raw: {
      name: 'first.bin',
      bytes: 256,
      sha256: 'ab'.repeat(32),
      proven: true,
      slots: [1, 2, 3, 4, 5].map((slot) => ({ slot, state: slot < 3 ? 'used' : 'empty', keyId: slot < 3 ? `0A0${slot}` : null })),
      inHand: [{ tag: 'A', keyId: '0A01' }],
      ...raw,
    },
    ...more,
  });
  const open = () => harness.openCase({ system: 'family:slot-store', keys: [{ tag: 'A', role: 'user', here: 'on' }] });

  test('stand in the record and the report with the keys in hand, and go to another shop and back', async () => {
    const id = await open();
    const say = 'Read twice, equal. Stored: tag A in slot 1. Stored and not at hand: slot 2. Proven empty: slot 3, 4, 5.';
    expect(await record(slotsForm(id))).toEqual({ say, answered: [], simulated: false });
    const found = (await loadCase(harness.db, id))!;
    expect(found.measurements).toMatchObject([
      { kind: 'slots', verdict: say, raw: { layout: { id: 'dunmore-five', title: 'Dunmore box with five slots' } } },
    ]);
    const report = await readReport(harness.services, id);
    expect(report!.lines.find((l) => l.what === 'Key slots read')).toMatchObject({ detail: say });
    const { zip } = await exportCase(harness.db, harness.act(lead), id);
    const { id: back } = await importCase(there.with, there.act(lead), zip);
    expect((await loadCase(there.db, back))!.measurements).toMatchObject(
      found.measurements.map(({ kind, raw, verdict }) => ({ kind, raw, verdict })),
    );
  });

  test.each([
    [{ how: 'new', slot: 3 }, 'A key was written into slot 3.'],
    [{ how: 'over', slot: 2, reason: 'lost on a beach, says the owner' }, 'Slot 2 was written over: lost on a beach, says the owner'],
    [{ how: 'disabled', slot: 2, reason: 'stolen in May' }, 'The key in slot 2 was disabled: stolen in May'],
  ])('what was written is said: %j', async (written, say) => {
    expect((await record(slotsForm(await open(), { written }))).say).toContain(say);
  });

  test.each<[string, (id: number) => Record<string, unknown>, string, string]>([
    [
      'a slot the layout does not have',
      (id) => slotsForm(id, { slots: [{ slot: 6, state: 'used', keyId: '0A' }] }),
      'raw.slots',
      '“Dunmore box with five slots” has slots 1 to 5, each once. Read the memory again.',
    ],
    [
      'a slot twice',
      (id) => slotsForm(id, { slots: [1, 1].map((slot) => ({ slot, state: 'empty', keyId: null })) }),
      'raw.slots',
      '“Dunmore box with five slots” has slots 1 to 5, each once. Read the memory again.',
    ],
    [
      'a write elsewhere',
      (id) => slotsForm(id, { written: { how: 'new', slot: 9 } }),
      'raw.slots',
      '“Dunmore box with five slots” has slots 1 to 5, each once. Read the memory again.',
    ],
    ['a key of nobody', (id) => slotsForm(id, { inHand: [{ tag: 'Z', keyId: '0A' }] }), 'raw.inHand', 'Tag Z is not here. Choose a key of the case.'],
    [
      'a layout that is not there',
      (id) => slotsForm(id, {}, { layout: 'nowhere' }),
      'layout',
      'This layout is not in the library. Choose one from the list.',
    ],
  ])('refuses %s', async (_, form, path, message) => {
    const id = await open();
    expect(await refusal(record(form(id)))).toMatchObject({ status: 400, path, message });
    expect((await loadCase(harness.db, id))!.measurements).toEqual([]);
  });

  test('a slot that is not empty is never written over without a reason', async () => {
    const id = await open();
    for (const reason of [undefined, '', 'no'])
      expect(() => parseMeasurement(slotsForm(id, { written: { how: 'over', slot: 2, ...(reason === undefined ? {} : { reason }) } }))).toThrow();
  });
});
