import { mkdtempSync, existsSync, mkdirSync } from 'node:fs';
import { randomUUID } from 'node:crypto';
import { start } from './server.prof.tmp.mjs';
const folder = '/tmp/load200';
const fresh = !existsSync(folder);
mkdirSync(folder, { recursive: true });
const server = await start(folder);
const cookie = await server.comeIn('Ines Marrow');
const post = (path, body) => fetch(server.url + path, { method: 'POST', headers: { Origin: server.url, Cookie: cookie }, body: new URLSearchParams({ commandId: randomUUID(), ...body }), redirect: 'manual' });
let last; const tot = [];
if (fresh) for (let i = 0; i < 200; i += 1) {
  const opened = await post('/cases/new', { intent: 'open', vehicle: `Dunmore Scree, ${i + 1}`, words: 'It does not start.', system: 'family:rearm-fob', 'keys.0.tag': 'A', 'keys.0.here': 'on' });
  const path = opened.headers.get('location');
  await post(path, { intent: 'authority', kind: 'registration', note: 'papers seen' });
  const began = await post(path, { intent: 'startRun', procedure: 'rearm-by-radio' });
  last = began.headers.get('location');
}
console.log(last);
const runPath = last ?? process.env.RUN;
let seq = Number(process.env.SEQ ?? 1);
const id = Number(runPath.split('/').at(-1));
const time = async (name, ask, n = 15) => {
  const list = [];
  for (let i = 0; i < n; i += 1) { const t = performance.now(); const r = await ask(); const b = await r.arrayBuffer(); list.push(performance.now() - t); if (i === 0) console.log(name, r.status, b.byteLength); }
  list.sort((a, b) => a - b); console.log(name, 'median', list[n >> 1].toFixed(1), 'max', list.at(-1).toFixed(0));
};
const get = (p) => fetch(server.url + p, { headers: { Cookie: cookie } });
const command = async () => {
  const clock = (await (await get('/clock')).json()).now;
  const a = await fetch(`${server.url}/runs/${id}/commands`, { method: 'POST', headers: { Origin: server.url, Cookie: cookie, 'Content-Type': 'application/json' }, body: JSON.stringify({ id: randomUUID(), expectedSeq: seq, occurredAt: clock, type: 'interrupt', what: 'left', note: 'x' }) });
  const b = await a.clone().json(); if (a.status === 200) seq = b.seq; else console.log(a.status, b); return a;
};
await time('timers', () => get(`${runPath}.data?_routes=root%2Cshell%2Fshell`), 60);
console.log('SEQ', seq);
await server.stop();
