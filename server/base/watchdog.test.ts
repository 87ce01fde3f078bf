import { spawn } from 'node:child_process';

/** The watchdog in a process of its own: what that does, and how it ends. */
async function watched(patience: { workMs: number; waitMs: number }, does: string): Promise<{ signal: string | null; said: string }> {
  const code = `
    import { startWatchdog, unwatched } from './server/base/watchdog.ts';
    startWatchdog(${JSON.stringify({ ...patience, everyMs: 50 })});
    const work = (ms) => { for (const from = process.cpuUsage(), all = () => { const { user, system } = process.cpuUsage(from); return user + system; }; all() < ms * 1000; ); };
    const wait = (ms) => Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, ms);
    setTimeout(async () => { ${does}; process.exit(0); }, 300);
  `;
  const child = spawn(process.execPath, ['--import', 'tsx', '--input-type=module', '-e', code], { env: { ...process.env, NODE_OPTIONS: '' } });
  let said = '';
  child.stderr.on('data', (chunk: Buffer) => (said += chunk.toString()));
  const signal = await new Promise<string | null>((resolve) => child.once('close', (_, signal) => resolve(signal)));
  return { signal, said };
}
const end =
  ' s and answered nobody. Nothing that was confirmed is lost. Start it again; if it happens again, look at its disk: at its free space, and whether it answers.\n';

test('who works for too long without a turn is ended, and says why', async () => {
  const { signal, said } = await watched({ workMs: 1000, waitMs: 60_000 }, 'work(20_000)');
  expect(signal).toBe('SIGKILL');
  expect(said).toMatch(/^Bloodstone stops: it has worked for [12] s and/);
  expect(said.endsWith(end)).toBe(true);
});

test('who waits, as for a slow disk, is left alone for longer than one who works', async () => {
  expect(await watched({ workMs: 500, waitMs: 60_000 }, 'wait(2_500)')).toEqual({ signal: null, said: '' });
});

test('who waits for longer still is ended too', async () => {
  const { signal, said } = await watched({ workMs: 60_000, waitMs: 1_000 }, 'wait(30_000)');
  expect(signal).toBe('SIGKILL');
  expect(said).toBe(`Bloodstone stops: it has waited for its disk for 1${end}`);
});

test('work that has turns in between, or is known to take long, is left alone', async () => {
  const turns = 'for (let i = 0; i < 8; i += 1) { work(300); await new Promise((r) => setTimeout(r, 150)); }';
  expect(await watched({ workMs: 1_500, waitMs: 60_000 }, turns)).toEqual({ signal: null, said: '' });
  expect(await watched({ workMs: 500, waitMs: 60_000 }, 'await unwatched(async () => work(2_000))')).toEqual({ signal: null, said: '' });
});
