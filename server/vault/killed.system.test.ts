import { mkdtempSync, readdirSync, readFileSync, renameSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { spawnSync } from 'node:child_process';
import { often } from '../../content/often.testing';
import { serve, type ServerProcess, shortIntake } from '../http/process.testing';

/** The vault of the built server: killed while it seals, searched on the disk, without its master key, and with another one. */

const data = mkdtempSync(join(tmpdir(), 'bloodstone-vault-'));
let server: ServerProcess;
let cookie = '';
let count = 0;
const commandId = () => `vault-${String((count += 1)).padStart(6, '0')}`;
const start = async () => {
  server = await serve(data);
  server.cookie = cookie;
};
beforeAll(async () => {
  server = await serve(data);
  await server.setUp();
  ({ cookie } = server);
  expect((await server.post('/cases/new', { commandId: commandId(), ...shortIntake })).status).toBeLessThan(400);
  expect((await server.post('/cases/1', { commandId: commandId(), intent: 'authority', kind: 'registration', note: '' })).status).toBeLessThan(400);
});
afterAll(async () => {
  await server?.kill();
  rmSync(data, { recursive: true, force: true });
});

const secretOf = (n: number) => `C0FFEE${String(n).padStart(4, '0')}BEEF77AA55`;
const seal = (n: number, id = commandId()) =>
  server.post('/cases/1/vault', {
    commandId: id,
    intent: 'seal',
    kind: 'secret',
    name: `Item ${n}`,
    reason: 'Killed in between.',
    text: secretOf(n),
    again: secretOf(n),
  });

/** Names of what the page shows, with where each is opened. */
async function listed(): Promise<Map<string, string>> {
  const html = await (await server.get('/cases/1/vault')).text();
  const found = new Map<string, string>();
  for (const [, id] of html.matchAll(/name="item" value="([0-9a-f-]{36})"/g)) {
    const answer = await open(id!);
    found.set(answer.text, id!);
  }
  return found;
}
/** The same, of a case in which something is sealed. */
async function some(): Promise<Map<string, string>> {
  const all = await listed();
  if (all.size > 1) return all;
  for (const n of [70, 71]) expect((await seal(n)).status).toBeLessThan(400);
  return listed();
}
async function open(id: string): Promise<{ status: number; text: string }> {
  const answer = await fetch(`${server.url}/cases/1/vault/${id}`, {
    method: 'POST',
    headers: { Cookie: server.cookie, Origin: server.url, 'Content-Type': 'application/json' },
    body: JSON.stringify({ intent: 'open', reason: 'Is it whole?', commandId: commandId() }),
  });
  return { status: answer.status, text: await answer.text() };
}

/** Every file under the data folder that has one of these bytes in it. */
function filesWith(...plain: string[]): string[] {
  const every = readdirSync(data, { recursive: true, withFileTypes: true }).filter((f) => f.isFile());
  expect(every.length).toBeGreaterThan(20);
  return every.flatMap((f) => {
    const body = readFileSync(join(f.parentPath, f.name));
    return plain.some((p) => [Buffer.from(p), Buffer.from(Buffer.from(p).toString('base64'))].some((b) => body.includes(b))) ? [f.name] : [];
  });
}

/** Twenty in the whole run. */
const kills = often(20, 6);

test('killed at moments between sealing and its answer: each is sealed whole or not at all, and asked again it is there once', async () => {
  let whole = 0;
  for (let n = 0; n < kills; n += 1) {
    const id = commandId();
    const answered = seal(n, id).catch(() => null);
    // The first at once, the last after its answer, the others in between.
    if (n === kills - 1) await answered;
    else await new Promise((resolve) => setTimeout(resolve, (n * 80) / kills));
    await server.kill();
    await answered;
    await start();
    const before = await listed();
    if (before.has(secretOf(n))) whole += 1;
    // Nothing that does not open, and nothing that was not asked for.
    for (const text of before.keys()) expect(text).toMatch(/^C0FFEE00\d\dBEEF77AA55$/);
    expect((await seal(n, id)).status).toBeLessThan(400);
    const after = await listed();
    expect(after.has(secretOf(n))).toBe(true);
    expect(after.size).toBe(n + 1);
  }
  // The moments lay before and after it was written.
  expect([whole > 0, whole < kills]).toEqual([true, true]);
}, 900_000);

test('no plain byte of a secret is on the disk, before and after it is destroyed; its key goes', async () => {
  const all = await some();
  expect(filesWith(...all.keys())).toEqual([]);
  const [secret, id] = [...all][0]!;
  const keyFiles = () => readdirSync(join(data, 'vault/keys/1'));
  expect(keyFiles()).toContain(`${id}.key`);
  expect((await server.post('/cases/1/vault', { commandId: commandId(), intent: 'destroy', item: id, reason: 'Not needed.' })).status).toBeLessThan(
    400,
  );
  expect(keyFiles()).not.toContain(`${id}.key`);
  expect(await open(id)).toMatchObject({ status: 409, text: expect.stringContaining('destroyed') });
  expect(filesWith(secret)).toEqual([]);
  expect(server.log()).not.toContain(secret);
});

test('without its master key the vault is closed and everything else works; with it, it opens again', async () => {
  const [id] = [...(await some()).values()];
  await server.kill();
  renameSync(join(data, 'vault/master.key'), join(data, 'kept.key'));
  await start();
  expect(await open(id!)).toMatchObject({ status: 409, text: expect.stringContaining('The vault’s master key is missing') });
  const page = await server.get('/cases/1/vault');
  expect(page.status).toBe(200);
  expect(await page.text()).toContain('The vault is closed.');
  expect(
    (await server.post('/cases/1', { commandId: commandId(), intent: 'counter', counter: 'odometer', unit: 'km', phase: 'before', value: '52000' }))
      .status,
  ).toBeLessThan(400);
  await server.kill();
  renameSync(join(data, 'kept.key'), join(data, 'vault/master.key'));
  await start();
  expect((await open(id!)).status).toBe(200);
});

test('the master key is exchanged by a command, not while the server runs', async () => {
  const [id] = [...(await some()).values()];
  const rotate = () =>
    spawnSync('npm', ['run', '-s', 'vault', '--', 'rotate', join(data, 'vault')], { encoding: 'utf8', env: { ...process.env, NODE_OPTIONS: '' } });
  expect(rotate()).toMatchObject({ status: 1 });
  const before = readFileSync(join(data, 'vault/master.key'), 'utf8');
  await server.kill();
  const done = rotate();
  expect([done.status, done.stdout]).toEqual([
    0,
    expect.stringContaining('The master key is exchanged; 1 case has its keys wrapped by the new one.'),
  ]);
  expect(readFileSync(join(data, 'vault/master.key'), 'utf8')).not.toBe(before);
  await start();
  expect((await open(id!)).status).toBe(200);
});

test('a locked session, no session: nothing opens', async () => {
  const [id] = [...(await some()).values()];
  const present = 'grey herons wade at dusk';
  expect((await server.post('/shop/me', { commandId: commandId(), intent: 'pin', present, pin: '204060' })).status).toBeLessThan(400);
  server.cookie = '';
  const entered = await server.post('/sign-in', { name: 'Maud Ferrow', password: present, atBay: 'on' });
  server.cookie = entered.headers.get('set-cookie')!.split(';')[0]!;
  expect((await open(id!)).status).toBe(200);
  await server.post('/session', { intent: 'lock' });
  expect(await open(id!)).toMatchObject({ status: 401, text: expect.not.stringContaining('C0FFEE') });
  server.cookie = '';
  expect((await open(id!)).status).toBe(401);
});
