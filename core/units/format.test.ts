import { formatChance, formatDuration, formatLeft, formatQuantity } from '.';

test.each([
  [0, '0:00'],
  [59.999, '0:59'],
  [60, '1:00'],
  [560, '9:20'],
  [3599, '59:59'],
  [3600, '1:00:00'],
  [-75, '-1:15'],
])('%d s is %s', (seconds, text) => expect(formatDuration(seconds)).toBe(text));

test.each([
  [0, '0:00'],
  [1, '0:01'],
  [1000, '0:01'],
  [1001, '0:02'],
  [-5, '0:00'],
])('%d ms left is %s: never shown as over before it is', (ms, text) => expect(formatLeft(ms)).toBe(text));

test.each([
  [8, 's', '8 s'],
  [59.5, 's', '59.5 s'],
  [60, 's', '1:00'],
  [12.456, 'V', '12.46 V'],
  [3, '', '3'],
])('%d %s is %s', (value, unit, text) => expect(formatQuantity(value, unit)).toBe(text));

test.each([
  [0, '0 %'],
  [0.004, 'under 1 %'],
  [0.01, '1 %'],
  [0.5, '50 %'],
  [0.984, '98 %'],
  [0.99, '99 %'],
  [0.9901, 'over 99 %'],
  [1, '100 %'],
])('a chance of %d is %s', (p, text) => expect(formatChance(p)).toBe(text));
