import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { copycheckCompare } from './copycheck';
import { CannotUse } from './fail';
import { ladderClassify, ladderSearch, ladderSubstitute, ladderWiring } from './ladder';
import { reservePredict } from './reserve';
import { schedulePlan } from './schedule';
import { trialsAssess } from './trials';
import { shippedContent } from '../content/shipped.testing';

const shipped = ['content'];
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
/** What a command ends with for the person. */
function says(run: () => unknown): string {
  try {
    run();
  } catch (error) {
    if (error instanceof CannotUse) return error.message;
    throw error;
  }
  return 'done';
}

describe('ladder classify', () => {
  const classify = (ladder: string, readings: string, more: Record<string, string> = {}) => ladderClassify(shipped, { ladder, readings, ...more });
  test('a step with its chance and uncertainty', () => {
    const found = classify('veskar-twelve', '1391,1388,1384,1379,1386,1383', { lead: '0.4', accuracy: '0.8%+2' });
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
      text: expect.stringContaining('Value 6.'),
    });
    expect(found.steps).toHaveLength(12);
    expect(classify('tarn-ten', 'OL,OL,OL')).toMatchObject({ verdict: 'open', mean: null, step: null, margin: null });
  });
  test('a unit that was mistyped', () => {
    expect(classify('veskar-twelve', '1.4,1.401,1.399')).toMatchObject({
      verdict: 'short',
      text: expect.stringContaining('1.4 kΩ would be value 6: wrong unit?'),
    });
    expect(classify('veskar-twelve', '1400,1.401,1399').text).toContain('Reading 2 is a power of ten away from the others');
  });
  test('from files', () => {
    const ladder = file('mine.csv', 'step,nominal,low,high\n1,1000,950,1050\n2,2000,1900,2100\n');
    expect(classify(ladder, `@${file('readings.txt', 'ohms\n1.01k\n1008\n1009\n')}`)).toMatchObject({ step: 1, n: 3 });
  });
  test('what can’t be used is said with its place', () => {
    expect(says(() => classify('nowhere.csv', '1180'))).toBe(
      '--ladder nowhere.csv: can’t be read. Use one of dunmore-pair, tarn-ten, veskar-twelve, or a CSV file with step,nominal,low,high.',
    );
    const bad = file('bad.csv', 'step,nominal,low,high\n1,1000,950,1050\n2,1040,1040,1100\n');
    expect(says(() => classify(bad, '1180'))).toContain('line 3, low: The window of value 2 begins at 1.04 kΩ, inside the window of value 1');
    expect(says(() => classify('tarn-ten', '1180', { accuracy: 'good' }))).toContain('--accuracy: You typed "good".');
    expect(says(() => classify('tarn-ten', '1180', { lead: 'OL' }))).toBe('--lead OL: write the ohms of the leads, such as 0.4.');
    expect(says(() => classify('tarn-ten', '1180', { temperature: '500' }))).toBe('--temperature 500: write a number from -60 to 150.');
    expect(says(() => classify('tarn-ten', '-3'))).toContain('A resistance can’t be below zero.');
  });
});

test('ladder wiring: series and parallel with their ohms, and open', () => {
  const wiring = (key: string, column: string, more: Record<string, string> = {}) =>
    ladderWiring(shipped, { ladder: 'veskar-twelve', key, column, ...more });
  expect(wiring('1401,1400,1399', '1425,1426,1424')).toMatchObject({
    verdict: 'series',
    seriesOhms: expect.closeTo(25, 9),
    text: expect.stringContaining('more at the steering-column connector'),
  });
  expect(wiring('1401,1400,1399', '1425,1426,1424', { contacts: '40' }).verdict).toBe('equal');
  expect(wiring('1401,1400,1399', '1330,1331,1329')).toMatchObject({ verdict: 'parallel', parallelOhms: expect.closeTo(26_600, 6) });
  expect(wiring('1400', 'OL,OL')).toMatchObject({ verdict: 'open', columnOhms: null });
});

