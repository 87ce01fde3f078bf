// A shop's week in fast motion, for `npm run bench -- week`: so many cases a day from intake to hand-over by the real, built server with a clock that is set by hand, pages with live
// news that come and go, and after each day what the server holds. At the end, what each table has grown by. Prints JSON.
import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { sql } from 'drizzle-orm';
import { generator } from '../core/units';
import { openDatabase } from '../server/db/open';

const [days, casesADay] = [Number(process.argv[2] ?? 7), Number(process.argv[3] ?? 40)];
const minute = 60_000;
const dayMs = 24 * 60 * minute;
const token = 'a secret of the week in fast motion';
const folder = mkdtempSync(join(tmpdir(), 'bloodstone-week-'));
const migrations = join(process.cwd(), 'server/db/migrations');
const password = 'grey herons wade at dusk';
const draw = generator(20261207);

/** The built server on that folder; its memory can be tidied up from outside, so that what is left is what it holds. */
async function start() {
  const child = spawn(process.execPath, ['--expose-gc', '--import', join(process.cwd(), 'scripts/tidy.mjs'), 'bin/serve.mjs'], {
    env: {
      ...process.env,
      NODE_ENV: 'production',
      PORT: '0',
      BLOODSTONE_DATA: folder,
      BLOODSTONE_CLOCK: 'manual',
      BLOODSTONE_METRICS_TOKEN: token,
      LOG_LEVEL: 'error',
    },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const url = await new Promise<string>((resolve, reject) => {
    child.stdout.on('data', (chunk: Buffer) => {
      const ready = /ready at (http:\S+)/.exec(String(chunk));
      if (ready) resolve(ready[1]!);
    });
    child.once('exit', (code) => reject(new Error(`the server ended with ${code}`)));
  });
  // However this script ends, its server does not outlive it.
  process.once('exit', () => child.kill('SIGKILL'));
  return { child, url };
}

interface Held {
  heapMb: number;
  residentMb: number;
  /** Connections, timers and whatever else keeps the process awake, by kind. */
  resources: Record<string, number>;
}

const { child, url } = await start();
let cookie = '';
let count = 0;
const post = async (path: string, fields: Record<string, string>, expected = [200, 302]): Promise<Response> => {
  const body = new URLSearchParams({ commandId: `week-${String((count += 1)).padStart(8, '0')}`, ...fields });
  const answer = await fetch(url + path, { method: 'POST', headers: { Origin: url, Cookie: cookie }, body, redirect: 'manual' });
  if (!expected.includes(answer.status))
    throw new Error(
      `${path} ${JSON.stringify(fields)}: ${answer.status} ${(await answer.text())
        .replace(/<(style|script)[^]*?<.\1>|<[^>]*>/g, ' ')
        .replace(/\s+/g, ' ')
        .slice(0, 1500)}`,
    );
  await answer.arrayBuffer();
  return answer;
};
const advance = async (ms: number): Promise<number> => {
  const answer = await fetch(`${url}/test/clock`, {
    method: 'POST',
    headers: { Origin: url, Cookie: cookie, 'Content-Type': 'application/json' },
    body: JSON.stringify({ advanceMs: ms }),
  });
  return ((await answer.json()) as { now: number }).now;
};
const get = async (path: string): Promise<void> => {
  const answer = await fetch(url + path, { headers: { Cookie: cookie } });
  if (answer.status !== 200) throw new Error(`${path}: ${answer.status}`);
  await answer.arrayBuffer();
};

async function held(): Promise<Held> {
  child.kill('SIGUSR2');
  await new Promise((resolve) => setTimeout(resolve, 1500));
  const text = await (await fetch(`${url}/metrics`, { headers: { Authorization: `Bearer ${token}` } })).text();
  const value = (name: string) => Number(new RegExp(`^${name} ([\\d.e+]+)$`, 'm').exec(text)?.[1]);
  const resources = Object.fromEntries(
    [...text.matchAll(/^nodejs_active_resources\{type="(\w+)"\} (\d+)$/gm)].map(([, type, n]) => [type!, Number(n)] as const),
  );
  return { heapMb: value('nodejs_heap_size_used_bytes') / 1e6, residentMb: value('process_resident_memory_bytes') / 1e6, resources };
}

const entered = await post('/set-up', { shop: 'Saltmarsh Auto Electric', currency: 'cr', bays: '4', name: 'Maud Ferrow', password, again: password });
cookie = entered.headers.get('set-cookie')!.split(';')[0]!;

/** From intake to hand-over, as most cases are: the fob's battery, one run, every key tried. */
async function workOne(): Promise<void> {
  const opened = await post('/cases/new', {
    vehicle: `Dunmore Scree, ${['grey', 'red', 'white', 'blue'][Math.floor(draw() * 4)]}`,
    customer: 'Halvard Quint',
    phone: '555-0144',
    words: 'It was fine this morning. Now the cluster is dark and it does not start.',
    system: 'family:rearm-fob',
    'keys.0.tag': 'A',
    'keys.0.role': 'main',
    'keys.0.here': 'on',
  });
  const path = opened.headers.get('location')!;
  await get(path);
  await post(path, { intent: 'authority', kind: 'registration', note: 'papers seen' });
  for (const [test, outcome, more] of [
    ['lamp', 'lockedDown', { key: 'A' }],
    ['unlockPress', 'stays', { key: 'A' }],
  ] as const) {
    await advance(Math.round((1 + draw() * 4) * minute));
    await post(path, { intent: 'evidence', test, outcome, ...more });
    await get(path);
  }
  const began = await post(path, { intent: 'startRun', procedure: 'rearm-by-radio' });
  const run = began.headers.get('location')!;
  const id = Number(run.split('/').at(-1));
  let seq = 1;
  for (const [step, given, ms] of [
    ['near', 'done', 15_000],
    ['press', 'begin', 4_000],
    ['press', 'release', 3_000],
    ['first', 'wakes', 6_000],
    ['awake', 'wakes', 8_000],
    ['start', 'runs', 15_000],
    ['stopIt', 'done', 20_000],
    ['back', 'wakes', 2 * minute],
  ] as const) {
    const now = await advance(ms);
    const answer = await fetch(`${url}/runs/${id}/commands`, {
      method: 'POST',
      headers: { Origin: url, Cookie: cookie, 'Content-Type': 'application/json' },
      body: JSON.stringify({ id: `week-run-${id}-${step}-${given}`, expectedSeq: seq, occurredAt: now, type: 'answer', step, answer: given }),
    });
    if (answer.status !== 200) throw new Error(`${step}: ${answer.status} ${await answer.text()}`);
    ({ seq } = (await answer.json()) as { seq: number });
    await get(run);
  }
  await post(`${path}/verify`, { 'results.A.remote': 'yes', 'results.A.accepted': 'yes' });
  await get(`${path}/report`);
  await post(`${path}/hand-over`, {
    intent: 'close',
    outcome: 'Fob battery replaced, immobilizer disarmed.',
    reason: 'the customer was in a hurry',
    conclusion: 'unknown',
    absentTold: 'on',
  });
}

/** What each table holds: rows and bytes with its indexes. */
async function sizes(): Promise<Record<string, { rows: number; bytes: number }>> {
  const database = await openDatabase({ folder, migrations });
  const ask = async <T>(text: string) => ((await database.db.execute(sql.raw(text))) as unknown as { rows: T[] }).rows;
  const tables = await ask<{ name: string }>(
    `select relname as name from pg_class where relkind = 'r' and relnamespace = 'public'::regnamespace order by 1`,
  );
  const all: Record<string, { rows: number; bytes: number }> = {};
  for (const { name } of tables) {
    await ask(`vacuum full "${name}"`);
    const [size] = await ask<{ rows: number; bytes: number }>(
      `select (select count(*)::int from "${name}") as rows, pg_total_relation_size('"${name}"')::float8 as bytes`,
    );
    all[name] = size!;
  }
  await database.close();
  return all;
}

const each: Held[] = [];
// The first day fills what is kept in memory; it is what the others are held against.
for (let day = 0; day < days; day += 1) {
  // Nobody was here overnight.
  if (day > 0) {
    cookie = '';
    cookie = (await post('/sign-in', { name: 'Maud Ferrow', password })).headers.get('set-cookie')!.split(';')[0]!;
  }
  const pages = Array.from({ length: 10 }, () => {
    const ending = new AbortController();
    void fetch(`${url}/live`, { headers: { Cookie: cookie }, signal: ending.signal })
      .then((answer) => answer.arrayBuffer())
      .catch(() => undefined);
    return ending;
  });
  const from = await advance(0);
  for (let i = 0; i < casesADay; i += 1) await workOne();
  for (const path of ['/', '/cases', '/calls', '/shop']) await get(path);
  for (const page of pages) page.abort();
  await advance(Math.max(0, dayMs - ((await advance(0)) - from)));
  each.push(await held());
}
const gone = new Promise((resolve) => child.once('exit', resolve));
child.kill('SIGTERM');
await gone;
const tables = await sizes();
rmSync(folder, { recursive: true, force: true });
console.log(JSON.stringify({ days, casesADay, each, tables }));
