import { expectedLit } from '../../core/lamp';
import { resolveLamps, resolveParams } from '../../core/library';
import { Harness, refusal, technician } from '../services/harness.testing';
import { loadCase } from '../record/cases';
import { readCasePage } from '../cases/caseView';
import { changeIntake, readIntake, setChanged } from '../cases/changeIntake';
import { parseIntake } from '../cases/forms';
import { parseLook } from './forms';
import { identifyAgain } from '../diagnosis/identification';
import { parseChanged } from '../cases/forms';
import { recordLook } from './lamps';
import { exportCase } from '../transfer/exportCase';
import { importCase } from '../transfer/importCase';

let harness: Harness;
beforeAll(async () => {
  harness = await Harness.open();
});
afterAll(() => harness.close());

const look = (caseId: number, more: Record<string, unknown>) =>
  recordLook(
    harness.db,
    harness.services.documents,
    harness.services.library,
    harness.act(technician),
    parseLook({ case: caseId, key: 'A', moment: 'ignition-on', origin: 'tapped', ...more }),
  );
const page = async (id: number) => (await readCasePage(harness.services, id))!;
const again = (caseId: number, system: string) =>
  identifyAgain(harness.db, harness.services.library, harness.services.documents, harness.act(technician), caseId, { system, seen: {} });

/** What a steady hand would tap for a pattern: 0.2 s late, for so long. */
function taps(familyId: string, pattern: string, lengthS: number) {
  const family = harness.services.library.families.get(familyId)!;
  const lamp = resolveLamps(family.lamps, resolveParams(family)).find((l) => l.id === pattern)!;
  const lit = expectedLit(lamp, lengthS - 0.2).map((l) => [l.onS + 0.2, l.offS + 0.2] as const);
  return { lit, lengthS, litAtEnd: (lit.at(-1)?.[1] ?? 0) >= lengthS };
}
/** Nothing that any family's lamp does: lights of ever other lengths. */
const nonsense = {
  lit: [
    [0.4, 0.5],
    [1.9, 3.4],
    [3.6, 3.7],
    [5.9, 6.6],
    [9.1, 9.2],
    [9.4, 11.3],
  ],
  lengthS: 14,
  litAtEnd: false,
};

test('a look becomes evidence by itself, and keeps its raw taps', async () => {
  const id = await harness.openCase({ system: 'family:ring' });
  const read = await look(id, taps('ring', 'refused', 6));
  expect(read.recorded).toBe(true);
  expect(read.verdict).toMatch(/“Rapid flashing” in “Antenna ring around the lock” \((over 99|9\d) %\)\. No chip detected, or not a stored one\./);
  const record = (await loadCase(harness.db, id))!;
  expect(record.evidence).toMatchObject([{ test: 'lamp', outcome: 'refused', key: 'A', note: read.verdict, lookId: record.looks[0]!.id }]);
  expect(record.looks).toMatchObject([{ origin: 'tapped', lengthS: 6, moment: 'ignition-on', reading: { state: 'decided', pattern: 'refused' } }]);
  expect(record.looks[0]!.lit).toEqual(taps('ring', 'refused', 6).lit.map((l) => [...l]));
  expect((await page(id)).triage.kind).toBe('refused');
});

test('too short a look is kept, says how much longer, and is no evidence', async () => {
  const id = await harness.openCase({ system: 'family:ring' });
  const read = await look(id, { lit: [[0.2, 3]], lengthS: 3, litAtEnd: true });
  expect(read).toEqual({
    recorded: false,
    verdict: expect.stringContaining('Not watched long enough to decide. Watch 3 s longer, from the start.'),
  });
  const record = (await loadCase(harness.db, id))!;
  expect([record.evidence.length, record.looks.length]).toEqual([0, 1]);
});

test('what the family does not know doubts the family, and says where it would fit', async () => {
  const id = await harness.openCase({ system: 'family:status-record' });
  // Counted flashes, as a two-wheeler has them.
  const read = await look(id, taps('master-user', 'unknown', 24));
  expect(read.recorded).toBe(false);
  expect(read.verdict).toContain('None of the patterns of “');
  expect(read.verdict).toContain('With typical numbers it would be “Count of an unknown key');
  expect((await page(id)).strangeLamp).toBe(read.verdict);
  // Judged by eye it does the same; a later look that fits ends the uncertainty.
  const other = await harness.openCase({ system: 'family:ring' });
  const byEye = await look(other, { origin: 'eye' });
  expect(byEye.verdict).toBe('It matches none of the patterns of “Antenna ring around the lock”. Check the system type.');
  expect((await page(other)).strangeLamp).toBe(byEye.verdict);
  await look(other, taps('ring', 'accepted', 9));
  expect((await page(other)).strangeLamp).toBeNull();
});

test('read again when the family changes: the same taps, another meaning', async () => {
  const id = await harness.openCase({ system: 'family:ring' });
  // Half a second lit, half a second dark: nothing of the ring's, a refusal for the resistor key.
  await look(id, taps('pellet', 'refused', 10));
  expect((await page(id)).strangeLamp).not.toBeNull();
  await again(id, 'family:pellet');
  const record = (await loadCase(harness.db, id))!;
  expect(record.looks[0]!.reading).toMatchObject({ state: 'decided', pattern: 'refused' });
  expect(record.evidence).toMatchObject([{ test: 'lamp', outcome: 'refused', key: 'A', foreign: false }]);
  expect(record.evidence[0]!.note).toMatch(/^Read again from the taps\. .*“Flashes slowly” in “/);
  expect((await page(id)).strangeLamp).toBeNull();
  // Back again: it was read there before, and is not read a second time.
  await again(id, 'family:ring');
  const back = (await loadCase(harness.db, id))!;
  expect(back.evidence).toHaveLength(1);
  expect(back.evidence[0]!.foreign).toBe(true);
  expect((await page(id)).strangeLamp).not.toBeNull();
});

