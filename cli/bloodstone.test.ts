import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { jest } from '@jest/globals';
import { bloodstone as run } from './commands';
import type { DiagnoseNext } from './diagnose';
import type { PlannedReplacement } from './replacement';
import { shippedContent } from '../content/shipped.testing';

/** The command as scripts call it, without a process of its own. */
async function bloodstone(...args: string[]) {
  const said = { stdout: '', stderr: '' };
  const catches = (name: 'stdout' | 'stderr') =>
    jest.spyOn(process[name], 'write').mockImplementation((chunk) => {
      said[name] += String(chunk);
      return true;
    });
  const spies = [catches('stdout'), catches('stderr')];
  try {
    const status = await run(args);
    return { status, ...said };
  } finally {
    for (const spy of spies) spy.mockRestore();
  }
}
const json = async (...args: string[]) => JSON.parse((await bloodstone(...args, '--json')).stdout) as unknown;
/** The command in a process of its own. */
const spawned = (...args: string[]) => {
  const { status, stdout, stderr } = spawnSync(process.execPath, ['--import', 'tsx', 'cli/bloodstone.ts', ...args], {
    encoding: 'utf8',
    env: { ...process.env, NODE_OPTIONS: '' },
  });
  return { status, stdout, stderr };
};
const procedure = 'content/procedures/relearn-ignition-on.yaml';
const events = 'cli/fixtures/first-round.json';

let folder: string;
beforeAll(() => void shippedContent());
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'cli-'));
});
afterEach(() => rmSync(folder, { recursive: true }));
const file = (name: string, text: string) => {
  writeFileSync(join(folder, name), text);
  return join(folder, name);
};

test('profiles list', async () => {
  expect(await json('profiles', 'list')).toHaveLength(15);
  expect(((await json('profiles', 'list')) as { family: string }[]).filter((p) => p.family === 'transponder-dwell')).toEqual([
    { id: 'tarn-gantry', family: 'transponder-dwell', title: 'Tarn Gantry pickup, second series' },
    { id: 'tarn-sluice', family: 'transponder-dwell', title: 'Tarn Sluice wagon' },
  ]);
});

test('identify: probabilities, the next look, and answers that are none', async () => {
  expect(await json('identify', '--seen', 'service=cylinder,keyKind=plain,stops=dies')).toMatchObject({
    families: expect.arrayContaining([{ id: 'cylinder', title: 'Coded lock cylinder', p: expect.closeTo(1, 2) }]),
    state: 'sure',
    ask: null,
  });
  expect(await json('identify', '--seen', 'keyKind=pellet, service=cantSee')).toMatchObject({
    state: 'confirm',
    ask: { id: expect.any(String), question: expect.stringMatching(/\?$/), why: expect.stringContaining('“Resistor key”') },
  });
  expect(await bloodstone('identify', '--seen', 'colour=red')).toMatchObject({
    status: 1,
    stderr: expect.stringContaining('--seen: "colour" is not a question.'),
  });
  expect(await bloodstone('identify', '--seen', 'keyKind=wood')).toMatchObject({
    status: 1,
    stderr: expect.stringContaining('--seen: keyKind: "wood" is not an answer. Use one of: plain, pellet,'),
  });
  expect((await bloodstone('identify', '--seen', 'keyKind=plain,keyKind=plain')).status).toBe(1);
  expect((await bloodstone('identify')).status).toBe(2);
});

test('vin check: valid is for all of it, and every problem is a sentence', async () => {
  expect(await json('vin', 'check', '00btg5r36-gw004182')).toMatchObject({
    vin: '00BTG5R36GW004182',
    valid: true,
    expectedCheckDigit: '6',
    problems: [],
  });
  expect(await json('vin', 'check', '00BTGSR36GW004182')).toMatchObject({
    valid: false,
    usable: true,
    expectedCheckDigit: '8',
    problems: [
      'The check digit, position 9, is 6; 8 would fit. Most likely slip: position 6 is 5, not S. Not every market uses the check digit: read it again, then keep what is on the vehicle.',
    ],
  });
  expect(await json('vin', 'check', '00BTG5R36GWO')).toMatchObject({
    valid: false,
    usable: false,
    expectedCheckDigit: null,
    problems: ['5 characters missing: it has 17. Read it again.', 'Position 12: O is never used. It is likely 0.'],
  });
  expect((await bloodstone('vin', 'check', '00BTG5R36GW004182')).stdout).toContain('00BTG5R36GW004182: valid');
  expect((await bloodstone('vin', 'check')).status).toBe(2);
});

