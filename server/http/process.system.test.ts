import { mkdirSync, mkdtempSync, rmSync, symlinkSync, writeFileSync, cpSync, existsSync, readdirSync, readFileSync } from 'node:fs';
import { spawnSync } from 'node:child_process';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout } from 'node:timers/promises';
import { asc, eq, sql } from 'drizzle-orm';
import { openDatabase } from '../db/open';
import { caseFile, evidence, runEvent } from '../db/schema';
import { often } from '../../content/often.testing';
import { machineNow, serve, type ServerProcess } from './process.testing';

let folder: string;
let server: ServerProcess | undefined;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'bloodstone-'));
});
afterEach(async () => {
  await server?.kill();
  rmSync(folder, { recursive: true, force: true });
});

let count = 0;
const commandId = () => `crash-${String((count += 1)).padStart(6, '0')}`;
/** What a server said, and between which moments of the machine it said so, milliseconds; it can be slow, and the answer is no less right for it. */
interface Heard {
  value: number;
  asked: number;
  answered: number;
}
async function hear(ask: () => Promise<number>): Promise<Heard> {
  const asked = machineNow();
  const value = await ask();
  return { value, asked, answered: machineNow() };
}

/** What is left on a page's countdown, seconds. */
const secondsLeft = (s: ServerProcess, runPath: string) =>
  hear(async () => {
    const html = await (await s.get(runPath)).text();
    const shown = /role="timer"[^>]*>(\d+):(\d\d)</.exec(html);
    if (!shown) throw new Error('no countdown on the page');
    return Number(shown[1]) * 60 + Number(shown[2]);
  });

/** That `passed` lies between the shortest and the longest time that can have gone by between two answers. @param off What rounding and two clocks may add, ms */
function expectTimeBetween(first: Heard, second: Heard, passed: number, off: number): void {
  expect(passed).toBeGreaterThan(second.asked - first.answered - off);
  expect(passed).toBeLessThan(second.answered - first.asked + off);
}

const instructionOn = (html: string) => /<h1[^>]*>([^<]*)</.exec(html)?.[1];

/** Kills the server right after an acknowledged write and starts it again on the same folder; the clock must have gone on by the real time. */
async function crash(): Promise<ServerProcess> {
  const before = await hear(() => server!.clock());
  const { cookie } = server!;
  await server!.kill();
  const next = (server = await serve(folder));
  next.cookie = cookie;
  const after = await hear(() => next.clock());
  expectTimeBetween(before, after, after.value - before.value, 50);
  return server;
}

/** The same in the whole run; in a part of it, what is killed next kills after this write too. */
const crashInWhole = (s: ServerProcess): Promise<ServerProcess> => (often(1, 0) ? crash() : Promise.resolve(s));

