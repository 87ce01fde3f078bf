import { Worker } from 'node:worker_threads';

/** A server that answers nobody for so long is ended, and then a supervisor or a person can start it again; data bears a kill at any moment. */
const stillMs = 8_000;
const everyMs = 500;

/** Runs beside the server's thread: counts its own turns, so that a machine that slept is not taken for a server that hangs. */
const code = `
const { workerData: { beats, turns, name } } = require('node:worker_threads');
let last = -1, still = 0;
setInterval(() => {
  if (Atomics.load(beats, 1) > 0) { still = 0; return; }
  const beat = Atomics.load(beats, 0);
  still = beat === last ? still + 1 : 0;
  last = beat;
  if (still < turns) return;
  require('node:fs').writeSync(2, name);
  process.kill(process.pid, 'SIGKILL');
}, ${everyMs});
`;
const message = `Bloodstone stops: it has answered nobody for ${stillMs / 1000} s. Nothing that was confirmed is lost. Start it again; if it happens again, look at the free space of its disk.\n`;

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
export function startWatchdog(): () => Promise<void> {
  const beat = setInterval(() => Atomics.add(beats, 0, 1), everyMs / 2);
  beat.unref();
  const worker = new Worker(code, { eval: true, workerData: { beats, turns: stillMs / everyMs, name: message } });
  worker.unref();
  return async () => {
    clearInterval(beat);
    await worker.terminate();
  };
}
