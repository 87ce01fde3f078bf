import { parseReading, parseReadings, typedResolution } from '.';

test.each([
  ['1180', 1180],
  [' 1180.5 ', 1180.5],
  ['1180,5', 1180.5],
  ['1.18k', 1180],
  ['1,18 kΩ', 1180],
  ['1.18 K', 1180],
  ['1k18', 1180],
  ['4R7', 4.7],
  ['0.47M', 470_000],
  ['2M2', 2_200_000],
  ['1180 Ω', 1180],
  ['1180 ohms', 1180],
  ['1.18e3', 1180],
  ['.5', 0.5],
  ['0', 0],
  ['+12', 12],
  ['1,180', 1180],
  ['0,180', 0.18],
  ['1,180.5', 1180.5],
  ['1.180,5', 1180.5],
  ['1.180', 1.18],
  ['+1.180E+03', 1180],
  ['1.183k', 1183],
  ['OL', Infinity],
  ['O.L', Infinity],
  ['0L', Infinity],
  ['1.', Infinity],
  ['1 .', Infinity],
  ['OL kΩ', Infinity],
  ['∞', Infinity],
  ['open', Infinity],
  ['1', 1],
])('%s is %d ohm', (text, ohms) => expect(parseReading(text)).toEqual({ ok: true, value: ohms }));

test.each([
  ['', 'empty', 'Nothing is typed here. Type ohms, such as 1180 or 1.18k.'],
  ['twelve', 'number', 'You typed "twelve", which is not a reading. Type ohms, such as 1180 or 1.18k, or OL for overload.'],
  ['-3', 'negative', 'You typed "-3". A resistance can’t be below zero. Touch the tips together, zero the meter, and measure again.'],
  ['1.18,5', 'separators', 'You typed "1.18,5", which is not a number. Write it with one decimal point, such as 1180.5 or 1.18k.'],
  ['1,180k', 'ambiguous', '"1,180k" can mean 1,180,000 Ω or 1180 Ω. Type 1180000 or 1180.'],
  ['1180,1183', 'ambiguous', '"1180,1183" can be one reading or two. Use a decimal point, and a space between two readings.'],
  ['5m', 'unit', 'You typed "5m". Write M for megohm, k for kilohm; nothing for ohm.'],
  ['5V', 'unit', 'You typed "5V" with the unit “V”. Write k for kilohm, M for megohm, nothing for ohm.'],
  ['2e9', 'tooLarge', 'You typed "2e9". More than 1 GΩ can’t be a key. Type OL for overload.'],
  ['NaN', 'number', 'You typed "NaN", which is not a reading. Type ohms, such as 1180 or 1.18k, or OL for overload.'],
])('%j is refused: %s', (text, code, message) =>
  expect(parseReading(text, 'here')).toEqual({ ok: false, problems: [{ code, path: 'here', message }] }),
);

test.each([
  ['1180\n1183\r\n1179', [1180, 1183, 1179]],
  ['ohms\n1180\n\n1183\n', [1180, 1183]],
  ['1180; 1183;1179', [1180, 1183, 1179]],
  ['1180, 1183, 1179', [1180, 1183, 1179]],
  ['1180 1183 1179', [1180, 1183, 1179]],
  ['1,18k\t1.183 kΩ', [1180, 1183]],
  ['1.18 k 1.19 k', [1180, 1190]],
  ['OL\n1180', [Infinity, 1180]],
  ['1,180, 1,183', [1180, 1183]],
  ['470 471 469', [470, 471, 469]],
])('a column or a line: %j', (text, readings) => expect(parseReadings(text)).toEqual({ ok: true, value: readings }));

test('a column says the line of every cell that is no reading', () => {
  expect(parseReadings('1180\nabc\n1183\n-1')).toMatchObject({
    ok: false,
    problems: [
      { path: 'line 2', code: 'number' },
      { path: 'line 4', code: 'negative' },
    ],
  });
  expect(parseReadings('1 180')).toMatchObject({
    problems: [{ code: 'ambiguous', message: 'You typed "1 180", which can be one reading or several. Write 1180, or one reading per line.' }],
  });
  // A single word is a slip, not the header of nothing.
  expect(parseReadings('twelve')).toMatchObject({ ok: false, problems: [{ code: 'number' }] });
  expect(parseReadings(' \n')).toMatchObject({ ok: false, problems: [{ code: 'empty' }] });
});

test('a thousand readings are taken, one more is refused', () => {
  expect(parseReadings(Array.from({ length: 1000 }, () => '1180').join('\n'))).toMatchObject({ ok: true });
  expect(parseReadings(Array.from({ length: 1001 }, () => '1180').join('\n'))).toMatchObject({
    problems: [{ message: '1001 readings. Give at most 1000; ten are plenty for a key that is steady.' }],
  });
});

test.each([
  [['1180', '1183'], 1],
  [['1180.5', '1183'], 0.1],
  [['1.18k', '1.183k'], 1],
  [['1,18 k'], 10],
  [['1,180'], 1],
  [['OL'], 1],
])('%j was read in steps of %d ohm', (texts, step) => expect(typedResolution(texts)).toBeCloseTo(step, 9));