test('SIGKILL right after each kind of acknowledged write and in the middle of waits loses nothing, and the clock is right', async () => {
  server = await serve(folder);
  await server.setUp();
  const created = await server.post('/cases/new', {
    commandId: commandId(),
    vehicle: 'Tarn Gantry, grey',
    words: 'Starts and dies.',
    system: 'profile:tarn-gantry',
    'changed.0.what': 'ecm',
    'keys.0.tag': 'A',
    'keys.0.role': 'main',
    'keys.0.here': 'on',
  });
  expect([created.status, created.headers.get('location')]).toEqual([302, '/cases/1']);
  let s = await crash();
  const report = async () => (await s.get('/cases/1/report')).text();
  expect(await report()).toContain('Starts and dies.');

  expect((await s.post('/cases/1', { intent: 'authority', commandId: commandId(), kind: 'registration', note: 'papers seen' })).status).toBe(200);
  s = await crashInWhole(s);
  expect(await report()).toContain('papers seen');

  expect((await s.post('/cases/1', { intent: 'evidence', commandId: commandId(), test: 'lamp', outcome: 'accepted', key: 'A' })).status).toBe(200);
  s = await crashInWhole(s);
  expect(await report()).toContain('Security light, tag A');

  expect((await s.post('/cases/1', { intent: 'evidence', commandId: commandId(), test: 'battery', outcome: 'flat' })).status).toBe(200);
  await s.kill();
  const entries = await openDatabase({ folder, migrations: 'server/db/migrations' });
  const mistaken = (await entries.db.select().from(evidence).where(eq(evidence.test, 'battery')))[0]!.id;
  await entries.close();
  const { cookie } = s;
  server = s = await serve(folder);
  s.cookie = cookie;
  expect((await s.post('/cases/1', { intent: 'withdraw', commandId: commandId(), entry: mistaken })).status).toBe(200);
  s = await crashInWhole(s);

  expect((await s.post('/cases/1', { intent: 'startRun', commandId: commandId(), procedure: 'relearn-ignition-on' })).status).toBe(302);
  s = await crash();
  expect(await report()).toContain('Run started with tag A');

  const acknowledged: string[] = [];
  let seq = 1;
  const send = async (body: Record<string, unknown>) => {
    const id = commandId();
    const answer = await s.command(1, { id, expectedSeq: seq, occurredAt: await s.clock(), ...body });
    expect([body, answer.status]).toEqual([body, 200]);
    seq = ((await answer.json()) as { seq: number }).seq;
    acknowledged.push(id);
  };
  const answer = (step: string, given: string, value?: number) =>
    send({ type: 'answer', step, answer: given, ...(value === undefined ? {} : { value }) });
  /** The real clock has to reach the end of a wait; the page itself says when. */
  const passed = async (waiting: string) => {
    while (instructionOn(await (await s.get('/cases/1/runs/1')).text()) === waiting) await setTimeout(200);
  };
  await answer('rested', 'measured', 12.1);
  s = await crashInWhole(s);
  await send({ type: 'waive', step: 'rested', reason: 'stable supply connected' });
  s = await crash();
  await answer('loads', 'done');
  await answer('loadOn', 'done');
  await passed('Leave the ignition on.');
  await answer('loaded', 'measured', 12.3);
  await send({ type: 'takeBack', event: acknowledged.at(-1) });
  s = await crashInWhole(s);
  await answer('loaded', 'measured', 12.2);
  await answer('loadOff', 'done');
  await answer('window', 'done');
  await answer('allKeys', 'done');
  await answer('origin', 'new');
  await answer('codesNew', 'done');
  await answer('begin', 'done');

  // In the middle of the off time of 8 s.
  const offLeft = await secondsLeft(s, '/cases/1/runs/1');
  s = await crash();
  // A start can take longer than the off time; then nothing is left of it, and the page counts down the next act's limit.
  const stillOff = async () => instructionOn(await (await s.get('/cases/1/runs/1')).text()) === 'Leave the key off.';
  const stillLeft = await hear(async () => {
    const { value } = await secondsLeft(s, '/cases/1/runs/1').catch(() => ({ value: 0 }));
    return (await stillOff()) ? value : 0;
  });
  if (stillLeft.value > 0) expectTimeBetween(offLeft, stillLeft, (offLeft.value - stillLeft.value) * 1000, 1050);
  else expect(stillLeft.answered - offLeft.asked).toBeGreaterThan(offLeft.value * 1000 - 1050);
  await passed('Leave the key off.');
  await answer('on', 'done');
  await answer('lit', 'lit');

  // In the middle of the wait of 9:20.
  const left = await secondsLeft(s, '/cases/1/runs/1');
  s = await crash();
  const later = await secondsLeft(s, '/cases/1/runs/1');
  expectTimeBetween(left, later, (left.value - later.value) * 1000, 1050);

  await send({ type: 'interrupt', what: 'left' });
  s = await crashInWhole(s);
  await send({ type: 'stop', reason: 'customer came for the vehicle' });
  s = await crash();
  // It stays on the page and says what is still open.
  const verified = await s.post('/cases/1/verify', { commandId: commandId(), 'results.A.turns': 'yes' });
  expect(verified.status).toBe(200);
  expect(await verified.text()).toContain('Not tried since the work: ');
  s = await crashInWhole(s);
  expect(
    (
      await s.post('/cases/1/hand-over', {
        intent: 'close',
        commandId: commandId(),
        outcome: 'Not done.',
        reason: 'customer left',
        conclusion: 'unknown',
        absentTold: 'on',
      })
    ).status,
  ).toBe(302);
  s = await crash();
  expect(await report()).toContain('Not done. Closed without proof: customer left');
  expect(await report()).toContain('turns the lock: yes');

  await s.kill();
  const database = await openDatabase({ folder, migrations: 'server/db/migrations' });
  const events = await database.db.select().from(runEvent).orderBy(asc(runEvent.seq));
  expect(events.map((e) => e.id).slice(1)).toEqual(acknowledged);
  expect(events.map((e) => e.seq)).toEqual(events.map((_, i) => i));
  expect(
    await database.db
      .select({ test: evidence.test, outcome: evidence.outcome, replaces: evidence.replaces })
      .from(evidence)
      .orderBy(asc(evidence.seq)),
  ).toEqual([
    { test: 'lamp', outcome: 'accepted', replaces: null },
    { test: 'battery', outcome: 'flat', replaces: null },
    { test: 'battery', outcome: null, replaces: mistaken },
  ]);
  expect(await database.db.select({ state: caseFile.state }).from(caseFile)).toEqual([{ state: 'closed' }]);
  await database.close();
  server = undefined;
  // Many starts of a server, each some seconds on a slow machine, and a wait of a minute.
}, 600_000);

