import { parseScan, recordScan } from '../cases/scans';
import { answerStep, beginPlan, endPlan, recordCauses, recordFits, recordSaved, recordVariant } from '../replacement/acts';
import { parseCausesForm, parseEndForm, parseFitsForm, parsePlanForm, parseSavedForm, parseStepForm, parseVariantForm } from '../replacement/forms';
import { randomUUID } from 'node:crypto';
import { eq } from 'drizzle-orm';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import sharp from 'sharp';
import { shipped } from '../../content/session.testing';
import { Harness, lead, owner, refusal, technician } from '../services/harness.testing';
import { entriesOf, loadCase } from '../record/cases';
import { audit, caseFile, person } from '../db/schema';
import { Refused } from '../base/expected';
import { parseRunCommand } from '../runs/forms';
import { parseCounter, parseCustody } from '../cases/forms';
import { readCounter, recordCustody } from '../cases/keys';
import { recordEvidence } from '../ledger/ledger';
import { attachPhoto } from '../cases/photos';
import { readReport } from '../cases/report';
import { commandRun, loadRun, startRun } from '../runs/runs';
import { exportCase } from './exportCase';
import { importCase } from './importCase';
import { unpack } from '../reading/zip';

const dwellVersion = shipped.families.get('transponder-dwell')!.version;
let here: Harness;
let there: Harness;
let zip: Uint8Array;
let caseId: number;

/** A case with something of everything in it. */
async function fullCase(harness: Harness): Promise<number> {
  const { db, services } = harness;
  const id = await harness.openCase({
    customer: 'Saoirse Keld',
    plate: '4-18-THB',
    identification: '00BTG5R33GW004182',
    changed: [{ what: 'ecm', on: '2026-11-20', note: 'new part' }],
    counters: [{ counter: 'odometer', unit: 'km', value: 1200 }],
    authority: [{ kind: 'registration', note: '' }],
    keys: [
      { tag: 'A', role: 'main', here: true, told: { cranks: 'yes' } },
      { tag: 'N', here: false, toFit: { extent: 'shell' } },
    ],
  });
  await recordEvidence(db, services.documents, harness.act(technician), id, { test: 'lamp', outcome: 'accepted', key: 'A', note: 'lit 3 s' });
  const { id: runId } = await startRun(db, services.documents, services.library, harness.act(), id, 'relearn-ignition-on');
  const act = harness.act();
  await commandRun(
    db,
    services.documents,
    act,
    runId,
    parseRunCommand({ id: act.id, occurredAt: act.now, expectedSeq: 1, type: 'answer', step: 'rested', answer: 'measured', value: 12.6 }),
  );
  await readCounter(db, harness.act(), id, parseCounter({ counter: 'odometer', unit: 'km', value: 1201, phase: 'after' }));
  await recordScan(
    { db, documents: services.documents, library: services.library },
    harness.act(),
    id,
    parseScan({ text: 'ECM\nP0562-16 stored [28]\n  Battery: 11.4 V\nU0167', phase: 'before', cleared: 'on', coverage: { immobilizer: 'silent' } }),
  );
  const needs = { db, documents: services.documents, library: services.library };
  const plan = { replaced: { engine: 'remanufactured' }, installed: ['engine'], unread: ['engine'], tools: ['scan tool', 'programming tool'] };
  await beginPlan(needs, harness.act(), id, parsePlanForm({ ...plan, installed: [], unread: [] }));
  await recordVariant(needs, harness.act(), id, parseVariantForm({ part: 'engine', side: 'old', numbers: { part: '1' }, again: { part: '1' } }));
  await recordVariant(needs, harness.act(), id, parseVariantForm({ part: 'engine', side: 'new', numbers: { part: '2' }, again: { part: '2' } }));
  await recordFits(needs, harness.act(), id, parseFitsForm({ part: 'engine', reason: 'listed' }));
  await recordSaved(needs, harness.act(), id, parseSavedForm({ part: 'engine', answers: { codes: 'unreadable' }, note: 'no answer' }));
  await recordCauses(needs, harness.act(), id, parseCausesForm({ part: 'engine', answers: { coils: 'fixed' } }));
  await answerStep(needs, harness.act(), id, parseStepForm({ step: 'readOld.engine', answer: 'leftOut', note: 'dead' }));
  await endPlan(needs, harness.act(), id, parseEndForm({ reason: 'another one ordered' }));
  await beginPlan(needs, harness.act(), id, parsePlanForm(plan));
  await recordCustody(db, harness.act(), id, parseCustody({ tag: 'A', act: 'returned', person: 'Ansgar Keld' }));
  const photo = await sharp({ create: { width: 20, height: 10, channels: 3, background: 'red' } })
    .png()
    .toBuffer();
  await attachPhoto(harness.with, harness.act(), id, photo, { caption: 'the module', key: null });
  // As a case that began with a call keeps it.
  const complaint = { diesAfterS: 2, phone: ['What happens when it is started? Starts and dies', 'Which keys exist? All of them are here'] };
  await db.update(caseFile).set({ complaint }).where(eq(caseFile.id, id));
  return id;
}