test('ladder substitute: from a series, a drawer, and what is none', () => {
  const substitute = (more: Record<string, string>) => ladderSubstitute({ target: '1400', series: 'E12', limit: '1', ...more });
  expect(substitute({ window: '1320,1480', parts: '2', tolerance: '1%' })).toEqual({
    combinations: [
      {
        expression: '1500 || 22000',
        parts: 2,
        nominal: expect.closeTo(1404.26, 2),
        error: expect.closeTo(4.26, 2),
        worstLow: expect.closeTo(1390.21, 2),
        worstHigh: expect.closeTo(1418.3, 2),
        inside: true,
        hottestWatts: null,
      },
    ],
  });
  const drawer = file('drawer.csv', 'ohms,tolerance_percent,count,watts\n700,1,1,0.25\n1000,1,4,0.25\n');
  expect(substitute({ series: drawer })).toMatchObject({
    combinations: [{ expression: '1000 + (700 || 1000)', nominal: expect.closeTo(1411.76, 2) }],
  });
  expect(says(() => substitute({ series: 'E48' }))).toBe('--series E48: can’t be read. Use E12, E24, E96 or a CSV file.');
  expect(says(() => substitute({ window: '1480,1320' }))).toBe('--window 1480,1320: the window ends below its beginning. Swap the two.');
  expect(says(() => substitute({ parts: '4' }))).toBe('--parts 4: write a number from 1 to 3.');
  expect(says(() => substitute({ target: '0' }))).toBe('--target 0: write ohms above zero, such as 1180 or 1.18k.');
});

test('ladder search: a history decides the order', () => {
  const search = (more: Record<string, string> = {}) => ladderSearch(shipped, { ladder: 'tarn-ten', lockout: '300', try: '60', ...more });
  expect(search({ prior: file('prior.csv', 'step,p\n3,6\n7,3\n1,1\n') })).toEqual({
    order: [3, 7, 1, 2, 4, 5, 6, 8, 9, 10],
    expectedSeconds: expect.closeTo(0.6 * 60 + 0.3 * 420 + 0.1 * 780, 9),
    worstSeconds: 10 * 60 + 9 * 300,
  });
  expect(says(() => search({ lockout: '-1' }))).toBe('--lockout -1: write a number from 0 to 86400.');
  expect(says(() => search({ prior: file('p.csv', 'step,p\n99,1') }))).toContain('line 2: Value "99" is not in the value chart.');
});

test('trials assess: limits, and counts that are none', () => {
  expect(trialsAssess({ hits: '15', trials: '15' })).toEqual({
    rate: 1,
    low: expect.closeTo(0.782, 3),
    high: 1,
    missUpper: expect.closeTo(0.181, 3),
    furtherCleanTrials: 44,
  });
  expect(says(() => trialsAssess({ hits: '3', trials: '2' }))).toBe('--hits 3: more hits than trials. Write at most 2.');
  expect(says(() => trialsAssess({ hits: 'x', trials: '2' }))).toBe('--hits x: write a whole number from 0 to 1000000.');
  expect(says(() => trialsAssess({ hits: '1', trials: '2', confidence: '1' }))).toBe('--confidence 1: write a number between 0 and 1, such as 0.95.');
});

test('copycheck compare: masked unless it is asked to reveal', () => {
  const [a, b] = [file('a.txt', '3FA8 C01D'), file('b.txt', '3FAB C10D9')];
  expect(copycheckCompare(a, b, { alphabet: 'hex' })).toEqual({
    equal: false,
    aProblems: [],
    bProblems: [],
    differences: [
      { kind: 'substituted', at: 4, a: '•', b: '•', confusable: 'look' },
      { kind: 'swapped', at: 6, a: '••', b: '••', confusable: null },
      { kind: 'extra', at: 9, a: '', b: '•', confusable: null },
    ],
  });
  expect(copycheckCompare(a, b, { alphabet: 'hex', reveal: true })).toMatchObject({
    differences: [{ a: '8', b: 'B' }, { a: '01', b: '10' }, { b: '9' }],
  });
  expect(copycheckCompare(a, a, { alphabet: 'hex', length: '9' })).toMatchObject({
    equal: false,
    aProblems: [{ code: 'length' }],
    bProblems: [{ code: 'length' }],
  });
  expect(copycheckCompare(a, a, { alphabet: 'hex' })).toMatchObject({ equal: true });
  const v = file('v.txt', '00BTG5R36GW004182');
  expect(copycheckCompare(v, v, { alphabet: 'identification', length: '17' })).toEqual({
    equal: true,
    aProblems: [],
    bProblems: [],
    differences: [],
  });
  expect(JSON.stringify(copycheckCompare(file('c.txt', '12X4'), a, { alphabet: 'decimal' }))).not.toContain('X');
  expect(says(() => copycheckCompare(a, 'nowhere.txt', { alphabet: 'hex' }))).toBe('nowhere.txt: can’t be read. Check the path.');
  expect(says(() => copycheckCompare(a, a, { alphabet: 'hex', length: '0' }))).toBe('--length 0: write a whole number from 1 to 20000.');
});

