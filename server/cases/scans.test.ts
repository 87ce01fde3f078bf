import { eq, sql } from 'drizzle-orm';
import { findCodes, mostScanText, noneShare, scanOf } from '../../core/codes';
import { scan } from '../db/schema';
import { loadCase } from '../record/cases';
import { Harness, lead, refusal, technician } from '../services/harness.testing';
import { beginPlan } from '../replacement/acts';
import { parsePlanForm } from '../replacement/forms';
import { parkCase } from './closing';
import { readReport } from './report';
import { csv } from '../base/csv';
import { explained, immobilizerOf, modulesToAsk, parseScan, recordScan, scanColumns, scanRows, scansAsJson, viewScans } from './scans';

let harness: Harness;
beforeAll(async () => {
  harness = await Harness.open();
});
afterAll(() => harness.close());

const record = (id: number, form: Record<string, unknown>, act = harness.act(technician)) =>
  recordScan(
    { db: harness.db, documents: harness.services.documents, library: harness.services.library },
    act,
    id,
    parseScan({ phase: 'before', ...form }),
  );
const scansOf = async (id: number) => (await loadCase(harness.db, id))!.scans;
const contentOf = (family: string) => harness.services.library.replacements.get(family)!;

test('codes and coverage are kept, the text is not; the report says them', async () => {
  const id = await harness.openCase();
  await record(id, {
    text: 'Scan of 4-18-THB for Ms. Keld\nECM\nP0562-16 stored\n',
    coverage: { immobilizer: 'silent', body: '' },
    cleared: 'on',
    note: 'key on',
  });
  expect(await scansOf(id)).toMatchObject([
    {
      phase: 'before',
      found: {
        codes: [{ code: 'P0562', failureType: '16', status: 'stored', module: 'engine' }],
        coverage: { immobilizer: 'silent', engine: 'answered' },
      },
      cleared: true,
      note: 'key on',
      by: technician.name,
    },
  ]);
  const rows = await harness.db
    .select({ found: sql<string>`found::text` })
    .from(scan)
    .where(eq(scan.caseId, id));
  expect(JSON.stringify(rows)).not.toMatch(/Keld|4-18-THB/);
  expect(JSON.stringify(rows)).toContain('\\"v\\":1');
  const report = (await readReport(harness.services, id))!;
  expect(report.lines.find((l) => l.what === 'Scan before the work')?.detail).toBe(
    'P0562-16 ECM stored. answered: ECM. silent: immobilizer. cleared afterward. key on',
  );
});

test('what can’t be used: nothing in it, too much, a module that nobody knows, a case that is not open', async () => {
  const id = await harness.openCase();
  expect(await refusal(record(id, { text: 'It cranks.' }))).toMatchObject({
    status: 400,
    path: 'text',
    message: expect.stringContaining('There is no trouble code in it'),
  });
  expect(await refusal(record(id, { text: '', coverage: { engine: 'notAsked' } }))).toMatchObject({ status: 400 });
  const many = (n: number) => Array.from({ length: n }, (_, i) => `P${String(i).padStart(4, '0')}`).join(' ');
  expect(findCodes(many(501)).codes).toHaveLength(501);
  expect(await refusal(record(id, { text: many(501) }))).toMatchObject({
    status: 400,
    message: expect.stringContaining('more than the 500'),
  });
  await record(id, { text: many(500) });
  for (const bad of [
    { phase: 'during' },
    { coverage: { toaster: 'answered' } },
    { coverage: { engine: 'maybe' } },
    { text: 'x'.repeat(mostScanText + 1) },
    { note: 'x'.repeat(301) },
  ])
    expect(() => parseScan({ phase: 'before', text: 'P0562', ...bad })).toThrow();
  await parkCase(harness.db, harness.act(lead), id, 'waits for a part');
  expect(await refusal(record(id, { text: 'P0562' }))).toMatchObject({ status: 409 });
  expect(await scansOf(id)).toHaveLength(1);
});