beforeAll(async () => {
  here = await Harness.open();
  there = await Harness.open();
  caseId = await fullCase(here);
  zip = (await exportCase(here.db, here.act(technician), caseId)).zip;
});
afterAll(async () => {
  await here.close();
  await there.close();
});

const take = (data: Uint8Array, harness = there, act = harness.act()) => importCase(harness.with, act, data);
/** The file with something changed in its case. */
function changed(change: (body: Record<string, never>) => void, files: Record<string, Uint8Array> = {}): Uint8Array {
  const all = unzipSync(zip);
  const body = JSON.parse(strFromU8(all['case.json']!)) as Record<string, never>;
  change(body);
  return zipSync({ ...all, 'case.json': strToU8(JSON.stringify(body)), ...files });
}
const problems = async (data: Uint8Array) => {
  try {
    await take(data);
  } catch (error) {
    return (error as Refused).problems.map((p) => `${p.path}: ${p.message}`);
  }
  return ['accepted'];
};

test('another shop gets the case whole: the same pages, with the people’s names', async () => {
  const { id } = await take(zip);
  const [before, after] = [(await loadCase(here.db, caseId))!, (await loadCase(there.db, id))!];
  // What belongs to the shop itself: numbers, places, what stood at the bay, and a run that was going on.
  const shared = ({ id: _id, number: _number, bay: _bay, runs, photos, customer, evidence, ...rest }: typeof before) => ({
    ...rest,
    photos: photos.map(({ id: _p, ...p }) => p),
    customer: { name: customer!.name },
    runs: runs.map((r) => r.procedure),
    evidence: evidence.map(({ runId: _r, ...e }) => e),
  });
  expect(shared(after)).toEqual(shared(before));
  const family = await there.services.documents.family(after.family);
  expect(entriesOf(after, family).length).toBeGreaterThan(2);
  const run = (await loadRun(there.db, there.services.documents, after.runs[0]!.id))!;
  expect(run.status).toBe('stopped');
  expect(run.events.at(-1)).toMatchObject({ type: 'stopped', reason: 'Imported from another shop.' });
  const lines = (await readReport(there.services, id))!.lines.map((l) => l.what);
  expect(lines).toEqual(expect.arrayContaining(['Security light, tag A', 'Odometer after the work', 'Tag A returned', 'Run stopped']));
  expect(await refusal(take(zip))).toMatchObject({
    status: 409,
    code: 'hereAlready',
    message: `This case is already in this shop, as case ${after.number}.`,
  });
  expect(await refusal(take(zip, here))).toMatchObject({ code: 'hereAlready' });
  const strangers = (await there.db.select().from(person)).filter((p) => p.id.startsWith('elsewhere-'));
  expect(strangers.map((p) => [p.state, p.password, p.nameKey])).toEqual(strangers.map(() => ['recorded', null, null]));
  expect((await there.db.select().from(audit)).some((l) => l.action === 'case imported' && l.caseId === id)).toBe(true);
});

test('two keys with one code, as no export has them, get one each', async () => {
  const other = await Harness.open();
  const { id } = await take(
    changed((body) => {
      const keys = (body as unknown as { keys: { code: string }[] }).keys;
      for (const key of keys) key.code = 'SAME23';
    }),
    other,
  );
  const codes = (await loadCase(other.db, id))!.keys.map((k) => k.code);
  expect(codes).toContain('SAME23');
  expect(new Set(codes).size).toBe(2);
  await other.close();
});

test('a technician may export and not import', async () => {
  expect(await refusal(take(zip, there, there.act(technician)))).toMatchObject({ status: 403 });
  expect(await refusal(take(zip, there, there.act(owner)))).toMatchObject({ code: 'hereAlready' });
  expect((await here.db.select().from(audit)).some((l) => l.action === 'case exported' && l.caseId === caseId)).toBe(true);
});

