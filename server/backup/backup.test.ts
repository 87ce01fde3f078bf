import { chmodSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, statSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { sql } from 'drizzle-orm';
import { generator } from '../../core/units';
import { actOnce } from '../acts/commands';
import { openDatabase, type OpenDatabase } from '../db/open';
import { Harness, owner, refusal } from '../services/harness.testing';
import { Backups } from './backups';
import { checkAll } from './check';
import { readBackup } from './container';
import { keyFile, password, readKeyFile } from './key';
import { nameOf } from './keeping';
import { makeBackup } from './make';
import { restoreBackup } from './restore';

const migrations = join(process.cwd(), 'server/db/migrations');
const templates = join(process.cwd(), '.cache/templates');
const secret = password('grey herons wade at dusk');
const made = '2026-12-01T08:15:30.000Z';
let harness: Harness;
let folder: string;
let file: string;
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'bloodstone-backup-'));
  file = join(folder, 'one.backup');
  harness = await Harness.open();
  for (const words of ['It does not start.', 'Says "no" at 5 °C,\nthen \\starts\\ 😀', '\u00a0 odd\tspaces ']) await harness.openCase({ words });
  // Values that are easily changed on the way.
  await harness.db.execute(
    sql`insert into clock_domain (id, rate, anchor_clock, anchor_wall) values ('odd', 0.1::float8 + 0.2::float8, 9007199254740993, -1), ('tiny', 5e-324, 0, 0)`,
  );
  await harness.db.execute(
    sql`insert into shop_picture (id, type, width, height, data) values ('shop', 'image/png', 1, 1, ${Buffer.from(Array.from({ length: 256 }, (_, i) => i))})`,
  );
  await makeBackup({ database: harness.services.database }, file, secret, made);
});
afterAll(async () => {
  await harness.close();
  rmSync(folder, { recursive: true, force: true });
});

/** Every row of every table as text, whatever order they lie in; and where each count goes on. */
async function everything({ db }: Pick<OpenDatabase, 'db'>): Promise<Record<string, string[]>> {
  const ask = async (text: string) => ((await db.execute(sql.raw(text))) as unknown as { rows: Record<string, string>[] }).rows;
  const all: Record<string, string[]> = {};
  for (const { name } of await ask(`select relname as name from pg_class where relkind = 'r' and relnamespace = 'public'::regnamespace order by 1`))
    all[name!] = (await ask(`select (t.*)::text as row from "${name}" t`)).map((r) => r.row!).sort();
  all.sequences = (await ask(`select sequencename || ' ' || coalesce(last_value::text, '-') as row from pg_sequences where schemaname = 'public'`))
    .map((r) => r.row!)
    .sort();
  all.links = (await ask(`select conname || condeferrable::text as row from pg_constraint where contype = 'f' order by 1`)).map((r) => r.row!);
  return all;
}
const problem = async (work: Promise<unknown>): Promise<string> => {
  try {
    await work;
  } catch (error) {
    expect((error as object).constructor.name).toBe('BackupProblem');
    return (error as Error).message.replaceAll(folder, 'F');
  }
  return 'none';
};
const verify = (path = file, by = secret) => restoreBackup(path, by, 'memory', { migrations, templates });

test('restored it equals the original, row by row, and nothing in it is wrong', async () => {
  const original = await everything(harness.services.database);
  expect(original.clock_domain!.join()).toContain('9007199254740993');
  let copy: Awaited<ReturnType<typeof everything>> | undefined;
  let wrong: string[] = ['not looked'];
  const restored = await restoreBackup(file, secret, 'memory', {
    migrations,
    templates,
    look: async (database) => {
      copy = await everything(database);
      wrong = (await checkAll(database)).problems;
    },
  });
  expect(copy).toEqual(original);
  expect(wrong).toEqual([]);
  expect(restored.tables.case_file).toBe(3);
  expect(restored.rows).toBe(Object.values(restored.tables).reduce((a, b) => a + b, 0));
  expect(restored.newestAct).toBe(harness.services.clock.now());
});

