import { eq } from 'drizzle-orm';
import { casesIn, noTallies } from '../../core/learning';
import { closeCase, reopenCase } from '../cases/closing';
import { cameBack } from '../cases/cameBack';
import { parseCameBack, parseClosing } from '../cases/forms';
import { caseFile, identification, lesson } from '../db/schema';
import { recordEvidence, recordRepairAction } from '../ledger/ledger';
import { parseRepairAction } from '../ledger/forms';
import { lookBack } from '../offers/acts';
import { parseLookBackForm } from '../offers/forms';
import { readExperience, readTallies } from '../record/experience';
import { loadCase } from '../record/cases';
import { Harness, lead, refusal, technician } from '../services/harness.testing';
import { exportCase } from '../transfer/exportCase';
import { importCase } from '../transfer/importCase';
import { exportLearned, importLearned, removeLearned } from './elsewhere';
import { forget, leaveOut, learnFrom } from './lessons';
import { lessonState, readLearned } from './view';

let harness: Harness;
beforeEach(async () => {
  harness = await Harness.open();
});
afterEach(() => harness.close());

const db = () => harness.db;
const act = () => harness.act(lead);
const documents = () => harness.services.documents;

/** A case of a ring with a cover on the key, closed; proven as a repair that was tried would have it. */
async function closed(more: { vehicle?: string; fault?: string } = {}): Promise<number> {
  const id = await harness.openCase({ system: 'family:ring', vehicle: more.vehicle ?? 'Orrin Thimble, blue' });
  const see = (test: string, outcome: string, minutes: number) =>
    recordEvidence(db(), documents(), act(), id, { test, outcome, key: 'A', note: '', minutes });
  await see('lamp', 'refused', 2);
  await see('coverAway', 'accepted', 1.5);
  const fault = more.fault ?? 'coverNear';
  await recordRepairAction(
    db(),
    documents(),
    harness.act(technician),
    id,
    parseRepairAction({ kind: 'repair', fault, result: 'works', note: '', minutes: 12 }),
  );
  await closeCase(
    db(),
    documents(),
    act(),
    id,
    parseClosing({ outcome: 'Cover off.', reason: 'shown', conclusion: 'likely', fault, absentTold: 'on' }),
  );
  await prove(id);
  return id;
}
/** Its conclusion is proven from now on, and it teaches as a case that was closed so. */
async function prove(id: number): Promise<void> {
  await db().update(caseFile).set({ conclusion: 'proven' }).where(eq(caseFile.id, id));
  await db().transaction(async (tx) => learnFrom(tx, documents(), (await loadCase(tx, id))!));
}
const ring = async () => (await readTallies(db())).ring ?? noTallies();

test('a closed case teaches its cause, line, answers, times and what was said; exactly that goes when it is opened again', async () => {
  await closed();
  const before = await ring();
  expect(before).toMatchObject({
    causes: { coverNear: 1 },
    lines: { 'orrin thimble': { coverNear: 1 } },
    tests: { lamp: { off: 0, timed: 1, tenths: 20 }, coverAway: { timed: 1, tenths: 15 } },
    fixes: { coverNear: { timed: 1, tenths: 120 } },
    missed: 0,
  });
  expect(before.said.reduce((n, t) => n + t.n, 0)).toBe(1);
  const second = await closed();
  expect(casesIn(await ring())).toBe(2);
  await reopenCase(db(), act(), second, 'It was something else.');
  expect(await ring()).toEqual(before);
  expect(await lessonState(db(), second)).toBeNull();
});

test('likely causes, work that was not done and cases of other shops teach nothing of causes', async () => {
  const id = await harness.openCase({ system: 'family:ring' });
  await closeCase(
    db(),
    documents(),
    act(),
    id,
    parseClosing({ outcome: 'x', reason: 'y', conclusion: 'likely', fault: 'coverNear', absentTold: 'on' }),
  );
  expect(casesIn(await ring())).toBe(0);
  const there = await Harness.open();
  try {
    const { zip } = await exportCase(db(), act(), await closed());
    await importCase(there.with, there.act(lead), zip);
    expect(await readTallies(there.db)).toEqual({});
  } finally {
    await there.close();
  }
});

test('a case is left out for a reason and taken in again; a vehicle that came back teaches nothing', async () => {
  const id = await closed();
  await leaveOut(db(), act(), id, 'A friend’s car.');
  expect(await ring()).toEqual(noTallies());
  expect(await lessonState(db(), id)).toEqual({ leftOut: 'A friend’s car.' });
  expect((await readLearned(harness.services)).leftOut).toBe(1);
  // What is heard afterwards doesn't take it in again.
  await lookBack(db(), documents(), act(), id, parseLookBackForm({ stayed: 'fixed' }));
  expect(await ring()).toEqual(noTallies());
  await leaveOut(db(), act(), id, null);
  expect(await ring()).toMatchObject({ causes: { coverNear: 1 }, asked: 1, stayed: 1 });
  await cameBack(db(), harness.services.library, act(), id, parseCameBack({ words: 'Again.' }));
  expect(await ring()).toEqual(noTallies());
  expect(await refusal(leaveOut(db(), act(), id, null))).toMatchObject({
    code: 'noLesson',
    message: 'Nothing is learned from this case: it is not closed with a conclusion, or it came back.',
  });
});

