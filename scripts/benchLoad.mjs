// `npm run bench -- load`: two hundred runs in work, and twenty browsers with live updates that read pages and answer steps for ten minutes, in turn with a
// bare Express route. Browsers here are what one asks of the server: a live line, a page again and again, answers; no page is drawn.
import { spawn } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { start } from './server.mjs';

const runs = 200;
const browsers = 20;
/** How long it goes on, and what is not counted before, seconds. */
const [seconds, warmUp] = [Number(process.env.LOAD_SECONDS ?? 600), 60];
/** Each browser reads a page so often and answers a step so often, seconds; live news is heard all the time. */
const [readEvery, answerEvery] = [3, 15];
/** The most that the slowest of a hundred pages takes beyond that of the bare route, milliseconds; the most that memory grows, as a share. */
const [beyondGoal, growthGoal] = [100, 0.1];

/** How long a page rests before it looks again, and how much longer by chance (app/ui/concerns.ts), milliseconds. */
const rests = { all: [0, 0], elsewhere: [500, 300], timers: [2000, 2000] };

const sleep = (ms) => new Promise((resolve) => setTimeout(resolve, ms));
const quantile = (list, p) => [...list].sort((a, b) => a - b)[Math.min(list.length - 1, Math.floor(list.length * p))];
/** Memory of the server's process, MB. */
const residentOf = (pid) => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))[1]) / 1024;