test('into a folder: it opens there; a folder that holds something is kept, and only when asked to be put over', async () => {
  const to = { folder: join(folder, 'shop') };
  await restoreBackup(file, secret, to, { migrations, templates });
  expect(await problem(restoreBackup(file, secret, to, { migrations, templates }))).toBe(
    'F/shop is not empty. Name a new folder, or add --overwrite: what is there is then kept beside it under another name.',
  );
  const opened = await openDatabase({ folder: to.folder, migrations, templates });
  expect(await everything(opened)).toEqual(await everything(harness.services.database));
  // While a server has it, not even so.
  await expect(restoreBackup(file, secret, to, { migrations, templates, overwrite: true })).rejects.toThrow(/in use|another/);
  await opened.close();
  await restoreBackup(file, secret, to, { migrations, templates, overwrite: true });
  expect(
    readdirSync(folder)
      .filter((n) => n.startsWith('shop'))
      .map((n) => n.replace(/\.before-.*/, '.before')),
  ).toEqual(['shop', 'shop.before']);
  expect(statSync(to.folder).mode & 0o077).toBe(0);
});

(process.env.TEST_POSTGRES ? test : test.skip)('from the embedded database to a PostgreSQL server and back: the same rows', async () => {
  const onServer = await Harness.open(process.env.TEST_POSTGRES);
  const [{ name }] = ((await onServer.db.execute(sql`select current_database() as name`)) as unknown as { rows: [{ name: string }] }).rows;
  const url = new URL(process.env.TEST_POSTGRES!);
  url.pathname = `/${name}`;
  const to = { url: url.href, vault: join(folder, 'server-vault') };
  expect(await problem(restoreBackup(file, secret, to, { migrations, templates }))).toBe(
    'The database holds a shop’s data. Name an empty one, or add --overwrite: what is there is then gone.',
  );
  // What stops in the middle leaves it as it was.
  const before = await everything(onServer.services.database);
  const stop = () => {
    throw new Error('pulled the plug');
  };
  await expect(restoreBackup(file, secret, to, { migrations, templates, overwrite: true, look: () => Promise.resolve(stop()) })).rejects.toThrow(
    'pulled the plug',
  );
  expect(await everything(onServer.services.database)).toEqual(before);
  await restoreBackup(file, secret, to, { migrations, templates, overwrite: true });
  const original = await everything(harness.services.database);
  expect(await everything(onServer.services.database)).toEqual(original);
  const back = join(folder, 'back.backup');
  await makeBackup({ database: onServer.services.database }, back, secret, made);
  let copy: unknown;
  await restoreBackup(back, secret, 'memory', { migrations, templates, look: async (database) => void (copy = await everything(database)) });
  expect(copy).toEqual(original);
  await onServer.close();
});

test('changed anywhere, cut off anywhere, opened with something else: a sentence, and nothing is taken', async () => {
  const bytes = readFileSync(file);
  const next = generator(25);
  const other = join(folder, 'other.backup');
  const head = bytes.indexOf(10);
  const changed = `F/other.backup can’t be opened: the password is another one, or the file was changed or cut off. Try the right password, then another backup.`;
  for (let i = 0; i < 60; i += 1) {
    const at = head + 1 + Math.floor((bytes.length - head - 1) * next());
    const damaged = Buffer.from(bytes);
    damaged[at]! ^= 1 << Math.floor(8 * next());
    writeFileSync(other, i % 2 === 0 ? damaged : bytes.subarray(0, at));
    expect([i, await problem(verify(other))]).toEqual([
      i,
      bytes.subarray(0, at).length < head + 17 && i % 2 === 1 ? 'F/other.backup is cut off. Take another backup.' : changed,
    ]);
  }
  // The first line is covered too.
  writeFileSync(other, Buffer.concat([Buffer.from(bytes.subarray(0, head).toString().replace('2026-12-01', '2026-12-02')), bytes.subarray(head)]));
  expect(await problem(verify(other))).toBe(changed);
  expect(await problem(verify(file, password('another password')))).toContain('can’t be opened');
  expect(await problem(verify(file, keyFile(join(folder, 'a.key'))))).toBe('F/one.backup is opened with a password, and a key file was given.');
  writeFileSync(other, 'seconds,volts\n0,1\n');
  expect(await problem(verify(other))).toBe('F/other.backup is no backup of Bloodstone: its first line is another one.');
  writeFileSync(other, '{"bloodstone":"backup","form":2}\n');
  expect(await problem(verify(other))).toBe('F/other.backup is a backup of a newer Bloodstone. Restore it with that one.');
  expect(await problem(verify(join(folder, 'none')))).toBe('F/none: can’t be read (ENOENT). Name a backup.');
});