test('a second server on the folder refuses with a clear message, and the first goes on', async () => {
  server = await serve(folder);
  await expect(serve(folder)).rejects.toThrow(
    `already in use by the server with process id ${server.child.pid}. Two servers on one folder destroy data.`,
  );
  expect(await (await server.get('/healthz')).json()).toEqual({ status: 'ok' });
});

test('what nobody expected is a page with a reference, and the log has it with the cause', async () => {
  server = await serve(folder);
  await server.setUp();
  const { cookie } = server;
  expect(
    (
      await server.post('/cases/new', {
        commandId: commandId(),
        vehicle: 'Tarn Gantry',
        words: 'x',
        system: 'profile:tarn-gantry',
        customer: 'Halvard Quint',
        phone: '555-0144',
      })
    ).status,
  ).toBe(302);
  await server.stop();
  const database = await openDatabase({ folder, migrations: 'server/db/migrations' });
  await database.db.execute(sql`drop table ability`);
  await database.close();
  server = await serve(folder, { LOG_LEVEL: 'trace' });
  server.cookie = cookie;
  const answer = await server.get('/cases/1');
  const page = await answer.text();
  expect(answer.status).toBe(500);
  expect(page).toContain('Something went wrong');
  expect(page).not.toContain('ability');
  const reference = /give the reference ([0-9a-f-]{36})/.exec(page)?.[1];
  const line = server
    .log()
    .split('\n')
    .find((l) => reference !== undefined && l.includes(reference));
  expect(JSON.parse(line ?? '{}')).toMatchObject({
    reference,
    msg: 'unexpected',
    err: { type: 'query', statement: expect.stringMatching(/^select "caseFile"\./), code: '42P01' },
  });
  expect((await server.get('/')).status).toBe(500);
  expect((await server.get('/library')).status).toBe(200);
  // What people are called, what was searched for, tokens of links and cookies are in no line, however much is told.
  await server.get('/find?q=Halvard');
  await server.get('/cases?q=Halvard%20Quint');
  await server.get('/join/token-of-a-link-0123456789');
  await server.post('/sign-in', { name: 'Maud Ferrow', password: 'not the right password' });
  const log = server.log();
  expect(log).toContain('"url":"/find"');
  expect(log).toContain('"url":"/join/…"');
  for (const secret of ['Halvard', 'Quint', '555-0144', 'token-of-a-link', 'not the right password', cookie.split('=')[1]!])
    expect([secret, log.includes(secret)]).toEqual([secret, false]);
});