describe('reserve predict', () => {
  const battery = { type: 'flooded', capacityAh: 60, openCircuitVolts: 12.5, temperatureC: 20, ageYears: 3, loadAmps: 6, limitVolts: 12.0 };
  const predict = (minutes: string, more: object = {}) => reservePredict(file('battery.json', JSON.stringify({ ...battery, ...more })), { minutes });
  test('volts now and then, the minutes above the limit, and the verdict', () => {
    expect(predict('30')).toMatchObject({
      startVolts: expect.closeTo(12.3, 2),
      endVolts: expect.closeTo(12.25, 2),
      endVoltsLow: expect.closeTo(12.12, 2),
      endVoltsHigh: expect.closeTo(12.35, 2),
      minutesAboveLimit: expect.closeTo(165.4, 0),
      verdict: 'go',
      supplyAmps: 0,
    });
    expect(predict('120')).toMatchObject({ verdict: 'goWithSupply', supplyAmps: expect.any(Number) });
  });
  test('with readings it goes on from the last of them', () => {
    const sagging = predict('30', {
      readings: [
        { minutes: 1, volts: 12.06 },
        { minutes: 6, volts: 12.03 },
      ],
    });
    expect(sagging.startVolts).toBeCloseTo(12.05, 1);
    expect(sagging.verdict).toBe('goWithSupply');
  });
  test('what can’t be used is said with its place', () => {
    expect(says(() => predict('soon'))).toBe('--minutes soon: write a number from 0 to 1440.');
    expect(says(() => predict('1441'))).toBe('--minutes 1441: write a number from 0 to 1440.');
    expect(says(() => predict('5', { capacityAh: 0 }))).toMatch(/battery\.json: capacityAh: .*4/);
    expect(says(() => reservePredict(file('b.json', '{'), { minutes: '5' }))).toContain('is not JSON. Write {"type":"flooded"');
    expect(says(() => reservePredict(join(folder, 'none.json'), { minutes: '5' }))).toContain('can’t be read. Check the path.');
  });
});

describe('schedule plan', () => {
  const plan = (data: unknown) => schedulePlan(file('shop.json', JSON.stringify(data)));
  const car = (id: string) => ({
    id,
    steps: [
      { kind: 'attended', minutes: 2 },
      { kind: 'wait', minutes: 10, maxLateMinutes: 0 },
      { kind: 'attended', minutes: 4 },
    ],
  });

  test('the order of touches, when the last car is ready, and the bound', () => {
    expect(plan({ technicians: 1, cases: [car('a'), car('b')] })).toMatchObject({
      makespanMinutes: 20,
      bound: 20,
      touches: [
        { at: 0, case: 'a', step: 0 },
        { at: 4, case: 'b', step: 0 },
        { at: 12, case: 'a', step: 2 },
        { at: 16, case: 'b', step: 2 },
      ],
    });
  });

  test.each([
    ['no such kind', { technicians: 1, cases: [{ id: 'a', steps: [{ kind: 'rest', minutes: 2 }] }] }, 'cases[0].steps[0].kind'],
    ['minutes below zero', { technicians: 1, cases: [{ id: 'a', steps: [{ kind: 'wait', minutes: -1 }] }] }, 'cases[0].steps[0].minutes'],
    ['nobody', { technicians: 0, cases: [] }, 'technicians'],
    ['the same case twice', { technicians: 1, cases: [car('a'), car('a')] }, 'cases[1]'],
    ['an act with a limit', { technicians: 1, cases: [{ id: 'a', steps: [{ kind: 'attended', minutes: 1, maxLateMinutes: 2 }] }] }, 'maxLateMinutes'],
  ])('%s is refused, with its place', (_, data, where) => {
    expect(says(() => plan(data))).toContain(where);
  });

  test('a file that is not JSON', () => {
    expect(says(() => schedulePlan(file('s.json', '{')))).toContain('is not JSON. Write {"technicians":1');
  });
});