test('--content adds a folder to the library', async () => {
  file('mine.yaml', 'kind: profile\nid: mine\nversion: 1\ntitle: Mine\nfamily: transponder-dwell\nsource: sheet\nchecked: null');
  expect(await json('profiles', 'list', '--content', folder)).toContainEqual({ id: 'mine', family: 'transponder-dwell', title: 'Mine' });
});

test('content check: the shipped content, and a folder with a fault', async () => {
  expect(await json('content', 'check')).toEqual({ files: 115, errors: [] });
  file('bad.yaml', 'kind: recipe');
  const { status, stdout, stderr } = await bloodstone('content', 'check', folder, '--json');
  expect(status).toBe(1);
  expect(JSON.parse(stdout)).toEqual({
    files: 116,
    errors: [
      {
        file: 'bad.yaml',
        path: 'kind',
        message:
          'The file has "recipe". Use one of: family, profile, procedure, cautions, features, common, call, steps, ladder, replacement, replacement-acts, layout, codes.',
      },
    ],
  });
  expect(stderr).toBe(
    'bad.yaml: kind: The file has "recipe". Use one of: family, profile, procedure, cautions, features, common, call, steps, ladder, replacement, replacement-acts, layout, codes.\n',
  );
});

test('content figures: as docs/content.md has them, and nothing is left to mend', async () => {
  const { stdout } = await bloodstone('content', 'figures');
  expect(readFileSync('docs/content.md', 'utf8')).toContain(stdout.trim());
  for (const row of (await json('content', 'figures')) as { family: string }[]) expect(row).toMatchObject({ alike: [], withoutAct: [], copied: [] });
});

test('procedure draft: a text as steps, as JSON and as lines', async () => {
  const text = file('relearn.txt', 'Turn the key on and wait 10 minutes.\nRepeat three times.\n');
  expect(await json('procedure', 'draft', text)).toEqual({
    steps: [
      { kind: 'wait', text: 'Turn the key on and wait 10 minutes.', line: 1, minS: 600 },
      { kind: 'repeat', text: 'Repeat three times.', line: 2, n: 4 },
    ],
    unsure: [2],
  });
  expect((await bloodstone('procedure', 'draft', text)).stdout).toBe(
    'line 1: wait (at least 600 s): Turn the key on and wait 10 minutes.\nline 2: repeat (4 times): Repeat three times.\ncheck line 2\n',
  );
  expect(await bloodstone('procedure', 'draft', 'none.txt')).toMatchObject({ status: 1, stderr: 'none.txt: can’t be read. Check the path.\n' });
});

test('procedure table: as docs/procedures.md has it', async () => {
  const { stdout } = await bloodstone('procedure', 'table');
  expect(readFileSync('docs/procedures.md', 'utf8')).toContain(stdout.trim());
  const rows = (await json('procedure', 'table')) as { family: string; failing: number; stops: string[] }[];
  expect(new Set(rows.map((r) => r.family)).size).toBe(15); // one of them "every"
  for (const row of rows) expect(row).toMatchObject({ failing: expect.any(Number), stops: expect.any(Array) });
});

test('diagnose next: beliefs, links, tests and advice from an evidence file', async () => {
  file(
    'seen.json',
    JSON.stringify([
      { test: 'lamp', outcome: 'refused', key: 'A' },
      { test: 'otherKey', outcome: 'accepted', key: 'B' },
      { test: 'keyRead', outcome: 'silent', key: 'A' },
    ]),
  );
  const found = (await json('diagnose', 'next', '--profile', 'orrin-spool', '--evidence', join(folder, 'seen.json'), '--limit', '2')) as DiagnoseNext;
  expect(found.beliefs[0]).toMatchObject({ fault: 'chipDead', link: 'key', key: 'A' });
  expect(found.beliefs.reduce((n, b) => n + b.p, 0)).toBeCloseTo(1, 9);
  expect(found.beliefs.find((b) => b.fault === 'somethingElse')!.link).toBeNull();
  expect(Object.fromEntries(found.links.map((l) => [l.id, l.state]))).toMatchObject({ key: 'broken', starter: 'unproven' });
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
  expect((await bloodstone('diagnose', 'next', '--profile', 'orrin-spool', '--have', '')).stdout).toContain('next: lamp');
});

