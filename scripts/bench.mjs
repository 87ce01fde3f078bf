// `npm run bench`: measures the built server with the demo world and writes docs/benchmarks.md. Each figure is a ratio to a bare Express route in a
// process of its own, asked in turn with the page in the same run, since the machine's own speed drifts.
import { get } from 'node:http';
import { spawn, spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { diagnosisSection } from './benchDiagnosis.mjs';
import { burstsSection } from './benchBursts.mjs';
import { loadSection } from './benchLoad.mjs';
import { weekSection } from './benchWeek.mjs';
import { prepare, root } from './prepare.mjs';
import { start } from './server.mjs';

prepare();
/** `npm run bench -- sync` measures only what it costs to be on the disk, and leaves the rest as it was. */
if (process.argv[2] === 'sync') {
  const path = join(root, 'docs/benchmarks.md');
  const before = readFileSync(path, 'utf8');
  const rest = before.replace(/## Acts on the disk\n[\s\S]*?(?=\n## )/, '').replace(/\n{3,}/g, '\n\n');
  writeFileSync(path, rest.replace('## Resistors in place of a key', `${syncSection()}\n## Resistors in place of a key`));
  process.exit(0);
}
/** `npm run bench -- runs` measures only the fold of a run and the reserve, and leaves the rest as it was. */
if (process.argv[2] === 'runs') {
  const path = join(root, 'docs/benchmarks.md');
  const { markdown, missed } = runsSection();
  const rest = readFileSync(path, 'utf8')
    .replace(/## Runs\n[\s\S]*?(?=\n## )/, '')
    .replace(/\n{3,}/g, '\n\n');
  writeFileSync(path, rest.replace('## Resistors in place of a key', `${markdown}\n## Resistors in place of a key`));
  for (const goal of missed) console.error(`Missed: ${goal}`);
  process.exit(missed.length === 0 ? 0 : 1);
}
/** `npm run bench -- memory`, `-- schedule`, `-- learning`, `-- load`, `-- bursts` or `-- week` measures only that section, and leaves the rest as it was. */
const parts = {
  memory: ['Memory files', memorySection],
  schedule: ['Several cars', scheduleSection],
  learning: ['Learning', learningSection],
  load: ['Load', loadSection],
  bursts: ['Bursts', burstsSection],
  week: ['A week', weekSection],
};
const part = parts[process.argv[2]];
if (part) {
  const [heading, measureIt] = part;
  const path = join(root, 'docs/benchmarks.md');
  const { markdown, missed } = await measureIt();
  const rest = readFileSync(path, 'utf8')
    .replace(new RegExp(`## ${heading}\\n[\\s\\S]*?(?=\\n## )`), '')
    .replace(/\n{3,}/g, '\n\n');
  writeFileSync(path, rest.replace('## The diagnosis', `${markdown}\n## The diagnosis`));
  for (const goal of missed) console.error(`Missed: ${goal}`);
  process.exit(missed.length === 0 ? 0 : 1);
}
/** `npm run bench -- diagnosis` measures only that, and leaves the rest as it was. */
if (process.argv[2] === 'diagnosis') {
  const path = join(root, 'docs/benchmarks.md');
  const { markdown, missed } = await diagnosisSection();
  writeFileSync(path, readFileSync(path, 'utf8').replace(/## The diagnosis[\s\S]*$/, markdown));
  for (const goal of missed) console.error(`Missed: ${goal}`);
  process.exit(missed.length === 0 ? 0 : 1);
}
const median = (list) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)];
const folder = mkdtempSync(join(tmpdir(), 'bloodstone-bench-'));
/** How often each start is made, in turn with the start of a bare Express server. */
const starts = 5;
/** The longest start, milliseconds: of the demo in an empty folder, of a folder that is there, of one with many cases. */
const startLimits = { first: 5000, again: 2000, many: 10_000 };
const startRows = [];
async function startsOf(name, limit, env = {}) {
  const [took, own] = [[], []];
  for (let i = 0; i < starts; i += 1) {
    let from = performance.now();
    const express = await bareExpress();
    own.push(performance.now() - from);
    express.stop();
    from = performance.now();
    const started = await start(folder, env);
    took.push(performance.now() - from);
    await started.stop();
  }
  startRows.push({ name, limit, took: median(took), bare: median(own) });
  console.log(`${name}: ${median(took).toFixed(0)} ms, a bare Express server ${median(own).toFixed(0)} ms`);
}
await startsOf('Demo, in an empty folder', startLimits.first, { BLOODSTONE_FRESH: '1' });
await startsOf('A folder that is there', startLimits.again);
const bare = (await bareExpress()).url;
let server = await start(folder);
let cookie = await server.comeIn('Ines Marrow');

/** Counted tries of each page, after the warm-up. */
const tries = 80;
const warmUp = 15;
/** The most a page may cost, in bare routes: those that show a case or a run, and any other. */
const limits = { case: 20, other: 12 };
const casePages = ['Floor', 'Floor, 60 open cases', 'Case', 'Run', 'Report'];
/** Open cases of the large Floor; people who read pages at once, and how many pages each reads. */
const openCases = 60;
const crowd = { clients: 20, each: 15 };
const pages = [
  ['Floor', '/'],
  ['Case', '/cases/5'],
  ['Run', '/cases/4/runs/2'],
  ['Cases', '/cases'],
  ['New case', '/cases/new?draft=benchmark'],
  ['Report', '/cases/3/report'],
  ['Triage', '/cases/5/triage'],
  ['Light on the bench', '/bench/lamp?case=5'],
  ['Resistor key', '/bench/ladder?case=8'],
  ['Find the value', '/bench/steps?case=8'],
  ['Call', '/calls/1'],
  ['Library', '/library'],
  ['System type', '/library/transponder-dwell'],
];
/** The list among many cases: a page of it, one far down, and searches for what is frequent and what is rare. */
const many = 100_000;
const listLimit = 40;
/** The best substitutes from E96, milliseconds. */
const ladderMs = 500;
const lists = [
  ['Open', '/cases'],
  ['Closed, newest first', '/cases?state=closed'],
  ['Closed, far down', '/cases?state=closed&after=40000'],
  ['Closed, by vehicle', '/cases?state=closed&sort=vehicle'],
  ['Search, a word of every seventh case', '/cases?state=closed&q=gantry'],
  ['Search, three words', '/cases?state=closed&q=refused+harbour+ochre'],
  ['Search, the beginning of a word', '/cases?state=closed&q=ve'],
  ['Search, nothing fits', '/cases?state=closed&q=zebra'],
  ['What we learned, a lesson for each case', '/shop/learned'],
];

/** The least that a request can cost here: an Express server that answers one short route, in a process of its own. */
async function bareExpress() {
  const child = spawn(process.execPath, ['scripts/bareExpress.mjs'], { cwd: root, stdio: ['ignore', 'pipe', 'inherit'] });
  process.once('exit', () => child.kill());
  return new Promise((resolve) =>
    child.stdout.once('data', (line) => resolve({ url: `http://127.0.0.1:${String(line).trim()}/`, stop: () => child.kill() })),
  );
}

async function once(path, address = server.url + path) {
  const from = performance.now();
  const response = await fetch(address, { headers: { Cookie: cookie }, redirect: 'manual' });
  await response.arrayBuffer();
  if (response.status !== 200) throw new Error(`${path} answered ${response.status}`);
  return performance.now() - from;
}

async function measure(path) {
  const [page, own] = [[], []];
  for (let i = 0; i < warmUp + tries; i += 1) {
    const [b, p] = [await once('bare', bare), await once(path)];
    if (i < warmUp) continue;
    own.push(b);
    page.push(p);
  }
  return { page: median(page), bare: median(own), ratio: median(page) / median(own) };
}

/** Pages a second that a crowd reads, each client one after the other, and how long the slowest of a hundred takes. */
async function read(ask) {
  const took = [];
  const from = performance.now();
  await Promise.all(
    Array.from({ length: crowd.clients }, async (_, client) => {
      for (let i = 0; i < crowd.each; i += 1) took.push(await ask(client + i));
    }),
  );
  took.sort((a, b) => a - b);
  return { perSecond: (took.length / (performance.now() - from)) * 1000, p99: took[Math.floor(took.length * 0.99)] };
}

/** Every script the page names in its head, as sent: compressed. */
async function scriptBytes(path) {
  const html = await (await fetch(server.url + path, { headers: { Cookie: cookie } })).text();
  const names = new Set(
    [...html.matchAll(/\/assets\/[\w.-]+\.js/g)]
      .map((m) => m[0])
      .filter((name) => new RegExp(`(href|src)="${name}"|import[^;]*"${name}"`).test(html)),
  );
  let bytes = 0;
  for (const name of names)
    await new Promise((sent) =>
      get(server.url + name, { headers: { 'Accept-Encoding': 'br, gzip' } }, (answer) => {
        answer.on('data', (piece) => (bytes += piece.length));
        answer.on('end', sent);
      }),
    );
  return { bytes, files: names.size };
}

const rows = [];
async function measured([name, path]) {
  const { page, bare: own, ratio } = await measure(path);
  const { bytes, files } = await scriptBytes(path);
  rows.push({ name, page, bare: own, ratio, bytes, files });
  console.log(
    `${name}: ${page.toFixed(1)} ms, ${ratio.toFixed(1)} times a bare route (${own.toFixed(2)} ms); scripts ${(bytes / 1024).toFixed(0)} kB in ${files} files`,
  );
}
for (const page of pages) await measured(page);
const read20 = await read((i) => once(pages[i % 6][1]));
const bare20 = await read(() => once('bare', bare));
console.log(
  `${crowd.clients} clients: ${read20.perSecond.toFixed(1)} pages a second, p99 ${read20.p99.toFixed(0)} ms; bare ${bare20.perSecond.toFixed(0)}`,
);
for (let i = 0; i < openCases; i += 1) await server.openCase(cookie, `Tarn Gantry pickup, number ${i + 1}`);
await measured(['Floor, 60 open cases', '/']);
await server.stop();

console.log(`Generating ${many} cases …`);
const made = spawnSync(process.execPath, ['--import', 'tsx', 'scripts/manyCases.ts', folder, String(many)], { stdio: 'inherit' });
if (made.status !== 0) process.exit(1);
await startsOf(`A folder with ${many.toLocaleString('en-GB')} cases`, startLimits.many);
server = await start(folder);
cookie = await server.comeIn('Ines Marrow');
const listRows = [];
for (const [name, path] of lists) {
  const measured = await measure(path);
  listRows.push({ name, ...measured });
  console.log(`${name}: ${measured.page.toFixed(1)} ms, ${measured.ratio.toFixed(1)} times a bare route (${measured.bare.toFixed(2)} ms)`);
}
await server.stop();
rmSync(folder, { recursive: true, force: true });

/** What it costs that an act is on the disk before it is answered. */
function syncSection() {
  const { status, stdout } = spawnSync(process.execPath, ['--import', 'tsx', 'scripts/benchSync.ts'], {
    cwd: root,
    encoding: 'utf8',
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  if (status !== 0) process.exit(1);
  const m = JSON.parse(stdout);
  console.log(`On the disk: ${(m.synced / m.plain).toFixed(1)} times an act that is not; ${m.syncs} syncs for ${m.acts} acts`);
  return `## Acts on the disk

A small act with its write-ahead record on the disk takes ${(m.synced / m.plain).toFixed(1)} times as long as one without (${m.synced.toFixed(1)} and ${m.plain.toFixed(1)} ms, in turn, medians of ${m.acts}); ${m.syncs} syncs for ${m.acts} acts. How long one
takes is the disk's own.
`;
}

/** A long run read from its events, and how long its battery holds. */
function runsSection() {
  const goal = 2;
  /** Milliseconds: the slowest plan of a replacement, and two hundred trouble codes explained. */
  const [planGoal, codesGoal] = [50, 20];
  const { status, stdout } = spawnSync(process.execPath, ['--import', 'tsx', 'scripts/benchRuns.ts'], {
    cwd: root,
    encoding: 'utf8',
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  if (status !== 0) process.exit(1);
  const m = JSON.parse(stdout);
  console.log(`Fold of ${m.events} events: ${m.folding.toFixed(2)} ms, ${(m.folding / m.reading).toFixed(2)} times reading them as JSON`);
  return {
    missed: [
      ...(m.folding >= goal ? ['fold of a run'] : []),
      ...(m.planning >= planGoal ? ['plan of a replacement'] : []),
      ...(m.explaining >= codesGoal ? ['trouble codes explained'] : []),
    ],
    markdown: `## Runs

The fold of a run with ${m.events} events takes ${m.folding.toFixed(2)} ms (goal: under ${goal}), ${(m.folding / m.reading).toFixed(2)} times as long as reading the same events as JSON (${m.reading.toFixed(2)} ms, in turn). A battery's reserve takes
${m.reserve.toFixed(1)} ms by itself, and ${m.ofRun.toFixed(1)} ms for that run; it is calculated once for each event, not for each second.

The slowest of ${m.plans} plans, up to three parts of every system type replaced at once, takes ${m.planning.toFixed(1)} ms (goal: under ${planGoal}), ${(m.planning / m.reading).toFixed(2)} times as long as reading those events. ${m.codes} trouble codes are explained in
${m.explaining.toFixed(1)} ms (goal: under ${codesGoal}), ${(m.explaining / m.reading).toFixed(2)} times as long.
`,
  };
}

/** Substitutes for a step: the search against every combination there is. */
function ladderSection() {
  const { status, stdout } = spawnSync(process.execPath, ['--import', 'tsx', 'scripts/benchLadder.ts'], {
    cwd: root,
    encoding: 'utf8',
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  if (status !== 0) process.exit(1);
  const m = JSON.parse(stdout);
  const missed = m.allMs >= ladderMs || m.window >= ladderMs ? ['substitutes from E96'] : [];
  console.log(`Substitutes: ${(m.search / m.brute).toFixed(4)} of brute force over ${m.kinds} kinds; ${m.allMs.toFixed(0)} ms over ${m.allKinds}`);
  return {
    missed,
    markdown: `## Resistors in place of a key

The best combinations of one to three parts, over ${m.kinds} kinds: ${(m.search / m.brute).toFixed(4)} of the time of trying every one (${m.search.toFixed(1)} and ${m.brute.toFixed(0)} ms; both find the same). Over E96 in six decades, ${m.allKinds} kinds: ${m.allMs.toFixed(0)} ms, with a
window ${m.window.toFixed(0)} ms (goal: under ${ladderMs}). A verdict over five readings of a key takes ${m.verdict.toFixed(2)} ms.
`,
  };
}

/** A memory of 1 MB, read, compared and laid out as slots, beyond reading its bytes. */
function memorySection() {
  const goal = 100;
  const { status, stdout } = spawnSync(process.execPath, ['--import', 'tsx', 'scripts/benchMemory.ts'], {
    cwd: root,
    encoding: 'utf8',
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  if (status !== 0) process.exit(1);
  const each = JSON.parse(stdout).map((r) => ({ ...r, beyond: r.allMs - r.bytesMs }));
  for (const r of each) console.log(`Memory of 1 MB, ${r.name}: ${r.beyond.toFixed(0)} ms beyond its bytes`);
  return {
    missed: each.filter((r) => r.beyond >= goal).map((r) => `memory file ${r.name}`),
    markdown: `## Memory files

A memory of 1 MB is read, compared with a second read and laid out as 64 slots, with a checksum over all of it; beyond reading the file's bytes, in turn. Goal: under ${goal} ms.

| form | file, kB | ratio to reading the bytes | beyond it, ms | reading the bytes, ms |
| --- | ---: | ---: | ---: | ---: |
${each.map((r) => `| ${{ 'a.bin': 'raw', 'a.hex': 'Intel HEX', 'a.s19': 'S-record' }[r.name]} | ${(r.size / 1024).toFixed(0)} | ${(r.allMs / r.bytesMs).toFixed(0)} | ${r.beyond.toFixed(1)} | ${r.bytesMs.toFixed(2)} |`).join('\n')}
`,
  };
}

/** Plans for several cars: how soon the best one is proven, and what days by them are like beside two plain ways. */
function scheduleSection() {
  const { status, stdout } = spawnSync(process.execPath, ['--import', 'tsx', 'scripts/benchSchedule.ts'], {
    cwd: root,
    encoding: 'utf8',
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  if (status !== 0) process.exit(1);
  const m = JSON.parse(stdout);
  const widest = Math.max(0, ...m.gaps);
  const byPlan = m.byPolicy.find((p) => p.policy === 'plan');
  console.log(`Several cars: ${m.inTime} of ${m.instances} proven within ${m.milliseconds} ms; ${byPlan.broken} limits broken in ${m.days} days`);
  return {
    missed: [
      ...(m.inTime < 0.99 * m.instances ? ['best plans proven in time'] : []),
      ...(widest > 0.02 ? ['plans within 2 % of the bound'] : []),
      ...(byPlan.broken > 0 ? ['no limit broken by the plan'] : []),
    ],
    markdown: `## Several cars

${m.instances} seeded instances of two to six cars with three to five acts each, hands on for 1 to 3 min, waits of 8 to 12 min, seven in ten of them with a tolerance: of 1 to 2 min in
half of the instances, of 1 to 6 min in the others. The best plan is found and proven within ${m.milliseconds} ms in ${m.inTime} (goal: ${0.99 * m.instances}), in the end in ${m.solved}; the others are within ${(100 * widest).toFixed(1)} % of
the bound (goal: 2 %). Median ${m.median.toFixed(1)} ms, 99 of 100 within ${m.p99.toFixed(0)} ms, the longest ${m.worst.toFixed(0)} ms.

${m.days} simulated days of four to six cars whose acts take up to a fifth less or more than expected, tolerances of 1 to 2 min, the same days for each way:

| way | limits broken | days with one | last car ready after, min |
| --- | ---: | ---: | ---: |
${m.byPolicy.map((p) => `| ${{ plan: 'the plan', oneByOne: 'one after another', deadlines: 'earliest limit first' }[p.policy]} | ${p.broken} | ${p.brokenDays} | ${p.minutes.toFixed(1)} |`).join('\n')}
`,
  };
}

/** What learning from closed cases is worth on fresh vehicles, and what learning from one takes. */
function learningSection() {
  /** How much worse one type may get; milliseconds of learning from a case. */
  const [mostWorse, goal] = [1.02, 20];
  const { status, stdout } = spawnSync(process.execPath, ['--import', 'tsx', 'scripts/benchLearning.ts'], {
    cwd: root,
    encoding: 'utf8',
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  if (status !== 0) process.exit(1);
  const m = JSON.parse(stdout);
  const mean = m.worth.reduce((sum, w) => sum + w.ratio, 0) / m.worth.length;
  const percent = (ratio) => `${(100 * (ratio - 1)).toFixed(1)} %`;
  console.log(`Learning: ${percent(mean)} after ${m.past} cases; from one case ${m.learning.toFixed(1)} ms`);
  return {
    missed: [
      ...m.worth.filter((w) => w.ratio > mostWorse).map((w) => `learning, ${w.title}`),
      ...(mean >= 1 ? ['less beyond the repair in the mean'] : []),
      ...(m.nineOfTen >= goal ? ['learning from one case'] : []),
    ],
    markdown: `## Learning

What is spent beyond the repair on ${m.fresh} fresh vehicles of each of ${m.shops} made-up shops with what their first ${m.past} cases of the type taught, against the same
vehicles without. Goal: less in the mean, nowhere more than ${percent(mostWorse)} above. Below ${m.from} proven cases nothing changes.

| system type | after ${m.past} cases |
| --- | ---: |
${m.worth.map((w) => `| ${w.title} | ${percent(w.ratio)} |`).join('\n')}
| mean | ${percent(mean)} |

Learning from one closed case, in a database of ${m.closed} of them: median ${m.learning.toFixed(1)} ms of ${m.anew}, nine of ten within ${m.nineOfTen.toFixed(1)} ms (goal: under ${goal} ms), the longest ${m.slowest.toFixed(1)} ms; one small statement
in a transaction of its own, in turn: ${m.bare.toFixed(1)} ms.
`,
  };
}

/** `npm run bench -- pages` measures the pages anew and leaves the section of the diagnosis, which takes half an hour, as it was. */
const file = join(root, 'docs/benchmarks.md');
async function diagnosisOrKept() {
  const kept = process.argv[2] === 'pages' && /## The diagnosis[\s\S]*$/.exec(readFileSync(file, 'utf8'));
  if (kept) return { markdown: kept[0], missed: [] };
  console.log('Measuring the diagnosis …');
  return diagnosisSection();
}
const sync = syncSection();
const runs = runsSection();
const ladder = ladderSection();
const memory = memorySection();
const schedule = scheduleSection();
const learning = learningSection();
const diagnosis = await diagnosisOrKept();

/** Sections that are measured by themselves only (`npm run bench -- load`, `-- bursts`, `-- week`) stay as they are. */
const old = readFileSync(file, 'utf8');
const kept = ['Load', 'Bursts', 'A week'].map((heading) => new RegExp(`## ${heading}\\n[\\s\\S]*?(?=\\n## )`).exec(old)?.[0] ?? '').join('\n');

const limitOf = (name) => (casePages.includes(name) ? limits.case : limits.other);
const over = [
  ...rows.filter((r) => r.ratio > limitOf(r.name)),
  ...listRows.filter((r) => r.ratio > listLimit),
  ...startRows.filter((r) => r.took > r.limit),
];
writeFileSync(
  file,
  `# Benchmarks

Written by \`npm run bench\`; do not edit. One request at a time on the built server with the demo world; a page and a bare Express route in a process
of its own in turn, ${tries} times after ${warmUp} to warm up; medians. The ratio is the figure to compare: milliseconds depend on the machine. Floor, case,
run and report may cost at most ${limits.case} bare routes each, any other page ${limits.other}. Scripts are those the page loads first, compressed. A page asks the
database for nothing while nothing changes, and at most six statements after its case was changed (server/http/statements.system.test.ts).

| page | ratio | page, ms | bare route, ms | scripts, kB | files |
| --- | ---: | ---: | ---: | ---: | ---: |
${rows.map((r) => `| ${r.name} | ${r.ratio.toFixed(1)} | ${r.page.toFixed(1)} | ${r.bare.toFixed(2)} | ${(r.bytes / 1024).toFixed(0)} | ${r.files} |`).join('\n')}

${over.length === 0 ? '' : `Over the limit: ${over.map((r) => r.name).join(', ')}.\n\n`}${crowd.clients} clients that read pages one after the other, in turn the first six above: ${read20.perSecond.toFixed(1)} pages a second, 99 of 100 within ${read20.p99.toFixed(0)} ms
(the bare route: ${bare20.perSecond.toFixed(0)} a second).

## The list of cases among ${many.toLocaleString('en-GB')}

As many generated cases, closed but for one in two hundred that is parked, and the demo's. A page of the list and a search may cost at most ${listLimit}
bare routes.

| list | ratio | page, ms | bare route, ms |
| --- | ---: | ---: | ---: |
${listRows.map((r) => `| ${r.name} | ${r.ratio.toFixed(1)} | ${r.page.toFixed(1)} | ${r.bare.toFixed(2)} |`).join('\n')}

## Start

From the call to the line that says it is ready, medians of ${starts}, in turn with a bare Express server.

| start | ratio | ms | bare Express, ms | goal, ms |
| --- | ---: | ---: | ---: | ---: |
${startRows.map((r) => `| ${r.name} | ${(r.took / r.bare).toFixed(1)} | ${r.took.toFixed(0)} | ${r.bare.toFixed(0)} | ${r.limit} |`).join('\n')}

${sync}
${runs.markdown}
${ladder.markdown}
${memory.markdown}
${schedule.markdown}
${learning.markdown}
${kept}
${diagnosis.markdown}`,
);
const missed = [runs, ladder, memory, schedule, learning, diagnosis].flatMap((section) => section.missed);
process.exit(over.length + missed.length === 0 ? 0 : 1);
