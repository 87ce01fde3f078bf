// What learning from closed cases is worth on fresh vehicles, type by type, and how long learning from one takes, as JSON for scripts/bench.mjs.
import { sql } from 'drizzle-orm';
import { shippedContent } from '../content/shipped.testing';
import { learnFrom } from '../core/diagnosis';
import { worthOf } from '../core/learning';
import { resolveParams, valuesOf } from '../core/library';
import { lesson } from '../server/db/schema';
import { enterDemoPeople } from '../server/demo/demoPeople';
import { historyCases, seedHistory } from '../server/demo/history';
import { forget, learnFrom as learn } from '../server/learning/lessons';
import { loadCase } from '../server/record/cases';
import { cheap, Harness } from '../server/services/harness.testing';

const seeds = [20261130, 1000, 2000, 3000];
const fresh = 350;
/** Cases of the type in each shop's past. Below `learnFrom` nothing changes at all (content/learning.test.ts). */
const past = 60;
/** Closed cases that are learned from anew, one after the other. */
const anew = 60;

const worth = [...shippedContent().library.families.values()]
  .filter((f) => f.faults?.length)
  .map((family) => ({
    title: family.title,
    ratio: worthOf(family, valuesOf(resolveParams(family)), { cases: past, fresh, seeds }),
  }));

const harness = await Harness.open();
// The people of the demo take the names that the shop of tests has.
await harness.db.execute(sql`delete from person`);
await enterDemoPeople(harness.db, 0, cheap);
await seedHistory(harness.services);
const { database, documents } = harness.services;
const { db } = database;
const ids = (await db.select({ id: lesson.caseId }).from(lesson).limit(anew)).map((l) => l.id);
const took: number[] = [];
const bare: number[] = [];
for (const id of ids) {
  const record = (await loadCase(db, id))!;
  await db.transaction((tx) => forget(tx, id));
  let from = performance.now();
  await db.transaction((tx) => learn(tx, documents, record));
  took.push(performance.now() - from);
  from = performance.now();
  await db.transaction((tx) => tx.select({ id: lesson.caseId }).from(lesson).limit(1));
  bare.push(performance.now() - from);
}
await harness.close();
const atShare = (list: number[], share: number) => [...list].sort((a, b) => a - b)[Math.floor(list.length * share)]!;
const median = (list: number[]) => atShare(list, 0.5);
console.log(
  JSON.stringify({
    shops: seeds.length,
    fresh,
    past,
    from: learnFrom,
    worth,
    closed: historyCases,
    anew: ids.length,
    learning: median(took),
    nineOfTen: atShare(took, 0.9),
    slowest: Math.max(...took),
    bare: median(bare),
  }),
);
