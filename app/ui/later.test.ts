import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

test('each part that comes later has a name of its own: by it the page finds what the document has drawn', () => {
  const names = readdirSync('app', { recursive: true, encoding: 'utf8' })
    .filter((file) => file.endsWith('.tsx'))
    .flatMap((file) => [...readFileSync(join('app', file), 'utf8').matchAll(/= later\(\s*'(\w+)'/g)].map((found) => found[1]));
  expect(names.length).toBeGreaterThan(15);
  expect(names.filter((name, i) => names.indexOf(name) !== i)).toEqual([]);
});
