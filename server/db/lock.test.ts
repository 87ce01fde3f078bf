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

test('a live holder refuses the second, and the message says who and what to do', () => {
  const release = lockFolder(folder);
  expect(() => lockFolder(folder)).toThrow(FolderLocked);
  expect(() => lockFolder(folder)).toThrow(
    `already in use by the server with process id ${process.pid}. Two servers on one folder destroy data. Stop that one, or set BLOODSTONE_DATA to another folder.`,
  );
  release();
  lockFolder(folder)();
  expect(existsSync(lock())).toBe(false);
});

test('the lock of a process that is gone does not block', () => {
  writeFileSync(lock(), JSON.stringify({ pid: 2 ** 22 + 1, startedTicks: '1' }));
  lockFolder(folder)();
});

test('a pid that was given to a later process does not block', () => {
  writeFileSync(lock(), JSON.stringify({ pid: process.pid, startedTicks: '1' }));
  const release = lockFolder(folder);
  expect(JSON.parse(readFileSync(lock(), 'utf8'))).toMatchObject({ pid: process.pid });
  release();
});

test('a lock cut off while it was written does not block', () => {
  writeFileSync(lock(), '{"pid":');
  lockFolder(folder)();
});

test('a take-over that is going on is left alone, an old one is not', () => {
  writeFileSync(lock(), '');
  writeFileSync(`${lock()}.takeover`, '');
  expect(() => lockFolder(folder)).toThrow('just being taken by another server');
  const old = Date.now() / 1000 - 11;
  utimesSync(`${lock()}.takeover`, old, old);
  lockFolder(folder)();
});

test('releasing leaves the lock of another alone', () => {
  const release = lockFolder(folder);
  writeFileSync(lock(), 'someone else');
  release();
  expect(readFileSync(lock(), 'utf8')).toBe('someone else');
});

test('releasing after the folder is gone is no error', () => {
  const release = lockFolder(folder);
  rmSync(lock());
  release();
});