test('a hundred at once under one id are one scan, under their own ids a hundred; then the case is full', async () => {
  const id = await harness.openCase();
  const act = harness.act(technician);
  await Promise.all(Array.from({ length: 100 }, () => record(id, { text: 'P0562' }, act)));
  expect(await scansOf(id)).toHaveLength(1);
  const answers = await Promise.allSettled(Array.from({ length: 100 }, () => record(id, { text: 'P0633' })));
  expect(answers.filter((a) => a.status === 'fulfilled')).toHaveLength(99);
  expect(await scansOf(id)).toHaveLength(100);
  expect(await refusal(record(id, { text: 'P0633' }))).toMatchObject({ status: 409, message: 'A case holds 100 scans at most.' });
});

test('rows are only ever added', async () => {
  await expect(harness.db.execute(sql`update scan set note = 'x'`)).rejects.toThrow();
  await expect(harness.db.execute(sql`delete from scan`)).rejects.toThrow();
});

test('which module is the immobilizer, and which are asked', () => {
  expect(immobilizerOf(contentOf('transponder-dwell'))).toBe('immobilizer');
  expect(immobilizerOf(contentOf('engine-immobilizer'))).toBe('engine');
  expect(immobilizerOf(contentOf('pocket-fob'))).toBe('body');
  expect(immobilizerOf(contentOf('infrared'))).toBe('lock');
  expect(immobilizerOf(undefined)).toBe('immobilizer');
  expect(modulesToAsk(contentOf('engine-immobilizer'))).toEqual(['engine', 'body', 'cluster']);
  expect(modulesToAsk(contentOf('infrared'))).toEqual(['lock', 'engine', 'body', 'cluster', 'steering']);
});

test('a code of a list of fourteen: one matters, and says why', () => {
  const { codes } = findCodes('P0562 P0351 P0300 P0420 P0171 P0442 U0184 U0164 U0159 B0001 C0031 C0034 P0633 P0700');
  const tests = new Map([['whoAnswers', 'Which modules answer a scan']]);
  const shown = codes.map((c) => explained(c, harness.services.library.codes, { tests }));
  const about = shown.filter((s) => s.relevance === 'about');
  expect(shown).toHaveLength(14);
  expect(about).toMatchObject([{ code: 'P0633', text: 'Immobilizer key not programmed, ECM', tests: ['Which modules answer a scan'] }]);
  expect(shown.filter((s) => s.relevance === 'may').map((s) => s.code)).toEqual(['P0562']);
});

test('the page: newest first, the last after against the last before', () => {
  const line = (id: number, phase: 'before' | 'after', text: string) => ({
    id,
    phase,
    found: { codes: findCodes(text).codes.map(({ code }) => ({ code })), coverage: {} },
    cleared: false,
    note: '',
    by: 'x',
    at: id,
  });
  const tests = new Map<string, string>();
  const lists = harness.services.library.codes;
  expect(viewScans([line(1, 'before', 'P0562')], undefined, lists, { tests }).compared).toBeNull();
  const view = viewScans([line(1, 'before', 'P0999'), line(2, 'before', 'P0562 P0633'), line(3, 'after', 'P0633 P0685')], undefined, lists, {
    tests,
  });
  expect(view.scans.map((s) => s.id)).toEqual([3, 2, 1]);
  expect(view.compared).toMatchObject({ gone: [{ code: 'P0562' }], still: [{ code: 'P0633' }], added: [{ code: 'P0685' }], unknown: [] });
  expect(view.scans[0]!.notes).toEqual(['immobilizerNotAsked', 'engineNotAsked']);
});

