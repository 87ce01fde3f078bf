// Part of the build: prepares what a start would else have to make: an empty database, the content as read, the demo world.
import { existsSync, readdirSync, rmSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';

const root = dirname(dirname(fileURLToPath(import.meta.url)));
const templates = join(root, 'build/templates');
const { ensureTemplate, prepareContent, prepareWorld } = await import(pathToFileURL(join(root, 'build/server/index.js')).href);
// Those of builds before.
if (existsSync(templates))
  for (const name of readdirSync(templates)) if (!name.startsWith('empty-')) rmSync(join(templates, name), { recursive: true, force: true });
await ensureTemplate(templates, join(root, 'server/db/migrations'));
prepareContent(join(root, 'content'), templates);
const reading = join(root, 'build/server/readingProcess.js');
for (const history of [false, true]) await prepareWorld({ root, templates, reading, history });
