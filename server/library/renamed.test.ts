import { readings } from '../transfer/readings';
import { readFileSync } from 'node:fs';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { brotliDecompressSync } from 'node:zlib';
import { PGlite } from '@electric-sql/pglite';
import { Harness, cheap, lead, technician } from '../services/harness.testing';
import { listCalls } from '../calls/calls';
import { loadCase } from '../record/cases';
import { readCasePage } from '../cases/caseView';
import { findDraft } from '../cases/drafts';
import { importDocument } from './importDocument';
import { profileVersions } from './profiles';
import { readReport } from '../cases/report';
import { openServices, type Services } from '../services/services';
import { importCase } from '../transfer/importCase';

/**
 * A shop's data folder, two exported cases and a profile, all made by the version before ids were renamed (commit 71f4779), open with all they held. The
 * shop had a profile and a closed case of `engine-guard`, a call and a draft with a replaced `guardModule`, a run, and a case that was identified anew.
 */
const fixture = (name: string) => readFileSync(join(process.cwd(), 'server/fixtures/before-rename', name));

const folder = mkdtempSync(join(tmpdir(), 'bloodstone-renamed-'));
let services: Services;
let harness: Harness;
beforeAll(async () => {
  const tar = new Blob([new Uint8Array(brotliDecompressSync(fixture('data.tar.br')))]);
  await (await PGlite.create({ dataDir: join(folder, 'pg'), loadDataDir: tar })).close();
  services = await openServices({ root: process.cwd(), folder, manualClock: true, reading: readings, secretCost: cheap });
  harness = await Harness.open();
});
afterAll(async () => {
  await services.close();
  await harness.close();
  rmSync(folder, { recursive: true, force: true });
});

/** What a case of `engine-guard` held, by today's ids. */
const own = {
  state: 'closed',
  family: { id: 'engine-immobilizer', version: 12 },
  changed: [{ what: 'immobilizerModule', on: '2026-11-20', note: 'used part' }],
  evidence: [
    { test: 'whoAnswers', outcome: 'immobilizerMissing' },
    { test: 'lamp', key: 'A' },
  ],
  repairActions: [{ fault: 'immobilizerForgot', result: 'works', note: 'mended' }],
};

test('the data folder opens: cases, calls, drafts and profiles have what they had', async () => {
  const { db } = services.database;
  const record = (await loadCase(db, 1))!;
  expect(record).toMatchObject({ ...own, conclusion: 'likely', conclusionFault: 'immobilizerForgot' });
  const family = await services.documents.family(record.family);
  expect([family.id, family.chain.map((l) => l.id)]).toEqual([
    'engine-immobilizer',
    expect.arrayContaining(['power', 'key', 'keyAccepted', 'startEnabled']),
  ]);
  expect(JSON.stringify(family)).not.toMatch(/"guard"|guard[A-Z.]|engine-guard/);
  const page = (await readCasePage(services, 1))!;
  expect(page.diagnosis.weighed!.beliefs.map((b) => b.fault)).toContain('immobilizerForgot');
  expect(JSON.stringify(await readReport(services, 1))).toContain('Blue wagon');
  // The run goes on, and the case that was identified anew is of today's system type.
  expect((await loadCase(db, 2))!).toMatchObject({ state: 'open', changed: [{ what: 'ecm' }], runs: [{ status: 'running' }] });
  expect((await loadCase(db, 3))!).toMatchObject({
    family: { id: 'engine-immobilizer' },
    identifications: [{ family: { id: 'ring' } }, { family: { id: 'engine-immobilizer' } }],
  });
  expect(await listCalls(db)).toMatchObject([{ system: 'family:engine-immobilizer', answers: { before: 'immobilizerModule' } }]);
  expect((await findDraft(db, technician, '0b0e4a86-5a0d-4a3e-9d5b-6f9d7b8f1a11'))!.fields).toEqual({
    vehicle: 'Tarn Weir',
    changed: ['immobilizerModule'],
    system: 'family:engine-immobilizer',
  });
  expect((await profileVersions(db, record.profile!.id))[0]!.profile).toMatchObject({ title: 'Blue wagon, 1999', family: 'engine-immobilizer' });
});

test.each([
  ['own.zip', own],
  [
    'run.zip',
    {
      changed: [{ what: 'ecm', note: 'new part' }],
      family: { id: 'transponder-dwell' },
      runs: [{ status: 'stopped' }],
      evidence: [{ outcome: 'accepted' }],
    },
  ],
])('an exported case of before opens: %s', async (name, held) => {
  const { id } = await importCase(harness.with, harness.act(lead), new Uint8Array(fixture(name)));
  const record = (await loadCase(harness.db, id))!;
  expect(record).toMatchObject(held);
  expect((await readCasePage(harness.services, id))!.diagnosis.weighed!.beliefs.length).toBeGreaterThan(10);
});

test('a profile of before opens', async () => {
  const taken = await importDocument(harness.with, harness.act(lead), fixture('profile.yaml').toString('utf8'));
  const { profile } = (await profileVersions(harness.db, taken.id))[0]!;
  expect(profile).toMatchObject({ family: 'engine-immobilizer', values: { mainOut: { value: 1, source: 'page 12' } } });
});
