import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { contentHash, parseBody, parseYaml, readContent } from './reader';

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
  expect(library.families.size).toBe(14);
  // Every family has a vehicle of the demo world.
  expect(new Set([...library.profiles.values()].map((p) => p.family))).toEqual(new Set(library.families.keys()));
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
  [
    'an unknown kind',
    'kind: recipe',
    'kind',
    'The file has "recipe". Use one of: family, profile, procedure, cautions, features, common, call, steps, ladder, replacement, replacement-acts, layout, codes.',
  ],
  [
    'an unknown family',
    profile('').replace('transponder-dwell', 'gone'),
    'family',
    'System type "gone" does not exist. Use one of: alarm-latch, cylinder,',
  ],
  [
    'an unknown parameter',
    profile('values: {gone: {value: 1, source: s, by: b}}'),
    'values.gone',
    'System type "transponder-dwell" has no parameter "gone". Use one of: ',
  ],
  [
    'a word for a number',
    profile('values: {dwell: {value: long, source: s, by: b}}'),
    'values.dwell.value',
    '"long" can’t be used here. Use a number in s.',
  ],
  [
    'a value outside the list',
    profile('values: {cut: {value: none, source: s, by: b}}'),
    'values.cut.value',
    '"none" can’t be used here. Use one of: fuel, fuelAndStarter.',
  ],
  ['a feature that is not there', profile('seen: {smell: sweet}'), 'seen.smell', 'Feature "smell" does not exist. Use one of: service, vehicle,'],
  ['a value of no question', profile('seen: {vehicle: boat}'), 'seen.vehicle', 'Value "boat" does not exist. Use one of: car, light.'],
  [
    'an unknown ladder',
    profile('ladder: gone').replace('transponder-dwell', 'pellet'),
    'ladder',
    'Value chart "gone" does not exist. Use one of: dunmore-pair, tarn-ten, veskar-twelve.',
  ],
  [
    'a ladder for keys without a resistor',
    profile('ladder: tarn-ten'),
    'ladder',
    'System type "transponder-dwell" has no resistor keys. Remove the value chart.',
  ],
  [
    'a ladder whose windows overlap',
    'kind: ladder\nid: l\nversion: 1\ntitle: L\nsource: s\nchecked: null\npellets: 1\nsteps: [{step: 1, nominal: 100, low: 90, high: 110}, {step: 2, nominal: 120, low: 110, high: 130}]',
    'steps[1].low',
    'The window of value 2 begins at 110 Ω, inside the window of value 1',
  ],
  ['a date of no form', profile('').replace('null', '{by: me, on: soon}'), 'checked.on', 'The file has "soon". Write a date such as 2026-03-04.'],
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

test('YAML is read down to forty levels, whatever the stack of this machine bears', () => {
  const nested = (levels: number) => parseYaml(`a: ${'['.repeat(levels - 1)}${']'.repeat(levels - 1)}`);
  expect(nested(40).ok).toBe(true);
  for (const levels of [41, 200, 1000, 20_000])
    expect(nested(levels)).toEqual({
      ok: false,
      // How many levels the stack bears is the machine's own, and the message is the same.
      problems: [
        {
          code: levels > 200 ? expect.stringMatching(/^(yaml|tooDeep)$/) : 'tooDeep',
          path: '',
          message: 'Nested too deeply to be read. Write it flatter.',
        },
      ],
    });
});

test('a file that is no content by its size is refused', () => {
  expect(errors({ 'big.yaml': `kind: profile\nsource: ${'x'.repeat(1_000_000)}` })).toEqual([
    { file: 'big.yaml', path: '', message: 'The file is larger than 1000000 bytes. Split it.' },
  ]);
});

test('a folder that is not there is one error', () => {
  expect(readContent(join(folder, 'none')).errors).toEqual([
    { file: join(folder, 'none'), path: '', message: 'This folder can’t be read. Check that it exists and may be read.' },
  ]);
});

test('a family that points nowhere is found', () => {
  const family = `kind: family\nid: f\nversion: 1\ntitle: F\nsource: s\nchecked: null\ntext: {what: w, how: h}\nparams: {}\nchain: [{id: a, title: A, how: h}, {id: b, title: B, how: h}]
tests: [{id: t, title: T, do: d, minutes: 1, effect: none, outcomes: {x: {say: x, says: [{link: gone, state: holds, weight: direct}]}, y: {say: y}}}]
next: [{test: gone, why: w}, {procedure: gone, why: w, when: {changed: weather}}]`;
  expect(errors({ 'f.yaml': family }).map((e) => `${e.path}: ${e.message}`)).toEqual([
    'tests[0].outcomes.x.says[0].link: Link "gone" does not exist here. Use one of: a, b.',
    'next[0].test: Test "gone" does not exist here. Use one of: t.',
    expect.stringMatching(/^next\[1\]\.when: Change "weather" does not exist here\. Use one of: ecm, /),
    `next[1].procedure: Procedure "gone" does not exist here. Use one of: ${[...readContent('content').library.procedures.keys()].sort().join(', ')}.`,
  ]);
});

