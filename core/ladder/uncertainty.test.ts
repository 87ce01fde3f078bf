import { accuracyWords, formatUncertain, formatOhms, halfWidth, measure, oneRange, parseAccuracy, rangeOf, unknownMeter } from '.';
import { driftOf, type Conditions } from './uncertainty';

const meter = oneRange('M', { percent: 0.5, digits: 2, resolutionOhms: 1 });
const conditions: Conditions = { meter, leadOhms: 0.4, temperatureC: 20 };

describe('reference values', () => {
  test('JCGM 100:2008, table 1 and 4.4.3: twenty temperatures, mean 100.145, s = 1.489, s of the mean 0.333', () => {
    // The type A part is the same whatever the quantity is; a meter without any error leaves only it.
    const readings = [
      96.9, 98.18, 98.25, 98.61, 99.03, 99.49, 99.56, 99.74, 99.89, 100.07, 100.33, 100.42, 100.68, 100.95, 101.11, 101.2, 101.57, 101.84, 102.36,
      102.72,
    ];
    const m = measure(readings, { meter: oneRange('exact', { percent: 0, digits: 0, resolutionOhms: 1e-9 }), leadOhms: 0, temperatureC: 20 });
    expect(m.mean).toBeCloseTo(100.145, 3);
    expect(m.sd).toBeCloseTo(1.489, 3);
    expect(m.components[0]).toMatchObject({ name: 'Repeats', type: 'A', ohms: expect.closeTo(0.333, 3) });
    expect(m.u).toBeCloseTo(0.333, 3);
    // All of it from 20 repeats: 19 degrees of freedom, t = 2.09 (table G.2).
    expect(m.degreesOfFreedom).toBeCloseTo(19, 1);
    expect(m.k).toBeCloseTo(2.09, 2);
  });

  test('a worked example: 1400, 1402, 1398, 1401, 1399 with ± (0.5 % + 2 digits) of 1 Ω, leads 0.4 Ω', () => {
    const m = measure([1400, 1402, 1398, 1401, 1399], conditions);
    expect(m.mean).toBeCloseTo(1399.6, 9); // 7000 / 5 − 0.4
    expect(m.sd).toBeCloseTo(Math.sqrt(10 / 4), 9); // squares 0 + 4 + 4 + 1 + 1, over n − 1
    const by = Object.fromEntries(m.components.map((c) => [c.name, c.ohms]));
    expect(by.Repeats).toBeCloseTo(0.7071, 4); // √2.5 / √5
    expect(by.Meter).toBeCloseTo(5.195, 3); // (0.005 × 1399.6 + 2 × 1) / √3 = 8.998 / 1.7321
    expect(by.Display).toBeCloseTo(0.2887, 4); // 1 / √12
    expect(by['Leads and temperature']).toBeCloseTo(0.5774, 4); // 1 / √3
    expect(m.u).toBeCloseTo(5.2825, 3); // √(0.5 + 26.988 + 0.0833 + 0.3333) = √27.905
    expect(m.degreesOfFreedom).toBeCloseTo((4 * 5.2825 ** 4) / 0.7071 ** 4, -1); // Welch–Satterthwaite
    expect(m.k).toBe(1.96);
    expect(m.expanded).toBeCloseTo(10.354, 2);
  });

  test('one reading: the scatter of a sound contact is assumed, and said to be', () => {
    const m = measure([1400], conditions);
    expect(m.sd).toBe(0);
    expect(m.components[0]).toEqual({
      name: 'Repeats',
      type: 'B',
      ohms: expect.closeTo(Math.hypot(1.3996, 1 / Math.sqrt(12)), 6),
      how: 'one reading: scatter of a sound contact assumed',
    });
  });

  test('leads that nobody measured count with up to 1 Ω; temperature with the ladder’s coefficient', () => {
    const unknown = measure([1400], { ...conditions, leadOhms: null });
    expect(unknown.mean).toBe(1400);
    expect(unknown.components[3]).toMatchObject({ ohms: expect.closeTo(1 / Math.sqrt(3), 6), how: 'leads not measured: up to 1 Ω' });
    // 500 ppm/K at 32 °C: 1400 / (1 + 0.006)
    const warm = measure([1400.4], { ...conditions, temperatureC: 32 }, { ppmPerKelvin: 500 });
    expect(warm.mean).toBeCloseTo(1391.65, 2);
    // ± 2 K even: 2/√3 × 0.0005 × 1391.65 = 0.8035 with the leads' 0.5774
    expect(warm.components[3]!.ohms).toBeCloseTo(Math.hypot(0.8035, 0.5774), 3);
  });

  test('overloads are counted, and a key without a number has no mean', () => {
    expect(measure([Infinity, Infinity], conditions)).toMatchObject({ n: 0, overloads: 2, mean: NaN, u: Infinity, components: [] });
    expect(measure([1400, Infinity], conditions)).toMatchObject({ n: 1, overloads: 1 });
  });
});

