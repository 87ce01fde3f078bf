import { csvLines } from './csvLines';

const told = (text: string) => csvLines(text)?.map(({ line, cells }) => `${line}: ${cells.join('|')}`);

test.each<[string, string, string[]]>([
  ['nothing', '', []],
  ['lines with the ends of any system, empty ones left out but counted', 'a,b\r\n\r\n1,2\r3,4\n', ['1: a|b', '3: 1|2', '4: 3|4']],
  ['a mark of UTF-8 and spaces', '\ufeff a , b \n 1 , 2 ', ['1: a|b', '2: 1|2']],
  ['semicolons keep a decimal comma', 'a;b\n1,5;2', ['1: a|b', '2: 1,5|2']],
  ['empty lines before the first', '\n\na;b\n1;2', ['3: a|b', '4: 1|2']],
  ['quotes around a comma', 'a,b\n"1,5",2', ['1: a|b', '2: 1,5|2']],
  ['quotes inside quotes', 'a,b\n"say ""no""",2', ['1: a|b', '2: say "no"|2']],
  ['a line end inside quotes moves the numbers on', 'a,b\n"x\ny",2\n3,4', ['1: a|b', '2: x\ny|2', '4: 3|4']],
  ['a quotation mark in the middle is a mark', 'a,b\n5" nail,2', ['1: a|b', '2: 5" nail|2']],
  ['cells with nothing in them', 'a,b\n,', ['1: a|b', '2: |']],
])('%s', (_, text, lines) => expect(told(text)).toEqual(lines));

test('a quotation mark that is never closed', () => expect(csvLines('a,b\n"1,2\n3,4')).toBeNull());