test('diagnose simulate: the same figures for the same seed', async () => {
  const figures = (await json('diagnose', 'simulate', '--profile', 'tarn-sluice', '--policy', 'engine', '--trials', '40', '--seed', '5')) as Record<
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
  expect(await json('diagnose', 'simulate', '--profile', 'tarn-sluice', '--policy', 'engine', '--trials', '40', '--seed', '5')).toEqual(figures);
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
  ['a change that is not there', [], ['--changed', 'moon'], /^--changed: "moon" does not exist\. Use some of: ecm, /],
  ['a tool that is not there', [], ['--have', 'hammer'], /^--have: "hammer" does not exist\. Use some of: /],
  ['a limit that is none', [], ['--limit', '0'], /^--limit: you typed "0"\. Use a whole number from 1 to 50\.\n$/],
])('diagnose next, %s: exit 1 and one line', async (_what, evidence, args, line) => {
  file('seen.json', JSON.stringify(evidence));
  const { status, stdout, stderr } = await bloodstone(
    'diagnose',
    'next',
    '--profile',
    'orrin-spool',
    '--evidence',
    join(folder, 'seen.json'),
    ...args,
  );
  expect({ status, stdout }).toEqual({ status: 1, stdout: '' });
  expect(stderr).toMatch(line);
});

test('diagnose simulate: what is too large to solve exactly is refused', async () => {
  const { status, stderr } = await bloodstone('diagnose', 'simulate', '--profile', 'orrin-spool', '--policy', 'optimal');
  expect(status).toBe(1);
  expect(stderr).toMatch(/^--policy optimal: \d+ faults and \d+ tests are too many to solve exactly\. Use engine, fixed or random\.\n$/);
});

test('procedure lint gives problems and minutes', async () => {
  expect(await json('procedure', 'lint', procedure, '--profile', 'tarn-gantry')).toEqual({ problems: [], minMinutes: 29.5, expectedMinutes: 36.3 });
});

test('procedure replay tells where the run stands, what is due, and what was refused', async () => {
  expect(await json('procedure', 'replay', procedure, events, '--profile', 'tarn-gantry', '--at', '300')).toEqual({
    state: 'running',
    step: 'dwell',
    due: [{ attention: 'none', instruction: "Leave the key on. Don't start. Watch the light.", secondsLeft: 473 }],
    verdict: "Leave the key on. Don't start. Watch the light.",
    refused: [{ line: 11, code: 'wrongStep', message: 'That answer belongs to another step. It is now at: Leave the key off.' }],
  });
  expect(await json('procedure', 'replay', procedure, events, '--profile', 'tarn-gantry', '--at', '1000')).toMatchObject({
    due: [{ attention: 'red', secondsLeft: -227 }],
  });
});

test.each<[string, string[], RegExp]>([
  ['a file that is not there', ['procedure', 'lint', 'none.yaml'], /^none\.yaml: can’t be read\. Check the path\.\n$/],
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
])('%s: exit 1 and one line', async (_what, args, line) => {
  const { status, stdout, stderr } = await bloodstone(...args);
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
    '[1].at: 4 s is before the line above (5 s). Put the lines in order of time.',
  ],
  [
    'an unknown kind of line',
    [{ at: 0, type: 'dance' }],
    '[0].type: The file has "dance". Use one of: start, answer, waive, interrupt, number, note, takeBack, stop.',
  ],
  [
    'an unknown field',
    [{ at: 0, type: 'start', keys: ['A'], colour: 1 }],
    '[0].colour: "colour" is not a field that is known here. Remove it or correct its name.',
  ],
])('events with %s', async (_what, lines, message) => {
  const path = file('events.json', JSON.stringify(lines));
  expect(await bloodstone('procedure', 'replay', procedure, path)).toEqual({ status: 1, stdout: '', stderr: `${path}: ${message}\n` });
});

