import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { openDatabase } from '../db/open';
import { audit, caseFile, caseKey, evidence, person, photo } from '../db/schema';
import { serve, type ServerProcess } from './process.testing';

/** What a stranger, a broken browser or a colleague with too few rights may send. Each gets a clear refusal, never a 500, and leaves no trace. */

const data = mkdtempSync(join(tmpdir(), 'bloodstone-attacks-'));
let server: ServerProcess;
let count = 0;
const commandId = () => `attack-${String((count += 1)).padStart(6, '0')}`;
const intake = { vehicle: 'Orrin Thimble', words: 'It does not start.', system: 'family:transponder-dwell', 'keys.0.tag': 'A', 'keys.0.here': 'on' };

beforeAll(async () => {
  server = await serve(data, { BLOODSTONE_CLOCK: 'manual' });
  await server.setUp();
  for (let i = 0; i < 2; i += 1) await server.post('/cases/new', { commandId: commandId(), ...intake });
});
afterAll(async () => {
  await server?.kill();
  rmSync(data, { recursive: true, force: true });
});

/** Everything an act could have left, counted on the server's own pages while it runs. */
const traces = async () => {
  const cases = await (await server.get('/cases.csv')).text();
  const report = await (await server.get('/cases/1/report')).text();
  return [cases, /What happened([\s\S]*?)Advice/.exec(report)?.[1]];
};
const send = (path: string, fields: Record<string, string>) => server.post(`${path}.data`, { commandId: commandId(), ...fields });
const json = (path: string, body: string, headers: Record<string, string> = {}) =>
  fetch(server.url + path, {
    method: 'POST',
    headers: { Cookie: server.cookie, Origin: server.url, 'Content-Type': 'application/json', ...headers },
    body,
    redirect: 'manual',
  });

const nasty: [string, string][] = [
  ['SQL', "'); drop table case_file; --"],
  ['SQL in quotes', '" or ""="'],
  ['HTML', '<img src=x onerror=alert(1)>'],
  ['a script', '</script><script>alert(1)</script>'],
  ['a template', '{{constructor.constructor("alert(1)")()}} ${7*7}'],
  ['emoji', '🔑👩🏽‍🔧🏳️‍🌈'],
  ['another direction', 'مفتاح السيارة'],
  ['a formula', '=HYPERLINK("http://x.example","y")'],
  ['a path', '../../../etc/passwd'],
  ['a percent', '%00%s%n'],
];

describe('text that looks like code is text', () => {
  test.each(nasty)('%s in every field of an intake', async (_what, text) => {
    const short = [...text].slice(0, 14).join('');
    const answer = await server.post('/cases/new', {
      commandId: commandId(),
      ...intake,
      vehicle: text,
      words: text,
      plate: short,
      customer: text,
      phone: short,
      'changed.0.what': 'water',
      'changed.0.note': text,
      'complaint.message': text,
      'condition.partsOff': text,
      'keys.0.marks': text,
      'keys.0.note': text,
      'authority.0.kind': 'registration',
      'authority.0.note': text,
    });
    expect(answer.status).toBe(302);
    const at = answer.headers.get('location')!;
    for (const path of [
      at,
      `${at}/report`,
      `${at}/labels`,
      `${at}/keys/A`,
      `${at}/intake`,
      '/cases',
      '/',
      `/find?q=${encodeURIComponent(text)}`,
      '/cases.csv',
      '/shop/audit',
    ]) {
      const page = await server.get(path);
      expect([path, page.status]).toEqual([path, 200]);
      const html = await page.text();
      if (path !== '/cases.csv') expect(html).not.toMatch(/<img src=x|<script>alert/);
      else expect(html).not.toMatch(/(^|,)=/m);
    }
  });
});

