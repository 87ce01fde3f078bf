import { mkdtempSync, readFileSync, rmSync, existsSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { FolderLocked, lockFolder } from './lock';

let folder: string;
const lock = () => join(folder, 'bloodstone.lock');
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'lock-'));
});
afterEach(() => rmSync(folder, { recursive: true }));

test('a live holder refuses the second, and the message says who and what to do', async () => {
  const { release } = await lockFolder(folder);
  await expect(lockFolder(folder)).rejects.toThrow(FolderLocked);
  await expect(lockFolder(folder)).rejects.toThrow(
    `already in use by the server with process id ${process.pid}. Two servers on one folder destroy data. Stop that one, or set BLOODSTONE_DATA to another folder.`,
  );
  release();
  (await lockFolder(folder)).release();
  expect(existsSync(lock())).toBe(false);
});

test('the lock of a process that is gone does not block', async () => {
  writeFileSync(lock(), JSON.stringify({ pid: 2 ** 22 + 1, startedTicks: '1' }));
  const { release } = await lockFolder(folder);
  expect(JSON.parse(readFileSync(lock(), 'utf8'))).toMatchObject({ pid: process.pid });
  release();
  expect(existsSync(lock())).toBe(false);
});

test('a pid that was given to a later process does not block', async () => {
  writeFileSync(lock(), JSON.stringify({ pid: process.pid, startedTicks: '1' }));
  const { release } = await lockFolder(folder);
  expect(JSON.parse(readFileSync(lock(), 'utf8'))).toMatchObject({ pid: process.pid });
  release();
});

test('a lock cut off while it was written does not block', async () => {
  writeFileSync(lock(), '{"pid":');
  const { release } = await lockFolder(folder);
  expect(JSON.parse(readFileSync(lock(), 'utf8'))).toMatchObject({ pid: process.pid });
  release();
});

test('a take-over that is going on is left alone, an old one is not', async () => {
  writeFileSync(lock(), '');
  writeFileSync(`${lock()}.takeover`, '');
  await expect(lockFolder(folder)).rejects.toThrow('just being taken by another server');
  const old = Date.now() / 1000 - 11;
  utimesSync(`${lock()}.takeover`, old, old);
  (await lockFolder(folder)).release();
});

test('releasing leaves the lock of another alone', async () => {
  const { release } = await lockFolder(folder);
  writeFileSync(lock(), 'someone else');
  release();
  expect(readFileSync(lock(), 'utf8')).toBe('someone else');
});

test('releasing after the folder is gone is no error', async () => {
  const { release } = await lockFolder(folder);
  rmSync(lock());
  expect(release).not.toThrow();
  expect(existsSync(lock())).toBe(false);
});

test('after a long wait, a holder is told at once that somebody else has the folder', async () => {
  let lost = 0;
  const held = await lockFolder(folder, () => (lost += 1), { everyMs: 60_000, watchMs: 100 });
  held.check();
  expect(lost).toBe(0);
  writeFileSync(lock(), '{"id":"other","pid":1}');
  held.check();
  held.check();
  expect(lost).toBe(1);
  held.release();
  expect(readFileSync(lock(), 'utf8')).toContain('other');
});

describe('a holder that cannot be seen from here', () => {
  const beats = { everyMs: 20, watchMs: 400 };
  const elsewhere = () => writeFileSync(lock(), JSON.stringify({ id: 'x', pid: process.pid, startedTicks: null, table: 'another boot pid:[1]' }));
  test('does not block when its beat has stopped, though its pid is taken here', async () => {
    elsewhere();
    (await lockFolder(folder, undefined, beats)).release();
    expect(existsSync(lock())).toBe(false);
  });
  test('blocks while it beats', async () => {
    elsewhere();
    const beat = setInterval(() => utimesSync(lock(), new Date(), new Date()), 20);
    await expect(lockFolder(folder, undefined, beats)).rejects.toThrow(`process id ${process.pid} in another container or on another machine`);
    clearInterval(beat);
  });
});

test('a holder that stood still and lost the folder is told, and leaves the lock of the other alone', async () => {
  const told = await new Promise<boolean>((resolve) => {
    void lockFolder(folder, () => resolve(true), { everyMs: 20, watchMs: 100 }).then(() => writeFileSync(lock(), '{"id":"other","pid":1}'));
    setTimeout(() => resolve(false), 5_000).unref();
  });
  expect(told).toBe(true);
  expect(readFileSync(lock(), 'utf8')).toContain('other');
});
