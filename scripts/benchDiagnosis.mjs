// Measures the diagnosis for `npm run bench`: parts side by side in processes of their own, then one section of docs/benchmarks.md.
import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { dirname, join } from 'node:path';
import { root } from './prepare.mjs';

/** Vehicles of each family: `npm run bench -- diagnosis 500` makes do with fewer, and says so. */
const trials = Number(process.argv[3] ?? 2000);
const models = 200;
const chunk = 10;
const goals = {
  // At most 0.6, with a margin of 0.02.
  mean: 0.58,
  worst: 0.85,
  median: 1.003,
  most: 1.03,
  solved: { sure: 0.95, engine: 0.9 },
  wrong: { sure: 0.02, engine: 0.05 },
  ratio: 10,
  firstMs: 100,
  finalMs: 2000,
};

const part = (...args) =>
  new Promise((resolve, reject) => {
    const child = spawn(process.execPath, ['--import', 'tsx', 'scripts/benchDiagnosis.ts', ...args.map(String)], {
      cwd: root,
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    let out = '';
    child.stdout.on('data', (piece) => (out += piece));
    child.on('close', (code) => {
      if (code !== 0) return reject(new Error(`${args.join(' ')} failed`));
      console.log(`${args.join(' ')}: done`);
      resolve(JSON.parse(out));
    });
  });

/** Everything that a counted figure depends on, as committed and as changed since. */
const tree = (() => {
  const git = (...args) => spawnSync('git', args, { cwd: root, encoding: 'utf8' }).stdout;
  const rooms = ['core', 'content', 'scripts/benchDiagnosis.ts'];
  return createHash('sha256')
    .update(rooms.map((r) => git('rev-parse', `HEAD:${r}`)).join() + git('diff', 'HEAD', '--', ...rooms))
    .digest('hex')
    .slice(0, 12);
})();

/**
 * A part that counts and takes no time of its own: the same each time, since its draws are seeded. It is kept under the tree it was counted on, so that a
 * run that was broken off goes on where it was.
 */
async function counted(...args) {
  const file = join(root, '.cache/bench', `${tree}-${args.join('-')}.json`);
  if (existsSync(file)) return JSON.parse(readFileSync(file, 'utf8'));
  const result = await part(...args);
  mkdirSync(dirname(file), { recursive: true });
  writeFileSync(file, JSON.stringify(result));
  return result;
}

/** Runs the jobs, as many at a time as the machine has processors. */
async function all(jobs) {
  const results = [];
  let next = 0;
  const work = async () => {
    while (next < jobs.length) {
      const i = next;
      next += 1;
      results[i] = await counted(...jobs[i]);
    }
  };
  await Promise.all(Array.from({ length: availableParallelism() }, work));
  return results;
}

/** @returns the section as Markdown, and the goals that were missed */
export async function diagnosisSection() {
  // Alone on the machine, since it is timed.
  const speed = await part('speed');
  const families = await all((await part('list')).map((id) => ['family', id, trials]));
  const starts = Array.from({ length: models / chunk }, (_, i) => i * chunk);
  const regimes = ['usual', 'noisy', 'cheapRepairs'];
  const ratios = await all(regimes.flatMap((r) => starts.map((from) => ['models', r, from, from + chunk])));

  const missed = [];
  const keeps = (what, ok) => ok || missed.push(what);
  const share = families.map((f) => f.engine.extra / f.fixed.extra);
  const mean = share.reduce((a, b) => a + b, 0) / share.length;
  keeps(`engine over fixed order, mean: ${mean.toFixed(3)}`, mean <= goals.mean);
  families.forEach((f, i) => {
    keeps(`${f.family}: engine over fixed order ${share[i].toFixed(2)}`, share[i] <= goals.worst);
    for (const how of ['sure', 'engine']) {
      const { solved, wrong } = f[how].tellable;
      keeps(`${f.family}, ${how}: solved ${percent(solved)}`, solved >= goals.solved[how]);
      keeps(`${f.family}, ${how}: wrong ${percent(wrong)}`, wrong <= goals.wrong[how]);
    }
  });
  const perRegime = regimes.map((name, i) => {
    const sorted = ratios
      .slice(i * starts.length, (i + 1) * starts.length)
      .flat()
      .sort((a, b) => a - b);
    const row = { name, median: sorted[Math.floor(sorted.length / 2)], p90: sorted[Math.floor(sorted.length * 0.9)], worst: sorted.at(-1) };
    keeps(`${name}: median ${row.median.toFixed(4)}`, row.median <= goals.median);
    keeps(`${name}: worst ${row.worst.toFixed(4)}`, row.worst <= goals.most);
    return row;
  });
  keeps(`ranking ${speed.ratio.toFixed(1)} times the plain loop`, speed.ratio <= goals.ratio);
  keeps(`first answer ${speed.first.toFixed(0)} ms`, speed.first <= goals.firstMs);
  keeps(`final answer ${speed.final.toFixed(0)} ms`, speed.final <= goals.finalMs);

  const row = (f, i) =>
    `| ${f.family} | ${f.faults} | ${f.tests} | ${share[i].toFixed(2)} | ${f.engine.extra.toFixed(0)} | ${f.fixed.extra.toFixed(0)} | ${f.random.extra.toFixed(0)} | ${f.engine.minutes.toFixed(0)} | ${f.engine.tests.toFixed(1)} | ${f.engine.failed.toFixed(2)} |`;
  const both = ({ trials: n, solved, wrong }) => `${percent(solved)} / ${percent(wrong)} (${n})`;
  const rights = (f) =>
    `| ${f.family} | ${both(f.sure.tellable)} | ${both(f.engine.tellable)} | ${both(f.disturbed.tellable)} | ${f.disturbed.extra.toFixed(0)} | ${both(f.engine.twoFaults)} | ${both(f.engine.somethingElse)} |`;
  const markdown = `## The diagnosis

${trials.toLocaleString('en-GB')} vehicles for each family, their faults drawn from the priors (two at once in 2 %), with human error; cost beyond the true repair, in minutes of work. *Fixed* makes the tests of the family's sensible
order one after the other, with the same beliefs and the same rule when to stop; *random* makes any (on a tenth of the vehicles). Goals: the engine at most ${goals.mean} of the fixed order in the mean over families, none above ${goals.worst}.
In the mean it is ${mean.toFixed(4)}.

| family | faults | tests | engine / fixed | engine | fixed | random | minutes | tests made | unsuccessful repairs |
| --- | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: | ---: |
${families.map(row).join('\n')}

Solved / wrong (vehicles), over single faults that tests tell apart from every other (Bhattacharyya distance of at least 1 bit over all tests). Goals: at least 95 % and at most 2 % without human error, 90 % and
5 % with it. Off: every chance of the vehicle up to 30 % off the content's. Two faults and something else are apart.

| family | without human error | with | tables off | extra cost, tables off | two faults | something else |
| --- | ---: | ---: | ---: | ---: | ---: | ---: |
${families.map(rights).join('\n')}

### Against the optimum

Expected cost of the app's policy, evaluated exactly, over that of dynamic programming, on ${models} seeded random models of 8 faults and 8 tests in each regime. Goals: at most ${goals.median} in the median, ${goals.most} at worst.

| regime | median | nine of ten | worst |
| --- | ---: | ---: | ---: |
${perRegime.map((r) => `| ${r.name} | ${r.median.toFixed(4)} | ${r.p90.toFixed(4)} | ${r.worst.toFixed(4)} |`).join('\n')}

### Speed

Ranking 60 tests over 40 faults with 5 outcomes: ${speed.ratio.toFixed(1)} times a plain loop over typed arrays that only multiplies, adds and takes one logarithm for each outcome (${(speed.ranked * 1000).toFixed(0)} and ${(speed.reference * 1000).toFixed(0)} µs; goal: at most ${goals.ratio}). The
largest family, ${speed.largest}: a first answer in ${speed.first.toFixed(0)} ms (goal ${goals.firstMs}), the final one in ${speed.final.toFixed(0)} ms (goal ${goals.finalMs}), of these ${speed.pairs.toFixed(0)} ms for pairs of faults.

${missed.length === 0 ? 'All goals are met.' : `Missed: ${missed.join('; ')}.`}
`;
  return { markdown, missed };
}

const percent = (share) => `${(share * 100).toFixed(1)} %`;