test('a drift is said only when chance hardly makes it', () => {
  expect(driftOf([1391, 1389, 1387, 1385, 1383, 1381])).toEqual({ ohms: -10, t: -Infinity });
  expect(driftOf([1391, 1389.5, 1387, 1385.2, 1383, 1381.3])).toMatchObject({ ohms: expect.closeTo(-9.9, 0) });
  expect(driftOf([1391, 1388, 1384, 1379, 1386, 1383])).toBeNull();
  expect(driftOf([1400, 1400, 1400, 1400])).toBeNull();
  expect(driftOf([1400, 1401, 1402])).toBeNull();
});

test('meters: the range that holds a reading, and the width of its uncertainty', () => {
  expect(rangeOf(unknownMeter, 600)).toMatchObject({ upToOhms: 600 });
  expect(rangeOf(unknownMeter, 600.1)).toMatchObject({ upToOhms: 6000 });
  expect(rangeOf(unknownMeter, 2e9)).toMatchObject({ upToOhms: 1e9 });
  expect(halfWidth({ percent: 0.8, digits: 2, resolutionOhms: 1 }, 1400)).toBeCloseTo(13.2, 9);
  expect(accuracyWords({ percent: 0.8, digits: 2, resolutionOhms: 1 })).toBe('± (0.8 % + 2 digits), steps of 1 Ω');
});

test.each([
  ['0.5%+2', 0.5, 2],
  ['0,5 % + 2', 0.5, 2],
  ['±(0.8 % + 2 digits)', 0.8, 2],
  ['1.2 % + 5 dgt', 1.2, 5],
  ['0.05%', 0.05, 0],
])('accuracy %s', (text, percent, digits) => expect(parseAccuracy(text)).toEqual({ ok: true, value: { percent, digits } }));

test.each(['', 'good', '-1%+2', '21%', '0%+0', '1%+1001'])('accuracy %j is refused', (text) =>
  expect(parseAccuracy(text)).toMatchObject({
    problems: [{ message: `You typed ${JSON.stringify(text)}. Write percent of the reading plus digits, as the data sheet does, such as 0.5%+2.` }],
  }),
);

test.each([
  [0, '0 Ω'],
  [0.4, '0.4 Ω'],
  [999.94, '999.9 Ω'],
  [999.96, '1 kΩ'],
  [1385.2, '1.385 kΩ'],
  [2_200_000, '2.2 MΩ'],
])('%d is %s', (ohms, text) => expect(formatOhms(ohms)).toBe(text));

test.each([
  [1385.2, 14.8, '1.385 kΩ ± 0.015'],
  [1399.6, 5.28, '1.3996 kΩ ± 0.0053'],
  [25, 1.52, '25.0 Ω ± 1.5'],
  [0.3, 1.32, '0.3 Ω ± 1.3'],
])('%d with %d is %s', (ohms, uncertainty, text) => expect(formatUncertain(ohms, uncertainty)).toBe(text));