test('keys: a file is made once and read again; others may not read it; passwords have a least length', () => {
  const path = join(folder, 'made.key');
  const key = keyFile(path);
  expect([readKeyFile(path), keyFile(path)]).toEqual([key, key]);
  expect(statSync(path).mode & 0o777).toBe(0o600);
  chmodSync(path, 0o644);
  expect(() => readKeyFile(path)).toThrow(`Others than its owner may read ${path}. Set its mode to 600 (chmod 600).`);
  writeFileSync(join(folder, 'wrong.key'), 'short', { mode: 0o600 });
  expect(() => readKeyFile(join(folder, 'wrong.key'))).toThrow('does not hold a key: 32 bytes in base64');
  expect(() => password('eleven sign')).toThrow('The password of backups has 11 signs; take at least 12.');
  expect(password('twelve signs')).toEqual({ password: 'twelve signs' });
});

test('a hundred acts while it is made: all are done, and it holds one moment', async () => {
  const path = join(folder, 'busy.backup');
  const begin = makeBackup({ database: harness.services.database }, path, secret, made);
  const acts = Array.from({ length: 100 }, (_, i) =>
    actOnce(harness.db, harness.act(owner), { right: 'editShop', action: 'busy', payload: i }, () => Promise.resolve(i)),
  );
  expect(await Promise.all(acts)).toEqual(Array.from({ length: 100 }, (_, i) => i));
  await begin;
  const restored = await verify(path);
  // Each act is a row in either; a moment in the middle of one would have one more here than there.
  expect(restored.tables.command).toBe(restored.tables.audit);
});

test('broken off, nothing is left, and the database goes on', async () => {
  const path = join(folder, 'stopped.backup');
  const stop = new AbortController();
  await expect(
    makeBackup({ database: harness.services.database }, path, secret, made, { signal: stop.signal, told: () => stop.abort() }),
  ).rejects.toThrow();
  expect(readdirSync(folder).filter((n) => n.startsWith('stopped'))).toEqual([]);
  await actOnce(harness.db, harness.act(owner), { right: 'editShop', action: 'after', payload: 0 }, () => Promise.resolve(0));
});

test('two servers that make one at the same moment, under the same name: it is whole, and nothing else is left', async () => {
  const at = join(folder, 'both');
  mkdirSync(at);
  const path = join(at, nameOf(0));
  await Promise.all([0, 1, 2].map(() => makeBackup({ database: harness.services.database }, path, secret, made)));
  expect(readdirSync(at)).toEqual([nameOf(0)]);
  expect((await verify(path)).tables.case_file).toBe((await verify()).tables.case_file);
});

test('the keys of the vault go along as they are; its master key only when asked for', async () => {
  const vault = join(folder, 'vault');
  const names = async (masterKey: boolean) => {
    const path = join(folder, `vault-${masterKey}.backup`);
    await makeBackup({ database: harness.services.database, vault, masterKey }, path, secret, made);
    const found: unknown[] = [];
    for await (const piece of readBackup(path, secret)) if (piece.head.kind === 'file') found.push([piece.head.path, piece.body.toString()]);
    return found;
  };
  expect(await names(false)).toEqual([]);
  mkdirSync(join(vault, 'keys/7'), { recursive: true });
  writeFileSync(join(vault, 'master.key'), 'secret');
  writeFileSync(join(vault, 'keys/7/case.key'), 'wrapped');
  writeFileSync(join(vault, 'notes.txt'), 'no key');
  expect(await names(false)).toEqual([['keys/7/case.key', 'wrapped']]);
  expect(await names(true)).toEqual([
    ['keys/7/case.key', 'wrapped'],
    ['master.key', 'secret'],
  ]);
  await restoreBackup(join(folder, 'vault-true.backup'), secret, { folder: join(folder, 'with-vault') }, { migrations, templates });
  expect(readFileSync(join(folder, 'with-vault/vault/keys/7/case.key'), 'utf8')).toBe('wrapped');
  expect(statSync(join(folder, 'with-vault/vault/keys/7/case.key')).mode & 0o777).toBe(0o600);
});

