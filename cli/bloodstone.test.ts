import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { DiagnoseNext } from './diagnose';

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
  expect(json('profiles', 'list')).toHaveLength(15);
  expect((json('profiles', 'list') as { family: string }[]).filter((p) => p.family === 'transponder-dwell')).toEqual([
    { id: 'tarn-gantry', family: 'transponder-dwell', title: 'Tarn Gantry pick-up, second series' },
    { id: 'tarn-sluice', family: 'transponder-dwell', title: 'Tarn Sluice estate' },
  ]);
});

test('identify: probabilities, the next look, and answers that are none', () => {
  expect(json('identify', '--seen', 'service=cylinder,keyKind=plain,stops=dies')).toMatchObject({
    families: expect.arrayContaining([{ id: 'cylinder', title: 'Coded lock cylinder', p: expect.closeTo(1, 2) }]),
    state: 'sure',
    ask: null,
  });
  expect(json('identify', '--seen', 'keyKind=pellet, service=cantSee')).toMatchObject({
    state: 'confirm',
    ask: { id: expect.any(String), question: expect.stringMatching(/\?$/), why: expect.stringContaining('“Resistor-pellet key”') },
  });
  expect(bloodstone('identify', '--seen', 'colour=red')).toMatchObject({
    status: 1,
    stderr: expect.stringContaining('--seen: "colour" is no question.'),
  });
  expect(bloodstone('identify', '--seen', 'keyKind=wood')).toMatchObject({
    status: 1,
    stderr: expect.stringContaining('--seen: keyKind: "wood" is no answer. Use one of: plain, pellet,'),
  });
  expect(bloodstone('identify', '--seen', 'keyKind=plain,keyKind=plain').status).toBe(1);
  expect(bloodstone('identify').status).toBe(2);
});

test('vin check: valid is for all of it, and every problem is a sentence', () => {
  expect(json('vin', 'check', '00btg5r36-gw004182')).toMatchObject({ vin: '00BTG5R36GW004182', valid: true, expectedCheckDigit: '6', problems: [] });
  expect(json('vin', 'check', '00BTGSR36GW004182')).toMatchObject({
    valid: false,
    usable: true,
    expectedCheckDigit: '8',
    problems: [
      'The check digit in place 9 is 6; 8 would fit. Likeliest slip: place 6 is 5, not S. Not every market uses the digit: read it again, then keep what stands on the vehicle.',
    ],
  });
  expect(json('vin', 'check', '00BTG5R36GWO')).toMatchObject({
    valid: false,
    usable: false,
    expectedCheckDigit: null,
    problems: ['5 characters missing: it has 17. Read it again.', 'Place 12: O is never used. It is likely 0.'],
  });
  expect(bloodstone('vin', 'check', '00BTG5R36GW004182').stdout).toContain('00BTG5R36GW004182: valid');
  expect(bloodstone('vin', 'check').status).toBe(2);
});

test('--content adds a folder to the library', () => {
  file('mine.yaml', 'kind: profile\nid: mine\nversion: 1\ntitle: Mine\nfamily: transponder-dwell\nsource: sheet\nchecked: null');
  expect(json('profiles', 'list', '--content', folder)).toContainEqual({ id: 'mine', family: 'transponder-dwell', title: 'Mine' });
});

test('content check: the shipped content, and a folder with a fault', () => {
  expect(json('content', 'check')).toEqual({ files: 51, errors: [] });
  file('bad.yaml', 'kind: recipe');
  const { status, stdout, stderr } = bloodstone('content', 'check', folder, '--json');
  expect(status).toBe(1);
  expect(JSON.parse(stdout)).toEqual({
    files: 52,
    errors: [
      {
        file: 'bad.yaml',
        path: 'kind',
        message: 'Found "recipe". Use one of: family, profile, procedure, cautions, features, common, call, steps, ladder.',
      },
    ],
  });
  expect(stderr).toBe('bad.yaml: kind: Found "recipe". Use one of: family, profile, procedure, cautions, features, common, call, steps, ladder.\n');
});

test('content figures: as docs/content.md has them, and nothing is left to mend', () => {
  const { stdout } = bloodstone('content', 'figures');
  expect(readFileSync('docs/content.md', 'utf8')).toContain(stdout.trim());
  for (const row of json('content', 'figures') as { family: string }[]) expect(row).toMatchObject({ alike: [], withoutAct: [], copied: [] });
});