describe('refused, and without a trace', () => {
  let before: unknown;
  beforeAll(async () => {
    before = await traces();
  });
  afterEach(async () => expect(await traces()).toEqual(before));

  test.each<[string, string, Record<string, string>, number]>([
    ['a huge text', '/cases/new', { ...intake, words: 'x'.repeat(200_000) }, 400],
    ['a zero sign', '/cases/new', { ...intake, words: 'a\u0000b' }, 400],
    ['turned text', '/cases/new', { ...intake, customer: '\u202egnorw' }, 400],
    ['a line break in a name', '/cases/new', { ...intake, customer: 'a\nadmin: true' }, 400],
    ['a list for a text', '/cases/new', { ...intake, 'vehicle.0': 'x', vehicle: '' }, 400],
    ['a prototype', '/cases/new', { ...intake, '__proto__.admin': 'yes', 'constructor.prototype.x': 'y' }, 400],
    ['a system that is a path', '/cases/new', { ...intake, system: 'profile:../../secret' }, 400],
    ['a system nobody knows', '/cases/new', { ...intake, system: 'profile:gone' }, 400],
    ['a bay nobody knows', '/cases/new', { ...intake, bay: 'gone' }, 400],
    ['an id of the act that is none', '/cases/new', { ...intake, commandId: "' or 1" }, 400],
    ['a judgement of nothing', '/cases/1/verify', { intent: 'verify', 'results.A.turns': '' }, 400],
    ['a key of another case', '/cases/1', { intent: 'evidence', test: 'lamp', outcome: 'refused', key: 'Z' }, 400],
    ['a line of another case', '/cases/1', { intent: 'withdraw', entry: '00000000-0000-4000-8000-000000000000' }, 404],
    ['a correction of nothing', '/cases/1', { intent: 'evidence', test: 'lamp', outcome: 'refused', key: 'A', replaces: 'x' }, 400],
    ['a repair of another family', '/cases/1', { intent: 'repairAction', kind: 'repair', fault: 'walkedOff', result: 'works' }, 400],
    ['a repair that is none', '/cases/1', { intent: 'repairAction', kind: 'magic', fault: 'coverNear', result: 'works' }, 400],
    ['minutes that are no number', '/cases/1', { intent: 'repairAction', kind: 'repair', fault: 'coverNear', result: 'works', minutes: '1e9' }, 400],
    ['a case that is not there', '/cases/99', { intent: 'park', reason: 'because' }, 404],
    ['a counter in another unit', '/cases/1', { intent: 'counter', counter: 'odometer', unit: 'V', value: '1', phase: 'before' }, 400],
    ['infinity', '/cases/1', { intent: 'counter', counter: 'odometer', unit: 'km', value: 'Infinity', phase: 'before' }, 400],
    [
      'a number of a hundred digits',
      '/cases/1',
      { intent: 'counter', counter: 'odometer', unit: 'km', value: '9'.repeat(100), phase: 'before' },
      400,
    ],
    ['parking without a reason', '/cases/1', { intent: 'park', reason: '  ' }, 400],
    ['an act of another page', '/cases/1', { intent: 'erase' }, 400],
    ['an act by its prototype', '/cases/1', { intent: 'toString' }, 400],
    ['a run without authority', '/cases/1', { intent: 'startRun', procedure: 'relearn-ignition-on' }, 403],
    ['closing without proof or reason', '/cases/1/hand-over', { intent: 'close', outcome: 'x', reason: '' }, 400],
  ])('%s', async (_what, path, fields, status) => {
    const answer = await send(path, fields);
    expect(answer.status).toBe(status);
    expect(await answer.text()).toMatch(/problems|message/);
  });

  test.each<[string, string, string, number]>([
    ['deep JSON', '/cases/drafts', `{"intent":"keepDraft","draft":"abcdefgh","fields":${'{"a":'.repeat(5000)}1${'}'.repeat(5000)}}`, 400],
    ['a list for an object', '/cases/drafts', '[]', 400],
    ['nothing', '/cases/drafts', '', 400],
    ['half a text', '/cases/drafts', '{"intent":', 400],
    ['fields that are none', '/cases/drafts', '{"intent":"keepDraft","draft":"abcdefgh","fields":"x"}', 400],
    ['a draft id that is a path', '/cases/drafts', '{"intent":"keepDraft","draft":"../../x","fields":{}}', 400],
    [
      'a prototype in JSON',
      '/cases/new.data',
      '{"intent":"open","commandId":"abcdefgh77","__proto__":{"admin":true},"words":"x","vehicle":"y","system":"family:gone"}',
      400,
    ],
    [
      'wrong types everywhere',
      '/cases/new.data',
      '{"intent":"open","commandId":"abcdefgh78","words":1,"vehicle":[],"keys":"x","changed":{},"condition":7,"symptoms":{"a":1},"system":null}',
      400,
    ],
    ['a measurement of nothing', '/bench/ladder.data', '{"commandId":"abcdefgh80","kind":"pellet","case":1,"ladder":"tarn-ten","raw":{}}', 400],
    [
      'a measurement with readings of every wrong type',
      '/bench/ladder.data',
      '{"commandId":"abcdefgh81","kind":"pellet","case":1,"key":"A","ladder":"tarn-ten","raw":{"leadOhms":"x","temperatureC":[],"groups":[{"side":9,"turned":"x","readings":[{},"1",-1,1e99]}]}}',
      400,
    ],
    ['a ladder by its prototype', '/bench/ladder.data', '{"commandId":"abcdefgh82","kind":"wiring","case":1,"ladder":"__proto__","raw":{}}', 400],
    [
      'a measurement of a case that is not there',
      '/bench/ladder.data',
      '{"commandId":"abcdefgh83","kind":"wiring","case":99,"ladder":"tarn-ten","raw":{"leadOhms":0,"temperatureC":null,"key":[1],"column":[1]}}',
      404,
    ],
    [
      'a step without authority',
      '/bench/steps.data',
      '{"intent":"try","commandId":"abcdefgh84","case":1,"ladder":"tarn-ten","step":1,"resistor":"x","result":"accepted"}',
      403,
    ],
    ['a meter at any address', '/bench/meter', '{"intent":"read","commandId":"abcdefgh85","meter":"127.0.0.1:22"}', 400],
    [
      'a meter that is a path',
      '/shop/meters.data',
      '{"intent":"saveMeter","commandId":"abcdefgh86","name":"x","address":"file:///etc/passwd","ranges":[]}',
      400,
    ],
    ['a drawer of nonsense', '/shop/meters.data', '{"intent":"saveDrawer","commandId":"abcdefgh87","resistors":"=1+1","senseVolts":"x"}', 400],
    [
      'a ladder of nonsense',
      '/library/ladders/new.data',
      '{"intent":"save","commandId":"abcdefgh88","from":0,"title":"x","source":"y","pellets":1,"steps":"<script>"}',
      400,
    ],
  ])('%s', async (_what, path, body, status) => expect((await json(path, body)).status).toBe(status));

  test.each<[string, string, BodyInit, Record<string, string>, number]>([
    [
      'another encoding',
      '/cases/new.data',
      Buffer.from('commandId=abcdefgh99&words=\xff\xfe', 'latin1'),
      { 'Content-Type': 'application/x-www-form-urlencoded; charset=utf-16' },
      400,
    ],
    ['a multipart body that is none', '/cases/1/photos', 'x', { 'Content-Type': 'multipart/form-data; boundary=x' }, 400],
    ['a content type nobody knows', '/cases/1/photos', 'x', { 'Content-Type': 'application/x-java' }, 400],
    ['a body over the limit', '/cases/drafts', 'x'.repeat(257 * 1024), { 'Content-Type': 'application/json' }, 413],
    ['a profile of fifty megabytes', '/library/import', new Uint8Array(50 * 1024 * 1024), { 'Content-Type': 'multipart/form-data; boundary=x' }, 413],
    ['a photo over the limit', '/cases/1/photos', new Uint8Array(9 * 1024 * 1024 + 1), { 'Content-Type': 'multipart/form-data; boundary=x' }, 413],
  ])('%s', async (_what, path, body, headers, status) =>
    expect(
      (await fetch(server.url + path, { method: 'POST', headers: { Cookie: server.cookie, Origin: server.url, ...headers }, body })).status,
    ).toBe(status),
  );

  test.each<[string, () => Promise<Uint8Array>, string, number]>([
    ['a picture that is none', async () => Buffer.from('<html>'), 'key.jpg', 400],
    ['a path for a name, and no picture', async () => Buffer.from('x'), '../../../etc/cron.d/x', 400],
  ])('%s', async (_what, file, name, status) => {
    const form = new FormData();
    form.set('intent', 'attach');
    form.set('commandId', commandId());
    form.set('file', new File([(await file()) as BlobPart], name));
    const answer = await fetch(`${server.url}/cases/1/photos`, {
      method: 'POST',
      headers: { Cookie: server.cookie, Origin: server.url },
      body: form,
    });
    expect(answer.status).toBe(status);
  });

  test.each<[string, string]>([
    [
      'an anchor bomb',
      `kind: profile\na: &a [x,x,x,x,x,x,x,x,x]\nb: &b [${Array(9).fill('*a').join(',')}]\nc: &c [${Array(9).fill('*b').join(',')}]\nd: [${Array(9).fill('*c').join(',')}]`,
    ],
    ['a value inside itself', 'kind: profile\nid: &x [*x]'],
    ['a prototype', 'kind: profile\n__proto__: {polluted: yes}'],
    ['a thousand levels', `kind: profile\na: ${'['.repeat(1000)}${']'.repeat(1000)}`],
    ['bytes that are no text', '\u0000\u0001\ufffe'],
  ])('YAML with %s is refused in words, and nothing comes in', async (_what, yaml) => {
    const form = new FormData();
    form.set('intent', 'importDocument');
    form.set('commandId', commandId());
    form.set('file', new File([yaml], 'profile.yaml'));
    const answer = await fetch(`${server.url}/library/import.data`, {
      method: 'POST',
      headers: { Cookie: server.cookie, Origin: server.url },
      body: form,
    });
    expect(answer.status).toBe(400);
    expect(await answer.text()).toContain('problems');
  });

  test('a forged origin, whatever it carries', async () => {
    for (const origin of ['http://elsewhere.example', 'null', `${server.url}.evil.example`, server.url.replace('http', 'https')])
      expect((await json('/cases/drafts', '{}', { Origin: origin })).status).toBe(403);
  });

  test('a replayed form is answered as before and done once; with other content it is refused', async () => {
    const id = commandId();
    const park = { intent: 'park', reason: 'waits for a part', commandId: id };
    expect((await server.post('/cases/2.data', park)).status).toBe(200);
    expect((await server.post('/cases/2.data', park)).status).toBe(200);
    expect((await server.post('/cases/2.data', { ...park, reason: 'another' })).status).toBe(409);
    expect((await send('/cases/2', { intent: 'reopen', reason: 'part came' })).status).toBe(200);
    const lines = (await (await server.get('/cases/2/report')).text()).match(/waits for a part/g)!;
    expect(lines.length).toBeGreaterThan(0);
  });

  test.each([
    '/cases/1e0',
    '/cases/-1',
    '/cases/1%00',
    '/cases/../../etc/passwd',
    '/cases/1/photos/..%2f..%2fetc%2fpasswd',
    '/cases/1/keys/%3Cscript%3E',
    '/cases/2147483648',
    '/keys/%00%ff',
    '/cases?after=99999999999999999999&sort=%00&state[]=x',
    '/find?q=%27%29%3A%2A%20%7C%20%28%27',
    '/cases/new?draft=../../x',
    '/join/%00',
    '/shop/audit?case=%27&before=-1&q=%25',
    '/library/profiles/%00',
    '/library/profiles/%00/export',
    '/library/profiles/%00/compare?a=%00&b=%00',
    '/library/profiles/tarn-gantry/compare?a=__proto__',
    '/library/profiles/new?from=%00',
    '/library/__proto__',
    '/bench/lamp?case=%00&system=%00&moment=__proto__&key=%00',
    '/bench/lamp?system=family:__proto__&moment=constructor',
    '/bench/ladder?case=%00&key=%00&ladder=__proto__&sheet=constructor',
    '/bench/ladder?case=99999999999&ladder=..%2f..%2fetc',
    '/bench/substitute?case=%00&ladder=%00&step=%00',
    '/bench/steps?case=1&ladder=__proto__&try=1e9',
    '/bench/steps?case=%00',
    '/bench/trials?case=-1',
    '/bench/bursts?case=-1&key=%00',
    '/bench/copy-check?case=%27',
    '/bench/meter/capture',
    '/bench/meter/capture?meter=%00__proto__',
    '/library/ladders/__proto__',
    '/library/ladders/%00',
    '/library/ladders/%00/export',
    '/cases/5/triage?at=%00__proto__',
    '/cases/1?if=%00:%ff:A&if=__proto__:constructor&if=lamp:__proto__:A&do=__proto__&fix=constructor&run=%00&key=%00&replaces=%27',
    '/cases/1/diagnosis?if=__proto__:constructor&if=%00',
    '/cases/1%00/diagnosis',
    '/cases/1/hand-over?as=%00',
    '/calls/%00',
    '/calls/new?call=%00&system=profile:constructor',
    '/calls/new?call=00000000-0000-0000-0000-000000000000&system=family:__proto__',
    '/library?q=%00%27%22%3Cscript%3E',
    '/cases/1%00/identify',
    '/sign-in?to=//evil.example',
  ])('GET %s is no 500', async (path) => {
    const answer = await server.get(path);
    expect(answer.status).toBeLessThan(500);
    expect(answer.headers.get('location') ?? '').not.toMatch(/evil|\.\.\/x/);
  });
});

