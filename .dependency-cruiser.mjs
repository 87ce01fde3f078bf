// Which module may need which: no circles, rooms of the server one above the other, and nothing takes its types from a route module. `npm run lint` runs it.
import { readFileSync } from 'node:fs';

const routes = [...readFileSync(new URL('app/routes.ts', import.meta.url), 'utf8').matchAll(/'([\w/-]+\.tsx?)'/g)].map(
  (m) => `^app/${m[1].replaceAll('.', '\\.')}$`,
);
/** Which folder may need which: docs/architecture.md, "Imports run one way". */
const folders = {
  core: ['core'],
  content: ['content', 'core'],
  server: ['server', 'core', 'content'],
  app: ['app', 'server', 'core'],
  cli: ['cli', 'core', 'content'],
};
const tests = '\\.(test|testing)\\.tsx?$';

export default {
  forbidden: [
    ...Object.entries(folders).map(([folder, to]) => ({
      name: `imports-of-${folder}`,
      comment: 'Imports run one way: docs/architecture.md.',
      severity: 'error',
      from: { path: `^${folder}/` },
      to: { path: `^(${Object.keys(folders).join('|')})/`, pathNot: `^(${to.join('|')})/` },
    })),
    {
      name: 'no-circle',
      comment: 'Two modules that need each other are one, or the part that both need has a place of its own.',
      severity: 'error',
      from: {},
      to: { circular: true },
    },
    {
      name: 'no-circle-of-rooms',
      comment: 'Rooms of the server stand one above the other: docs/architecture.md, "The rooms of the server".',
      severity: 'error',
      scope: 'folder',
      from: { path: '^server/[a-z]+$' },
      to: { circular: true, path: '^server/[a-z]+$' },
    },
    {
      name: 'no-import-of-a-route',
      comment: 'What a route module and others need stands beside it, or comes from the server.',
      severity: 'error',
      from: { path: '^(app|server|core|content|cli)/', pathNot: '^app/routes\\.ts$' },
      to: { path: routes },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    // Tests may look at everything.
    exclude: { path: `(^|/)(node_modules|build|\\.react-router)/|\\+types/|${tests}` },
    includeOnly: '^(app|server|core|content|cli)/',
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
  },
};