export async function loadSection() {
  const folder = mkdtempSync(join(tmpdir(), 'bloodstone-load-'));
  const server = await start(folder);
  const cookie = await server.comeIn('Ines Marrow');
  const bare = await bareExpress();
  const post = (path, body) =>
    fetch(server.url + path, {
      method: 'POST',
      headers: { Origin: server.url, Cookie: cookie },
      body: new URLSearchParams({ commandId: randomUUID(), ...body }),
      redirect: 'manual',
    });
  const open = [];
  for (let i = 0; i < runs; i += 1) {
    const keys = { 'keys.0.tag': 'A', 'keys.0.here': 'on' };
    const opened = await post('/cases/new', {
      intent: 'open',
      vehicle: `Dunmore Scree, ${i + 1}`,
      words: 'It does not start.',
      system: 'family:rearm-fob',
      ...keys,
    });
    const path = opened.headers.get('location');
    await post(path, { intent: 'authority', kind: 'registration', note: 'papers seen' });
    const began = await post(path, { intent: 'startRun', procedure: 'rearm-by-radio' });
    if (began.status !== 302) throw new Error(`A run did not start: ${began.status}`);
    const run = began.headers.get('location');
    open.push({ case: path, path: run, id: Number(run.split('/').at(-1)), seq: 1 });
  }
  console.log(`${open.length} runs in work`);

  const from = performance.now();
  const passed = () => (performance.now() - from) / 1000;
  const [pages, looks, answers, own, memory, errors] = [[], [], [], [], [], []];
  let heard = 0;
  const timed = async (list, ask) => {
    const began = performance.now();
    const response = await ask();
    await response.arrayBuffer();
    if (response.status !== 200) errors.push(response.status);
    if (passed() > warmUp) list.push(performance.now() - began);
  };
  /** As a page does (app/ui/clock.tsx, app/ui/concerns.ts): one look at a time, the timers alone for what is of another case. */
  const lookAgain = (at) => {
    let [wanted, busy, looked, answerMs] = ['nothing', false, -Infinity, 0];
    const look = async () => {
      if (busy || wanted === 'nothing') return;
      busy = true;
      const [rest, spread] = rests[wanted];
      const longer = wanted === 'all' ? rest : Math.max(rest, 5 * answerMs);
      const wait = Math.max(0, looked + longer - performance.now()) + Math.random() * spread;
      if (wait > 0) await sleep(wait);
      looked = performance.now();
      const timers = wanted === 'timers';
      wanted = 'nothing';
      const ask = (path) => fetch(server.url + path, { headers: { Cookie: cookie } });
      await ask('/clock').then((r) => r.arrayBuffer());
      answerMs = performance.now() - looked;
      const path = at() === '/' ? '/_root' : at();
      await timed(looks, () => ask(`${path}.data${timers ? '?_routes=root%2Cshell%2Fshell' : ''}`));
      busy = false;
      await look();
    };
    return {
      hear(change) {
        const own = /^\/cases\/(\d+)/.exec(at())?.[1];
        const of = change.what === 'run' ? change.caseId : change.what === 'case' ? change.id : undefined;
        if (change.what === 'plan' && at() !== '/') return;
        if (of === undefined || of === Number(own)) wanted = 'all';
        else if (own === undefined && wanted !== 'all') wanted = 'elsewhere';
        else if (wanted === 'nothing') wanted = 'timers';
        look().catch((error) => passed() < seconds && errors.push(error.message));
      },
    };
  };
  const browser = async (n) => {
    const mine = open.filter((_, i) => i % browsers === n);
    const live = await fetch(`${server.url}/live`, { headers: { Cookie: cookie, Accept: 'text/event-stream' } });
    let at = '/';
    const looking = lookAgain(() => at);
    // Until the server ends.
    void (async () => {
      for await (const piece of live.body)
        for (const [, data] of String(Buffer.from(piece)).matchAll(/event: change\ndata: (.*)\n/g)) {
          heard += 1;
          looking.hear(JSON.parse(data));
        }
    })().catch(() => {});
    await sleep((readEvery * 1000 * n) / browsers);
    let answered = passed();
    for (let i = 0; passed() < seconds; i += 1) {
      const car = mine[i % mine.length];
      const path = (at = ['/', car.path, car.case, '/cases'][i % 4]);
      await timed(own, () => fetch(bare.url));
      await timed(pages, () => fetch(server.url + path, { headers: { Cookie: cookie } }));
      if (passed() - answered > answerEvery) {
        answered = passed();
        const clock = (await (await fetch(`${server.url}/clock`, { headers: { Cookie: cookie } })).json()).now;
        const command = { id: randomUUID(), expectedSeq: car.seq, occurredAt: clock, type: 'interrupt', what: 'left', note: `answer ${i}` };
        const began = performance.now();
        const answer = await fetch(`${server.url}/runs/${car.id}/commands`, {
          method: 'POST',
          headers: { Origin: server.url, Cookie: cookie, 'Content-Type': 'application/json' },
          body: JSON.stringify(command),
        });
        const body = await answer.json();
        if (answer.status === 200) car.seq = body.seq;
        else errors.push(`${answer.status} ${JSON.stringify(body).slice(0, 200)}`);
        if (passed() > warmUp) answers.push(performance.now() - began);
      }
      await sleep(readEvery * 1000);
    }
  };
  const watching = (async () => {
    for (; passed() < seconds; await sleep(10_000)) if (passed() > warmUp) memory.push(residentOf(server.pid));
  })();
  await Promise.all(Array.from({ length: browsers }, (_, n) => browser(n)));
  await watching;
  await server.stop();
  bare.stop();
  rmSync(folder, { recursive: true, force: true });

  const third = Math.floor(memory.length / 3);
  const mean = (list) => list.reduce((a, b) => a + b, 0) / list.length;
  const [first, last] = [mean(memory.slice(0, third)), mean(memory.slice(-third))];
  const growth = last / first - 1;
  const [page99, bare99] = [quantile(pages, 0.99), quantile(own, 0.99)];
  console.log(
    `Pages p50 ${quantile(pages, 0.5).toFixed(0)}, p99 ${page99.toFixed(0)} ms; bare p99 ${bare99.toFixed(0)} ms; memory ${first.toFixed(0)} to ${last.toFixed(0)} MB`,
  );
  for (const error of errors.slice(0, 5)) console.error(`Error: ${error}`);
  return {
    missed: [
      ...(page99 - bare99 >= beyondGoal ? ['pages under load'] : []),
      ...(growth > growthGoal ? ['memory under load'] : []),
      ...(errors.length > 0 ? ['no error under load'] : []),
    ],
    markdown: `## Load

${runs} runs in work, ${browsers} browsers with live updates for ${(seconds / 60).toFixed(0)} min: each reads a page every ${readEvery} s (Floor, run, case, list, in turn with a bare route) and answers a step every ${answerEvery} s. Browsers are what one asks of
the server, nothing is drawn: a page looks again when it hears of a change, at the timers alone for another case. ${pages.length} pages, ${answers.length} answers, ${heard} changes heard, ${looks.length} looks; ${errors.length} errors.

| | p50, ms | p99, ms | bare route p99, ms | goal |
| --- | ---: | ---: | ---: | --- |
| pages | ${quantile(pages, 0.5).toFixed(1)} | ${page99.toFixed(0)} | ${bare99.toFixed(0)} | under ${beyondGoal} ms beyond the bare route |
| looks after a change | ${quantile(looks, 0.5).toFixed(1)} | ${quantile(looks, 0.99).toFixed(0)} | | |
| answers | ${quantile(answers, 0.5).toFixed(1)} | ${quantile(answers, 0.99).toFixed(0)} | | |

Memory of the server: ${first.toFixed(0)} MB in the first third of that time, ${last.toFixed(0)} MB in the last, ${growth >= 0 ? '+' : ''}${(100 * growth).toFixed(1)} % (goal: at most ${(100 * growthGoal).toFixed(0)} % more).
`,
  };
}

async function bareExpress() {
  const child = spawn(process.execPath, ['scripts/bareExpress.mjs'], { stdio: ['ignore', 'pipe', 'inherit'] });
  process.once('exit', () => child.kill());
  return new Promise((resolve) =>
    child.stdout.once('data', (line) => resolve({ url: `http://127.0.0.1:${String(line).trim()}/`, stop: () => child.kill() })),
  );
}