test('a hundred at once under one id count once, and acts at once on several cases are all in the sums', async () => {
  const ids = [await closed(), await closed(), await closed()];
  const same = act();
  await Promise.all(Array.from({ length: 100 }, () => leaveOut(db(), same, ids[0]!, 'x')));
  expect(casesIn(await ring())).toBe(2);
  await Promise.all(Array.from({ length: 100 }, () => leaveOut(db(), act(), ids[1]!, 'x')));
  expect(casesIn(await ring())).toBe(1);
  await Promise.all(ids.map((id) => leaveOut(db(), act(), id, null)));
  expect(casesIn(await ring())).toBe(3);
  const sums = await db().select().from(lesson);
  expect(sums).toHaveLength(3);
});

test('a case keeps what it began with; the next one begins with more, and its page says from what', async () => {
  const first = await harness.openCase({ system: 'family:ring' });
  for (let i = 0; i < 5; i += 1) await closed();
  const next = await harness.openCase({ system: 'family:ring', vehicle: 'Orrin Thimble 2, red' });
  const began = async (id: number) => (await db().select().from(identification).where(eq(identification.caseId, id)))[0]!;
  expect(await began(first)).toMatchObject({ proven: {}, learned: null });
  expect(await began(next)).toMatchObject({ proven: { coverNear: 5 }, learned: { line: {}, testMinutes: { lamp: { n: 5, sum: 10 } } } });
  const { proven, learned } = await readExperience(db(), 'ring', 'Orrin Thimble');
  expect([proven, learned!.slips.lamp]).toEqual([{ coverNear: 5 }, { n: 5, off: 0 }]);
  const { zip } = await exportCase(db(), act(), next);
  const there = await Harness.open();
  try {
    const { id } = await importCase(there.with, there.act(lead), zip);
    expect((await loadCase(there.db, id))!.identifications[0]!.learned).toEqual(learned);
  } finally {
    await there.close();
  }
});

test('learning from one case costs what a few statements cost, however many cases there are', async () => {
  const id = await closed();
  const record = (await loadCase(db(), id))!;
  const quickest = async (work: () => Promise<unknown>, before: () => Promise<unknown> = async () => {}) => {
    let best = Infinity;
    for (let i = 0; i < 15; i += 1) {
      await before();
      const from = performance.now();
      await work();
      best = Math.min(best, performance.now() - from);
    }
    return best;
  };
  const bare = await quickest(() => db().transaction((tx) => tx.select().from(lesson)));
  const learnt = await quickest(
    () => db().transaction((tx) => learnFrom(tx, documents(), record)),
    () => db().transaction((tx) => forget(tx, id)),
  );
  // In milliseconds: `npm run bench -- learning`.
  expect(learnt / bare).toBeLessThan(30);
  expect(casesIn(await ring())).toBe(1);
});

test('what was learned goes to another shop without a name, counts there in parts, once, and is removed whole', async () => {
  for (let i = 0; i < 8; i += 1) await closed();
  const file = new TextEncoder().encode(await exportLearned(db(), harness.services.clock.now()));
  const text = new TextDecoder().decode(file);
  for (const never of ['Thimble', 'thimble', 'Marrow', 'Quibb']) expect([never, text.includes(never)]).toEqual([never, false]);
  const there = await Harness.open();
  try {
    const needs = { db: there.db, files: there.services.files };
    expect(await importLearned(needs, there.act(lead), file)).toEqual({ shop: 'Saltmarsh Auto Electric' });
    expect((await readExperience(there.db, 'ring', '')).proven).toEqual({ coverNear: 2 });
    expect(await refusal(importLearned(needs, there.act(lead), file))).toMatchObject({
      code: 'hereAlready',
      message: 'This file is here already, from “Saltmarsh Auto Electric”.',
    });
    const tried = await Promise.all(Array.from({ length: 100 }, () => refusal(importLearned(needs, there.act(lead), file))));
    expect(tried.filter((t) => t === 'accepted')).toEqual([]);
    const { elsewhere } = await readLearned(there.services);
    expect(elsewhere).toMatchObject([{ shop: 'Saltmarsh Auto Electric', cases: 8, by: 'Ines Marrow' }]);
    await removeLearned(there.db, there.act(lead), elsewhere[0]!.id);
    expect((await readExperience(there.db, 'ring', '')).proven).toEqual({});
    expect(await refusal(removeLearned(there.db, there.act(lead), elsewhere[0]!.id))).toMatchObject({
      status: 404,
      message: 'This is gone already. Reload the page.',
    });
  } finally {
    await there.close();
  }
});

test.each<[string, string, string]>([
  ['no JSON', 'x', 'This is not JSON. Choose a file that another shop has exported under Shop, What we learned.'],
  [
    'nothing in it',
    '{"form":"bloodstone learned","version":1,"shop":"","exportedAt":"2026-11-30","families":{}}',
    'Nothing is in this file: that shop has learned nothing yet.',
  ],
  ['too large', ' '.repeat(500_001), 'The file is larger than 500 kB. Choose the right file.'],
])('a file of another shop with %s is refused', async (_what, text, message) => {
  const file = new TextEncoder().encode(text);
  expect(await refusal(importLearned({ db: db(), files: harness.services.files }, act(), file))).toMatchObject({ path: 'file', message });
});
