import { dateWords, fromShopTemperature, moneyRange, moneyWords, timesIn, toShopTemperature, usUnits } from '.';

const afternoon = Date.UTC(2026, 2, 4, 14, 5, 9);
const night = Date.UTC(2026, 2, 4, 0, 5, 0);

test.each([
  [{ clock: '12', dates: 'mdy' }, '2:05 PM', '2:05:09 PM', 'Wednesday, March 4, 2026'],
  [{ clock: '24', dates: 'dmy' }, '14:05', '14:05:09', 'Wednesday, 4 March 2026'],
  [{ clock: '24', dates: 'ymd' }, '14:05', '14:05:09', 'Wednesday 2026-03-04'],
] as const)('%j', (units, hm, hms, day) => {
  const times = timesIn('UTC', units);
  expect([times.hm(afternoon), times.hms(afternoon), times.day(afternoon)]).toEqual([hm, hms, day]);
});
test('midnight is 12 in the one, 00 in the other', () => {
  expect(timesIn('UTC', usUnits).hm(night)).toBe('12:05 AM');
  expect(timesIn('UTC', { clock: '24', dates: 'dmy' }).hm(night)).toBe('00:05');
});

test.each([
  [80, '$', '$80'],
  [1250.5, '$', '$1,250.50'],
  [80, 'cr', '80 cr'],
  [80, '€', '€80'],
  [80, '', '80'],
])('%d in %j is %s', (amount, currency, text) => expect(moneyWords(amount, currency)).toBe(text));

test('a price from one to the other', () => {
  expect([moneyRange(70, 273, 'cr'), moneyRange(70, 273, '$')]).toEqual(['70 to 273 cr', '$70 to $273']);
});

test.each([
  ['2026-03-04', 'mdy', '03/04/2026'],
  ['2026-03-04', 'dmy', '04.03.2026'],
  ['2026-03-04', 'ymd', '2026-03-04'],
  ['last week', 'mdy', 'last week'],
] as const)('%s in the order %s is %s', (iso, order, text) => expect(dateWords(iso, order)).toBe(text));

test('temperatures there and back', () => {
  expect([toShopTemperature(20, '°F'), toShopTemperature(-40, '°F'), toShopTemperature(21.26, '°C')]).toEqual([68, -40, 21.3]);
  expect([fromShopTemperature(212, '°F'), fromShopTemperature(20, '°C')]).toEqual([100, 20]);
});
