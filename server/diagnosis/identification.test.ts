import { Harness, refusal, technician } from '../services/harness.testing';
import { loadCase } from '../record/cases';
import { readCasePage } from '../cases/caseView';
import { changeKey } from '../cases/keys';
import { uncertainTypeOf, identifyAgain } from './identification';
import { parseIdentification } from '../cases/forms';
import { recordEvidence } from '../ledger/ledger';
import { readReport } from '../cases/report';
import { startRun } from '../runs/runs';
import { exportCase } from '../transfer/exportCase';
import { importCase } from '../transfer/importCase';

let harness: Harness;
beforeAll(async () => {
  harness = await Harness.open();
});
afterAll(() => harness.close());

const again = (caseId: number, system: string, seen: Record<string, string> = {}) =>
  identifyAgain(
    harness.db,
    harness.services.library,
    harness.services.documents,
    harness.act(technician),
    caseId,
    parseIdentification({ system, seen }),
  );
const evidence = (caseId: number, test: string, outcome: string, key?: string) =>
  recordEvidence(harness.db, harness.services.documents, harness.act(), caseId, { test, outcome, note: '', ...(key ? { key } : {}) });
const load = async (id: number) => (await loadCase(harness.db, id))!;

test('the answers at intake belong to the case, in its report too', async () => {
  const id = await harness.openCase({ system: 'family:ring', seen: { keyKind: 'chipHead', around: 'collar', mark: 'cantSee' } });
  expect((await load(id)).identifications).toMatchObject([
    { seen: { keyKind: 'chipHead', around: 'collar', mark: 'cantSee' }, family: { id: 'ring' }, carried: [] },
  ]);
  const report = (await readReport(harness.services, id))!;
  expect(report.lines.map((l) => `${l.what}: ${l.detail}`)).toContainEqual(
    expect.stringMatching(/^System identified: Antenna ring.*Seen: Blade with a thick head, no buttons, A collar or ring around the lock$/),
  );
});

test.each([
  [{ smell: 'sweet' }, 'seen.smell', 'This question is not in the library. Reload the page.'],
  [{ keyKind: 'bread' }, 'seen.keyKind', /^"bread" is not an answer here\. Use one of: plain, pellet, .*, cantSee\.$/],
  [{ keyKind: 'constructor' }, 'seen.keyKind', /^"constructor" is not an answer here\./],
])('%j is refused at intake and later', async (seen, path, message) => {
  const expected = { status: 400, path, message: typeof message === 'string' ? message : expect.stringMatching(message) };
  expect(await refusal(harness.openCase({ seen }))).toMatchObject(expected);
  expect(await refusal(again(await harness.openCase(), 'family:ring', seen))).toMatchObject(expected);
});

test('identified again: everything stays; a light read under the old family does not count, a battery does', async () => {
  const id = await harness.openCase({ system: 'family:transponder-dwell' });
  await evidence(id, 'lamp', 'refused', 'A');
  await evidence(id, 'battery', Object.keys((await page(id)).tests.battery!.outcomes)[0]!);
  const before = await load(id);
  await again(id, 'family:pellet', { keyKind: 'pellet' });
  const after = await load(id);
  expect(after.family.id).toBe('pellet');
  expect(after.evidence.map((e) => [e.test, e.foreign])).toEqual([
    ['lamp', true],
    ['battery', false],
  ]);
  expect(after.evidence.map(({ foreign: _f, ...e }) => e)).toEqual(before.evidence.map(({ foreign: _f, ...e }) => e));
  const shown = await page(id);
  expect(shown.earlier[before.family.hash]!.title).toBe(harness.services.library.families.get('transponder-dwell')!.title);
  const because = shown.diagnosis.links.flatMap((l) => l.because.map((b) => b.evidence));
  expect(because).not.toContain(after.evidence[0]!.id);
  expect(because).toContain(after.evidence[1]!.id);
  // Back again, and the lamp counts as it did.
  await again(id, 'family:transponder-dwell');
  expect((await load(id)).evidence.map((e) => e.foreign)).toEqual([false, false]);
  const report = (await readReport(harness.services, id))!;
  expect(report.lines.filter((l) => l.what.startsWith('System identified')).map((l) => l.what)).toEqual([
    'System identified',
    'System identified again',
    'System identified again',
  ]);
});
const page = async (id: number) => (await readCasePage(harness.services, id))!;

test('a run that goes on is not pulled away', async () => {
  const id = await harness.openCase({ authority: [{ kind: 'registration', note: '' }] });
  await startRun(harness.db, harness.services.documents, harness.services.library, harness.act(), id, 'relearn-ignition-on');
  expect(await refusal(again(id, 'family:pellet'))).toMatchObject({
    status: 409,
    path: 'system',
    message: 'A run of this case is in progress. Finish or stop it before you choose another system type.',
  });
  expect((await load(id)).family.id).toBe('transponder-dwell');
});

describe('the guard against the wrong family', () => {
  test('a key of a kind that this family does not have', async () => {
    const id = await harness.openCase({ system: 'family:transponder-dwell' });
    expect((await page(id)).uncertain).toBeNull();
    const { role, marks, colour, condition, cell, note } = (await load(id)).keys[0]!;
    await changeKey(harness.db, harness.act(), id, 'A', { role, marks, colour, condition, cell, note, kind: 'pellet' } as Parameters<
      typeof changeKey
    >[4]);
    expect((await page(id)).uncertain).toMatchObject({ key: 'A', instead: { id: 'pellet' }, against: [{ feature: 'keyKind' }] });
    await again(id, 'family:pellet', { keyKind: 'pellet' });
    expect((await page(id)).uncertain).toBeNull();
  });
  test('what is seen at the second look', async () => {
    const id = await harness.openCase({ system: 'family:cylinder' });
    await again(id, 'family:cylinder', { lampOn: 'counted', vehicle: 'light' });
    expect((await page(id)).uncertain).toMatchObject({ key: null, instead: { id: 'master-user' } });
  });
  test('parts without a vehicle are not judged by sight', async () => {
    const record = {
      ...(await load(await harness.openCase({ system: 'family:cylinder', seen: { lampOn: 'counted', vehicle: 'light' } }))),
      kind: 'parts' as const,
    };
    expect(uncertainTypeOf(harness.services.library, record)).toBeNull();
  });
});

test('a case that was identified twice is exported and taken over with both', async () => {
  const id = await harness.openCase({ system: 'family:transponder-dwell', seen: { keyKind: 'chipHead' } });
  await evidence(id, 'lamp', 'refused', 'A');
  await again(id, 'family:pellet', { keyKind: 'pellet' });
  const { zip } = await exportCase(harness.db, harness.act(), id);
  const there = await Harness.open();
  try {
    const { id: taken } = await importCase(there.with, there.act(), zip);
    const [mine, theirs] = [await load(id), (await loadCase(there.db, taken))!];
    expect(theirs.identifications.map(({ by: _by, ...i }) => i)).toEqual(mine.identifications.map(({ by: _by, ...i }) => i));
    expect(theirs.evidence.map((e) => e.foreign)).toEqual([true]);
    expect((await readCasePage(there.services, taken))!.earlier).not.toEqual({});
  } finally {
    await there.close();
  }
});
