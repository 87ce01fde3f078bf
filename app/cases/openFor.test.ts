import { openFor } from './openFor';

test.each([
  ['a minute and a half', 1_000_000, 1_090_000, 90_000],
  ['a count that has not begun yet: nothing, never the years since 1970', 0, 1_796_000_000_000, 0],
  ['a count of a clock that was ahead', 1_090_000, 1_000_000, 0],
])('%s', (_, since, now, expected) => {
  expect(openFor(since, now)).toBe(expected);
});
