import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { sql } from 'drizzle-orm';
import { actOnce } from '../acts/commands';
import { audit, person } from '../db/schema';
import { type OpenDatabase, ensureTemplate, openDatabase } from './open';
import { longSyncMs, SyncedFs } from './synced';

/** What is acknowledged is on the disk: counted where the database asks for it. That a power cut loses nothing is another matter than that a kill does. */

const folder = mkdtempSync(join(tmpdir(), 'bloodstone-synced-'));
const migrations = join(process.cwd(), 'server/db/migrations');
const templates = join(process.cwd(), '.cache/templates');
const by = { id: 'o', name: 'Maud Ferrow', initials: 'MF', role: 'owner' } as const;
let database: OpenDatabase;
/** A disk that takes `takesMs` for a file, by the clock that is looked at. */
class SlowFs extends SyncedFs {
  takesMs = 0;
  #now = 0;
  protected override now(): number {
    return (this.#now += this.takesMs);
  }
}
let disk: SlowFs;
beforeAll(async () => {
  await ensureTemplate(templates, migrations);
  database = await openDatabase({ folder, migrations, templates, openFs: (dataDir) => (disk = new SlowFs(dataDir)) });
  await database.db.insert(person).values({ ...by, state: 'active' });
});
afterAll(async () => {
  await database.close();
  rmSync(folder, { recursive: true, force: true });
});

const act = (i: number, rows = 1) =>
  actOnce(database.db, { id: `synced-${i}`, actor: by, now: i }, { right: 'editShop', action: 'synced', payload: i }, async (tx) => {
    for (let n = 0; n < rows; n += 1) await tx.insert(audit).values({ at: i, by: by.id, action: 'row', detail: { n } });
    return i;
  });

test('no act is answered before its record is on the disk, and one act costs one sync', async () => {
  await act(0);
  for (let i = 1; i <= 50; i += 1) {
    const before = database.synced();
    await act(i, 5);
    const after = database.synced();
    expect(after.unsynced).toBe(0);
    // A second one where the log has begun a new file.
    expect([1, 2, 3]).toContain(after.syncs - before.syncs);
  }
  const before = database.synced().syncs;
  for (let i = 51; i <= 150; i += 1) await act(i);
  expect((database.synced().syncs - before) / 100).toBeLessThan(1.1);
});

test('a disk that took long for a file is told of before the next one, a quicker one is not', async () => {
  let told = 0;
  disk.stalled = () => (told += 1);
  disk.takesMs = longSyncMs - 1;
  await act(200);
  expect(told).toBe(0);
  disk.takesMs = longSyncMs;
  await act(201);
  expect(told).toBeGreaterThan(0);
  disk.takesMs = 0;
});

test('what is read costs no sync', async () => {
  const before = database.synced().syncs;
  for (let i = 0; i < 20; i += 1) await database.db.select().from(audit).limit(1);
  expect(database.synced().syncs).toBe(before);
});

test('the database does sync, in the way that reaches the disk here', async () => {
  const show = async (name: string) =>
    Object.values(((await database.db.execute(sql.raw(`show ${name}`))) as unknown as { rows: object[] }).rows[0]!)[0];
  expect(await show('fsync')).toBe('on');
  expect(await show('wal_sync_method')).toBe('fsync');
  expect(await show('synchronous_commit')).toBe('on');
  expect(await show('full_page_writes')).toBe('on');
});