describe('a ledger as long as a case may have', () => {
  const long = (lines: number) =>
    changed((body) => {
      const b = body as unknown as { case: { uid: string }; evidence: Record<string, unknown>[]; runs: { events: { id: string }[] }[] };
      b.case.uid = randomUUID();
      b.runs = [];
      const [line] = b.evidence.filter((e) => e.run === null);
      b.evidence = Array.from({ length: lines }, (_, i) => ({ ...line, id: randomUUID(), seq: i + 1 }));
    });
  test.each([3_600, 3_700, 5_000])('%i lines are taken over', async (lines) => {
    const { id } = await take(long(lines));
    expect((await loadCase(there.db, id))!.evidence).toHaveLength(lines);
  });
  test('one more is refused', async () => {
    expect(await refusal(take(long(5_001)))).toMatchObject({ status: 400, path: 'evidence' });
  });
});

describe('refused whole, with everything that is wrong, and nothing is left', () => {
  const counts = async () => [(await there.db.select().from(caseFile)).length, (await there.db.select().from(person)).length];
  let before: number[];
  beforeAll(async () => {
    before = await counts();
  });
  afterAll(async () => expect(await counts()).toEqual(before));

  test.each<[string, (body: never) => void, string[]]>([
    ['another form', (b: { form: string }) => void (b.form = 'other'), ['form: The file has "other". Use one of: bloodstone case.']],
    ['a later version', (b: { version: number }) => void (b.version = 3), ['version: The file has 3. Use one of: 1, 2.']],
    [
      'several faults at once',
      (b: { case: { words: number; state: string }; keys: { tag: string }[] }) => {
        b.case.words = 5;
        b.case.state = 'lost';
        b.keys[0]!.tag = '1';
      },
      [
        'case.state: The file has "lost". Use one of: open, parked, closed.',
        'case.words: case.words must be a string. The file has 5.',
        'keys[0].tag: The file has "1". Write a short tag: a letter, then up to two letters or digits.',
      ],
    ],
    [
      'an outcome that its system lacks',
      (b: { evidence: { outcome: string }[] }) => void (b.evidence[0]!.outcome = 'purple'),
      ['evidence[0].outcome: Outcome "purple" is not in the file’s system type. Export the case again.'],
    ],
    [
      'a test that its system lacks',
      (b: { evidence: { test: string }[] }) => void (b.evidence[0]!.test = 'constructor'),
      ['evidence[0].test: Test "constructor" is not in the file’s system type. Export the case again.'],
    ],
    [
      'a field nobody knows',
      (b: { extra: string }) => void (b.extra = 'x'),
      ['extra: "extra" is not a field that is known here. Remove it or correct its name.'],
    ],
    [
      'a person who is not there',
      (b: { people: unknown[] }) => void (b.people = []),
      expect.arrayContaining([
        'case.openedBy: Person "im" is not in the file. Export the case again.',
        'evidence[0].by: Person "t" is not in the file. Export the case again.',
      ]) as never,
    ],
    [
      'a key that is not there',
      (b: { evidence: { key: string }[] }) => void (b.evidence[0]!.key = 'Z'),
      ['evidence[0].key: Key "Z" is not in the file. Export the case again.'],
    ],
    [
      'a document that was changed',
      (b: { documents: { body: { title: string } }[] }) => void (b.documents[0]!.body.title = 'Better'),
      [`documents[0]: family "transponder-dwell" version ${dwellVersion} was changed since it was exported. Export the case again.`],
    ],
    [
      'a document that is missing',
      (b: { documents: unknown[] }) => void b.documents.shift(),
      [
        `case.family: family "transponder-dwell" version ${dwellVersion} is not in the file. Export the case again.`,
        `identifications[0].family: family "transponder-dwell" version ${dwellVersion} is not in the file. Export the case again.`,
      ],
    ],
    [
      'events that can’t have happened',
      (b: { runs: { events: { step?: string }[] }[] }) => void (b.runs[0]!.events[1]!.step = 'nowhere'),
      ['runs[0].events: These events can’t have happened in this procedure. Export the case again.'],
    ],
    [
      'events out of order',
      (b: { runs: { events: { seq: number }[] }[] }) => void (b.runs[0]!.events[1]!.seq = 7),
      ['runs[0].events: These events can’t have happened in this procedure. Export the case again.'],
    ],
    [
      'a photo that is missing',
      (b: { photos: { file: string }[] }) => void (b.photos[0]!.file = 'photos/00000000-0000-4000-8000-000000000000.jpg'),
      ['photos[0].file: photos/00000000-0000-4000-8000-000000000000.jpg is not in the file. Export the case again.'],
    ],
    [
      'a path for a photo',
      (b: { photos: { file: string }[] }) => void (b.photos[0]!.file = '../../etc/passwd'),
      ['photos[0].file: The file has "../../etc/passwd". Write a file in photos/.'],
    ],
    [
      'the same tag twice',
      (b: { keys: { tag: string }[] }) => void (b.keys[1]!.tag = 'A'),
      ['keys: An id appears twice in keys. Export the case again.'],
    ],
    [
      'closed without a person',
      (b: { case: { state: string } }) => void (b.case.state = 'closed'),
      ['case.closedAt: A closed case has a time and a person of closing, an open one has neither. Export the case again.'],
    ],
  ])('%s', async (_what, change, expected) => expect(await problems(changed(change as never))).toEqual(expected));

  test.each<[string, () => Uint8Array, number, string]>([
    ['no ZIP', () => strToU8('hello'), 400, 'This is not a ZIP file. Choose the file that the other shop exported.'],
    ['an empty ZIP', () => zipSync({}), 400, 'The file holds no case.json. Choose the file that the other shop exported.'],
    ['half a ZIP', () => zip.subarray(0, zip.length / 2), 400, 'The file is incomplete. Copy it again.'],
    [
      'a path that climbs',
      () => zipSync({ '../case.json': strToU8('{}') }),
      400,
      'The file holds “../case.json”, which doesn’t belong in an exported case. Export the case again.',
    ],
    [
      'something else in it',
      () => zipSync({ 'case.json': strToU8('{}'), 'run.exe': strToU8('x') }),
      400,
      'The file holds “run.exe”, which doesn’t belong in an exported case. Export the case again.',
    ],
    ['no JSON', () => zipSync({ 'case.json': strToU8('{') }), 400, 'case.json in the file can’t be read. Export the case again.'],
    [
      'another encoding',
      () => zipSync({ 'case.json': new Uint8Array([0xff, 0xfe, 0x7b, 0]) }),
      400,
      'case.json in the file can’t be read. Export the case again.',
    ],
    [
      'a zip bomb',
      () => zipSync({ 'case.json': new Uint8Array(40 * 1024 * 1024) }, { level: 1 }),
      413,
      'The file unpacks to more than an exported case can be. It was not read.',
    ],
    [
      'too many entries',
      () =>
        zipSync(
          Object.fromEntries(
            Array.from({ length: 81 }, (_, i) => [`photos/00000000-0000-4000-8000-${String(i).padStart(12, '0')}.jpg`, strToU8('x')]),
          ),
        ),
      413,
      'The file holds more than 80 entries. Export the case again.',
    ],
    [
      'a picture that is none',
      () =>
        changed(
          () => undefined,
          Object.fromEntries(
            Object.keys(unzipSync(zip))
              .filter((n) => n.startsWith('photos/'))
              .map((n) => [n, strToU8('<html>')]),
          ),
        ),
      400,
      'This is not a readable JPEG or PNG. Choose a photo.',
    ],
  ])('%s', async (_what, file, status, message) => expect(await refusal(take(file()))).toMatchObject({ status, message }));

  test('cut off after any byte it is refused, never half taken', async () => {
    for (let cut = 1; cut < zip.length; cut += Math.ceil(zip.length / 60))
      expect([
        cut,
        await refusal(
          unpack(zip.subarray(0, cut), /./).then((files) => {
            if (!files.has('case.json')) throw new Refused(400, []);
          }),
        ),
      ]).not.toEqual([cut, 'accepted']);
  });
});

test('a shop whose library says something else under the same version refuses', async () => {
  const other = await Harness.open();
  await other.db.execute('alter table document disable trigger document_append_only');
  await other.db.execute(`update document set hash = repeat('0', 64) where kind = 'family'`);
  expect(await refusal(take(zip, other, other.act(lead)))).toMatchObject({ status: 409, code: 'otherDocument' });
  expect((await other.db.select().from(caseFile)).length).toBe(0);
  await other.close();
});
