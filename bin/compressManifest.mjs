// Part of the build: the router writes its manifest after everything else was compressed, so it is compressed here, as small as it gets.
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { brotliCompressSync, gzipSync } from 'node:zlib';

const assets = join(dirname(dirname(fileURLToPath(import.meta.url))), 'build/client/assets');
const names = readdirSync(assets).filter((name) => /^manifest-\w+\.js$/.test(name));
if (names.length !== 1) throw new Error(`One manifest was expected in ${assets}; there are ${names.length}.`);
const plain = readFileSync(join(assets, names[0]));
writeFileSync(join(assets, `${names[0]}.br`), brotliCompressSync(plain));
writeFileSync(join(assets, `${names[0]}.gz`), gzipSync(plain, { level: 9 }));
