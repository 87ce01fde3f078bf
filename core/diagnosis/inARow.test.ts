import { triesInARow } from './inARow';

const again = (id: string, result: 'works' | 'fails' | null = 'works', rest: { replaces?: string; fault?: string } = {}) => ({
  kind: 'triedAgain',
  fault: 'wire',
  id,
  result,
  ...rest,
});
const told = (lines: object[]) => triesInARow(lines).map(({ line, times }) => `${(line as { id: string }).id} ${times}`);

describe('tries that confirm a fix, as a list tells them', () => {
  test.each<[string, object[], string[]]>([
    ['nothing', [], []],
    ['one', [again('a')], ['a 1']],
    ['several in a row: the last, with their number', [again('a'), again('b'), again('c')], ['c 3']],
    ['a miss stands alone and parts them', [again('a'), again('b'), again('c', 'fails'), again('d')], ['b 2', 'c 1', 'd 1']],
    ['another line parts them', [again('a'), { id: 't', test: 'lamp' }, again('b')], ['a 1', 't 1', 'b 1']],
    ['of two faults', [again('a'), again('b', 'works', { fault: 'coil' })], ['a 1', 'b 1']],
    ['one that was withdrawn stands alone', [again('a'), again('b'), again('w', null, { replaces: 'b' })], ['a 1', 'b 1', 'w 1']],
    ['a repair that works is no try', [{ kind: 'repair', fault: 'wire', id: 'r', result: 'works' }, again('a')], ['r 1', 'a 1']],
  ])('%s', (_, lines, folded) => {
    expect(told(lines)).toEqual(folded);
  });
});