test('a scan that asked both answers the test of who answers; one that did not ask the immobilizer answers nothing', async () => {
  const id = await harness.openCase();
  const answers = async () => (await loadCase(harness.db, id))!.evidence.map((e) => [e.test, e.outcome, e.note]);
  expect(await record(id, { text: 'P0562' })).toEqual([]);
  expect(await answers()).toEqual([]);
  expect(await record(id, { text: 'ECM P0562', coverage: { immobilizer: 'silent' } })).toEqual([
    'Which modules answer a scan',
    'Trouble codes of the scan',
  ]);
  expect(await record(id, { text: '', coverage: { immobilizer: 'silent', engine: 'silent' } })).toEqual([]);
  expect(await record(id, { text: '', coverage: { immobilizer: 'answered', engine: 'answered' } })).toHaveLength(2);
  expect(await answers()).toEqual([
    ['whoAnswers', 'immobilizerMissing', 'by the scan of this case'],
    ['codesRead', 'power', 'by the scan of this case'],
    ['whoAnswers', 'all', 'by the scan of this case'],
    ['codesRead', 'none', 'by the scan of this case'],
  ]);
});

test('clearing is questioned where the immobilizer was not scanned, or a used ECM has not learned the car; said once more, it is kept', async () => {
  const id = await harness.openCase();
  const needs = { db: harness.db, documents: harness.services.documents, library: harness.services.library };
  expect(await refusal(record(id, { text: 'ECM P0562', cleared: 'on' }))).toMatchObject({
    status: 409,
    path: 'cleared',
    message: expect.stringContaining('The immobilizer was not scanned'),
  });
  expect(await scansOf(id)).toHaveLength(0);
  await record(id, { text: 'ECM P0562', cleared: 'on', knowing: 'on' });
  const all = { text: 'ECM P0562', cleared: 'on', coverage: { immobilizer: 'answered' } };
  await record(id, all);
  const plan = parsePlanForm({ replaced: { engine: 'donor' }, installed: ['engine'], tools: ['scan tool', 'programming tool'] });
  await beginPlan(needs, harness.act(technician), id, plan);
  expect(await refusal(record(id, all))).toMatchObject({ status: 409, message: expect.stringMatching(/^ECM: used or remanufactured/) });
  expect(await scansOf(id)).toHaveLength(2);
});

test('how little a scan without a code tells', () => {
  expect(noneShare({ default: { none: 0.6 }, a: { none: 0.1 } }, ['a', 'b'])).toEqual({ least: 0.1, most: 0.6 });
  expect(noneShare({ default: {}, a: { none: 0.1 } }, ['a', 'toString'])).toEqual({ least: 0, most: 0.1 });
});

test('as a table: a line for each code, and one for each module without; what is exported as CSV or JSON is found again, whole', async () => {
  const id = await harness.openCase();
  await record(id, { text: 'ECM\nP0562-16 stored [28]\n  Battery: 11.4 V\nU0100', coverage: { immobilizer: 'silent' }, note: '=1+1' });
  const rows = scanRows(await scansOf(id));
  expect(rows.map((r) => r.slice(3))).toEqual([
    ['engine', 'answered', 'P0562', '16', 'stored', '28', 'Battery: 11.4 V', 'no', '=1+1'],
    ['engine', 'answered', 'U0100', '', '', '', '', 'no', '=1+1'],
    ['immobilizer', 'silent', '', '', '', '', '', 'no', '=1+1'],
  ]);
  const text = csv([...scanColumns], rows);
  // No spreadsheet takes a note for a formula.
  expect(text).toContain(",'=1+1");
  const [kept] = await scansOf(id);
  for (const file of [text, scansAsJson([kept!])]) {
    const { codes, coverage } = findCodes(file);
    expect(scanOf(codes, { ...coverage })).toEqual(kept!.found);
  }
  // Who was heard comes in with the file; what is ticked counts before it.
  const again = await harness.openCase();
  await record(again, { text, coverage: { immobilizer: 'notAsked' } });
  await record(again, { text });
  expect((await scansOf(again)).map((s) => s.found.coverage)).toEqual([
    { engine: 'answered', immobilizer: 'notAsked' },
    { engine: 'answered', immobilizer: 'silent' },
  ]);
  expect(scanRows([])).toEqual([]);
});
