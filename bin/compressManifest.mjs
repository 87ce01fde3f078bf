// Part of the build: the router writes its manifest after everything else was compressed, so it is compressed here, as small as it gets. What it lists for
// preloading goes first: the server writes that into the head of each page from a manifest of its own, and a route that is gone to later imports what it needs.
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { brotliCompressSync, gzipSync } from 'node:zlib';

const assets = join(dirname(dirname(fileURLToPath(import.meta.url))), 'build/client/assets');
const names = readdirSync(assets).filter((name) => /^manifest-\w+\.js$/.test(name));
if (names.length !== 1) throw new Error(`One manifest was expected in ${assets}; there are ${names.length}.`);
const [, before, json, behind] = /^([^{]*)(\{.*\})(;?\s*)$/s.exec(readFileSync(join(assets, names[0]), 'utf8'));
const manifest = JSON.parse(json);
for (const route of Object.values(manifest.routes)) route.imports = [];
const plain = Buffer.from(`${before}${JSON.stringify(manifest)}${behind}`);
writeFileSync(join(assets, names[0]), plain);
writeFileSync(join(assets, `${names[0]}.br`), brotliCompressSync(plain));
writeFileSync(join(assets, `${names[0]}.gz`), gzipSync(plain, { level: 9 }));
