import { execFileSync, spawn } from 'node:child_process';
import { mkdtempSync, readdirSync, rmSync, statfsSync, statSync, truncateSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { serve, type ServerProcess } from '../http/process.testing';

/** The folder on the disk: whose it is, who may read it, and what happens when the disk is full. */

const folder = mkdtempSync(join(tmpdir(), 'bloodstone-disk-'));
let count = 0;
const commandId = () => `disk-${String((count += 1)).padStart(8, '0')}`;
const intake = { vehicle: 'Orrin Thimble', system: 'family:transponder-dwell', 'keys.0.tag': 'A', 'keys.0.here': 'on' };
/** As another user or in another process table this machine may need a user namespace. */
const asAnybody = process.getuid!() === 0 ? [] : ['-Ur'];
afterAll(() => rmSync(folder, { recursive: true, force: true }));

test('a server in another process table sees that the folder is taken', async () => {
  const data = join(folder, 'table');
  const server = await serve(data);
  try {
    const other = spawn('unshare', [...asAnybody, '-pf', '--mount-proc', '--kill-child', process.execPath, 'bin/serve.mjs'], {
      env: { ...process.env, NODE_OPTIONS: '', PORT: '0', BLOODSTONE_DATA: data },
    });
    let said = '';
    other.stderr.on('data', (chunk: Buffer) => (said += chunk.toString()));
    const code = await new Promise((resolve) => other.once('close', resolve));
    expect(code).toBe(1);
    expect(said).toContain('in another container or on another machine. Two servers on one folder destroy data.');
    expect((await fetch(`${server.url}/healthz`)).status).toBe(200);
  } finally {
    await server.kill();
  }
});

test('files are their user’s alone, also those of a folder that was open to all', async () => {
  const data = join(folder, 'modes');
  const wide = () =>
    [data, ...readdirSync(data, { recursive: true }).map((name) => join(data, String(name)))].filter((path) => (statSync(path).mode & 0o077) !== 0);
  const first = await serve(data);
  await first.setUp();
  await first.post('/cases/new', { commandId: commandId(), ...intake, words: 'It does not start.' });
  expect(wide()).toEqual([]);
  await first.stop();
  execFileSync('chmod', ['-R', 'a+rwX', data]);
  expect(wide().length).toBeGreaterThan(100);
  const second = await serve(data);
  expect(wide()).toEqual([]);
  await second.stop();
});

describe('a disk of 60 MB', () => {
  const disk = join(folder, 'small');
  const data = join(disk, 'data');
  const ballast = join(disk, 'ballast');
  let server: ServerProcess;
  const words = new Set<string>();
  beforeAll(async () => {
    execFileSync('mkdir', [disk]);
    execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=60m', 'tmpfs', disk]);
    server = await serve(data);
    await server.setUp();
  });
  afterAll(async () => {
    await server?.kill();
    execFileSync('umount', ['-l', disk]);
  });
  const freeMb = () => {
    const { bavail, bsize } = statfsSync(disk);
    return (bavail * bsize) / 1024 / 1024;
  };
  const open = async (text: string) => {
    const answer = await server.post('/cases/new.data', { commandId: commandId(), ...intake, words: text });
    const said = await answer.text();
    // The router answers an act that leads on with 202.
    if (answer.status < 300) words.add(text);
    return { status: answer.status, said };
  };
  const expectAllThere = async () => {
    const csv = await (await server.get('/cases.csv')).text();
    expect([...words].filter((text) => !csv.includes(text)).map((text) => text.slice(0, 40))).toEqual([]);
    expect(words.size).toBeGreaterThan(0);
  };

  test.each([1, 2, 3])('filled, time %i: acts are refused with a sentence, pages are shown, and it goes on by itself', async (time) => {
    const text = (i: number) => `story ${time} ${i} ${'x'.repeat(1500)}`;
    let i = 0;
    // Honest work until it is refused; then somebody else takes what is left.
    if (time === 1) {
      while (freeMb() > 9) writeFileSync(ballast, Buffer.alloc(1024 * 256, 1), { flag: 'a' });
      let last = await open(text(0));
      for (; last.status < 300 && i < 1_500; i += 1) last = await open(text(i + 1));
      expect(last.status).toBe(507);
      expect(last.said).toMatch(/The disk of this shop’s Bloodstone is nearly full: \d+ MB are free, \d+ MB are needed\. Nothing was saved\./);
    }
    try {
      for (;;) writeFileSync(ballast, Buffer.alloc(1024 * 256, 1), { flag: 'a' });
    } catch {
      // Not a byte is left.
    }
    expect(freeMb()).toBeLessThan(0.3);
    for (let n = 0; n < 20; n += 1) expect((await open(text(100_000 + n))).status).toBe(507);
    for (const path of ['/', '/cases', '/cases/1', '/cases/1/report', '/library', '/healthz'])
      expect([path, (await server.get(path)).status]).toEqual([path, 200]);
    await expectAllThere();
    truncateSync(ballast, 0);
    expect((await open(text(200_000 + time))).status).toBeLessThan(300);
    await expectAllThere();
  });

  test('on a full disk it ends when it is told to, and opens with everything that was acknowledged', async () => {
    try {
      for (;;) writeFileSync(ballast, Buffer.alloc(1024 * 256, 1), { flag: 'a' });
    } catch {
      // Full.
    }
    expect((await open('not any more')).status).toBe(507);
    const from = performance.now();
    expect(await server.stop()).toBe(0);
    expect(performance.now() - from).toBeLessThan(10_000);
    rmSync(ballast);
    const { cookie } = server;
    server = await serve(data);
    server.cookie = cookie;
    await expectAllThere();
  });

  test('a start on a full disk says so', async () => {
    await server.stop();
    rmSync(join(data, 'reserve'), { force: true });
    try {
      for (;;) writeFileSync(ballast, Buffer.alloc(1024 * 256, 1), { flag: 'a' });
    } catch {
      // Full.
    }
    await expect(serve(data)).rejects.toThrow(/exit 1: Bloodstone does not start\.\nThe disk .* is nearly full/);
    rmSync(ballast);
    const { cookie } = server;
    server = await serve(data);
    server.cookie = cookie;
    await expectAllThere();
  });
});