test('the answer that looks far ahead comes from the worker, whole, and supposed findings leave no trace', async () => {
  const ask = async (query: string) =>
    (await (await server.get(`/cases/1/diagnosis${query}`)).json()) as { next: { kind: string }[]; weighed: { name: string; final: boolean } };
  const [a, b, supposed] = await Promise.all([ask(''), ask(''), ask('?if=lamp:refused:A')]);
  expect(a.weighed.final).toBe(true);
  expect(b).toEqual(a);
  expect(supposed.weighed.name).not.toBe(a.weighed.name);
  expect(await ask('')).toEqual(a);
  expect(await (await server.get('/cases/1')).text()).not.toContain('Nothing is recorded here');
});

test('after signing in, only addresses of this app are gone to', async () => {
  const sign = (to: string) =>
    fetch(`${server.url}/sign-in`, {
      method: 'POST',
      headers: { Origin: server.url },
      body: new URLSearchParams({ name: 'Maud Ferrow', password: 'grey herons wade at dusk', to }),
      redirect: 'manual',
    });
  for (const to of ['//evil.example', '/\\evil.example', 'https://evil.example', 'javascript:alert(1)', '/%0d%0aSet-Cookie:x'])
    expect([to, (await sign(to)).headers.get('location')]).toEqual([to, '/']);
  expect((await sign('/cases?state=closed')).headers.get('location')).toBe('/cases?state=closed');
});