test('a family without a light reads no taps, also not again', async () => {
  const id = await harness.openCase({ system: 'family:ring' });
  await look(id, taps('ring', 'refused', 6));
  await again(id, 'family:infrared');
  expect((await loadCase(harness.db, id))!.looks[0]!.reading).toBeNull();
  expect(await refusal(look(id, taps('ring', 'refused', 6)))).toMatchObject({
    status: 400,
    path: 'moment',
    message: '“Infrared key and electronic ignition switch” has no security light.',
  });
});

test.each<[Record<string, unknown>, string, string]>([
  [{ moment: 'key-in', lit: [], lengthS: 9 }, 'moment', '“Antenna ring around the lock” has no light then. Use one of: key-out, ignition-on.'],
  [{ key: 'Q', lit: [], lengthS: 9 }, 'key', 'Tag Q is not here. Choose a key of the case.'],
  [{ key: '', lit: [], lengthS: 9 }, 'key', 'Choose the key it was seen with. Here are: A, B.'],
  [{ lit: [[2, 1]], lengthS: 9 }, 'lit[1]', '1 s is before the sample above (2 s). Put the samples in order of time.'],
  [
    {
      lit: [
        [1, 2],
        [1.5, 3],
      ],
      lengthS: 9,
    },
    'lit[2]',
    '1.5 s is before the sample above (2 s). Put the samples in order of time.',
  ],
  [{ lit: [[1, 2]], lengthS: 1.5 }, 'lit', 'The recording ends at 1.5 s, before its last sample at 2 s. Correct the length.'],
  [{ lit: [], lengthS: 0 }, 'lit', 'The recording has no length. Record for some seconds.'],
])('%j is refused', async (more, path, message) => {
  const id = await harness.openCase({ system: 'family:ring' });
  expect(await refusal(look(id, more))).toMatchObject({ status: 400, path, message });
  expect((await loadCase(harness.db, id))!.looks).toEqual([]);
});
test.each([
  [{ lit: [[1, 'x']] }, 'lit[0][1]'],
  [{ lit: [[1, 601]] }, 'lit[0][1]'],
  [{ lit: [[1]] }, 'lit[0]'],
  [{ lit: Array.from({ length: 401 }, () => [1, 1]) }, 'lit'],
  [{ moment: 'noon' }, 'moment'],
  [{ origin: 'film' }, 'origin'],
  [{ case: 0 }, 'case'],
])('a form with %j is refused', async (more, path) => {
  const form = { case: 1, key: 'A', moment: 'ignition-on', origin: 'tapped', lit: [], lengthS: 3, ...more };
  expect(await refusal((async () => parseLook(form))())).toMatchObject({ status: 400, path });
});

test('what changed is asked: kept notes stay, and nothing is an answer', async () => {
  const id = await harness.openCase({ system: 'family:ring', changed: [{ what: 'cover', note: 'foil-lined' }] });
  const ask = (changed: string | string[]) => setChanged(harness.db, harness.act(technician), id, parseChanged({ changed }));
  const asked = async () => (await page(id)).triage.stages.find((s) => s.id === 'changed')!.answered;
  await ask(['jumpStart', 'cover']);
  expect((await loadCase(harness.db, id))!.changed).toEqual([
    { what: 'jumpStart', note: '' },
    { what: 'cover', note: 'foil-lined' },
  ]);
  await ask([]);
  expect(await asked()).toBe(true);
  // A later change of the intake does not ask again.
  const { fields } = (await readIntake(harness.db, id))!;
  await changeIntake(harness.db, harness.act(), id, parseIntake({ ...fields, complaint: {}, plate: '1-11-AAA' }));
  expect(await asked()).toBe(true);
  expect(await refusal((async () => parseChanged({ changed: ['weather'] }))())).toMatchObject({ status: 400, path: 'changed[0]' });
});

test('looks, readings and what they showed go with the case to another shop', async () => {
  const id = await harness.openCase({ system: 'family:ring' });
  // Several of one moment: their order is that in which they were read, here and there.
  for (let n = 0; n < 3; n += 1) await look(id, { ...nonsense, lengthS: 14 + n });
  await look(id, taps('ring', 'refused', 6));
  await again(id, 'family:pellet');
  const { zip } = await exportCase(harness.db, harness.act(), id);
  const there = await Harness.open();
  try {
    const { id: copy } = await importCase(there.with, there.act(), zip);
    const [from, to] = [(await loadCase(harness.db, id))!, (await loadCase(there.db, copy))!];
    expect(to.looks).toEqual(from.looks);
    expect(to.looks.map((l) => l.lengthS)).toEqual([14, 15, 16, 6]);
    expect(to.evidence.map((e) => e.lookId)).toEqual(from.evidence.map((e) => e.lookId));
    expect(await refusal(importCase(there.with, there.act(), zip))).toMatchObject({ status: 409 });
  } finally {
    await there.close();
  }
});