test('a port in use is said in one sentence, and the folder is free again', async () => {
  server = await serve(join(folder, 'first'));
  const { port } = new URL(server.url);
  await expect(serve(join(folder, 'second'), { PORT: port })).rejects.toThrow(
    `Port ${port} on 127.0.0.1 is in use. Stop what listens there, or set PORT to another number.`,
  );
  expect(existsSync(join(folder, 'second/bloodstone.lock'))).toBe(false);
});

test('a second demo does not touch the data of the one that is running; a later one begins anew', async () => {
  const demo = { BLOODSTONE_DEMO: '1', BLOODSTONE_FRESH: '1' };
  server = await serve(folder, demo);
  await expect(serve(folder, demo)).rejects.toThrow('already in use by the server');
  await server.comeIn('Ines Marrow', 'curlew over the flats');
  expect(await (await server.get('/cases/4')).text()).toContain('Tarn Gantry pickup, gray');
  await server.post('/cases/new', { commandId: commandId(), vehicle: 'Mirrow Pipit, mine', words: 'x', system: 'family:transponder-dwell' });
  expect(await (await server.get('/cases')).text()).toContain('Mirrow Pipit, mine');
  await server.stop();
  server = await serve(folder, demo);
  expect((await server.get('/cases')).headers.get('location')).toBe('/sign-in?to=%2Fcases');
  await server.comeIn('Ines Marrow', 'curlew over the flats');
  expect(await (await server.get('/cases')).text()).not.toContain('Mirrow Pipit, mine');
});

test('SIGTERM closes cleanly, with an event stream open', async () => {
  server = await serve(folder);
  expect((await server.get('/live')).status).toBe(401);
  await server.setUp();
  const stream = await server.get('/live');
  expect(stream.headers.get('content-type')).toBe('text/event-stream');
  expect(await server.stop()).toBe(0);
  expect(existsSync(join(folder, 'bloodstone.lock'))).toBe(false);
});

test('nothing of the server, the database or the schemas reaches the browser', () => {
  const assets = readdirSync('build/client/assets').filter((name) => name.endsWith('.js'));
  expect(assets.length).toBeGreaterThan(10);
  const leaks = assets.filter((name) =>
    /pg_notify|case_file|node:crypto|scrypt|abortEarly|parseDocument|curlew over/.test(readFileSync(join('build/client/assets', name), 'utf8')),
  );
  expect(leaks).toEqual([]);
});

test('broken YAML stops the start with file, path and mend', () => {
  const root = join(folder, 'root');
  mkdirSync(join(root, 'server'), { recursive: true });
  symlinkSync(join(process.cwd(), 'server/db'), join(root, 'server/db'));
  cpSync('content', join(root, 'content'), { recursive: true });
  writeFileSync(join(root, 'content/profiles/mine.yaml'), 'kind: profile\nid: mine\nversion: none');
  const script = `import(${JSON.stringify(join(process.cwd(), 'build/server/index.js'))}).then((m) => m.start({ root: ${JSON.stringify(root)}, host: '127.0.0.1', port: 0 }))`;
  const { status, stderr } = spawnSync(process.execPath, ['-e', script], {
    encoding: 'utf8',
    env: { ...process.env, NODE_OPTIONS: '', LOG_LEVEL: 'error' },
  });
  expect(status).toBe(1);
  expect(stderr).toContain('Bloodstone does not start.\ncontent/profiles/mine.yaml: version: The file has "none". Use a number.');
});

