import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { strToU8, zipSync } from 'fflate';
import { serve, type ServerProcess } from './process.testing';

/** Names that would reach what every object of the server inherits from, by each way that data comes in. None changes anything for anybody else. */

const data = mkdtempSync(join(tmpdir(), 'bloodstone-prototype-'));
let server: ServerProcess;
let count = 0;
const commandId = () => `proto-${String((count += 1)).padStart(6, '0')}`;

beforeAll(async () => {
  server = await serve(data);
  await server.setUp();
});
afterAll(async () => {
  await server?.kill();
  rmSync(data, { recursive: true, force: true });
});
afterEach(async () => {
  for (const path of ['/', '/cases', '/cases/new', '/library', '/shop', '/bench'])
    expect([path, (await server.get(path)).status < 400]).toEqual([path, true]);
  const signIn = await fetch(`${server.url}/sign-in`);
  expect(signIn.status).toBe(200);
});

const send = (path: string, body: BodyInit, headers: Record<string, string> = {}) =>
  fetch(server.url + path, {
    method: 'POST',
    headers: { Origin: server.url, ...(path === '/sign-in' ? {} : { Cookie: server.cookie }), ...headers },
    body,
    redirect: 'manual',
  });

const names = [
  'name.__proto__.__proto__.get',
  'name.__proto__.get',
  '__proto__.get',
  'constructor.prototype.get',
  'a.constructor.prototype.get',
  'a.0.__proto__.get',
  'ask.prototype',
  '__proto__',
  'constructor',
  'prototype',
];

describe('a field of a form', () => {
  test.each(names)('%s, sent by nobody', async (name) => {
    const answer = await fetch(`${server.url}/sign-in`, {
      method: 'POST',
      headers: { Origin: server.url },
      body: new URLSearchParams([
        ['name', 'Maud Ferrow'],
        [name, 'x'],
      ]),
      redirect: 'manual',
    });
    expect(answer.status).toBe(400);
  });

  test.each(names)('%s, in several parts', async (name) => {
    const form = new FormData();
    form.append('name', 'Maud Ferrow');
    form.append(name, 'x');
    expect((await fetch(`${server.url}/sign-in`, { method: 'POST', headers: { Origin: server.url }, body: form })).status).toBe(400);
  });

  test.each(names)('%s, beside a file', async (name) => {
    const form = new FormData();
    form.append('commandId', commandId());
    form.append(name, 'x');
    form.append('file', new Blob([Buffer.from('kind: profile')]), 'a.yaml');
    expect((await send('/library/import', form)).status).toBe(400);
  });

  test('a field that is text and a list at once is refused', async () => {
    const fields = new URLSearchParams([
      ['name', 'Maud Ferrow'],
      ['name.0', 'x'],
    ]);
    expect((await send('/sign-in', fields)).status).toBe(400);
  });
});

test.each([
  '{"name":"x","password":"y","__proto__":{"get":"x"}}',
  '{"name":{"__proto__":{"get":"x"}},"password":"y"}',
  '{"name":"x","password":"y","constructor":{"prototype":{"get":"x"}}}',
  '{"name":[{"prototype":1}],"password":"y"}',
])('JSON: %s', async (body) => {
  expect((await send('/sign-in', body, { 'Content-Type': 'application/json' })).status).toBe(400);
});

test('a draft keeps no such name', async () => {
  const body = `{"intent":"keepDraft","draft":"abcdefgh","fields":{"a":{"__proto__":{"get":"x"}}}}`;
  expect((await send('/cases/drafts', body, { 'Content-Type': 'application/json' })).status).toBe(400);
});

test.each(['__proto__', 'constructor', 'prototype', '__proto__.get'])('an address: %s', async (name) => {
  const at = encodeURIComponent(name);
  for (const path of [
    `/cases?${at}=x`,
    `/cases?state=${at}`,
    `/library/${at}`,
    `/library/profiles/${at}`,
    `/library/ladders/${at}`,
    `/find?q=${at}`,
  ]) {
    const answer = await server.get(path);
    expect([path, answer.status < 500]).toEqual([path, true]);
  }
});

test.each(['__proto__: {get: x}', 'constructor: {prototype: {get: x}}', 'a: {prototype: 1}', 'a: [{__proto__: 1}]'])('YAML: %s', async (line) => {
  const form = new FormData();
  form.append('commandId', commandId());
  form.append('text', `kind: profile\n${line}`);
  const answer = await send('/library/import', form);
  expect(answer.status).toBe(400);
  expect(await answer.text()).toMatch(/can’t be a field name/);
});

test('a case in a ZIP', async () => {
  const form = new FormData();
  form.append('commandId', commandId());
  form.append(
    'file',
    new Blob([zipSync({ 'case.json': strToU8('{"form":"bloodstone case","case":{"__proto__":{"get":"x"}}}') }) as BlobPart]),
    'a.zip',
  );
  const answer = await send('/cases/import', form);
  expect(answer.status).toBe(400);
  expect(await answer.text()).toMatch(/can’t be a field name/);
});
