import { generator, quantityWords, readDigits, readQuantity } from '.';

test.each([
  ['1180', 1180, 0],
  ['1,180', 1180, 0],
  ['118,400', 118400, 0],
  ['1,180,000', 1180000, 0],
  ['1.180.000', 1180000, 0],
  ['1 180', 1180, 0],
  ['1\u202f180,5', 1180.5, 1],
  ["1'180.25", 1180.25, 2],
  ['1,234.5', 1234.5, 1],
  ['1.234,5', 1234.5, 1],
  ['12,4', 12.4, 1],
  ['12,40', 12.4, 2],
  ['0,180', 0.18, 3],
  ['0180', 180, 0],
  ['1.180', 1.18, 3],
  ['.5', 0.5, 1],
  [',5', 0.5, 1],
  ['1180,5', 1180.5, 1],
  ['1180,500', 1180.5, 3],
  ['-3', -3, 0],
  ['+2,5', 2.5, 1],
])('%s is %d', (text, value, decimals) => expect(readDigits(text)).toMatchObject({ value, decimals }));

test.each(['', '-', '.', '1,', '1.', '1,18,400', '1,180.5,2', '12,34,567', '1..2', '1,2.3', '1 18', '1,1800.5', '0,180,000', 'abc', '1e3', '١٢'])(
  '%j is no number',
  (text) => expect(readDigits(text)).toBeUndefined(),
);

test.each([
  ['1,180', 1180, 1.18],
  ['1.180', 1.18, 1180],
  ['-1,180', -1180, -1.18],
])('%s is %d, and would be %d with the other kind of separator', (text, value, otherwise) =>
  expect(readDigits(text)).toMatchObject({ value, otherwise }),
);
test.each(['12,4', '1180', '0,180', '1,180,000', '1,180.0'])('%s can be meant in one way only', (text) =>
  expect(readDigits(text)).not.toHaveProperty('otherwise'),
);

test.each([
  ['420', 's', 420],
  ['420 s', 's', 420],
  ['7:00', 's', 420],
  ['10:00', 's', 600],
  ['75:00', 's', 4500],
  ['1:10:00', 's', 4200],
  ['10 min', 's', 600],
  ['10min', 's', 600],
  ['10 m', 's', 600],
  ['1.5 min', 's', 90],
  ['1,5 min', 's', 90],
  ['7 min 30 s', 's', 450],
  ['7m30', 's', 450],
  ['1h10', 's', 4200],
  ['1 h 10 min', 's', 4200],
  ['1 hour', 's', 3600],
  ['800 ms', 's', 0.8],
  ['1.7', 's', 1.7],
  ['11', 'min', 11],
  ['7:30', 'min', 7.5],
  ['90 s', 'min', 1.5],
  ['1 h', 'min', 60],
  ['12.4', 'V', 12.4],
  ['12,4 V', 'V', 12.4],
  ['12400 mV', 'V', 12.4],
  ['125 kHz', 'Hz', 125000],
  ['125,000', 'Hz', 125000],
  ['1k18', 'Ω', 1180],
  ['1.18 kΩ', 'Ω', 1180],
  ['1,18k', 'Ω', 1180],
  ['4R7', 'Ω', 4.7],
  ['1.18e3', 'Ω', 1180],
  ['1180 ohms', 'Ω', 1180],
  ['118,400', 'mi', 118400],
  ['118,400 miles', 'mi', 118400],
  ['118 400 km', 'km', 118400],
  ['70 °F', '°F', 70],
  ['21 °C', '°F', 69.8],
  ['212 F', '°C', 100],
  ['$80', '$', 80],
  ['1,250.50 cr', 'cr', 1250.5],
  ['3', '', 3],
])('%s, asked for in %s, is %d', (text, unit, value) => expect(readQuantity(text, { unit })).toEqual({ ok: true, value }));

