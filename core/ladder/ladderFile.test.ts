import { lintLadder, oneRange, parseLadderCsv, parsePriorCsv } from '.';
import { parseLadder } from './schema';

const steps = (text: string) => parseLadderCsv(`step,nominal,low,high\n${text}`);

test('a ladder from CSV, with k and with semicolons', () => {
  expect(steps('1,348,327,372\n2,1.07k,1k,1.14k\n')).toEqual({
    ok: true,
    value: [
      { step: 1, nominal: 348, low: 327, high: 372 },
      { step: 2, nominal: 1070, low: 1000, high: 1140 },
    ],
  });
  expect(parseLadderCsv('Step; Nominal; Low; High\n1;348,5;327;372')).toMatchObject({ ok: true, value: [{ nominal: 348.5 }] });
  expect(steps('1,1000,950,1050')).toMatchObject({ ok: true });
});

test.each([
  ['', '', 'The file has no value. Write one per line: step,nominal,low,high.'],
  ['1,348,327', 'line 2', 'This line has 3 entries. Write 4: step, nominal, low, high.'],
  ['one,348,327,372', 'line 2, step', '"one" can’t be used here. Write the number of the value.'],
  ['1,348,OL,372', 'line 2, low', '"OL" can’t be used here. Write ohms above zero, such as 1180 or 1.18k.'],
  ['1,348,372,327', 'line 2', 'The window of value 1 ends below its beginning. Swap low and high.'],
  ['1,400,327,372', 'line 2, nominal', '400 Ω is outside the window of value 1, 327 Ω to 372 Ω. Correct one of them.'],
  ['1,348,327,372\n\n1,464,434,492', 'line 4, step', 'Value 1 comes after value 1. Number them upward.'],
  ['2,464,434,492\n3,348,327,372', 'line 3, nominal', '348 Ω comes after 464 Ω. Write the values from the lowest to the highest.'],
  [
    '1,348,327,372\n2,464,372,492',
    'line 3, low',
    'The window of value 2 begins at 372 Ω, inside the window of value 1, which ends at 372 Ω. Separate them.',
  ],
])('%j: where and what', (text, path, message) => expect(steps(text)).toMatchObject({ ok: false, problems: [{ path, message }] }));

test('windows that touch are refused, windows with a hair between them are not', () => {
  expect(steps('1,348,327,372\n2,464,372,492').ok).toBe(false);
  expect(steps('1,348,327,372\n2,464,372.1,492').ok).toBe(true);
});

test('200 steps are a ladder, 201 are not', () => {
  const many = (n: number) => steps(Array.from({ length: n }, (_none, i) => `${i + 1},${1000 + 10 * i},${997 + 10 * i},${1003 + 10 * i}`).join('\n'));
  expect(many(200).ok).toBe(true);
  expect(many(201)).toMatchObject({ problems: [{ message: '201 values. A value chart has at most 200.' }] });
});

test('steps that the shop’s meter can’t tell apart are warned of', () => {
  const ladder = {
    steps: [
      { step: 1, nominal: 1000, low: 990, high: 1010 },
      { step: 2, nominal: 1030, low: 1020, high: 1040 },
    ],
  };
  expect(lintLadder(ladder, oneRange('Meter one', { percent: 0.5, digits: 2, resolutionOhms: 1 }))).toEqual([]);
  expect(lintLadder(ladder, oneRange('Meter two', { percent: 2, digits: 2, resolutionOhms: 1 }))).toEqual([
    {
      severity: 'warning',
      code: 'meter',
      path: 'steps[1]',
      message: 'Meter two can’t tell value 1 from value 2 for certain: ± (2 % + 2 digits), steps of 1 Ω. Use a finer meter.',
    },
  ]);
  // The limit itself: 1000 Ω + 2 % is 1020 Ω, where the next window begins.
  expect(lintLadder(ladder, oneRange('M', { percent: 1.99, digits: 0, resolutionOhms: 1 })).length).toBe(1);
  expect(lintLadder(ladder, oneRange('M', { percent: 1.9, digits: 0, resolutionOhms: 1 }))).toEqual([]);
});

test('chances of steps: counts or shares, every line said that can’t be used', () => {
  const ladder = [
    { step: 1, nominal: 348, low: 327, high: 372 },
    { step: 2, nominal: 464, low: 434, high: 492 },
  ];
  expect(parsePriorCsv('step,p\n2,3\n1,1', ladder)).toEqual({ ok: true, value: [0.25, 0.75] });
  expect(parsePriorCsv('step,p\n2,1', ladder)).toEqual({ ok: true, value: [0, 1] });
  expect(parsePriorCsv('step,p\n9,1\n1,-2', ladder)).toMatchObject({
    problems: [
      { path: 'line 2', message: 'Value "9" is not in the value chart. It has 1, 2.' },
      { path: 'line 3', message: '"-2" can’t be used here. Write a chance or a count, 0 or more.' },
    ],
  });
  expect(parsePriorCsv('step,p\n1,0', ladder)).toMatchObject({ problems: [{ code: 'none' }] });
});

test('the YAML form: what is missing and what overlaps', () => {
  const good = {
    kind: 'ladder',
    id: 'l',
    version: 1,
    title: 'L',
    source: 's',
    checked: null,
    pellets: 1,
    steps: [{ step: 1, nominal: 348, low: 327, high: 372 }],
  };
  expect(parseLadder(good)).toEqual({ ok: true, value: good });
  expect(parseLadder({ ...good, pellets: 3 })).toMatchObject({ problems: [{ path: 'pellets', message: 'The file has 3. Use one of: 1, 2.' }] });
  expect(parseLadder({ ...good, steps: [...good.steps, { step: 2, nominal: 360, low: 350, high: 380 }] })).toMatchObject({
    problems: [{ path: 'steps[1].low', code: 'overlap' }],
  });
  expect(parseLadder({ ...good, steps: [] })).toMatchObject({ problems: [{ path: 'steps', message: 'Too few entries. Give at least 1.' }] });
});
