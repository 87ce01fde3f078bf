import {
  existsSync,
  mkdirSync,
  openSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  unlinkSync,
  writeFileSync,
  writeSync,
  closeSync,
} from 'node:fs';
import { join } from 'node:path';

/** The folder is in use by another server. */
export class FolderLocked extends Error {}

interface Holder {
  pid: number;
  /** When that process started, in the kernel's ticks; null where the system does not tell. Tells a reused pid from the holder. */
  startedTicks: string | null;
}

/** Start time of a process from /proc (field 22 of stat, counted behind the command's closing bracket). */
function startedTicks(pid: number): string | null {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
    return stat.slice(stat.lastIndexOf(')') + 2).split(' ')[19] ?? null;
  } catch {
    return null;
  }
}

function isAlive(holder: Holder): boolean {
  try {
    process.kill(holder.pid, 0);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ESRCH') return false;
  }
  const now = startedTicks(holder.pid);
  return holder.startedTicks === null || now === null || now === holder.startedTicks;
}

/** A guard younger than this belongs to a take-over that is still going on. */
const guardMs = 10_000;

/**
 * Takes the folder for this process alone. PGlite has no lock between processes, and two of them on one folder destroy data. A lock left by a
 * killed process does not block: its pid is gone, or belongs to a process that started later.
 * @returns releases the lock
 * @throws FolderLocked when another live process holds it
 */
export function lockFolder(folder: string): () => void {
  mkdirSync(folder, { recursive: true });
  const path = join(folder, 'bloodstone.lock');
  const mine = JSON.stringify({ pid: process.pid, startedTicks: startedTicks(process.pid) } satisfies Holder);
  if (!createExclusive(path, mine)) takeOver(folder, path, mine);
  let held = true;
  return () => {
    // A folder that was removed under us needs no unlocking.
    if (held && existsSync(path) && readFileSync(path, 'utf8') === mine) unlinkSync(path);
    held = false;
  };
}

function createExclusive(path: string, content: string): boolean {
  try {
    const fd = openSync(path, 'wx');
    writeSync(fd, content);
    closeSync(fd);
    return true;
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'EEXIST') return false;
    throw error;
  }
}

/** Two servers that find the same stale lock meet at a second file; only one of them may replace the lock. */
function takeOver(folder: string, path: string, mine: string): void {
  const guard = `${path}.takeover`;
  if (!createExclusive(guard, mine)) {
    if (Date.now() - statSync(guard).mtimeMs < guardMs)
      throw new FolderLocked(`The data folder ${folder} is just being taken by another server. Try again in ${guardMs / 1000} s.`);
    rmSync(guard, { force: true });
    if (!createExclusive(guard, mine)) throw new FolderLocked(`The data folder ${folder} is just being taken by another server.`);
  }
  try {
    const holder = readHolder(path);
    if (holder && isAlive(holder)) {
      throw new FolderLocked(
        `The data folder ${folder} is already in use by the server with process id ${holder.pid}. Two servers on one folder destroy data. Stop that one, or set BLOODSTONE_DATA to another folder.`,
      );
    }
    const next = `${path}.${process.pid}`;
    writeFileSync(next, mine);
    renameSync(next, path);
  } finally {
    rmSync(guard, { force: true });
  }
}

/** The holder as written; undefined when the file is gone or was cut off while it was written. */
function readHolder(path: string): Holder | undefined {
  try {
    const holder = JSON.parse(readFileSync(path, 'utf8')) as Holder;
    return Number.isInteger(holder.pid) ? holder : undefined;
  } catch {
    return undefined;
  }
}