describe('requests from elsewhere, and bad ones', () => {
  let server: ServerProcess | undefined;
  const data = mkdtempSync(join(tmpdir(), 'bloodstone-'));
  beforeAll(async () => {
    server = await serve(data);
    await server.setUp();
  });
  afterAll(async () => {
    await server?.kill();
    rmSync(data, { recursive: true, force: true });
  });
  const post = (path: string, init: RequestInit) =>
    fetch(server!.url + path, { method: 'POST', ...init, headers: { Cookie: server!.cookie, ...init.headers } });

  test.each<[string, string, RequestInit, number]>([
    ['no origin', '/cases/new', { body: new URLSearchParams({ words: 'x' }) }, 403],
    ['another origin', '/cases/new', { body: new URLSearchParams({ words: 'x' }), headers: { Origin: 'http://elsewhere.example' } }, 403],
    ['no origin, as JSON', '/runs/1/commands', { body: '{}' }, 403],
  ])('%s', async (_what, path, init, status) => expect((await post(path, init)).status).toBe(status));

  test.each<[string, string, BodyInit, number, string]>([
    ['a body over the limit', '/cases/new', new URLSearchParams({ words: 'x'.repeat(256 * 1024) }), 413, 'Refused: 256 kB at most.'],
    ['a form without anything', '/cases/new.data', new URLSearchParams(), 400, 'commandId'],
    ['a command that is no JSON', '/runs/1/commands', 'not json', 400, 'could not be read'],
    [
      'a command of no kind',
      '/runs/1/commands',
      '{"type":"dance"}',
      400,
      'Use one of: answer, waive, interrupt, number, battery, note, takeBack, stop.',
    ],
    [
      'a command for no run',
      '/runs/77/commands',
      JSON.stringify({ id: 'abcdefgh', expectedSeq: 1, occurredAt: 1, type: 'stop', reason: 'x' }),
      404,
      'This run was not found.',
    ],
    [
      'a form of no intent',
      '/cases/1',
      new URLSearchParams({ intent: 'dance', commandId: 'abcdefgh1' }),
      400,
      'This form is out of date|Case not found',
    ],
    ['a post where nothing is taken', '/find', new URLSearchParams({ a: 'b' }), 405, ''],
  ])('%s', async (_what, path, body, status, text) => {
    const json: Record<string, string> = typeof body === 'string' ? { 'Content-Type': 'application/json' } : {};
    const answer = await post(path, { body, headers: { Origin: server!.url, ...json } });
    expect(answer.status).toBe(status);
    expect(await answer.text()).toMatch(new RegExp(text));
  });

  test.each([
    ['/cases/77', 404, 'No case has the number 77'],
    ['/cases/one', 404, 'is not a case number'],
    ['/cases/1%27%20or%201=1', 404, 'is not a case number'],
    ['/cases/77/runs/1', 404, 'has no run 1'],
    ['/cases/77/report', 404, 'No case has the number 77'],
    ['/nowhere', 404, 'is not a page of Bloodstone'],
    ['/assets/none.js', 404, ''],
    ['/%E0%A4%A', 400, ''],
    ['/test/clock', 404, ''],
    ['/runs/1/commands', 405, ''],
  ])('GET %s answers %d', async (path, status, text) => {
    const answer = await server!.get(path);
    expect(answer.status).toBe(status);
    expect(await answer.text()).toContain(text);
  });

  test('the test-only routes do not exist on a real clock', async () => {
    expect((await server!.get('/test/statements')).status).toBe(404);
    expect(
      (await post('/test/clock', { body: '{"advanceMs":1000}', headers: { Origin: server!.url, 'Content-Type': 'application/json' } })).status,
    ).not.toBe(200);
  });

  test('security headers stand on every page', async () => {
    const { headers } = await server!.get('/');
    expect(headers.get('content-security-policy')).toMatch(/frame-ancestors 'none';.*script-src 'self' 'nonce-[^']+';/);
    // A file of the build may be a worker's, whose policy is its own: WebAssembly runs there, and on no page.
    const asset = await fetch(`${server!.url}/assets/none.js`);
    expect(asset.headers.get('content-security-policy')).toContain("script-src 'self' 'wasm-unsafe-eval';");
    expect(headers.get('x-content-type-options')).toBe('nosniff');
    expect(headers.get('referrer-policy')).toBe('same-origin');
    expect(headers.get('x-powered-by')).toBeNull();
  });
});
