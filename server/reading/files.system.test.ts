import { type ChildProcess, spawn } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { once } from 'node:events';
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { strToU8, zipSync } from 'fflate';
import sharp from 'sharp';
import { serve, type ServerProcess, shortIntake, slowness, workedMs } from '../http/process.testing';

/** Files and bodies that are small and mean much work. Each is refused after a few seconds of a processor's work, and meanwhile the server answers everybody else at once. */

const data = mkdtempSync(join(tmpdir(), 'bloodstone-files-'));
let server: ServerProcess;
let count = 0;
const commandId = () => `file-${String((count += 1)).padStart(6, '0')}`;

beforeAll(async () => {
  server = await serve(data);
  await server.setUp();
  await server.post('/cases/new', { commandId: commandId(), ...shortIntake });
});
afterAll(async () => {
  await server?.kill();
  rmSync(data, { recursive: true, force: true });
});

/** Milliseconds, of this server and of the bare one, asked in turn. */
interface Waits {
  ours: number[];
  bare: number[];
}

/** How long something takes and what the server works for it, and how long it keeps others waiting meanwhile, ms: asked again and again, one question after the other. */
async function whileAsking<T>(work: () => Promise<T>): Promise<{ value: T; tookMs: number; workedMs: number; waits: Waits }> {
  let going = true;
  const waits: Waits = { ours: [], bare: [] };
  const ask = async (url: string, into: number[]) => {
    const from = performance.now();
    const answer = await fetch(url);
    expect(answer.status).toBe(200);
    await answer.text();
    into.push(performance.now() - from);
  };
  const asking = (async () => {
    while (going) {
      await ask(`${server.url}/healthz`, waits.ours);
      await ask(bare.url, waits.bare);
      await new Promise((resolve) => setTimeout(resolve, 5));
    }
  })();
  const before = workedMs(server.child.pid!);
  const from = performance.now();
  try {
    const value = await work();
    return { value, tookMs: performance.now() - from, workedMs: workedMs(server.child.pid!) - before, waits };
  } finally {
    going = false;
    await asking;
  }
}
/** A server that does nothing but answer: what one waits for it is the machine's own doing. */
let bare: { url: string; child: ChildProcess };
beforeAll(async () => {
  const code = "require('http').createServer((_, r) => r.end('ok')).listen(0, '127.0.0.1', function () { console.log(this.address().port) })";
  const child = spawn(process.execPath, ['-e', code], { env: { ...process.env, NODE_OPTIONS: '' }, stdio: ['ignore', 'pipe', 'inherit'] });
  const [port] = (await once(child.stdout, 'data')) as [Buffer];
  bare = { url: `http://127.0.0.1:${String(port).trim()}`, child };
});
afterAll(() => void bare?.child.kill());
let slow = 1;
beforeEach(() => void (slow = slowness()));
/** A limit of an idle machine, ms, for this one as it is now: the slower of before and after the work. */
const within = (ms: number): number => ms * (slow = Math.max(slow, slowness()));

/** Answers within 100 ms on an idle machine, beyond what a bare server lets wait at the same time; a shared one may lose a turn or two. */
function expectServed(waits: Waits): void {
  const [ours, its] = [waits.ours, waits.bare].map((w) => w.toSorted((a, b) => a - b)) as [number[], number[]];
  const at = (sorted: number[], share: number) => sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? 0;
  expect(at(ours, 0.95)).toBeLessThan(within(100) + at(its, 0.95));
  expect(at(ours, 1)).toBeLessThan(within(500) + at(its, 1));
}

async function upload(path: string, file: Uint8Array | string, more: Record<string, string> = {}): Promise<Response> {
  const form = new FormData();
  form.append('commandId', commandId());
  for (const [name, value] of Object.entries(more)) form.append(name, value);
  form.append('file', new Blob([file as BlobPart]), 'a.bin');
  return fetch(server.url + path, { method: 'POST', headers: { Cookie: server.cookie, Origin: server.url }, body: form, redirect: 'manual' });
}

