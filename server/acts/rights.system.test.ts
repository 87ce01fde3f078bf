import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { demoPeople } from '../demo/demoPeople';
import { roles, type Role } from '../db/schema';
import { type PageRights, pages, rights } from './rights';
import { serve, type ServerProcess } from '../http/process.testing';

/** The addresses as the framework itself has them in the built server. */
function manifest(): { address: string; loads: boolean; acts: boolean }[] {
  const script = `import('./build/server/index.js').then(async (m) => console.log(JSON.stringify(await m.routeManifest())))`;
  const { stdout, stderr } = spawnSync(process.execPath, ['-e', script], {
    encoding: 'utf8',
    env: { ...process.env, NODE_OPTIONS: '', LOG_LEVEL: 'silent' },
  });
  if (stdout === '') throw new Error(stderr);
  return JSON.parse(stdout.trim().split('\n').at(-1)!) as { address: string; loads: boolean; acts: boolean }[];
}

const routes = manifest();
const table: Readonly<Record<string, PageRights>> = pages;
/** An address that exists in the demo, for each of the table. */
const example = (address: string) =>
  address
    .replace(':caseId', '1')
    .replace(':runId', '1')
    .replace(':tag', 'A')
    .replace(':photoId', '00000000-0000-4000-8000-000000000000')
    .replace(':code', 'ABCDEF')
    .replace(':token', 'none')
    .replace('/*', '/nowhere');

test('the table and the router name the same addresses', () => {
  expect(routes.length).toBeGreaterThan(30);
  expect(routes.map((r) => r.address).sort()).toEqual(Object.keys(pages).sort());
});
test('every action of the router is in the table with its acts, and no other', () => {
  expect(
    routes
      .filter((r) => r.acts)
      .map((r) => r.address)
      .sort(),
  ).toEqual(
    Object.keys(table)
      .filter((a) => table[a]!.acts)
      .sort(),
  );
});

describe('each page and each act, without a session and with each role', () => {
  const data = mkdtempSync(join(tmpdir(), 'bloodstone-rights-'));
  const cookies = new Map<Role, string>();
  let server: ServerProcess;
  beforeAll(async () => {
    server = await serve(data, { BLOODSTONE_DEMO: '1', BLOODSTONE_CLOCK: 'manual' });
    for (const { name, role, password } of demoPeople) cookies.set(role, await server.comeIn(name, password));
  });
  afterAll(async () => {
    await server?.kill();
    rmSync(data, { recursive: true, force: true });
  });
  const get = (address: string, cookie = '') => fetch(server.url + example(address), { headers: { Cookie: cookie }, redirect: 'manual' });
  /** As a page sends it: for its data, without a page being rendered. */
  const post = (address: string, intent: string, cookie = '') =>
    fetch(server.url + actAddress(address), {
      method: 'POST',
      headers: { Cookie: cookie, Origin: server.url },
      body: new URLSearchParams({ intent, commandId: '!' }),
      redirect: 'manual',
    });
  /** Data of the first page has an address of its own, since nothing stands before the suffix. */
  const actAddress = (address: string) => (address === '/' ? '/_root.data?index' : `${example(address)}${table[address]!.alone ? '' : '.data'}`);
  const allowed = (role: Role, right: string) => roles.indexOf(role) >= roles.indexOf(rights[right as keyof typeof rights]);

  const addresses = routes.filter((r) => r.loads).map((r) => r.address);
  test.each(addresses)('GET %s', async (address) => {
    const { see } = table[address]!;
    const open = await get(address);
    if (see === 'anyone') expect([address, open.status < 500 && open.status !== 401 && open.status !== 403]).toEqual([address, true]);
    else expect([address, open.status, open.headers.get('location')?.split('?')[0]]).toEqual([address, 302, '/sign-in']);
    for (const role of roles) {
      const { status } = await get(address, cookies.get(role));
      if (see !== 'anyone' && !allowed(role, see)) expect([address, role, status]).toEqual([address, role, 403]);
      else expect([address, role, [200, 302, 404, 405].includes(status)]).toEqual([address, role, true]);
    }
  });

  const acts = Object.entries(table).flatMap(([address, page]) =>
    Object.entries(page.acts ?? {}).map(([intent, right]) => [address, intent, right] as const),
  );
  test.each(acts.filter(([address]) => address !== '/session'))('POST %s: %s', async (address, intent, right) => {
    const nobody = await post(address, intent);
    if (right === 'anyone') expect([202, 400, 403]).toContain(nobody.status);
    else expect([address, intent, nobody.status]).toEqual([address, intent, 401]);
    for (const role of roles) {
      const { status } = await post(address, intent, cookies.get(role));
      // The form is empty: whoever may do the act is told so, whoever may not never gets that far.
      if (right !== 'anyone' && !allowed(role, right)) expect([address, intent, role, status]).toEqual([address, intent, role, 403]);
      else
        expect([address, intent, role, [202, 400, 403, 404].includes(status) && !(status === 403 && right !== 'anyone')]).toEqual([
          address,
          intent,
          role,
          true,
        ]);
    }
  });

  test('a session may touch, lock and end itself, and is nothing afterwards', async () => {
    const { name, password } = demoPeople[0]!;
    expect((await post('/session', 'touch')).status).toBe(401);
    const cookie = await server.comeIn(name, password);
    expect((await post('/session', 'touch', cookie)).status).toBe(200);
    expect((await post('/session', 'signOut', cookie)).headers.get('location')).toBe('/sign-in');
    expect((await get('/', cookie)).headers.get('location')).toBe('/sign-in?to=%2F');
    expect((await post('/cases/:caseId', 'evidence', cookie)).status).toBe(401);
    expect((await fetch(`${server.url}/live`, { headers: { Cookie: cookie } })).status).toBe(401);
    expect((await post('/session', 'signOut')).headers.get('location')).toBe('/sign-in');
  });

  test('an act posted as a whole page without a session leads to the sign-in', async () => {
    const answer = await fetch(`${server.url}/cases/1`, {
      method: 'POST',
      headers: { Origin: server.url },
      body: new URLSearchParams({ intent: 'park' }),
      redirect: 'manual',
    });
    expect([answer.status, answer.headers.get('location')]).toEqual([302, '/sign-in?to=%2Fcases%2F1']);
  });
});