test.each([[['dance']], [['procedure', 'lint']], [['profiles', 'list', '--colour']]])('%j is a wrong call: exit 2', async (args) => {
  const { status, stdout } = await bloodstone(...args);
  expect({ status, stdout }).toEqual({ status: 2, stdout: '' });
});

test.each(['teach-with-master', 'rearm-by-radio', 'write-slot'])('%s passes the lint and is replayed, shared steps put in', async (id) => {
  const path = `content/procedures/${id}.yaml`;
  expect(await json('procedure', 'lint', path)).toMatchObject({ problems: [] });
  const events = file('start.json', JSON.stringify([{ at: 0, type: 'start', keys: ['M', 'A'] }]));
  expect(await json('procedure', 'replay', path, events)).toMatchObject({ state: 'running', refused: [] });
});

test('a replay of the slot procedure: shared steps, a number looked up, a note that is missing', async () => {
  const events = [
    { at: 0, type: 'start', keys: ['N'] },
    { at: 5, type: 'number', name: 'restedMin', value: 12.6, source: 'page 2' },
    { at: 10, type: 'answer', step: 'rested', answer: 'measured', value: 12.5 },
    { at: 20, type: 'answer', step: 'rested', answer: 'measured', value: 12.6 },
    { at: 30, type: 'answer', step: 'loads', answer: 'done' },
    { at: 30, type: 'answer', step: 'loadOn', answer: 'done' },
    { at: 90, type: 'answer', step: 'loaded', answer: 'measured', value: 12.2 },
    { at: 92, type: 'answer', step: 'loadOff', answer: 'done' },
    { at: 95, type: 'answer', step: 'window', answer: 'done' },
    { at: 99, type: 'answer', step: 'label', answer: 'ticked' },
  ];
  expect(await json('procedure', 'replay', 'content/procedures/write-slot.yaml', file('slot.json', JSON.stringify(events)))).toMatchObject({
    state: 'running',
    step: 'label',
    refused: [{ line: 9, code: 'noteMissing' }],
  });
});

describe('light read', () => {
  // Lit 2.8 s, then flashing fast: refused, in the family of the Tarn Gantry.
  const rows = [
    '0.2,1',
    '3.0,0',
    ...Array.from({ length: 10 }, (_, i) => [`${(3.25 + 0.48 * i).toFixed(2)},1`, `${(3.49 + 0.48 * i).toFixed(2)},0`]).flat(),
  ];
  const csv = `seconds,level\n${rows.join('\n')}\n9,0\n`;
  test('a recording as CSV and as VCD', async () => {
    const asCsv = await json('lamp', 'read', file('lamp.csv', csv), '--profile', 'tarn-gantry');
    expect(asCsv).toMatchObject({ state: 'decided', patterns: [{ id: 'refused' }, {}, {}, {}, {}], features: { flashes: 10 } });
    expect((asCsv as { verdict: string }).verdict).toMatch(
      /^Lit 2\.8 s, then 10 flashes, one every 0\.48 s; dark at the end\. “Lit, then flashing fast” in “Transponder key, timed relearn with ignition on” \((over 99 %|9\d %)\)\. No chip is detected at the antenna coil/,
    );
    const changes = rows.map((r) => r.split(',') as [string, string]).map(([at, level]) => `#${Math.round(Number(at) * 100)} ${level}!`);
    const vcd = `$timescale 10 ms $end $var wire 1 ! lamp $end $enddefinitions $end\n${changes.join('\n')}\n#900\n`;
    expect(await json('lamp', 'read', file('lamp.vcd', vcd), '--profile', 'tarn-gantry')).toEqual(asCsv);
  });
  test.each<[string, string, string[], string]>([
    ['lamp.csv', 'seconds,level\n2,1\n1,0', [], 'line 3: 1 s is before the sample above (2 s). Put the samples in order of time.'],
    ['lamp.txt', csv, [], 'unknown kind of file. Use a .csv (seconds,level) or a .vcd file.'],
    ['empty.csv', '', [], 'The file has no samples. Record the light for some seconds, starting at that moment.'],
  ])('%s is refused in a line', async (name, text, more, message) => {
    const path = file(name, text);
    expect(await bloodstone('lamp', 'read', path, '--profile', 'tarn-gantry', ...more)).toEqual({
      status: 1,
      stdout: '',
      stderr: `${path}: ${message}\n`,
    });
  });
  test('a moment that the family has no lamp for, and one that does not exist', async () => {
    const path = file('lamp.csv', csv);
    expect(await bloodstone('lamp', 'read', path, '--profile', 'tarn-gantry', '--moment', 'key-in')).toMatchObject({
      status: 1,
      stderr: '--moment key-in: system type "transponder-dwell" has no light then. Use one of: ignition-on.\n',
    });
    expect((await bloodstone('lamp', 'read', path, '--profile', 'tarn-gantry', '--moment', 'noon')).status).toBe(2);
  });
});

