import { Worker } from 'node:worker_threads';

/**
 * A server whose thread has worked for so long without a turn hangs: it is ended, and then a supervisor or a person can start it again; data bears a kill at any moment. One that
 * waits for a slow disk has worked for nothing, and is given the longer time.
 */
export interface Patience {
  workMs: number;
  waitMs: number;
  everyMs: number;
}
const usual: Patience = { workMs: 8_000, waitMs: 60_000, everyMs: 500 };

/**
 * Runs beside the server's thread: counts its own turns, so that a machine that slept is not taken for a server that hangs, and what that thread has worked: by the kernel (proc(5), fields
 * 14 and 15 of stat; a tick is 10 ms), or what the whole process has worked, where it doesn't tell.
 */
const code = `
const { workerData: { beats, workMs, waitMs, everyMs, said } } = require('node:worker_threads');
const { readFileSync, writeSync } = require('node:fs');
const worked = () => {
  try {
    const stat = readFileSync('/proc/self/task/' + process.pid + '/stat', 'utf8');
    const fields = stat.slice(stat.lastIndexOf(')') + 2).split(' ');
    return (Number(fields[11]) + Number(fields[12])) * 10;
  } catch {
    const { user, system } = process.cpuUsage();
    return (user + system) / 1000;
  }
};
let last = -1, still = 0, before = worked();
setInterval(() => {
  const beat = Atomics.load(beats, 0);
  const hangs = beat === last && Atomics.load(beats, 1) === 0;
  if (!hangs) {
    last = beat;
    still = 0;
    before = worked();
    return;
  }
  still += everyMs;
  const work = worked() - before;
  if (work < workMs && still < waitMs) return;
  writeSync(2, work < workMs ? said.waited.replace('#', still / 1000) : said.worked.replace('#', (work / 1000).toFixed()));
  process.kill(process.pid, 'SIGKILL');
}, everyMs);
`;

const told = (what: string) =>
  `Bloodstone stops: it has ${what} for # s and answered nobody. Nothing that was confirmed is lost. Start it again; if it happens again, look at its disk: at its free space, and whether it answers.\n`;
const said = { worked: told('worked'), waited: told('waited for its disk') };

const beats = new Int32Array(new SharedArrayBuffer(8));

/** Work that is known to hold this thread for longer, such as tidying up a large database: meanwhile nobody is taken for hanging. */
export async function unwatched<T>(work: () => Promise<T>): Promise<T> {
  Atomics.add(beats, 1, 1);
  try {
    return await work();
  } finally {
    Atomics.sub(beats, 1, 1);
  }
}

/** Watches over this thread: the embedded database runs on it, and what hangs there would hear no signal any more. @returns ends the watch */
export function startWatchdog(patience: Patience = usual): () => Promise<void> {
  const beat = setInterval(() => Atomics.add(beats, 0, 1), patience.everyMs / 2);
  beat.unref();
  const worker = new Worker(code, { eval: true, execArgv: [], workerData: { beats, said, ...patience } });
  worker.unref();
  return async () => {
    clearInterval(beat);
    await worker.terminate();
  };
}