test('the cookie can’t be read by scripts, is not sent from elsewhere, and behind TLS is bound to the host', async () => {
  const sign = (url: string, headers: Record<string, string>) =>
    fetch(`${url}/sign-in`, {
      method: 'POST',
      headers,
      body: new URLSearchParams({ name: 'Maud Ferrow', password: 'grey herons wade at dusk' }),
      redirect: 'manual',
    });
  expect((await sign(server.url, { Origin: server.url })).headers.get('set-cookie')).toMatch(
    /^bloodstone=[^;]+; Max-Age=604800; Path=\/; HttpOnly; SameSite=Lax$/,
  );
  const folder = mkdtempSync(join(tmpdir(), 'bloodstone-tls-'));
  const secure = await serve(folder, { BLOODSTONE_URL: 'https://shop.example', BLOODSTONE_PROXIES: '127.0.0.1', BLOODSTONE_DEMO: '1', PORT: '4791' });
  try {
    const answer = await fetch('http://127.0.0.1:4791/sign-in', {
      method: 'POST',
      headers: { Origin: 'https://shop.example', 'X-Forwarded-Host': 'shop.example' },
      body: new URLSearchParams({ name: 'Ines Marrow', password: 'curlew over the flats' }),
      redirect: 'manual',
    });
    expect(answer.headers.get('set-cookie')).toMatch(/^__Host-bloodstone=[^;]+; Max-Age=604800; Path=\/; HttpOnly; Secure; SameSite=Lax$/);
    expect(answer.headers.get('strict-transport-security')).toMatch(/max-age=/);
  } finally {
    await secure.kill();
    rmSync(folder, { recursive: true, force: true });
  }
});

