import { appendFileSync, cpSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { readContent } from './reader';
import { contentName, prepareContent, readShipped } from './prepared';

let folder: string;
let content: string;
let prepared: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'prepared-'));
  content = join(folder, 'content');
  prepared = join(folder, 'templates');
  cpSync('content', content, { recursive: true, filter: (path) => !/\.ts$/.test(path) });
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

const features = () => join(content, 'features.yaml');

test('what was prepared is what reading gives, and it is the prepared file that is read', () => {
  prepareContent(content, prepared);
  expect(readdirSync(prepared)).toEqual([`content-${contentName(content)}`]);
  const library = readShipped(content, prepared);
  expect(library.files).toBeGreaterThan(40);
  expect(library).toEqual(readContent(content));
  writeFileSync(join(prepared, `content-${contentName(content)}`), 'not what v8 wrote');
  expect(() => readShipped(content, prepared)).toThrow();
});

test('content that was changed since is read from its YAML, and another file is another name', () => {
  prepareContent(content, prepared);
  const name = contentName(content);
  writeFileSync(features(), readFileSync(features(), 'utf8').replace('What kind of vehicle is it?', 'Which kind of vehicle is it?'));
  expect(contentName(content)).not.toBe(name);
  expect(readShipped(content, prepared).library.features.map((f) => f.ask)).toContain('Which kind of vehicle is it?');
  writeFileSync(features(), readFileSync(features(), 'utf8').replace('Which kind', 'What kind'));
  expect(contentName(content)).toBe(name);
  cpSync(features(), join(content, 'again.yaml'));
  expect(contentName(content)).not.toBe(name);
});

test('content with an error is not prepared, so that the start says what is wrong', () => {
  appendFileSync(features(), '\nsurplus: 1\n');
  prepareContent(content, prepared);
  expect(() => readdirSync(prepared)).toThrow('ENOENT');
  expect(readShipped(content, prepared).errors.map((e) => e.file)).toEqual(['features.yaml']);
});
