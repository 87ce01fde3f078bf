import {
  closeSync,
  existsSync,
  mkdirSync,
  openSync,
  readFileSync,
  readlinkSync,
  renameSync,
  rmSync,
  statSync,
  unlinkSync,
  utimesSync,
  writeFileSync,
  writeSync,
} from 'node:fs';
import { randomUUID } from 'node:crypto';
import { join } from 'node:path';

/** The folder is in use by another server. */
export class FolderLocked extends Error {}

interface Holder {
  /** Tells two takings of the same process apart. */
  id: string;
  pid: number;
  /** When that process started, in the kernel's ticks; null where the system does not tell. Tells a reused pid from the holder. */
  startedTicks: string | null;
  /** The boot and the process table the pid belongs to; of a holder in another one only its beat tells whether it lives. */
  table: string | null;
}

/**
 * How often the holder shows that it lives, and how long another server watches for it, ms: longer than a server may work without a turn (watchdog.ts). One that waited for its disk for longer
 * looks whether it still holds the folder before it goes on (`check`).
 */
export interface Beats {
  everyMs: number;
  watchMs: number;
}
/** A folder that is held. */
export interface Held {
  release(): void;
  /** After a long wait: ends this process when somebody else holds the folder by now. */
  check(): void;
}
const usual: Beats = { everyMs: 1_000, watchMs: 15_000 };

/** Boot and process table of this process, as the kernel names them; null where it does not. */
function processTable(): string | null {
  try {
    return `${readFileSync('/proc/sys/kernel/random/boot_id', 'utf8').trim()} ${readlinkSync('/proc/self/ns/pid')}`;
  } catch {
    return null;
  }
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

function runsHere(holder: Holder): boolean {
  try {
    process.kill(holder.pid, 0);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ESRCH') return false;
  }
  const now = startedTicks(holder.pid);
  return holder.startedTicks === null || now === null || now === holder.startedTicks;
}

/** Whether the holder lives: by its process where that can be seen from here, otherwise by its beat. */
async function isAlive(holder: Holder, path: string, { watchMs }: Beats): Promise<boolean> {
  const table = processTable();
  if (holder.table === table && (table !== null || holder.table === null)) return runsHere(holder);
  const beat = () => {
    try {
      return statSync(path).mtimeMs;
    } catch {
      return undefined;
    }
  };
  const before = beat();
  const until = performance.now() + watchMs;
  while (performance.now() < until) {
    await new Promise((resolve) => setTimeout(resolve, Math.min(250, watchMs / 10)));
    if (beat() !== before) return true;
  }
  return false;
}

/** A guard younger than this belongs to a take-over that is still going on. */
const guardMs = 10_000;

/**
 * Takes the folder for this process alone. PGlite has no lock between processes, and two of them on one folder destroy data. A lock left by a
 * killed process does not block: its pid is gone, or belongs to a process that started later; or, where it ran in another container or on
 * another machine, its beat has stopped.
 * @param lost called when somebody else holds the folder all the same, which only happens to a process that stood still for long
 * @throws FolderLocked when another live process holds it
 */
export async function lockFolder(folder: string, lost: () => void = endAtOnce, beats: Beats = usual): Promise<Held> {
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const path = join(folder, 'bloodstone.lock');
  const mine = JSON.stringify({
    id: randomUUID(),
    pid: process.pid,
    startedTicks: startedTicks(process.pid),
    table: processTable(),
  } satisfies Holder);
  if (!createExclusive(path, mine)) await takeOver(folder, path, mine, beats);
  let held = true;
  const isMine = () => existsSync(path) && readFileSync(path, 'utf8') === mine;
  const check = () => {
    if (!held || !existsSync(path) || isMine()) return;
    clearInterval(beat);
    held = false;
    lost();
  };
  const beat = setInterval(() => {
    check();
    if (!held) return;
    const now = new Date();
    // A folder that was removed under us needs no beat.
    if (existsSync(path)) utimesSync(path, now, now);
  }, beats.everyMs);
  beat.unref();
  return {
    release: () => {
      clearInterval(beat);
      if (held && isMine()) unlinkSync(path);
      held = false;
    },
    check,
  };
}

/** Without another word to the database: whatever it still wrote would meet what the other one writes. */
function endAtOnce(): void {
  writeSync(2, 'Bloodstone stops: another server has taken its data folder while it was frozen. Nothing that was confirmed is lost.\n');
  process.kill(process.pid, 'SIGKILL');
}

function createExclusive(path: string, content: string): boolean {
  try {
    const fd = openSync(path, 'wx', 0o600);
    writeSync(fd, content);
    closeSync(fd);
    return true;
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'EEXIST') return false;
    throw error;
  }
}

/** Two servers that find the same stale lock meet at a second file; only one of them may replace the lock. */
async function takeOver(folder: string, path: string, mine: string, beats: Beats): Promise<void> {
  const before = readHolder(path);
  if (before && (await isAlive(before, path, beats))) throw inUse(folder, before);
  const guard = `${path}.takeover`;
  if (!createExclusive(guard, mine)) {
    if (Date.now() - statSync(guard).mtimeMs < guardMs)
      throw new FolderLocked(`The data folder ${folder} is just being taken by another server. Try again in ${guardMs / 1000} s.`);
    rmSync(guard, { force: true });
    if (!createExclusive(guard, mine)) throw new FolderLocked(`The data folder ${folder} is just being taken by another server.`);
  }
  try {
    // Somebody may have taken it while the dead one was watched.
    const holder = readHolder(path);
    if (holder && holder.id !== before?.id) throw inUse(folder, holder);
    const next = `${path}.${process.pid}`;
    writeFileSync(next, mine, { mode: 0o600 });
    renameSync(next, path);
  } finally {
    rmSync(guard, { force: true });
  }
}

const inUse = (folder: string, { pid, table }: Holder) =>
  new FolderLocked(
    `The data folder ${folder} is already in use by the server with process id ${pid}${table === processTable() ? '' : ' in another container or on another machine'}. Two servers on one folder destroy data. Stop that one, or set BLOODSTONE_DATA to another folder.`,
  );

/** The holder as written; undefined when the file is gone or was cut off while it was written. */
function readHolder(path: string): Holder | undefined {
  try {
    const holder = JSON.parse(readFileSync(path, 'utf8')) as Partial<Holder> & { pid: number };
    // A lock of an older version says nothing of its table; it was made where its folder is, so it is looked for here.
    return Number.isInteger(holder.pid) ? { id: '', startedTicks: null, table: processTable(), ...holder } : undefined;
  } catch {
    return undefined;
  }
}