test('a demo never opens on a shop’s own data', async () => {
  const cookie = server.cookie;
  await server.stop();
  await expect(serve(data, { BLOODSTONE_DEMO: '1', BLOODSTONE_CLOCK: 'manual' })).rejects.toThrow(
    'This folder holds a shop’s own data, not the demo.',
  );
  server = await serve(data, { BLOODSTONE_CLOCK: 'manual' });
  server.cookie = cookie;
  expect(await (await server.get('/cases/1/report')).text()).toContain('It does not start.');
  const page = await (await fetch(`${server.url}/sign-in`)).text();
  expect(page).not.toContain('Demo users');
  expect(page).not.toContain('curlew');
});

test('after all of it: what is in the database is what people entered', async () => {
  await server.stop();
  const database = await openDatabase({ folder: data, migrations: 'server/db/migrations' });
  const { db } = database;
  expect((await db.select().from(caseFile)).length).toBe(2 + nasty.length);
  expect((await db.select().from(caseKey)).length).toBe(2 + nasty.length);
  expect(await db.select().from(evidence)).toEqual([]);
  expect(await db.select().from(photo)).toEqual([]);
  expect((await db.select().from(person)).map((p) => p.name)).toEqual(['Maud Ferrow']);
  expect(
    (await db.select({ action: audit.action }).from(audit)).map((l) => l.action).filter((a) => !/signed in|case opened|shop set up/.test(a)),
  ).toEqual(['case parked', 'case reopened']);
  await database.close();
  server = await serve(data);
});
