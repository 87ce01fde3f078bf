import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { getTableColumns, is, sql } from 'drizzle-orm';
import { PgBigInt53, PgTable } from 'drizzle-orm/pg-core';
import * as schema from '../db/schema';
import { moveToPresent } from '../db/world';
import { cheap } from '../services/harness.testing';
import { openServices, type Services } from '../services/services';
import { readings } from '../transfer/readings';
import { seedDemo } from './demo';
import { prepareWorld } from './world';

const root = process.cwd();
const madeFor = Date.UTC(2020, 0, 15, 12);
const day = 24 * 60 * 60_000;
const tables = Object.values(schema as Record<string, unknown>).filter((t): t is PgTable => is(t, PgTable) && t !== schema.clockDomain);

let templates: string;
let moved: Services;
beforeAll(async () => {
  templates = mkdtempSync(join(tmpdir(), 'world-'));
  await prepareWorld({ root, templates, reading: readings, secretCost: cheap }, madeFor);
  moved = await openServices({ root, templates, folder: join(templates, 'shop'), reading: readings, demo: true, manualClock: true });
});
afterAll(async () => {
  await moved.close();
  rmSync(templates, { recursive: true, force: true });
});

/** Of each table, its moments before `now`, in order. */
async function momentsBefore({ database: { db }, clock }: Services): Promise<Record<string, (number | null)[]>> {
  const all: Record<string, (number | null)[]> = {};
  for (const table of tables) {
    const moments = Object.entries(getTableColumns(table)).filter(([, c]) => is(c, PgBigInt53));
    const rows = (await db.select().from(table)) as Record<string, number | null>[];
    for (const [name, column] of moments)
      all[`${column.uniqueName ?? ''} ${rows.length} ${JSON.stringify(Object.keys(getTableColumns(table)))} ${name}`] = rows
        .map((r) => (r[name] === null ? null : r[name]! - clock.now()))
        .sort((a, b) => (a ?? 0) - (b ?? 0));
  }
  const events = await db.select().from(schema.runEvent).orderBy(schema.runEvent.runId, schema.runEvent.seq);
  all.occurred = events.map((e) => e.event.occurredAt - clock.now());
  all.received = events.map((e) => e.event.receivedAt - clock.now());
  return all;
}

test('a loaded world is as one made now', async () => {
  const made = await openServices({ root, reading: readings, manualClock: true, secretCost: cheap });
  try {
    await seedDemo(made);
    const expected = await momentsBefore(made);
    expect(Object.keys(expected).length).toBeGreaterThan(20);
    expect(expected.occurred!.length).toBeGreaterThan(30);
    const got = await momentsBefore(moved);
    // Documents are entered when the world is made or when the server starts, whichever it was.
    const rest = (all: typeof got) => Object.fromEntries(Object.entries(all).filter(([name]) => !name.includes('enteredAt')));
    expect(rest(got)).toEqual(rest(expected));
  } finally {
    await made.close();
  }
});

test('nothing in it is left at the time for which it was made', async () => {
  let rows = 0;
  for (const table of tables) {
    const texts = await moved.database.db.select({ text: sql<string>`to_json(${table})::text` }).from(table);
    rows += texts.length;
    for (const { text } of texts) {
      const stale = [...text.matchAll(/\d{13}/g)].map(Number).filter((n) => n > madeFor - 60 * day && n < madeFor + day);
      expect({ text: stale.length > 0 ? text : '', stale }).toEqual({ text: '', stale: [] });
      // The day on which a profile was checked stays: the document’s hash stands for it.
      expect(text.replace(/"checked":\{[^}]*\}/, '')).not.toMatch(/20(19|20)-\d\d-\d\d/);
    }
  }
  expect(rows).toBeGreaterThan(150);
});

test('it is moved once, and its lines can’t be changed afterwards', async () => {
  const { db } = moved.database;
  const before = await momentsBefore(moved);
  await moveToPresent(db, moved.clock.now() + 5 * day);
  expect(await momentsBefore(moved)).toEqual(before);
  await expect(db.update(schema.runEvent).set({ seq: 1000 })).rejects.toMatchObject({ cause: { message: 'rows of run_event are only ever added' } });
});

test('its clock goes on from the present, without a word about a restart', async () => {
  expect(moved.clock.read().wallSince).toBeNull();
  expect(Math.abs(moved.clock.now() - Date.now())).toBeLessThan(5 * 60_000);
  expect((await moved.database.db.select().from(schema.clockDomain)).map((c) => c.id)).toEqual(['shop']);
});