test('ladder, trials and copycheck are wired to what cli/instruments.test.ts looks at', async () => {
  expect(
    await json(
      'ladder',
      'classify',
      '--ladder',
      'veskar-twelve',
      '--readings',
      '1391,1388,1384',
      '--lead',
      '0.4',
      '--accuracy',
      '0.8%+2',
      '--resolution',
      '0.1',
    ),
  ).toMatchObject({ n: 3, step: 6, verdict: 'step' });
  expect(await bloodstone('ladder', 'classify', '--ladder', 'veskar-twelve', '--readings', '1180,abc')).toMatchObject({
    status: 1,
    stdout: '',
    stderr: '--readings: reading 2: You typed "abc", which is not a reading. Type ohms, such as 1180 or 1.18k, or OL for overload.\n',
  });
  expect((await bloodstone('ladder', 'classify', '--ladder', 'tarn-ten')).status).toBe(2);
  expect(await json('ladder', 'wiring', '--ladder', 'veskar-twelve', '--key', '1401,1400,1399', '--column', '1425,1426,1424')).toMatchObject({
    verdict: 'series',
  });
  expect(
    (
      await bloodstone(
        'ladder',
        'substitute',
        '--target',
        '1400',
        '--series',
        'E12',
        '--tolerance',
        '1%',
        '--parts',
        '2',
        '--limit',
        '1',
        '--window',
        '1320,1480',
      )
    ).stdout,
  ).toBe('1500 || 22000  = 1404.3 (1390.2 to 1418.3)\n');
  expect(await json('ladder', 'search', '--ladder', 'tarn-ten', '--lockout', '300', '--try', '60')).toMatchObject({
    order: [1, 2, 3, 4, 5, 6, 7, 8, 9, 10],
    worstSeconds: 3300,
  });
  expect(await json('trials', 'assess', '--hits', '15', '--trials', '15')).toMatchObject({ rate: 1, furtherCleanTrials: 44 });
  const [a, b] = [file('a.txt', '3FA8 C01D'), file('b.txt', '3FAB C10D9')];
  expect((await bloodstone('copycheck', 'compare', a, b)).stdout).toBe(
    'not equal\nsubstituted at 4: •, • (look alike)\nswapped at 6: ••, ••\nextra at 9: nothing, •\n',
  );
});