const said = (text: string, to: Parameters<typeof readQuantity>[1]) => {
  const read = readQuantity(text, to);
  return read.ok ? read.value : [read.problems[0]!.code, read.problems[0]!.message];
};
test.each([
  ['', { unit: 'V' }, 'empty', 'Nothing is typed here. Type volts, such as 12.4.'],
  ['ten', { unit: 's' }, 'number', 'You typed "ten". Type seconds, or as m:ss, such as 420, 7:00 or 7 min.'],
  ['10:75', { unit: 's' }, 'number', 'You typed "10:75". Type seconds, or as m:ss, such as 420, 7:00 or 7 min.'],
  ['7:5', { unit: 's' }, 'number', 'You typed "7:5". Type seconds, or as m:ss, such as 420, 7:00 or 7 min.'],
  ['1:75:00', { unit: 's' }, 'number', 'You typed "1:75:00". Type seconds, or as m:ss, such as 420, 7:00 or 7 min.'],
  ['5 s 3 min', { unit: 's' }, 'number', 'You typed "5 s 3 min". Type seconds, or as m:ss, such as 420, 7:00 or 7 min.'],
  ['80 km', { unit: 'mi' }, 'unit', 'You typed "80 km" with the unit “km”. Type miles, such as 118400.'],
  ['5 m', { unit: 'Ω' }, 'unit', 'You typed "5 m" with the unit “m”. Type ohms, such as 1180 or 1.18k.'],
  ['1,180k', { unit: 'Ω' }, 'ambiguous', '"1,180k" can mean 1,180,000 Ω or 1180 Ω. Type 1180000 or 1180.'],
  ['118.400', { unit: 'km', whole: true }, 'ambiguous', '"118.400" can mean 118.4 km or 118,400 km. Type 118400.'],
  ['118.4', { unit: 'km', whole: true }, 'whole', 'You typed "118.4". Type a whole number, such as 118.'],
  ['12,400', { unit: 'V', min: 0, max: 60 }, 'range', '"12,400" is 12,400 V here. Use 0 to 60 V. For 12.4 V, type 12.4.'],
  ['70', { unit: 'V', min: 0, max: 60 }, 'range', 'You typed 70 V. Use 0 to 60 V.'],
  ['10', { unit: 's', min: 420 }, 'range', 'You typed 10 s. Use 7:00 (420 s) at least.'],
])('%j for %j says %s', (text, to, code, message) => expect(said(text, to)).toEqual([code, message]));

test.each([
  [118400, 'mi', '118,400 mi'],
  [1180, 'Ω', '1180 Ω'],
  [450, 's', '7:30 (450 s)'],
  [8, 's', '8 s'],
  [7.5, 'min', '7.5 min (7:30)'],
  [10, 'min', '10 min'],
  [3, '', '3'],
])('%d %s is shown as %s', (value, unit, text) => expect(quantityWords(value, unit)).toBe(text));

/** Every way to write one number, seeded, against the number itself. */
test('a number written with any separators is read as itself, or told with both meanings', () => {
  const draw = generator(18);
  for (let i = 0; i < 20_000; i += 1) {
    const whole = Math.floor(10 ** (draw() * 7));
    const decimals = Math.floor(draw() * 5);
    const part = decimals === 0 ? '' : String(Math.floor(draw() * 10 ** decimals)).padStart(decimals, '0');
    const group = ['', ',', '.', ' ', "'"][Math.floor(draw() * 5)]!;
    const mark = group === ',' ? '.' : group === '.' ? ',' : draw() < 0.5 ? '.' : ',';
    const text = String(whole).replace(/\B(?=(\d{3})+$)/g, group) + (part === '' ? '' : mark + part);
    const meant = Number(`${whole}.${part || '0'}`);
    const read = readDigits(text)!;
    expect([text, read.value === meant || read.otherwise === meant]).toEqual([text, true]);
    if (read.value !== meant) expect(text).toMatch(/^\d{1,3}[.,]\d{3}$/);
  }
});
