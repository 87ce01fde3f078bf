import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { sql } from 'drizzle-orm';
import { generator } from '../../core/units';
import { checkAll } from '../backup/check';
import { parseRunCommand } from '../runs/forms';
import { commandRun, loadRun, startRun } from '../runs/runs';
import { Harness } from '../services/harness.testing';
import { openDatabase } from './open';
import { afterCut, RecordingFs } from './powerCut.testing';

/**
 * The power is cut behind every act of a session on the disk (npm run thorough), or behind some of them and around every sync (npm test). Each folder that could be left opens, holds
 * every act that was acknowledged, and passes the look through the whole database.
 */

const folder = mkdtempSync(join(tmpdir(), 'bloodstone-power-'));
const migrations = join(process.cwd(), 'server/db/migrations');
const [shop, base, cut] = ['shop', 'base', 'cut'].map((name) => join(folder, name)) as [string, string, string];
let fs: RecordingFs;
/** Acts with the number of operations after which each was acknowledged. */
const acknowledged: { id: string; at: number }[] = [];

beforeAll(async () => {
  const first = await Harness.open(undefined, { folder: shop });
  await first.openCase();
  await first.close();
  cpSync(shop, base, { recursive: true });
  const h = await Harness.open(undefined, { folder: shop, openFs: (dataDir) => (fs = new RecordingFs(dataDir)) });
  const { db, services } = h;
  const done = async <T>(work: (act: ReturnType<typeof h.act>) => Promise<T>): Promise<T> => {
    const act = { ...h.act(), id: `power-${acknowledged.length}` };
    const answer = await work(act);
    acknowledged.push({ id: act.id, at: fs.operations.length });
    return answer;
  };
  const caseId = await done((act) => h.openCase({ system: 'family:transponder-dwell', authority: [{ kind: 'registration', note: '' }] }, act));
  const { id } = await done((act) => startRun(db, services.documents, services.library, act, caseId, 'relearn-ignition-on'));
  const send = (body: object) =>
    done(async (act) => {
      const { events } = (await loadRun(db, services.documents, id))!;
      await commandRun(db, services.documents, act, id, parseRunCommand({ id: act.id, expectedSeq: events.length, occurredAt: act.now, ...body }));
    });
  await send({ type: 'answer', step: 'rested', answer: 'measured', value: 12.6 });
  // What tidying up writes and renames is cut into as well; and a part of the log that begins.
  await db.execute(sql`checkpoint`);
  await send({ type: 'interrupt', what: 'left', note: '' });
  await db.execute(sql`select pg_switch_wal()`);
  await done((act) => h.openCase({ vehicle: 'Orrin Thimble, red' }, act));
  await db.execute(sql`checkpoint`);
  await send({ type: 'stop', reason: 'the customer wants it back' });
  await h.close();
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

async function opensWhole(count: number): Promise<unknown> {
  const database = await openDatabase({ folder: cut, migrations });
  try {
    const ids = async (table: string, column: string) =>
      ((await database.db.execute(sql.raw(`select ${column} as id from ${table}`))) as unknown as { rows: { id: string }[] }).rows.map((r) => r.id);
    const commands = new Set(await ids('command', 'id'));
    const lost = acknowledged.filter((a) => a.at <= count && !commands.has(a.id)).map((a) => a.id);
    const audited = await ids('audit', `detail->>'command'`);
    return { lost, half: audited.filter((id) => id.startsWith('power-') && !commands.has(id)), problems: (await checkAll(database)).problems };
  } finally {
    await database.close();
  }
}

const modes = ['lost', 'kept', 'torn'] as const;

test('what was recorded is a session: acts, syncs of files and of names, renames', () => {
  const count = (kind: string) => fs.operations.filter((o) => o.kind === kind).length;
  expect(acknowledged).toHaveLength(6);
  expect(count('syncFile')).toBeGreaterThan(10);
  expect(count('syncNames')).toBeGreaterThan(1);
  expect(count('write')).toBeGreaterThan(50);
  expect(count('rename')).toBeGreaterThan(0);
});

test(
  'the power is cut: each folder opens, has every acknowledged act, none by half, and nothing in it is wrong',
  async () => {
    const all = fs.operations.length;
    const syncs = fs.operations.flatMap((o, i) => (o.kind === 'syncFile' ? [i, i + 1] : []));
    const step = Math.ceil(syncs.length / 2);
    const some = new Set([...acknowledged.map((a) => a.at), ...syncs.filter((_, i) => i % step === 0)]);
    const points = process.env.THOROUGH === '1' ? Array.from({ length: all + 1 }, (_, i) => i) : [...some].sort((a, b) => a - b);
    const next = generator(2025);
    for (const [i, point] of points.entries())
      // Where all was kept is the easiest; it is looked at now and then.
      for (const mode of process.env.THOROUGH === '1' || i % 4 === 0 ? modes : ([i % 2 ? 'lost' : 'torn'] as const)) {
        const seed = Math.floor(next() * 2 ** 31);
        const chance = generator(seed);
        afterCut(join(base, 'pg'), fs.operations, point, mode === 'torn' ? () => chance() < 0.5 : mode, join(cut, 'pg'));
        expect({ point, mode, seed, found: await opensWhole(point).catch((error: unknown) => String(error)) }).toEqual({
          point,
          mode,
          seed,
          found: { lost: [], half: [], problems: [] },
        });
        rmSync(cut, { recursive: true, force: true });
      }
  },
  2 * 60 * 60_000,
);

test('a disk that does not sync loses acts: the layer shows it', async () => {
  // Without the syncs, as the database does it by itself, what was acknowledged is gone.
  const unsynced = fs.operations.filter((o) => o.kind !== 'syncFile' && o.kind !== 'syncNames');
  const done = fs.operations.slice(0, acknowledged[2]!.at).filter((o) => o.kind !== 'syncFile' && o.kind !== 'syncNames').length;
  afterCut(join(base, 'pg'), unsynced, done, 'lost', join(cut, 'pg'));
  const found = (await opensWhole(acknowledged[2]!.at)) as { lost: string[] };
  expect(found.lost).toEqual(['power-0', 'power-1', 'power-2']);
});