test('replacement plan: steps in order with what each waits for, warnings, and what can’t be restored', async () => {
  const plan = (await json('replacement', 'plan', '--profile', 'tarn-gantry', '--replaced', 'engine=new')) as PlannedReplacement;
  expect(plan.steps.map((s) => s.id)).toEqual([
    'readOld.engine',
    'compareVariant.engine',
    'findCause.engine',
    'swapModule.engine',
    'programEngine',
    'clearNetwork',
    'relearnByTool',
    'restoreCounters.engine',
    'resetValues',
    'clearAndScan',
    'everyKey',
  ]);
  expect(plan.steps[6]).toMatchObject({
    after: ['swapModule.engine', 'programEngine', 'clearNetwork'],
    effect: 'replacesKeys',
    procedure: 'relearn-tool-dwell',
  });
  expect(plan).toMatchObject({ minutes: 150, warnings: [{ id: 'keysForgotten', text: expect.stringContaining('forgotten') }], cannot: [] });
  const without = (await json(
    'replacement',
    'plan',
    '--profile',
    'tarn-gantry',
    '--replaced',
    'engine=new',
    '--have',
    'learned=2,main=1',
  )) as PlannedReplacement;
  expect(without.steps).toEqual([]);
  expect(without.cannot[0]).toMatchObject({
    fact: 'engine.identity',
    because: [
      '“Program VIN and calibration” needs a scan tool.',
      '“Program VIN and calibration” needs a programming tool.',
      "“Move the vehicle's own data into it on the bench” needs something that is not available: ECM: saved data.",
    ],
    then: expect.stringContaining('supplier'),
  });
  expect(await json('replacement', 'plan', '--profile', 'tarn-gantry', '--replaced', 'engine=donor', '--by-hand')).toMatchObject({
    warnings: [{ id: 'usedBeforeTool' }, { id: 'keysForgotten' }, { id: 'noScan' }],
  });
  expect(await bloodstone('replacement', 'plan', '--profile', 'tarn-gantry', '--replaced', 'engine=old')).toMatchObject({
    status: 1,
    stderr: '--replaced: Say where the part comes from: engine=one of new, donor, remanufactured, repaired.\n',
  });
  expect(await bloodstone('replacement', 'plan', '--profile', 'none', '--replaced', 'engine=new')).toMatchObject({
    status: 1,
    stderr: expect.stringContaining('--profile: "none" does not exist.'),
  });
  expect((await bloodstone('replacement', 'plan', '--profile', 'tarn-gantry')).status).toBe(2);
  expect((await bloodstone('replacement', 'plan', '--profile', 'tarn-gantry', '--replaced', 'reader=new')).stdout).toContain(
    'An antenna coil holds nothing',
  );
});

test('codes find and explain', async () => {
  const scan = file('scan.txt', 'ECM\nP0562-16 stored\nPO633\n');
  expect(await json('codes', 'find', scan)).toEqual({
    codes: [{ code: 'P0562', failureType: '16', at: 4, line: 2, status: 'stored', module: 'engine' }],
    guesses: [{ text: 'PO633', code: 'P0633', at: 20 }],
  });
  expect((await bloodstone('codes', 'find', scan)).stdout).toBe(
    'line 2: P0562-16 engine stored\n“PO633” may be P0633\n1 trouble codes, 1 that could be one\n',
  );
  expect(await bloodstone('codes', 'find', join(folder, 'none.txt'))).toMatchObject({ status: 1, stderr: expect.stringContaining('can’t be read') });
  expect(await json('codes', 'explain', 'p0633', 'P1611', '--profile', 'tarn-gantry')).toMatchObject([
    { code: 'P0633', system: 'powertrain', generic: true, text: 'Immobilizer key not programmed, ECM', relevance: 'about' },
    {
      code: 'P1611',
      generic: false,
      text: 'Immobilizer password not learned',
      relevance: 'about',
      tests: expect.arrayContaining(['whoAnswers', 'releaseLive']),
    },
  ]);
  expect(await json('codes', 'explain', 'P1611')).toMatchObject([
    { known: false, relevance: 'may', text: expect.stringContaining('Only the service information') },
  ]);
  expect(await bloodstone('codes', 'explain', 'P4')).toMatchObject({
    status: 1,
    stderr: '"P4" is not a trouble code. Write P, C, B or U and four digits, such as P0562 or P0562-16.\n',
  });
  expect((await bloodstone('codes', 'explain')).status).toBe(2);
});

test('a process of its own: what it prints is one document, and how it ends', () => {
  const { status, stdout, stderr } = spawned('profiles', 'list', '--json');
  expect({ status, stderr }).toEqual({ status: 0, stderr: '' });
  expect(JSON.parse(stdout)).toHaveLength(15);
  expect(spawned('procedure', 'lint', 'none.yaml')).toEqual({ status: 1, stdout: '', stderr: 'none.yaml: can’t be read. Check the path.\n' });
  expect(spawned('dance')).toMatchObject({ status: 2, stdout: '' });
});