test('check: a stored form that nobody knows is found, with its table', async () => {
  let problems: string[] = [];
  await restoreBackup(join(process.cwd(), 'server/fixtures/backups/0027.backup'), secret, 'memory', {
    migrations,
    templates,
    look: async (database) => {
      await database.db.execute(sql`set session_replication_role = replica`);
      await database.db.execute(sql`update run_event set event = '{"v":99}'::json where seq = 1`);
      ({ problems } = await checkAll(database));
    },
  });
  expect(problems[0]).toMatch(/^Table run_event holds what this version does not know: /);
  expect(problems.some((p) => /^Run \d+ can’t be followed from its events: /.test(p))).toBe(true);
});

test('check: a flipped bit in a file of the database is found, and said', async () => {
  const data = join(folder, 'flipped');
  await restoreBackup(file, secret, { folder: data }, { migrations, templates });
  const opened = await openDatabase({ folder: data, migrations, templates });
  const [{ path }] = ((await opened.db.execute(sql`select pg_relation_filepath('document') as path`)) as unknown as { rows: [{ path: string }] })
    .rows;
  expect((await checkAll(opened)).problems).toEqual([]);
  await opened.close();
  const bytes = readFileSync(join(data, 'pg', path));
  bytes[4000]! ^= 4;
  writeFileSync(join(data, 'pg', path), bytes);
  const again = await openDatabase({ folder: data, migrations, templates });
  const { problems } = await checkAll(again);
  expect(problems).toHaveLength(1);
  expect(problems[0]).toMatch(/^A table can’t be read: its file is damaged: invalid page in block 0 .*\. Restore the last backup\.$/);
  await again.close();
});

describe('backups of older forms', () => {
  const kept = join(process.cwd(), 'server/fixtures/backups');
  const files = readdirSync(kept);

  test.each(files)('%s is restored and brought up to date, and nothing in it is wrong', async (name) => {
    let checked: Awaited<ReturnType<typeof checkAll>> | undefined;
    const restored = await restoreBackup(join(kept, name), secret, 'memory', {
      migrations,
      templates,
      look: async (database) => {
        checked = await checkAll(database);
        expect((await database.db.execute(sql`select * from backup_rule`)) as unknown).toMatchObject({ rows: [] });
      },
    });
    expect(restored.rows).toBeGreaterThan(100);
    expect(checked).toMatchObject({ problems: [] });
    expect(checked!.runs).toBeGreaterThan(0);
  });

  test('every form since there are backups has one', () => {
    const { entries } = JSON.parse(readFileSync(join(migrations, 'meta/_journal.json'), 'utf8')) as { entries: { idx: number }[] };
    // A new migration needs a backup of its form here, made with `bloodstone backup` of the demo's folder under the password of this test.
    const wanted = entries.filter((e) => e.idx >= 27).map((e) => `${String(e.idx).padStart(4, '0')}.backup`);
    expect(files).toEqual(expect.arrayContaining(wanted));
    expect(wanted.length).toBeGreaterThan(0);
  });

  test('one of a form that is not known here is refused', async () => {
    const { mkdtemp, cp, writeFile } = await import('node:fs/promises');
    const older = await mkdtemp(join(folder, 'older-'));
    await cp(migrations, older, { recursive: true });
    const journal = join(older, 'meta/_journal.json');
    const known = JSON.parse(readFileSync(journal, 'utf8')) as { entries: unknown[] };
    await writeFile(journal, JSON.stringify({ ...known, entries: known.entries.slice(0, -1) }));
    expect(await problem(restoreBackup(file, secret, 'memory', { migrations: older }))).toBe(
      'This backup is of another version of Bloodstone, most likely a newer one. Restore it with that one.',
    );
  });
});

