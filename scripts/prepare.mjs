// Installs and builds what is missing or older than its sources. Node's own modules only.
import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = dirname(dirname(fileURLToPath(import.meta.url)));
process.chdir(root);

export function run(command, args, options = {}) {
  const { status } = spawnSync(command, args, { stdio: 'inherit', shell: process.platform === 'win32', ...options });
  return status ?? 1;
}

/** The same beside other work; what it prints comes in one piece. */
export function start(command, args) {
  const child = spawn(command, args, { stdio: ['ignore', 'pipe', 'pipe'], shell: process.platform === 'win32' });
  let printed = '';
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk) => (printed += chunk));
  return new Promise((resolve) => {
    child.once('error', (error) => resolve({ status: 1, printed: `${printed}${error.message}\n` }));
    child.once('close', (code) => resolve({ status: code ?? 1, printed }));
  });
}

function must(what, command, args) {
  console.log(`${what} …`);
  if (run(command, args) !== 0) {
    console.error(`${what}: failed. The lines above say why.`);
    process.exit(1);
  }
}

/** Packages, when there are none or the lock file has changed since. */
export function install() {
  const stamp = join(root, 'node_modules/.bloodstone-lock');
  const lock = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  must('Installing packages', 'npm', ['ci', '--no-audit', '--no-fund']);
  writeFileSync(stamp, lock);
}

/** One number for everything the build is made from. */
function sources() {
  const hash = createHash('sha256');
  const visit = (path) => {
    if (statSync(path).isDirectory()) for (const name of readdirSync(path).sort()) visit(join(path, name));
    else hash.update(path).update(readFileSync(path));
  };
  for (const path of [
    ...['app', 'core', 'content', 'server', 'public', 'bin', 'wasm/burst.ts', 'wasm/build.mjs'],
    ...['package-lock.json', 'vite.config.ts', 'vite.worker.config.ts', 'react-router.config.ts'],
  ])
    visit(path);
  return hash.digest('hex');
}

export function isBuilt() {
  const stamp = join(root, 'build/.sources');
  return existsSync(stamp) && readFileSync(stamp, 'utf8') === sources();
}

export function build() {
  if (isBuilt()) return 0;
  const status = run('npm', ['run', '-s', 'build']);
  if (status === 0) {
    mkdirSync(join(root, 'build'), { recursive: true });
    writeFileSync(join(root, 'build/.sources'), sources());
  }
  return status;
}

export function prepare() {
  install();
  if (!isBuilt()) console.log('Building …');
  if (build() !== 0) {
    console.error('Building: failed. The lines above say why.');
    process.exit(1);
  }
}