test('diagnose next: beliefs, links, tests and advice from an evidence file', () => {
  file(
    'seen.json',
    JSON.stringify([
      { test: 'lamp', outcome: 'refused', key: 'A' },
      { test: 'otherKey', outcome: 'accepted', key: 'B' },
      { test: 'keyRead', outcome: 'silent', key: 'A' },
    ]),
  );
  const found = json('diagnose', 'next', '--profile', 'orrin-spool', '--evidence', join(folder, 'seen.json'), '--limit', '2') as DiagnoseNext;
  expect(found.beliefs[0]).toMatchObject({ fault: 'chipDead', link: 'token', key: 'A' });
  expect(found.beliefs.reduce((n, b) => n + b.p, 0)).toBeCloseTo(1, 9);
  expect(found.beliefs.find((b) => b.fault === 'somethingElse')!.link).toBeNull();
  expect(Object.fromEntries(found.links.map((l) => [l.id, l.state]))).toMatchObject({ token: 'broken', starter: 'unproven' });
  expect(found.next.length).toBeLessThanOrEqual(2);
  for (const next of found.next)
    expect(next).toMatchObject({
      minutes: expect.any(Number),
      gainBits: expect.any(Number),
      expectedCost: expect.any(Number),
      why: expect.any(String),
    });
  expect(found.advice.text).not.toBe('');
  expect(found.surprise).toBe(0);
  expect(bloodstone('diagnose', 'next', '--profile', 'orrin-spool', '--have', '').stdout).toContain('next: lamp');
});

test('diagnose simulate: the same figures for the same seed', () => {
  const figures = json('diagnose', 'simulate', '--profile', 'tarn-sluice', '--policy', 'engine', '--trials', '40', '--seed', '5') as Record<
    string,
    number
  >;
  expect(Object.keys(figures)).toEqual(
    expect.arrayContaining([
      'trials',
      'solved',
      'wrong',
      'unknown',
      'failedRepairs',
      'meanCost',
      'meanExtraCost',
      'meanMinutes',
      'p90Minutes',
      'meanTests',
    ]),
  );
  expect(figures.solved! + figures.wrong! + figures.unknown!).toBe(40);
  expect(json('diagnose', 'simulate', '--profile', 'tarn-sluice', '--policy', 'engine', '--trials', '40', '--seed', '5')).toEqual(figures);
});

test.each<[string, unknown, string[], RegExp]>([
  ['a test that is not there', [{ test: 'beam', outcome: 'x' }], [], /^.*seen\.json: \[0\]: Test "beam" does not exist here\. Use one of: lamp, /],
  [
    'an outcome that is not there',
    [{ test: 'lamp', outcome: 'blue' }],
    [],
    /\[0\]: Outcome "blue" of "lamp" does not exist\. Use one of: accepted, refused, dark\.\n$/,
  ],
  ['a line without an outcome', [{ test: 'lamp' }], [], /seen\.json: \[0\]/],
  ['no list', { test: 'lamp' }, [], /seen\.json: /],
  ['a change that is not there', [], ['--changed', 'moon'], /^--changed: "moon" does not exist\. Use some of: engineModule, /],
  ['a tool that is not there', [], ['--have', 'hammer'], /^--have: "hammer" does not exist\. Use some of: /],
  ['a limit that is none', [], ['--limit', '0'], /^--limit: found "0"\. Use a whole number from 1 to 50\.\n$/],
])('diagnose next, %s: exit 1 and one line', (_what, evidence, args, line) => {
  file('seen.json', JSON.stringify(evidence));
  const { status, stdout, stderr } = bloodstone('diagnose', 'next', '--profile', 'orrin-spool', '--evidence', join(folder, 'seen.json'), ...args);
  expect({ status, stdout }).toEqual({ status: 1, stdout: '' });
  expect(stderr).toMatch(line);
});

