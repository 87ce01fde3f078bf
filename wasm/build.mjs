// Makes WebAssembly of wasm/burst.ts: for the page at `npm run build`, for the tests in memory.
import { mkdirSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import asc from 'assemblyscript/asc';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');

/** @returns {Promise<Uint8Array>} the module; throws with what the compiler said */
export async function compileKernel() {
  const written = new Map();
  const options = ['wasm/burst.ts', '--outFile', 'burst.wasm', '-O3', '--runtime', 'stub', '--enable', 'simd', '--converge', '--noAssert'];
  const { error, stderr } = await asc.main(options, { baseDir: root, writeFile: (name, content) => void written.set(name, content) });
  if (error) throw new Error(`${error.message}\n${stderr.toString()}`);
  return written.get('burst.wasm');
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const folder = join(root, 'wasm/built');
  mkdirSync(folder, { recursive: true });
  writeFileSync(join(folder, 'burst.wasm'), await compileKernel());
}
