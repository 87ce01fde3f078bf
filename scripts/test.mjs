// `npm test`: lint, types, unit tests, build, system tests, browser tests. Each runs even when one before it failed (except what needs the
// build); the last line counts real results: lint, types and build one each, and every test that Jest and Playwright report.
import { chmodSync, existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, statfsSync } from 'node:fs';
import { join } from 'node:path';
import { stripVTControlCharacters } from 'node:util';
import { postgresBins, startPostgres } from './postgres.mjs';
import { build, install, root, run, start } from './prepare.mjs';

install();
inMemory();
const results = join(root, 'test-results');
mkdirSync(results, { recursive: true });
let passed = 0;
let failed = 0;
/** What failed, a line each, for the end: whoever reads only that knows where to look. */
const told = [];
const say = (title) => console.log(`\n== ${title}`);

function one(title, status) {
  if (status === 0) passed += 1;
  else {
    failed += 1;
    told.push(title);
    console.log(`-- ${title}: failed`);
  }
  return status === 0;
}

/** The start of a message, on one line and without its colors. */
const short = (message) => stripVTControlCharacters(String(message)).replace(/\s+/g, ' ').slice(0, 300);

/**
 * Folders of tests lie in memory where there is room for them: a server that is killed keeps what it has written there too, and a slow disk holds nobody up. What is to be
 * through to the disk is counted where the database asks for it (server/db/synced.test.ts).
 */
function inMemory() {
  const memory = '/dev/shm';
  const neededGb = 6;
  if (!existsSync(memory)) return;
  const { bavail, bsize } = statfsSync(memory);
  if ((bavail * bsize) / 1024 ** 3 < neededGb) return;
  const folder = mkdtempSync(join(memory, 'bloodstone-test-'));
  // The database's server runs as another user.
  chmodSync(folder, 0o711);
  process.env.TMPDIR = folder;
  process.once('exit', () => rmSync(folder, { recursive: true, force: true }));
}

/** Counts what Jest wrote; a run that wrote nothing, or whose suites could not start, is a failure. */
function jest(project, extra = []) {
  const file = join(results, `${project}.json`);
  rmSync(file, { force: true });
  const status = run(process.execPath, [
    '--experimental-vm-modules',
    '--no-warnings',
    'node_modules/jest/bin/jest.js',
    '--selectProjects',
    project,
    '--json',
    `--outputFile=${file}`,
    ...extra,
  ]);
  if (!existsSync(file)) return void (failed += 1);
  const report = JSON.parse(readFileSync(file, 'utf8'));
  passed += report.numPassedTests;
  for (const suite of report.testResults) {
    const bad = suite.assertionResults.filter((a) => a.status === 'failed');
    for (const { fullName, failureMessages } of bad) told.push(`${suite.name.slice(root.length + 1)}: ${fullName}: ${short(failureMessages[0])}`);
    if (bad.length === 0 && suite.status === 'failed') told.push(`${suite.name.slice(root.length + 1)}: ${short(suite.message)}`);
  }
  const broken = report.numFailedTests + report.numRuntimeErrorTestSuites;
  failed += broken === 0 && status !== 0 ? 1 : broken;
}

function browser() {
  if (!chromium()) return void (failed += 1);
  const file = join(results, 'browser.json');
  rmSync(file, { force: true });
  const status = run(process.execPath, ['node_modules/@playwright/test/cli.js', 'test']);
  if (!existsSync(file)) return void (failed += 1);
  if (status !== 0) showPages();
  const { stats, errors, suites } = JSON.parse(readFileSync(file, 'utf8'));
  passed += stats.expected;
  for (const suite of suites) tellOf(suite);
  const broken = stats.unexpected + stats.flaky + errors.length;
  failed += broken === 0 && status !== 0 ? 1 : broken;
}

function tellOf({ file, suites = [], specs = [] }) {
  for (const { title, tests } of specs) {
    const bad = tests.flatMap((t) => (t.status === 'expected' || t.status === 'skipped' ? [] : t.results)).find((r) => r.status !== 'passed');
    if (bad) told.push(`${file}: ${title}: ${short(bad.error?.message ?? bad.status)}`);
  }
  for (const suite of suites) tellOf(suite);
}

/** What went wrong and what the page showed when a browser test failed, without the test's source: on a machine that keeps no files it is all there is to look at. */
function showPages() {
  const lines = 120;
  for (const name of readdirSync(results, { recursive: true }).filter((n) => n.endsWith('error-context.md'))) {
    const [told] = readFileSync(join(results, name), 'utf8').split('\n# Test source');
    const text = told.split('\n');
    console.log(`\n-- ${name}\n${text.slice(0, lines).join('\n')}${text.length > lines ? `\n… ${text.length - lines} more lines` : ''}`);
  }
}

/** Debian's Chromium without a window, which is the quicker one; installed when this is root, otherwise asked for. */
function chromium() {
  const path = process.env.CHROMIUM ?? '/usr/bin/chromium-headless-shell';
  if (existsSync(path)) return true;
  if (process.getuid?.() !== 0) {
    console.error(
      `The browser tests need Chromium at ${path}. Install it (Debian: apt-get install chromium-headless-shell) or set CHROMIUM to its path.`,
    );
    return false;
  }
  return apt('chromium-headless-shell') && existsSync(path);
}

function apt(name) {
  const options = ['-o', 'DPkg::Lock::Timeout=300', '-y', '-qq'];
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  return run('apt-get', [...options, 'update'], { env }) === 0 && run('apt-get', [...options, 'install', name], { env }) === 0;
}

/** A PostgreSQL server for the tests that need one; as root it is installed. */
function postgres() {
  if (postgresBins().length === 0 && process.getuid?.() === 0) apt('postgresql');
  const server = startPostgres(5400 + (process.pid % 500));
  if (!server) {
    console.error(
      'The tests on PostgreSQL need its server. Install it (Debian: apt-get install postgresql), or set TEST_POSTGRES to the address of one.',
    );
    return false;
  }
  process.once('exit', server.end);
  process.env.TEST_POSTGRES = server.url;
  return true;
}

const measured = 'server/(reading/files|http/hostile)\\.system\\.test\\.ts$';
const quick = process.argv.includes('--quick');
// Each of them keeps one processor busy.
say('Lint and types');
const [lint, types] = await Promise.all([start('npm', ['run', '-s', 'lint']), start('npm', ['run', '-s', 'typecheck'])]);
for (const [title, { status, printed }] of [
  ['lint', lint],
  ['types', types],
]) {
  process.stdout.write(printed);
  one(title, status);
}
say('Unit tests');
if (!process.env.TEST_POSTGRES && !postgres()) failed += 1;
jest('unit', ['--maxWorkers=100%']);
if (!quick) {
  say('Build');
  if (one('build', build())) {
    say('System tests');
    // What measures how long somebody waits is not measured beside another test.
    jest('system', ['--maxWorkers=2', `--testPathIgnorePatterns=${measured}`]);
    jest('system', ['--maxWorkers=1', measured]);
    say('Browser tests');
    browser();
  }
}
for (const line of told) console.log(`failed: ${line}`);
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 && passed > 0 ? 0 : 1);
