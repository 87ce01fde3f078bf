// Part of the build: makes the ready-made empty database once, so that a first start takes a second and not ten.
import { dirname, join } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';

const root = dirname(dirname(fileURLToPath(import.meta.url)));
const { ensureTemplate } = await import(pathToFileURL(join(root, 'build/server/index.js')).href);
await ensureTemplate(join(root, 'build/templates'), join(root, 'server/db/migrations'));