const json = (name: string, body: string) => zipSync({ [name]: strToU8(body) });
const eights = (n: number) => new Uint8Array(n);
const files: [string, string, () => Uint8Array | string, number][] = [
  ['a ZIP with a list of eight million', '/cases/import', () => json('case.json', `{"keys":[${'0,'.repeat(8_000_000)}0]}`), 400],
  [
    'a ZIP with a map of half a million',
    '/cases/import',
    () => json('case.json', `{${Array.from({ length: 500_000 }, (_, i) => `"k${i}":0`).join(',')}}`),
    400,
  ],
  ['a ZIP with a thousand levels', '/cases/import', () => json('case.json', `{"a":${'['.repeat(100_000)}${']'.repeat(100_000)}}`), 400],
  [
    'a ZIP with entries of fifteen megabytes, more than unpacks to a case',
    '/cases/import',
    () =>
      zipSync(
        Object.fromEntries(
          Array.from({ length: 10 }, (_, i) => [`photos/00000000-0000-4000-8000-0000000000${String(i).padStart(2, '0')}.jpg`, eights(15_000_000)]),
        ),
        { level: 6 },
      ),
    413,
  ],
  [
    'YAML with 70,000 keys',
    '/library/import',
    () => `kind: profile\nvalues:\n${Array.from({ length: 70_000 }, (_, i) => `  k${i}: 1`).join('\n')}`,
    400,
  ],
  [
    'YAML with as many keys as are read',
    '/library/import',
    () => `kind: profile\nvalues:\n${Array.from({ length: 29_000 }, (_, i) => `  k${i}: 1`).join('\n')}`,
    400,
  ],
  ['YAML with 900,000 commas', '/library/import', () => `kind: profile\na: [${','.repeat(900_000)}]`, 400],
  ['YAML with as many commas as are read', '/library/import', () => `kind: profile\na: [${'1,'.repeat(59_000)}]`, 400],
  ['YAML with 450,000 values', '/library/import', () => `kind: profile\na: [${'1,'.repeat(450_000)}1]`, 400],
  ['YAML with 20,000 levels', '/library/import', () => `kind: profile\na: ${'['.repeat(20_000)}${']'.repeat(20_000)}`, 400],
  ['YAML of one long line', '/library/import', () => `kind: profile\na: "${'\\\\x41'.repeat(180_000)}"`, 400],
  ['YAML of question marks', '/library/import', () => `kind: profile\n${'? '.repeat(400_000)}`, 400],
  ['YAML of dashes', '/library/import', () => `kind: profile\na:\n  ${'- '.repeat(400_000)}x`, 400],
  ['YAML of quotes', '/library/import', () => `kind: profile\na: ${"''".repeat(400_000)}`, 400],
  ['YAML of exclamation marks', '/library/import', () => `kind: profile\na: ${'!a '.repeat(300_000)}`, 400],
];

test.each(files)('%s', async (_what, path, make, status) => {
  const file = make();
  const { value: answer, workedMs, waits } = await whileAsking(() => upload(path, file));
  expect(answer.status).toBe(status);
  const text = await answer.text();
  expect(text.length).toBeLessThan(200_000);
  expect(workedMs).toBeLessThan(within(8_000));
  expectServed(waits);
});

test('a file that makes the reading process give up is refused, and the next file is read', async () => {
  // Heap of the process: strings of this map alone are more than it has.
  const answer = await upload('/cases/import', json('case.json', `{"a":[${'"x","y",'.repeat(1_800_000)}1]}`));
  expect(answer.status).toBe(400);
  expect((await upload('/library/import', 'kind: profile\nid: x')).status).toBe(400);
});

