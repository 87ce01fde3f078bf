import { eq, sql } from 'drizzle-orm';
import { Harness, lead } from '../services/harness.testing';
import { actOnce, forgetCommands } from '../acts/commands';
import { audit, command } from '../db/schema';

/** What is kept for how long, and how what is searched for is found. */

let harness: Harness;
beforeAll(async () => {
  harness = await Harness.open();
});
afterAll(() => harness.close());

const day = 24 * 60 * 60_000;

test('the id of an act is known for thirty days; what it did and its audit line stay', async () => {
  const act = harness.act(lead);
  const once = () => actOnce(harness.db, act, { right: 'editShop', action: 'kept', payload: 1 }, async () => 1);
  await once();
  const known = async () => (await harness.db.select().from(command).where(eq(command.id, act.id))).length;
  await forgetCommands(harness.db, act.now + 30 * day);
  expect(await known()).toBe(1);
  await forgetCommands(harness.db, act.now + 30 * day + 1);
  expect(await known()).toBe(0);
  expect((await harness.db.select().from(audit).where(eq(audit.action, 'kept'))).length).toBe(1);
});

test('a known act cannot be changed', async () => {
  await actOnce(harness.db, harness.act(lead), { right: 'editShop', action: 'fixed', payload: 1 }, async () => 1);
  await expect(harness.db.update(command).set({ hash: 'x' })).rejects.toMatchObject({ cause: { message: 'rows of command are only ever added' } });
});

test.each([
  ['authority of a case', sql`select 1 from authority where case_id = 7`, 'authority_case'],
  ['keys measured against a ladder', sql`select 1 from measurement where raw -> 'ladder' ->> 'id' = 'tarn-ten'`, 'measurement_ladder'],
  ['old acts', sql`select 1 from command where at < 7`, 'command_at'],
])('%s is found by an index', async (_what, query, index) => {
  const plan = await harness.db.transaction(async (tx) => {
    await tx.execute(sql`set local enable_seqscan = off`);
    return JSON.stringify(await tx.execute(sql`explain ${query}`));
  });
  expect(plan).toContain(index);
});
