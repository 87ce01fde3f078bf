import { like, sql } from 'drizzle-orm';
import { casesIn, noTallies, withLesson } from '../../core/learning';
import { caseFile, lesson } from '../db/schema';
import { generatedSay, readLearned } from '../learning/view';
import { readTallies } from '../record/experience';
import { Harness } from '../services/harness.testing';
import { enterDemoPeople } from './demoPeople';
import { historyCases, seedHistory } from './history';

const some = 40;
let harness: Harness;
beforeAll(async () => {
  harness = await Harness.open();
  await harness.db.execute(sql`delete from person`);
  await enterDemoPeople(harness.db, 0, { N: 2 ** 8, r: 8, p: 1 });
  await seedHistory(harness.services, some);
});
afterAll(() => harness.close());

test('so many closed cases of two years, oldest first, each proven and saying that it was generated; the sums are those of their lessons', async () => {
  const cases = await harness.db.select().from(caseFile).orderBy(caseFile.id);
  expect(cases).toHaveLength(some);
  expect(cases[0]!.id).toBe(5001);
  expect(cases.map((c) => c.openedAt)).toEqual([...cases.map((c) => c.openedAt)].sort((a, b) => a - b));
  for (const c of cases) expect([c.conclusion, c.outcome, c.vehicle.endsWith(', generated')]).toEqual(['proven', generatedSay, true]);
  const sums: Record<string, ReturnType<typeof noTallies>> = {};
  for (const l of await harness.db.select().from(lesson)) sums[l.familyId] = withLesson(sums[l.familyId] ?? noTallies(), l.lesson);
  expect(await readTallies(harness.db)).toEqual(sums);
  expect(Object.values(sums).reduce((n, t) => n + casesIn(t), 0)).toBe(some);
  expect(historyCases).toBe(300);
});

test('they are found in the list of cases, and what was said of them is counted', async () => {
  expect(await harness.db.select({ id: caseFile.id }).from(caseFile).where(like(caseFile.vehicle, '%generated'))).toHaveLength(some);
  const { said, families } = await readLearned(harness.services);
  expect(said.reduce((n, t) => n + t.n, 0)).toBeGreaterThan(some / 2);
  expect(families.length).toBeGreaterThan(3);
});
