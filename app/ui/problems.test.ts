import { errorsByPath } from './problems';

test('problems stand under the names of their fields, the first of each', () => {
  expect(
    errorsByPath([
      { code: 'a', path: 'keys[2].tag', message: 'one' },
      { code: 'b', path: 'keys[2].tag', message: 'two' },
      { code: 'c', path: 'authority.kind', message: 'three' },
      { code: 'd', path: '', message: 'whole' },
    ]),
  ).toEqual({ 'keys.2.tag': 'one', 'authority.kind': 'three', '': 'whole' });
});
