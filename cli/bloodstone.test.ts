import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** The command as scripts call it. */
function bloodstone(...args: string[]) {
  const { status, stdout, stderr } = spawnSync(process.execPath, ['--import', 'tsx', 'cli/bloodstone.ts', ...args], {
    encoding: 'utf8',
    env: { ...process.env, NODE_OPTIONS: '' },
  });
  return { status, stdout, stderr };
}
const json = (...args: string[]) => JSON.parse(bloodstone(...args, '--json').stdout) as unknown;
const procedure = 'content/procedures/relearn-ignition-on.yaml';
const events = 'cli/fixtures/first-round.json';

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'cli-'));
});
afterEach(() => rmSync(folder, { recursive: true }));
const file = (name: string, text: string) => {
  writeFileSync(join(folder, name), text);
  return join(folder, name);
};

test('profiles list', () => {
  expect(json('profiles', 'list')).toEqual([
    { id: 'tarn-gantry', family: 'transponder-dwell', title: 'Tarn Gantry pick-up, second series' },
    { id: 'tarn-sluice', family: 'transponder-dwell', title: 'Tarn Sluice estate' },
  ]);
});

test('--content adds a folder to the library', () => {
  file('mine.yaml', 'kind: profile\nid: mine\nversion: 1\ntitle: Mine\nfamily: transponder-dwell\nsource: sheet\nchecked: null');
  expect(json('profiles', 'list', '--content', folder)).toContainEqual({ id: 'mine', family: 'transponder-dwell', title: 'Mine' });
});

test('content check: the shipped content, and a folder with a fault', () => {
  expect(json('content', 'check')).toEqual({ files: 5, errors: [] });
  file('bad.yaml', 'kind: recipe');
  const { status, stdout, stderr } = bloodstone('content', 'check', folder, '--json');
  expect(status).toBe(1);
  expect(JSON.parse(stdout)).toEqual({
    files: 6,
    errors: [{ file: 'bad.yaml', path: 'kind', message: 'Found "recipe". Use one of: family, profile, procedure, cautions.' }],
  });
  expect(stderr).toBe('bad.yaml: kind: Found "recipe". Use one of: family, profile, procedure, cautions.\n');
});

test('procedure lint gives problems and minutes', () => {
  expect(json('procedure', 'lint', procedure, '--profile', 'tarn-gantry')).toEqual({ problems: [], minMinutes: 28.5, expectedMinutes: 36.2 });
});

test('procedure replay tells where the run stands, what is due, and what was refused', () => {
  expect(json('procedure', 'replay', procedure, events, '--profile', 'tarn-gantry', '--at', '300')).toEqual({
    state: 'running',
    step: 'dwell',
    due: [{ attention: 'none', instruction: "Leave the key on. Don't start. Watch the lamp.", secondsLeft: 473 }],
    verdict: "Leave the key on. Don't start. Watch the lamp.",
    refused: [{ line: 9, code: 'wrongStep', message: 'That answer belongs to another step. It is now at: Leave the key off.' }],
  });
  expect(json('procedure', 'replay', procedure, events, '--profile', 'tarn-gantry', '--at', '1000')).toMatchObject({
    due: [{ attention: 'red', secondsLeft: -227 }],
  });
});

test.each<[string, string[], RegExp]>([
  ['a file that is not there', ['procedure', 'lint', 'none.yaml'], /^none\.yaml: cannot be read\. Check the path\.\n$/],
  [
    'a profile that is not there',
    ['procedure', 'lint', procedure, '--profile', 'gone'],
    /^--profile gone: does not exist\. Use one of: tarn-gantry, tarn-sluice\.\n$/,
  ],
  ['events that are no JSON', ['procedure', 'replay', procedure, procedure], /is not JSON \(.*\)\. Correct it\.\n$/],
  [
    'a moment that is none',
    ['procedure', 'replay', procedure, events, '--at', 'noon'],
    /^--at noon: expected seconds from the start, 0 or more\.\n$/,
  ],
])('%s: exit 1 and one line', (_what, args, line) => {
  const { status, stdout, stderr } = bloodstone(...args);
  expect({ status, stdout, lines: stderr.split('\n').length }).toEqual({ status: 1, stdout: '', lines: 2 });
  expect(stderr).toMatch(line);
});

test.each<[string, unknown, string]>([
  [
    'no start',
    [{ at: 0, type: 'answer', step: 'rested', answer: 'measured' }],
    '[0]: The first line must be {"at": 0, "type": "start", "keys": ["A"]}. Add it.',
  ],
  [
    'time running backwards',
    [
      { at: 5, type: 'start', keys: ['A'] },
      { at: 4, type: 'stop', reason: 'x' },
    ],
    '[1].at: 4 s lies before the line above (5 s). Put the lines in order of time.',
  ],
  ['an unknown kind of line', [{ at: 0, type: 'dance' }], '[0].type: Found "dance". Use one of: start, answer, waive, interrupt, takeBack, stop.'],
  [
    'an unknown field',
    [{ at: 0, type: 'start', keys: ['A'], colour: 1 }],
    '[0].colour: "colour" is not a field that is known here. Remove it or correct its name.',
  ],
])('events with %s', (_what, lines, message) => {
  const path = file('events.json', JSON.stringify(lines));
  expect(bloodstone('procedure', 'replay', procedure, path)).toEqual({ status: 1, stdout: '', stderr: `${path}: ${message}\n` });
});

test.each([[['dance']], [['procedure', 'lint']], [['profiles', 'list', '--colour']]])('%j is a wrong call: exit 2', (args) => {
  const { status, stdout } = bloodstone(...args);
  expect({ status, stdout }).toEqual({ status: 2, stdout: '' });
});