describe('on time', () => {
  const hour = 3_600_000;
  const to = () => ({ folder: join(folder, 'kept'), secret, vault: join(folder, 'no-vault') });

  test('one when it is due and not before, let go by the rule; overdue after one and a half times as long', async () => {
    const backups = await Backups.open(harness.services, to());
    const { clock } = harness.services;
    const tick = async () => {
      backups.tick();
      await backups.finished();
      return backups.state().backups?.length;
    };
    expect(backups.state()).toMatchObject({ backups: [], overdue: false, running: null, failed: null, rule: { everyHours: 24 } });
    expect(await tick()).toBe(1);
    // A name holds whole seconds.
    await clock.advance(24 * hour - 1000);
    expect(await tick()).toBe(1);
    await clock.advance(1000);
    expect(await tick()).toBe(2);
    await backups.setRule(harness.act(owner), { everyHours: 1, days: 2, weeks: 0, months: 0 });
    await clock.advance(hour);
    // The last of each of two days.
    expect(await tick()).toBe(2);
    await clock.advance(1.5 * hour - 1000);
    expect(backups.state().overdue).toBe(false);
    await clock.advance(hour);
    expect([backups.state().overdue, backups.overdue?.everyHours]).toEqual([true, 1]);
    await tick();
    expect(backups.overdue).toBeNull();
    expect((await Backups.open(harness.services, to())).state().rule).toEqual({ everyHours: 1, days: 2, weeks: 0, months: 0 });
  });

  test('a folder that went away: it says so, does not end the server, and tries again after an hour', async () => {
    const where = to();
    const backups = await Backups.open(harness.services, { ...where, folder: join(folder, 'gone') });
    rmSync(join(folder, 'gone'), { recursive: true });
    backups.tick();
    await backups.finished();
    expect(backups.state().failed?.why).toBe(`${join(folder, 'gone')} is not there. Connect its disk.`);
    const { failed } = backups.state();
    backups.tick();
    await backups.finished();
    expect(backups.state().failed).toEqual(failed);
    mkdirSync(join(folder, 'gone'));
    await harness.services.clock.advance(hour);
    backups.tick();
    await backups.finished();
    expect(backups.state()).toMatchObject({ failed: null, backups: [{ file: nameOf(harness.services.clock.now()) }] });
  });

  test('what a killed server left of one goes an hour later; what another one is writing stays', async () => {
    const at = join(folder, 'broken');
    const backups = await Backups.open(harness.services, { ...to(), folder: at });
    const now = harness.services.clock.now();
    const left = (name: string, ageMs: number) => {
      writeFileSync(join(at, name), 'half');
      utimesSync(join(at, name), (now - ageMs) / 1000, (now - ageMs) / 1000);
    };
    left('bloodstone-2026-12-01T08-15-30Z.backup.part', hour + 1000);
    left('bloodstone-2026-12-01T08-15-30Z.backup.0a1b2c3d.part', hour + 1000);
    left('bloodstone-2026-12-01T08-15-31Z.backup.0a1b2c3d.part', hour - 1000);
    left('letter.part', 9 * hour);
    backups.tick();
    await backups.finished();
    expect(readdirSync(at).filter((n) => n.endsWith('.part'))).toEqual(['bloodstone-2026-12-01T08-15-31Z.backup.0a1b2c3d.part', 'letter.part']);
  });

  test('a rule that was set on another server holds here as well', async () => {
    const [here, there] = await Promise.all([0, 1].map(() => Backups.open(harness.services, { ...to(), folder: join(folder, 'two') })));
    await there!.setRule(harness.act(owner), { everyHours: 5, days: 1, weeks: 1, months: 1 });
    here!.tick();
    await here!.finished();
    expect(here!.state().rule).toEqual({ everyHours: 5, days: 1, weeks: 1, months: 1 });
  });

  test('canceled in the middle it is gone, and that is said; only the owner cancels', async () => {
    const backups = await Backups.open(harness.services, { ...to(), folder: join(folder, 'canceled') });
    await backups.begin(harness.act(owner));
    expect(await backups.cancel(harness.act(owner))).toBe(true);
    expect([readdirSync(join(folder, 'canceled')), backups.state().running, backups.state().failed]).toEqual([[], null, null]);
    await backups.begin(harness.act(owner));
    expect(await refusal(backups.cancel(harness.act()))).toMatchObject({ status: 403 });
    await backups.finished();
    expect(readdirSync(join(folder, 'canceled'))).toHaveLength(1);
  });

  test('the owner alone makes one, a hundred at once make one; without a place it says what to set', async () => {
    const backups = await Backups.open(harness.services, { ...to(), folder: join(folder, 'many') });
    expect(await refusal(backups.begin(harness.act()))).toMatchObject({ status: 403 });
    await Promise.all(Array.from({ length: 100 }, () => backups.begin(harness.act(owner))));
    await backups.finished();
    expect(readdirSync(join(folder, 'many'))).toEqual([nameOf(harness.services.clock.now())]);
    const none = await Backups.open(harness.services, null);
    expect(await refusal(none.begin(harness.act(owner)))).toMatchObject({
      status: 409,
      message: 'This server was not told where backups go. Set BLOODSTONE_BACKUP to a folder, then start it again.',
    });
    none.tick();
    expect(none.state()).toMatchObject({ place: null, overdue: false, backups: [] });
  });
});
