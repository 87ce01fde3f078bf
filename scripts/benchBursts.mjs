// `npm run bench -- bursts`: reading and measuring a capture of two million samples against a C program that does the same (bench/burst.c), in turn in the same run;
// where there is no C compiler, against a plain loop over typed arrays. And a capture of 400 MB in the page, with the longest frame; and the memory of the longest capture.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { root } from './prepare.mjs';
import { start } from './server.mjs';

/** Bytes of both files: two million samples take 18 each; and the goals, a ratio and milliseconds. */
const [shortBytes, longBytes] = [36_100_000, 400_000_000];
const [ratioGoal, frameGoal] = [1.5, 100];
/** Of the longest capture: bytes for each sample that stay, and beside them. */
const [bytesGoal, besideGoal] = [4, 4e6];
const rounds = 5;

const median = (list) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)];
const ours = (...args) => {
  const { status, stdout } = spawnSync(process.execPath, ['--expose-gc', '--import', 'tsx', 'scripts/benchBursts.ts', ...args], {
    cwd: root,
    encoding: 'utf8',
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  if (status !== 0) process.exit(1);
  return stdout;
};

export async function burstsSection() {
  const folder = mkdtempSync(join(tmpdir(), 'bloodstone-bursts-'));
  const [short, long, program] = ['short.csv', 'long.csv', 'burst'].map((name) => join(folder, name));
  try {
    ours('make', short, String(shortBytes));
    const compiled = spawnSync(process.env.CC ?? 'cc', ['-O2', '-o', program, 'bench/burst.c', '-lm'], {
      cwd: root,
      stdio: ['ignore', 'inherit', 'inherit'],
    });
    const speed = compiled.status === 0 ? againstC(short, program) : null;
    const loop = speed ? null : againstLoop(short);
    const memory = JSON.parse(ours('memory'));
    const pyramid = (memory.samples / 64) * 8 * (16 / 15);
    const beside = memory.heldBytes - bytesGoal * memory.samples - pyramid;
    ours('make', long, String(longBytes));
    const page = await inThePage(folder, long);
    const mb = (bytes) => `${(bytes / 1e6).toFixed(1)} MB`;
    const missed = [
      ...(speed && speed.ratio > ratioGoal ? [`reading and measuring: ${speed.ratio.toFixed(2)} times C`] : []),
      ...(beside > besideGoal ? [`memory beside the samples: ${mb(beside)}`] : []),
      ...(page.longestMs > frameGoal ? [`longest frame: ${page.longestMs.toFixed(0)} ms`] : []),
    ];
    const said = speed
      ? `A CSV of ${speed.samples} samples is read and measured in ${speed.ratio.toFixed(2)} times the time of a C program that maps the file and does the same (goal: at most ${ratioGoal}): reading ${speed.read.toFixed(2)}, measuring ${speed.measure.toFixed(2)}; the first capture of a worker ${speed.cold.toFixed(2)}; the twin in plain TypeScript ${speed.plain.toFixed(2)}. C takes ${speed.cMs.toFixed(0)} ms. Both find ${speed.count} bursts; the carriers differ by ${speed.offHz.toFixed(4)} Hz, the first start by ${speed.offUs.toFixed(4)} µs.`
      : `No C compiler is here, so there is no ratio to C. A plain loop over typed arrays, which finds the bursts without measuring their edges, takes ${loop.loopMs.toFixed(0)} ms; reading and measuring takes ${loop.ratio.toFixed(2)} times that.`;
    const room = `A capture of ${memory.samples / 1e6} million samples, the longest: held, it takes four bytes a sample, ${mb(pyramid)} of lowest and highest values for zooming, and ${mb(beside)} (goal: at most ${mb(besideGoal)}); the most on the way, ${mb(memory.mostBytes)}.`;
    console.log(said);
    console.log(room);
    console.log(`A CSV of ${longBytes / 1e6} MB: ${(page.ms / 1000).toFixed(1)} s in the page, longest frame ${page.longestMs.toFixed(0)} ms`);
    return {
      missed,
      markdown: `## Bursts

${said}

A CSV of ${longBytes / 1e6} MB is read, measured and drawn in the page in ${(page.ms / 1000).toFixed(1)} s; the longest time between two frames is ${page.longestMs.toFixed(0)} ms (goal: at most ${frameGoal}).

${room}
`,
    };
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/**
 * Each in turn: C; WebAssembly, the third of three readings in one process, warm, as a page's worker is after its first capture; the first of them, cold; and the twin in plain
 * TypeScript, warm.
 */
function againstC(file, program) {
  const each = Array.from({ length: rounds }, () => {
    const c = JSON.parse(spawnSync(program, [file], { encoding: 'utf8' }).stdout);
    return { c, own: JSON.parse(ours('time', file)), plain: JSON.parse(ours('plain', file)) };
  });
  const { c, own } = each[0];
  if (c.count !== own[0].count || c.samples !== own[0].samples) throw new Error(`C finds ${c.count} bursts, we find ${own[0].count}`);
  const all = (r) => r.readMs + r.measureMs;
  const ratioOf = (which, of) => median(each.map((round) => of(which(round)) / of(round.c)));
  const warm = (r) => r.own.at(-1);
  return {
    samples: c.samples,
    count: c.count,
    cMs: median(each.map(({ c }) => all(c))),
    ratio: ratioOf(warm, all),
    read: ratioOf(warm, (r) => r.readMs),
    measure: ratioOf(warm, (r) => r.measureMs),
    cold: ratioOf((r) => r.own[0], all),
    plain: ratioOf((r) => r.plain.at(-1), all),
    offHz: Math.abs(c.carrierHz - own[0].carrierHz),
    offUs: Math.abs(c.startMs - own[0].startMs) * 1000,
  };
}

/** The same way against the plain loop, which is read and run in a process of its own. */
function againstLoop(file) {
  const all = (r) => r.readMs + r.measureMs;
  const each = Array.from({ length: rounds }, () => ({ loop: JSON.parse(ours('loop', file)).at(-1), own: JSON.parse(ours('time', file)).at(-1) }));
  const { loop, own } = each[0];
  if (loop.count !== own.count || loop.samples !== own.samples) throw new Error(`The loop finds ${loop.count} bursts, we find ${own.count}`);
  return { loopMs: median(each.map((r) => all(r.loop))), ratio: median(each.map((r) => all(r.own) / all(r.loop))) };
}

async function inThePage(folder, file) {
  const server = await start(join(folder, 'data'));
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu'] });
  try {
    const [name, ...value] = (await server.comeIn('Teodor Lusk')).split('=');
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
    await context.addCookies([{ name, value: decodeURIComponent(value.join('=')), url: server.url }]);
    const page = await context.newPage();
    await page.goto(`${server.url}/bench/bursts`);
    await page.getByText('No capture yet.').waitFor();
    // What is measured is the reading; a page that has just been opened is busy with itself.
    await page.locator('html[data-alive="true"]').waitFor({ state: 'attached' });
    await page.waitForTimeout(2000);
    // As text: it runs in the page, where there is a window.
    await page.evaluate(`(() => {
      window.longest = 0;
      let last = performance.now();
      const frame = () => {
        window.longest = Math.max(window.longest, performance.now() - last);
        last = performance.now();
        requestAnimationFrame(frame);
      };
      requestAnimationFrame(frame);
    })()`);
    const began = Date.now();
    await page.getByLabel('File of capture A').setInputFiles(file);
    await page.locator('section[aria-label="Capture A"] figure svg path').waitFor({ timeout: 600_000 });
    const ms = Date.now() - began;
    await page.waitForTimeout(500);
    return { ms, longestMs: await page.evaluate('window.longest') };
  } finally {
    await browser.close();
    await server.stop();
  }
}
