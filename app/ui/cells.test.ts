import { parseLadderCsv } from '../../core/ladder';
import { cellsOf, textOf } from './cells';

const columns = ['step', 'nominal', 'low', 'high'];

test.each<[string, string, string[][] | null]>([
  ['nothing but the header', 'step,nominal,low,high\n', []],
  [
    'lines with blanks',
    'step, nominal, low, high\n 1, 100 , 90, 1.1k \n\n2,,,',
    [
      ['1', '100', '90', '1.1k'],
      ['2', '', '', ''],
    ],
  ],
  ['semicolons and decimal commas', 'step;nominal;low;high\r\n1;100,5;90;110', [['1', '100,5', '90', '110']]],
  ['a decimal comma between commas', 'step,nominal,low,high\n1,100,5,90,110', null],
  ['another header', 'nominal,step\n1,2', null],
  ['nothing', '', null],
])('%s', (_what, text, cells) => expect(cellsOf(text, columns)).toEqual(cells));

test('what is typed as a table is read as the same, decimal commas too; empty rows at the end are no steps', () => {
  const rows = [
    ['1', '100,5', '90', '110'],
    ['2', '1.5k', '1,4k', '1600'],
  ];
  const text = textOf([...rows, ['', '', '', '']], columns);
  expect(cellsOf(text, columns)).toEqual(rows);
  expect(parseLadderCsv(text)).toEqual({
    ok: true,
    value: [
      { step: 1, nominal: 100.5, low: 90, high: 110 },
      { step: 2, nominal: 1500, low: 1400, high: 1600 },
    ],
  });
});

test('a row that is half filled stays, also in the middle; a sign that parts cells does not stand in one', () => {
  const rows = [
    ['1', '', '', ''],
    ['', '', '', ''],
    ['3', '5', '4', '6'],
  ];
  expect(cellsOf(textOf(rows, columns), columns)).toEqual(rows);
  expect(cellsOf(textOf([['1;2', '5\n', '4', '6']], columns), columns)).toEqual([['1 2', '5', '4', '6']]);
});
