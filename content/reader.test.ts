import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { contentHash, parseYaml, readContent } from './reader';

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'content-'));
});
afterEach(() => rmSync(folder, { recursive: true }));

const errors = (files: Record<string, string>) => {
  for (const [name, text] of Object.entries(files)) {
    mkdirSync(join(folder, name, '..'), { recursive: true });
    writeFileSync(join(folder, name), text);
  }
  return readContent('content', folder).errors;
};
const profile = (more: string) =>
  `kind: profile\nid: mine\nversion: 1\ntitle: Mine\nfamily: transponder-dwell\nsource: sheet\nchecked: null\n${more}`;

test('the shipped content has no errors and its numbers are where they belong', () => {
  const { library, errors: found } = readContent('content');
  expect(found).toEqual([]);
  expect([...library.families.keys()]).toEqual(['transponder-dwell']);
  expect([...library.profiles.keys()]).toEqual(['tarn-gantry', 'tarn-sluice']);
});

test.each<[string, string, string, string]>([
  [
    'broken YAML',
    'a: [1, 2',
    'line 1, column 9',
    'Flow sequence in block collection must be sufficiently indented and end with a ]. Correct the YAML there.',
  ],
  ['a duplicate key', 'kind: family\nkind: family', 'line 2, column 1', 'Map keys must be unique. Correct the YAML there.'],
  ['a list', '- a', '', 'The file must hold one document of fields, beginning with kind. Write them.'],
  ['an unknown kind', 'kind: recipe', 'kind', 'Found "recipe". Use one of: family, profile, procedure, cautions.'],
  ['an unknown family', profile('').replace('transponder-dwell', 'gone'), 'family', 'Family "gone" does not exist. Use one of: transponder-dwell.'],
  [
    'an unknown parameter',
    profile('values: {gone: {value: 1, source: s, by: b}}'),
    'values.gone',
    'Family "transponder-dwell" has no parameter "gone". Use one of: ',
  ],
  ['a word for a number', profile('values: {dwell: {value: long, source: s, by: b}}'), 'values.dwell.value', 'Found "long". Use a number in s.'],
  [
    'a value outside the list',
    profile('values: {cut: {value: none, source: s, by: b}}'),
    'values.cut.value',
    'Found "none". Use one of: fuel, fuelAndStarter.',
  ],
  ['a date of no form', profile('').replace('null', '{by: me, on: soon}'), 'checked.on', 'Found "soon". Write a date such as 2026-03-04.'],
  [
    'an id twice',
    profile('').replace('id: mine', 'id: tarn-gantry'),
    'id',
    'profile "tarn-gantry" also stands in profiles/tarn-gantry.yaml. Give one of them another id.',
  ],
])('%s is refused with file, path and mend', (_what, text, path, message) => {
  const [first] = errors({ 'sub/mine.yaml': text });
  expect(first).toMatchObject({ file: 'sub/mine.yaml', path });
  expect(first!.message.startsWith(message)).toBe(true);
});

test('an anchor bomb is refused, not unfolded', () => {
  const bomb = `kind: &a [x, x, x, x, x, x, x, x, x]\nb: &b [*a, *a, *a, *a, *a, *a, *a, *a]\nc: &c [*b, *b, *b, *b, *b, *b, *b, *b]\nd: [*c, *c, *c, *c, *c, *c, *c, *c]`;
  expect(parseYaml(bomb)).toEqual({ ok: false, problems: [{ code: 'yaml', path: '', message: 'Too many aliases. Write the values out.' }] });
});

test('a file that is no content by its size is refused', () => {
  expect(errors({ 'big.yaml': `kind: profile\nsource: ${'x'.repeat(1_000_000)}` })).toEqual([
    { file: 'big.yaml', path: '', message: 'The file is larger than 1000000 bytes. Split it.' },
  ]);
});

test('a folder that is not there is one error', () => {
  expect(readContent(join(folder, 'none')).errors).toEqual([
    { file: join(folder, 'none'), path: '', message: 'This folder cannot be read. Check that it exists and may be read.' },
  ]);
});

test('a family that points nowhere is found', () => {
  const family = `kind: family\nid: f\nversion: 1\ntitle: F\nsource: s\nchecked: null\ntext: {what: w, how: h}\nparams: {}\nchain: [{id: a, title: A, how: h}, {id: b, title: B, how: h}]
tests: [{id: t, title: T, do: d, minutes: 1, effect: none, outcomes: {x: {say: x, says: [{link: gone, state: holds, weight: direct}]}, y: {say: y}}}]
next: [{test: gone, why: w}, {procedure: gone, why: w, when: {changed: weather}}]`;
  expect(errors({ 'f.yaml': family }).map((e) => `${e.path}: ${e.message}`)).toEqual([
    'tests[0].outcomes.x.says[0].link: Link "gone" does not exist here. Use one of: a, b.',
    'next[0].test: Test "gone" does not exist here. Use one of: t.',
    expect.stringMatching(/^next\[1\]\.when: Change "weather" does not exist here\. Use one of: engineModule, /),
    'next[1].procedure: Procedure "gone" does not exist here. Use one of: relearn-ignition-on.',
  ]);
});

test('the hash belongs to the content', () => {
  expect(contentHash({ a: 1 })).toBe('015abd7f5cc57a2dd94b7590f04ad8084273905ee33ec5cebeae62276a97f862');
  expect(contentHash({ a: 2 })).not.toBe(contentHash({ a: 1 }));
});