test('twelve large pictures at once: others are served, and the memory is given back', async () => {
  const picture = await sharp({ create: { width: 7800, height: 7800, channels: 3, background: '#40604f' } })
    .png({ compressionLevel: 9 })
    .toBuffer();
  const rssMb = () => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${server.child.pid}/status`, 'utf8'))![1]) / 1024;
  const before = rssMb();
  const { value: answers, waits } = await whileAsking(() =>
    Promise.all(Array.from({ length: 12 }, () => upload('/cases/1/photos', picture, { caption: '' }))),
  );
  expect(answers.map((a) => a.status)).toEqual(
    Array(12)
      .fill(200)
      .map(() => expect.any(Number) as number),
  );
  expect(answers.every((a) => a.status < 400)).toBe(true);
  expectServed(waits);
  expect(rssMb() - before).toBeLessThan(150);
});

test('the process that reads files ends when there is nothing to read', async () => {
  const children = () =>
    readdirSync('/proc')
      .filter((pid) => /^\d+$/.test(pid))
      .filter((pid) => {
        try {
          return readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1]!.split(' ')[1] === String(server.child.pid);
        } catch {
          return false;
        }
      }).length;
  await upload('/library/import', 'kind: profile\nid: x');
  expect(children()).toBe(1);
  const until = Date.now() + 20_000;
  while (children() > 0 && Date.now() < until) await new Promise((resolve) => setTimeout(resolve, 250));
  expect(children()).toBe(0);
});

describe('bodies of 256 kB', () => {
  const room = 250_000;
  const bodies: [string, string][] = [
    ['a list of zeros', `{"name":[${'0,'.repeat(room / 2 - 20)}0]}`],
    ['a list of objects', `{"name":[${'{},'.repeat(room / 3 - 20)}{}]}`],
    ['many names', `{${Array.from({ length: 22_000 }, (_, i) => `"k${i}":0`).join(',')}}`],
    ['many names in a field', `{"fields":{${Array.from({ length: 22_000 }, (_, i) => `"k${i}":0`).join(',')}}}`],
    ['five thousand names', `{${Array.from({ length: 4_990 }, (_, i) => `"k${i}":0`).join(',')}}`],
    ['levels', `{"a":${'['.repeat(100_000)}${']'.repeat(100_000)}}`],
    ['one long text', `{"name":"${'x'.repeat(room)}"}`],
    ['random bytes', randomBytes(room).toString('base64')],
  ];
  const paths = ['/sign-in', '/sign-in.data', '/set-up', '/join/none', '/unlock'];
  test.each(bodies)('%s as JSON, before sign-in', async (_what, body) => {
    for (const path of paths) {
      const { value: answer, tookMs } = await whileAsking(() =>
        fetch(server.url + path, { method: 'POST', headers: { Origin: server.url, 'Content-Type': 'application/json' }, body, redirect: 'manual' }),
      );
      expect([path, answer.status < 500 && answer.status !== 200]).toEqual([path, true]);
      expect((await answer.text()).length).toBeLessThan(1_000);
      expect(tookMs).toBeLessThan(within(300));
    }
  });
  test.each(bodies)('%s as JSON, signed in', async (_what, body) => {
    for (const path of [
      '/cases/new.data',
      '/cases/drafts',
      '/bench/ladder.data',
      '/calls/new.data',
      '/cases/1.data',
      '/shop.data',
      '/bench/lamp.data',
    ]) {
      const { value: answer, tookMs } = await whileAsking(() =>
        fetch(server.url + path, {
          method: 'POST',
          headers: { Origin: server.url, Cookie: server.cookie, 'Content-Type': 'application/json' },
          body,
          redirect: 'manual',
        }),
      );
      expect([path, answer.status >= 400 && answer.status < 500]).toEqual([path, true]);
      expect((await answer.text()).length).toBeLessThan(50_000);
      expect(tookMs).toBeLessThan(within(500));
    }
  });
  test('ten thousand fields of a form', async () => {
    const form = Array.from({ length: 20_000 }, (_, i) => `k${i}=1`).join('&');
    const { value: answer, tookMs } = await whileAsking(() => server.post('/cases/new.data', Object.fromEntries(new URLSearchParams(form))));
    expect(answer.status).toBe(400);
    expect(tookMs).toBeLessThan(within(500));
  });
});

test('the longest look at a light that is taken, and one light more', async () => {
  const look = (lights: number) =>
    fetch(`${server.url}/bench/lamp.data`, {
      method: 'POST',
      headers: { Origin: server.url, Cookie: server.cookie, 'Content-Type': 'application/json' },
      body: JSON.stringify({
        commandId: commandId(),
        case: 1,
        key: 'A',
        moment: 'ignition-on',
        origin: 'tapped',
        lit: Array.from({ length: lights }, (_, i) => [i / 4, i / 4 + 0.1]),
        lengthS: 110,
      }),
    });
  const { value: longest, tookMs } = await whileAsking(() => look(400));
  expect(longest.status).toBe(200);
  expect(tookMs).toBeLessThan(within(5_000));
  expect((await look(401)).status).toBe(400);
});

test('groups of readings that are nothing', async () => {
  const body = {
    commandId: commandId(),
    kind: 'pellet',
    case: 1,
    key: 'A',
    ladder: 'tarn-ten',
    raw: { leadOhms: 0, temperatureC: null, groups: [null, null] },
  };
  const answer = await fetch(`${server.url}/bench/ladder.data`, {
    method: 'POST',
    headers: { Origin: server.url, Cookie: server.cookie, 'Content-Type': 'application/json' },
    body: JSON.stringify(body),
  });
  expect(answer.status).toBe(400);
});

test('many suppositions in the address of a diagnosis', async () => {
  const query = Array.from({ length: 90 }, (_, i) =>
    ['accepted', 'refused', 'steady', 'dark'].map((o) => `if=lamp:${o}:${'ABCDEFGH'[i % 8]}`).join('&'),
  ).join('&');
  const { value: answer, tookMs } = await whileAsking(() => server.get(`/cases/1/diagnosis?${query}`));
  expect(answer.status).toBe(200);
  expect(tookMs).toBeLessThan(within(3_000));
});