test('diagnose simulate: what is too large to solve exactly is refused', () => {
  const { status, stderr } = bloodstone('diagnose', 'simulate', '--profile', 'orrin-spool', '--policy', 'optimal');
  expect(status).toBe(1);
  expect(stderr).toMatch(/^--policy optimal: \d+ faults and \d+ tests are too many to solve exactly\. Use engine, fixed or random\.\n$/);
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
    /^--profile gone: does not exist\. Use one of: calder-bundle, calder-satchel, /,
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
  [
    'an unknown kind of line',
    [{ at: 0, type: 'dance' }],
    '[0].type: Found "dance". Use one of: start, answer, waive, interrupt, number, takeBack, stop.',
  ],
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

test.each(['teach-with-master', 'rearm-by-radio', 'write-slot'])('%s passes the lint and is replayed, shared steps put in', (id) => {
  const path = `content/procedures/${id}.yaml`;
  expect(json('procedure', 'lint', path)).toMatchObject({ problems: [] });
  const events = file('start.json', JSON.stringify([{ at: 0, type: 'start', keys: ['M', 'A'] }]));
  expect(json('procedure', 'replay', path, events)).toMatchObject({ state: 'running', refused: [] });
});

test('a replay of the slot procedure: shared steps, a number looked up, a note that is missing', () => {
  const events = [
    { at: 0, type: 'start', keys: ['N'] },
    { at: 5, type: 'number', name: 'restedMin', value: 12.6, source: 'page 2' },
    { at: 10, type: 'answer', step: 'rested', answer: 'measured', value: 12.5 },
    { at: 20, type: 'answer', step: 'rested', answer: 'measured', value: 12.6 },
    { at: 30, type: 'answer', step: 'loads', answer: 'done' },
    { at: 90, type: 'answer', step: 'loaded', answer: 'measured', value: 12.2 },
    { at: 95, type: 'answer', step: 'window', answer: 'done' },
    { at: 99, type: 'answer', step: 'label', answer: 'ticked' },
  ];
  expect(json('procedure', 'replay', 'content/procedures/write-slot.yaml', file('slot.json', JSON.stringify(events)))).toMatchObject({
    state: 'running',
    step: 'label',
    refused: [{ line: 7, code: 'noteMissing' }],
  });
});

describe('lamp read', () => {
  // Lit 2.8 s, then flashing fast: refused, in the family of the Tarn Gantry.
  const rows = [
    '0.2,1',
    '3.0,0',
    ...Array.from({ length: 10 }, (_, i) => [`${(3.25 + 0.48 * i).toFixed(2)},1`, `${(3.49 + 0.48 * i).toFixed(2)},0`]).flat(),
  ];
  const csv = `seconds,level\n${rows.join('\n')}\n9,0\n`;
  test('a recording as CSV and as VCD', () => {
    const asCsv = json('lamp', 'read', file('lamp.csv', csv), '--profile', 'tarn-gantry');
    expect(asCsv).toMatchObject({ state: 'decided', patterns: [{ id: 'refused' }, {}, {}, {}, {}], features: { flashes: 10 } });
    expect((asCsv as { verdict: string }).verdict).toMatch(
      /^Lit 2\.8 s, then 10 flashes, one every 0\.48 s; dark at the end\. “Lit, then flashing fast” in “Transponder key, timed relearn with ignition on” \((1\.00|0\.9\d)\)\. No chip is heard/,
    );
    const changes = rows.map((r) => r.split(',') as [string, string]).map(([at, level]) => `#${Math.round(Number(at) * 100)} ${level}!`);
    const vcd = `$timescale 10 ms $end $var wire 1 ! lamp $end $enddefinitions $end\n${changes.join('\n')}\n#900\n`;
    expect(json('lamp', 'read', file('lamp.vcd', vcd), '--profile', 'tarn-gantry')).toEqual(asCsv);
  });
  test.each<[string, string, string[], string]>([
    ['lamp.csv', 'seconds,level\n2,1\n1,0', [], 'line 3: 1 s lies before the sample above (2 s). Put the samples in order of time.'],
    ['lamp.txt', csv, [], 'unknown kind of file. Use a .csv (seconds,level) or a .vcd file.'],
    ['empty.csv', '', [], 'The file holds no sample. Record the lamp from the moment on, for some seconds.'],
  ])('%s is refused in a line', (name, text, more, message) => {
    const path = file(name, text);
    expect(bloodstone('lamp', 'read', path, '--profile', 'tarn-gantry', ...more)).toEqual({ status: 1, stdout: '', stderr: `${path}: ${message}\n` });
  });
  test('a moment that the family has no lamp for, and one that does not exist', () => {
    const path = file('lamp.csv', csv);
    expect(bloodstone('lamp', 'read', path, '--profile', 'tarn-gantry', '--moment', 'key-in')).toMatchObject({
      status: 1,
      stderr: '--moment key-in: family "transponder-dwell" has no lamp then. Use one of: ignition-on.\n',
    });
    expect(bloodstone('lamp', 'read', path, '--profile', 'tarn-gantry', '--moment', 'noon').status).toBe(2);
  });
});

test('ladder classify: a step with its chance and doubt, and what is none', () => {
  const found = json(
    'ladder',
    'classify',
    '--ladder',
    'veskar-twelve',
    '--readings',
    '1391,1388,1384,1379,1386,1383',
    '--lead',
    '0.4',
    '--accuracy',
    '0.8%+2',
  );
  expect(found).toMatchObject({
    n: 6,
    mean: expect.closeTo(1384.77, 2),
    sd: expect.closeTo(4.17, 2),
    step: 6,
    nominal: 1400,
    low: 1320,
    high: 1480,
    verdict: 'step',
    margin: { ohms: expect.closeTo(64.77, 2), edge: 'low', step: 6, sigmas: expect.any(Number) },
    text: expect.stringContaining('Step 6.'),
  });
  expect((found as { steps: { p: number }[] }).steps).toHaveLength(12);
  expect(json('ladder', 'classify', '--ladder', 'tarn-ten', '--readings', 'OL,OL,OL')).toMatchObject({
    verdict: 'open',
    mean: null,
    step: null,
    margin: null,
  });
  expect(json('ladder', 'classify', '--ladder', 'veskar-twelve', '--readings', '1.4,1.401,1.399')).toMatchObject({
    verdict: 'short',
    text: expect.stringContaining('1.4 kΩ would be step 6: was it read in another unit?'),
  });
  expect(json('ladder', 'classify', '--ladder', 'veskar-twelve', '--readings', '1400,1.401,1399')).toMatchObject({
    text: expect.stringContaining('Reading 2 is a power of ten away from the others'),
  });
  const ladder = file('mine.csv', 'step,nominal,low,high\n1,1000,950,1050\n2,2000,1900,2100\n');
  const column = file('readings.txt', 'ohms\n1.01k\n1008\n1009\n');
  expect(json('ladder', 'classify', '--ladder', ladder, '--readings', `@${column}`)).toMatchObject({ step: 1, n: 3 });
});

test('ladder classify: what can’t be used is said with its place', () => {
  const says = (...args: string[]) => {
    const { status, stderr } = bloodstone('ladder', 'classify', ...args);
    return [status, stderr.trim()];
  };
  expect(says('--ladder', 'veskar-twelve', '--readings', '1180,abc')).toEqual([
    1,
    '--readings: reading 2: Found "abc", which is no reading. Type ohms, such as 1180 or 1.18k, or OL for an overload.',
  ]);
  expect(says('--ladder', 'nowhere.csv', '--readings', '1180')).toEqual([
    1,
    '--ladder nowhere.csv: cannot be read. Use one of dunmore-pair, tarn-ten, veskar-twelve, or a CSV file with step,nominal,low,high.',
  ]);
  const ladder = file('bad.csv', 'step,nominal,low,high\n1,1000,950,1050\n2,1040,1040,1100\n');
  expect(says('--ladder', ladder, '--readings', '1180')[1]).toContain(
    'line 3, low: The window of step 2 begins at 1.04 kΩ, inside the window of step 1',
  );
  expect(says('--ladder', 'tarn-ten', '--readings', '1180', '--accuracy', 'good')[1]).toContain('--accuracy: Found "good".');
  expect(says('--ladder', 'tarn-ten')[0]).toBe(2);
});

test('ladder wiring: series and parallel with their ohms', () => {
  expect(json('ladder', 'wiring', '--ladder', 'veskar-twelve', '--key', '1401,1400,1399', '--column', '1425,1426,1424')).toMatchObject({
    verdict: 'series',
    seriesOhms: expect.closeTo(25, 9),
    text: expect.stringContaining('more through the column'),
  });
  expect(json('ladder', 'wiring', '--ladder', 'veskar-twelve', '--key', '1401,1400,1399', '--column', '1330,1331,1329')).toMatchObject({
    verdict: 'parallel',
    parallelOhms: expect.closeTo(26_600, 6),
  });
  expect(json('ladder', 'wiring', '--ladder', 'veskar-twelve', '--key', '1400', '--column', 'OL,OL')).toMatchObject({
    verdict: 'open',
    columnOhms: null,
  });
});

test('ladder substitute and search: from a series, a drawer, a history', () => {
  expect(
    json('ladder', 'substitute', '--target', '1400', '--window', '1320,1480', '--series', 'E12', '--tolerance', '1%', '--parts', '2', '--limit', '1'),
  ).toEqual({
    combinations: [
      expect.objectContaining({
        expression: '1500 || 22000',
        parts: 2,
        nominal: expect.closeTo(1404.26, 2),
        error: expect.closeTo(4.26, 2),
        worstLow: expect.closeTo(1390.21, 2),
        worstHigh: expect.closeTo(1418.3, 2),
        inside: true,
      }),
    ],
  });
  const drawer = file('drawer.csv', 'ohms,tolerance_percent,count,watts\n700,1,1,0.25\n1000,1,4,0.25\n');
  expect(json('ladder', 'substitute', '--target', '1400', '--series', drawer, '--limit', '1')).toMatchObject({
    combinations: [{ expression: '1000 + (700 || 1000)', nominal: expect.closeTo(1411.76, 2) }],
  });
  expect(bloodstone('ladder', 'substitute', '--target', '1400', '--series', 'E48').stderr).toContain('Use E12, E24, E96 or a CSV file.');
  const prior = file('prior.csv', 'step,p\n3,6\n7,3\n1,1\n');
  expect(json('ladder', 'search', '--ladder', 'tarn-ten', '--lockout', '300', '--try', '60', '--prior', prior)).toMatchObject({
    order: [3, 7, 1, 2, 4, 5, 6, 8, 9, 10],
    expectedSeconds: 0.6 * 60 + 0.3 * 420 + 0.1 * 780,
    worstSeconds: 10 * 60 + 9 * 300,
  });
  expect(bloodstone('ladder', 'search', '--ladder', 'tarn-ten', '--lockout', '-1', '--try', '60').stderr).toContain(
    '--lockout -1: write a number from 0 to 86400.',
  );
});

test('trials assess', () => {
  expect(json('trials', 'assess', '--hits', '15', '--trials', '15')).toEqual({
    rate: 1,
    low: expect.closeTo(0.782, 3),
    high: 1,
    missUpper: expect.closeTo(0.181, 3),
    furtherCleanTrials: 44,
  });
  expect(bloodstone('trials', 'assess', '--hits', '3', '--trials', '2')).toMatchObject({
    status: 1,
    stderr: '--hits 3: more hits than trials. Write at most 2.\n',
  });
});

test('copycheck compare: masked unless it is asked to reveal', () => {
  const [a, b] = [file('a.txt', '3FA8 C01D'), file('b.txt', '3FAB C10D9')];
  const masked = bloodstone('copycheck', 'compare', a, b, '--json').stdout;
  expect(JSON.parse(masked)).toEqual({
    equal: false,
    aProblems: [],
    bProblems: [],
    differences: [
      { kind: 'substituted', at: 4, a: '•', b: '•', confusable: 'look' },
      { kind: 'swapped', at: 6, a: '••', b: '••', confusable: null },
      { kind: 'extra', at: 9, a: '', b: '•', confusable: null },
    ],
  });
  expect(json('copycheck', 'compare', a, b, '--reveal')).toMatchObject({ differences: [{ a: '8', b: 'B' }, { a: '01', b: '10' }, { b: '9' }] });
  expect(json('copycheck', 'compare', a, a, '--length', '9')).toMatchObject({
    equal: false,
    aProblems: [{ code: 'length' }],
    bProblems: [{ code: 'length' }],
  });
  expect(json('copycheck', 'compare', a, a)).toMatchObject({ equal: true });
  const wrong = bloodstone('copycheck', 'compare', file('c.txt', '12X4'), a, '--json', '--alphabet', 'decimal').stdout;
  expect(wrong).not.toContain('X');
  expect(bloodstone('copycheck', 'compare', a, 'nowhere.txt')).toMatchObject({ status: 1, stderr: 'nowhere.txt: cannot be read. Check the path.\n' });
});
