import { type ChildProcess, spawn } from 'node:child_process';
import { cpSync, rmSync } from 'node:fs';

/** The built server with the demo world on a clock that tests move by hand. Each worker of the browser tests has one, on a port and a folder of its own. */

const seed = 'test-results/seed';
const folderOf = (index: number) => `test-results/data-${index}`;
const firstPort = 4650;

async function run(folder: string, port: number, more: Record<string, string> = {}): Promise<{ url: string; end(): Promise<void> }> {
  const child: ChildProcess = spawn(process.execPath, ['bin/serve.mjs'], {
    env: {
      ...process.env,
      NODE_OPTIONS: '',
      PORT: String(port),
      BLOODSTONE_CLOCK: 'manual',
      BLOODSTONE_COMPARE: process.env.THOROUGH === '1' ? '1' : '',
      BLOODSTONE_DEMO: '1',
      BLOODSTONE_WEIGHINGS: process.env.THOROUGH === '1' ? '' : '8000',
      BLOODSTONE_DATA: folder,
      LOG_LEVEL: 'error',
      ...more,
    },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const gone = new Promise<void>((resolve) => child.once('exit', () => resolve()));
  const url = await new Promise<string>((resolve, reject) => {
    child.stdout!.on('data', (chunk: Buffer) => {
      // What the server calls an error is seen beside the test that it belongs to.
      for (const line of String(chunk).split('\n')) if (/"level":[56]0/.test(line)) process.stderr.write(`${line}\n`);
      const ready = /ready at (http:\S+)/.exec(String(chunk));
      if (ready) resolve(ready[1]!);
    });
    child.once('exit', (code) => reject(new Error(`The server ended with ${code}`)));
  });
  return {
    url,
    async end() {
      child.kill('SIGTERM');
      await gone;
    },
  };
}

/** Makes the demo world once, for all workers. */
export default async function prepare(): Promise<void> {
  rmSync(seed, { recursive: true, force: true });
  const { end } = await run(seed, firstPort - 1);
  await end();
}

/** A server for one worker, on a copy of the demo world as it was made. */
export function serveWorker(index: number) {
  rmSync(folderOf(index), { recursive: true, force: true });
  cpSync(seed, folderOf(index), { recursive: true });
  return run(folderOf(index), firstPort + index);
}

/** A further server for one test, with settings of its own. */
export function serveWith(index: number, settings: Record<string, string>) {
  const folder = `${folderOf(index)}-more`;
  rmSync(folder, { recursive: true, force: true });
  cpSync(seed, folder, { recursive: true });
  return run(folder, firstPort + 20 + index, settings);
}