const small = (more: string) => `kind: family\nid: f\nversion: 1\ntitle: F\nsource: s\nchecked: null\ntext: {what: w, how: h}
params: {}\nchain: [{id: starter, title: A, how: h}, {id: b, title: B, how: h}]\nnext: [{test: t, why: w}]
tests: [{id: t, title: T, do: d, minutes: 1, effect: none, outcomes: {x: {say: x}, y: {say: y}}}]\n${more}`;
const common = (id: string, use: string) =>
  `kind: common\nid: ${id}\nversion: 2\nsource: s\nchecked: null\nuse: [${use}]
tests: [{id: t${id}, title: T, do: d, minutes: 1, effect: none, outcomes: {x: {say: x}, y: {say: y}}}]`;

test('a document that is stored and read back keeps its hash, merged parts included', () => {
  for (const { kind, body, hash } of readContent('content').library.documents) {
    const stored: unknown = JSON.parse(JSON.stringify(body));
    expect(contentHash(parseBody(kind, stored))).toBe(hash);
  }
});

test('what a family says of features is checked against the list', () => {
  const said = (features: string) => errors({ 'f.yaml': small(`features: ${features}`) }).map((e) => `${e.path}: ${e.message}`);
  expect(said('{vehicle: {car: 0.7, light: 0.3}}')).toEqual([]);
  expect(said('{vehicle: {car: 0.7, light: 0.294}}')).toEqual([
    'features.vehicle: The shares add up to 0.994, expected 1. Correct them; a value that is left out is never found.',
  ]);
  expect(said('{vehicle: {boat: 1}}')).toEqual(['features.vehicle.boat: Value "boat" does not exist here. Use one of: car, light.']);
  expect(said('{smell: {sweet: 1}}')).toEqual([expect.stringMatching(/^features\.smell: Feature "smell" does not exist\. Use one of: service, /)]);
});

test('a question stands once, and “can’t see” is no value of its own', () => {
  const list = (feature: string) =>
    `kind: features\nid: more\nversion: 1\nsource: s\nchecked: null\nfeatures: [{id: ${feature}, ask: A?, error: 0.1, values: {a: A, b: B}}]`;
  const said = (text: string) => errors({ 'more.yaml': text }).map((e) => `${e.path}: ${e.message}`);
  expect(said(list('smell'))).toEqual([]);
  expect(said(list('vehicle'))).toEqual(['features[0].id: Feature "vehicle" also stands in another list. Give one of them another id.']);
  expect(said(list('smell').replace('{a: A,', '{cantSee: A,'))).toEqual([expect.stringMatching(/^features\[0\]\.values\.cantSee: /)]);
});

describe('common parts', () => {
  const said = (files: Record<string, string>) => errors(files).map((e) => `${e.file}: ${e.path}: ${e.message}`);
  const startVersion = Number(/^version: (\d+)/m.exec(readFileSync('content/common/start.yaml', 'utf8'))![1]);
  test('are merged into the family that uses them; its own test comes first, and a link it has not is left out', () => {
    expect(
      said({ 'f.yaml': small(`use: [start@${startVersion}]`).replaceAll('id: t,', 'id: battery,').replace('test: t', 'test: battery') }),
    ).toEqual([]);
    const family = readContent('content', folder).library.families.get('f')!;
    expect(family.tests.map((t) => [t.id, t.title])).toEqual([
      ['battery', 'T'],
      ['engine', 'What the engine does'],
      ['interlockLook', 'Brake, clutch, park and neutral'],
      ['interlockLive', 'Brake, clutch, park and neutral in live data'],
    ]);
    expect(family.tests[1]!.outcomes.cranks!.says.map((s) => s.link)).toEqual(['starter']);
  });
  test('that are not there, in another version, or in a circle are refused', () => {
    expect(said({ 'f.yaml': small('use: [gone@1]') })).toEqual([
      'f.yaml: use[0]: "gone@1" is not there. No common parts have this name. Correct the reference.',
    ]);
    expect(said({ 'f.yaml': small(`use: [start@${startVersion + 1}]`) })).toEqual([
      `f.yaml: use[0]: "start@${startVersion + 1}" is not there. It is there in version ${startVersion}. Correct the reference.`,
    ]);
    expect(said({ 'f.yaml': small('use: [one@2]'), 'c/1.yaml': common('one', 'two@2'), 'c/2.yaml': common('two', 'one@2') })).toEqual([
      "f.yaml: use[0][0][0]: one uses two uses one. Common parts can't use each other in a circle; remove one.",
    ]);
  });
});

test('the hash belongs to the content', () => {
  expect(contentHash({ a: 1 })).toBe('015abd7f5cc57a2dd94b7590f04ad8084273905ee33ec5cebeae62276a97f862');
  expect(contentHash({ a: 2 })).not.toBe(contentHash({ a: 1 }));
});
