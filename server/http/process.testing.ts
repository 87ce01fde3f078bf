import { type ChildProcess, spawn } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import { thisMachine } from '../services/clock';

/** Milliseconds that the machine has counted since it started: nobody sets them, unlike the wall clock. */
export const machineNow = (): number => thisMachine.uptime()?.ms ?? Date.now();

/** The real, built server as a process of its own, for tests that kill it. */
export interface ServerProcess {
  url: string;
  child: ChildProcess;
  /** SIGKILL, and wait until it is gone. */
  kill(): Promise<void>;
  /** SIGTERM, and the exit code. */
  stop(): Promise<number | null>;
  get(path: string): Promise<Response>;
  post(path: string, fields: Record<string, string>): Promise<Response>;
  command(runId: number, body: Record<string, unknown>): Promise<Response>;
  clock(): Promise<number>;
  /** Its cookie, for a server that is started again on the same data. */
  cookie: string;
  /** Sets up the shop of an empty folder; its owner is signed in from then on. */
  setUp(): Promise<void>;
  /** Signs in as one of the demo's people; returns the cookie and keeps it. */
  comeIn(name: string, password: string): Promise<string>;
  /** Everything it has written to its log so far. */
  log(): string;
}

/** As little of an intake as opens a case. */
export const shortIntake = {
  vehicle: 'Orrin Thimble',
  words: 'It does not start.',
  system: 'family:transponder-dwell',
  'keys.0.tag': 'A',
  'keys.0.here': 'on',
};

const exited = (child: ChildProcess) =>
  new Promise<number | null>((resolve) =>
    child.exitCode !== null || child.signalCode !== null ? resolve(child.exitCode) : child.once('exit', (code) => resolve(code)),
  );

/** Starts it and waits for its address. Rejects with what it printed when it ends before that. */
export async function serve(data: string, env: Record<string, string> = {}): Promise<ServerProcess> {
  const child = spawn(process.execPath, ['bin/serve.mjs'], {
    env: { ...process.env, NODE_OPTIONS: '', NODE_ENV: 'production', LOG_LEVEL: 'error', PORT: '0', BLOODSTONE_DATA: data, ...env },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  let printed = '';
  const url = await new Promise<string>((resolve, reject) => {
    child.stdout.on('data', (chunk: Buffer) => {
      printed += chunk.toString();
      const ready = /ready at (https?:\S+)/.exec(printed);
      if (ready) resolve(ready[1]!);
    });
    child.stderr.on('data', (chunk: Buffer) => (printed += chunk.toString()));
    child.once('exit', (code) => reject(new Error(`exit ${code}: ${printed}`)));
  });
  // One that ends by itself says why, to whoever reads what the test printed.
  child.once('exit', (code, signal) => {
    if (!child.killed) process.stderr.write(`a server ended by itself (${signal ?? code}): ${printed}\n`);
  });
  const headers = () => ({ Origin: url, Cookie: self.cookie });
  const entered = (answer: Response) => {
    const cookie = answer.headers.get('set-cookie');
    if (cookie === null) throw new Error(`not signed in: ${answer.status}`);
    self.cookie = cookie.split(';')[0]!;
  };
  const self: ServerProcess = {
    cookie: '',
    async setUp() {
      const form = {
        shop: 'Saltmarsh Auto Electric',
        currency: 'cr',
        bays: '2',
        name: 'Maud Ferrow',
        password: 'grey herons wade at dusk',
        again: 'grey herons wade at dusk',
      };
      entered(await this.post('/set-up', form));
    },
    async comeIn(name, password) {
      // As in a browser of its own: signing in ends the session that the same browser had.
      self.cookie = '';
      entered(await this.post('/sign-in', { name, password }));
      return self.cookie;
    },
    url,
    child,
    async kill() {
      child.kill('SIGKILL');
      await exited(child);
    },
    async stop() {
      child.kill('SIGTERM');
      return exited(child);
    },
    get: (path) => fetch(url + path, { headers: { Cookie: self.cookie }, redirect: 'manual' }),
    post: (path, fields) => fetch(url + path, { method: 'POST', headers: headers(), body: new URLSearchParams(fields), redirect: 'manual' }),
    command: (runId, body) =>
      fetch(`${url}/runs/${runId}/commands`, {
        method: 'POST',
        headers: { ...headers(), 'Content-Type': 'application/json' },
        body: JSON.stringify(body),
      }),
    log: () => printed,
    clock: async () => ((await (await fetch(`${url}/clock`)).json()) as { now: number }).now,
  };
  return self;
}

const reference = Array.from({ length: 20_000 }, (_, i) => ({ a: i, b: `x${i}` }));
/** The reference work below takes this on the machine whose figures are in docs/benchmarks.md, when it does nothing else; ms. */
const referenceMs = 25;

/**
 * How much slower than that machine this one is now, 1 at least: what the longest of three times the same work takes. A limit in milliseconds is
 * multiplied by it, so that it holds the server to its work and not the machine to its owner's other work.
 */
export function slowness(): number {
  const took = Array.from({ length: 3 }, () => {
    const from = performance.now();
    JSON.parse(JSON.stringify(reference));
    return performance.now() - from;
  });
  return Math.max(1, Math.max(...took) / referenceMs);
}

/** The kernel's ticks of a second, in which it tells what a process has worked (proc(5), fields 14 to 17 of stat). */
const ticksPerS = 100;

/**
 * What a process and all that it started have worked so far, ms of a processor: it doesn't count what others do on the machine meanwhile. Processes that ended
 * are counted by the one that started them.
 */
export function workedMs(pid: number): number {
  const stats = readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .flatMap((name) => {
      try {
        const stat = readFileSync(`/proc/${name}/stat`, 'utf8');
        // The name of the program, in brackets, may hold anything.
        const fields = stat
          .slice(stat.lastIndexOf(')') + 2)
          .split(' ')
          .map(Number);
        return [{ pid: Number(name), parent: fields[1]!, ticks: fields[11]! + fields[12]! + fields[13]! + fields[14]! }];
      } catch {
        return [];
      }
    });
  const family = new Set([pid]);
  for (let size = 0; size !== family.size;) {
    size = family.size;
    for (const one of stats) if (family.has(one.parent)) family.add(one.pid);
  }
  return (stats.filter((one) => family.has(one.pid)).reduce((sum, one) => sum + one.ticks, 0) * 1000) / ticksPerS;
}
