import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { demoPeople } from '../demo/demoPeople';
import { serve, type ServerProcess } from './process.testing';

/** Statements that a page and an act may ask of the database. */
const most = { page: 6, act: 8 } as const;

let server: ServerProcess;
const data = mkdtempSync(join(tmpdir(), 'bloodstone-statements-'));
beforeAll(async () => {
  server = await serve(data, { BLOODSTONE_DEMO: '1', BLOODSTONE_CLOCK: 'manual' });
  const lead = demoPeople.find((p) => p.role === 'owner')!;
  await server.comeIn(lead.name, lead.password);
});
afterAll(async () => {
  await server?.kill();
  rmSync(data, { recursive: true, force: true });
});

const asked = async () => ((await (await fetch(`${server.url}/test/statements`)).json()) as { asked: number }).asked;
/** As a page sends it: for its data, without a page being rendered. */
const act = (path: string, fields: Record<string, string>) =>
  fetch(`${server.url}${path}.data`, {
    method: 'POST',
    headers: { Cookie: server.cookie, Origin: server.url },
    body: new URLSearchParams({ commandId: randomUUID(), ...fields }),
    redirect: 'manual',
  });
const counted = async (work: () => Promise<Response>) => {
  const before = await asked();
  const answer = await work();
  await answer.arrayBuffer();
  return { status: answer.status, statements: (await asked()) - before };
};

test.each([
  '/',
  '/cases',
  '/cases?state=closed&q=gantry',
  '/cases/new?draft=statements',
  '/cases/5',
  '/cases/5/triage',
  '/cases/5/intake',
  '/cases/5/identify',
  '/cases/5/verify',
  '/cases/5/hand-over',
  '/cases/5/keys/A',
  '/cases/5/labels',
  '/cases/4/runs/2',
  '/cases/3/report',
  '/cases/5/diagnosis',
  '/calls',
  '/calls/new?call=00000000-0000-4000-8000-000000000000',
  '/calls/1',
  '/find?q=tarn',
  '/bench',
  '/bench/lamp?case=5',
  '/bench/ladder?case=8',
  '/bench/substitute?case=8',
  '/bench/steps?case=8',
  '/bench/trials?case=5',
  '/bench/bursts?case=5',
  '/bench/battery',
  '/bench/copy-check?case=5',
  '/bench/memory?case=5',
  '/library',
  '/library/transponder-dwell',
  '/library/codes?codes=P0562,U0100',
  '/cases/5/codes',
  '/cases/5/vault',
  '/shop/vault',
  '/shop/backups',
  '/shop/prices',
  '/shop/learned',
  '/cases/5/options',
  '/cases/5/papers',
  '/cases/5/after',
  '/cases/4/replacement',
  '/library/ladders',
  '/library/ladders/veskar-twelve',
  '/library/layouts',
  '/library/layouts/dunmore-five',
  '/library/profiles/tarn-gantry',
  '/library/profiles/tarn-gantry/compare',
  '/practice',
  '/shop',
  '/shop/me',
  '/shop/meters',
  '/shop/people',
  '/shop/devices',
  '/shop/addresses',
  '/shop/audit',
])('%s, after its case was changed: at most six statements', async (path) => {
  await (await server.get(path)).arrayBuffer();
  for (const id of [3, 4, 5, 8]) await act(`/cases/${id}`, { intent: 'counter', counter: 'odometer', unit: 'km', phase: 'before', value: '52000' });
  const { status, statements } = await counted(() => server.get(path));
  expect(status).toBe(200);
  expect({ path, statements: Math.min(statements, most.page) }).toEqual({ path, statements });
});

test('styles and scripts of each answer stand under its own nonce', async () => {
  const seen = new Set<string>();
  for (const path of ['/', '/cases/5', '/cases/new?draft=statements', '/']) {
    const answer = await server.get(path);
    const nonce = /'nonce-([^']+)'/.exec(answer.headers.get('content-security-policy')!)![1]!;
    seen.add(nonce);
    const tags = [...(await answer.text()).matchAll(/<(?:style|script)\b[^>]*>/g)].map((m) => m[0]);
    expect(tags.length).toBeGreaterThan(3);
    expect(tags.filter((t) => !t.includes(`nonce="${nonce}"`))).toEqual([]);
  }
  expect(seen.size).toBe(4);
});

test('a page that nothing has changed asks nothing', async () => {
  for (let i = 0; i < 2; i += 1) await (await server.get('/cases/5')).arrayBuffer();
  expect(await counted(() => server.get('/cases/5'))).toEqual({ status: 200, statements: 0 });
});

test('a tap in a run: at most eight statements', async () => {
  for (let seq = 1; seq < 60; seq += 1) {
    const { status, statements } = await counted(async () =>
      server.command(2, { id: randomUUID(), type: 'interrupt', what: 'left', note: '', expectedSeq: seq, occurredAt: await server.clock() }),
    );
    // Until the number of events is met, each is refused because somebody was faster.
    if (status === 409) continue;
    expect(status).toBe(200);
    expect(statements).toBeLessThanOrEqual(most.act);
    return;
  }
  throw new Error('no tap was taken');
});

test.each([
  ['what a test showed', '/cases/5', { intent: 'evidence', test: 'lamp', outcome: 'refused', key: 'A' }],
  ['a counter', '/cases/5', { intent: 'counter', counter: 'odometer', unit: 'km', phase: 'before', value: '52001' }],
  ['a scan', '/cases/5/codes', { intent: 'scan', text: 'ECM\nP0562 stored', phase: 'before' }],
  ['a repair', '/cases/5', { intent: 'repairAction', kind: 'repair', fault: 'coverOrChip', result: 'fails' }],
])('an act, %s: at most eight statements', async (_what, path, fields) => {
  const { status, statements } = await counted(() => act(path, fields));
  expect([200, 202, 204, 400]).toContain(status);
  expect(statements).toBeLessThanOrEqual(most.act);
});
