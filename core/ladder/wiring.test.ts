import { compareWiring, type Conditions, oneRange, type Steps } from '.';
import { KeyMaker } from './keys.testing';

const ladder: Steps = {
  contactOhms: 9,
  steps: [
    { step: 5, nominal: 1070, low: 1000, high: 1140 },
    { step: 6, nominal: 1400, low: 1320, high: 1480 },
    { step: 7, nominal: 1820, low: 1710, high: 1950 },
  ],
};
const conditions: Conditions = { meter: oneRange('M', { percent: 0.5, digits: 2, resolutionOhms: 1 }), leadOhms: 0.4, temperatureC: 20 };
const key = [1400.4, 1401.4, 1399.4];
const wiring = (column: number[], own = key) => compareWiring(own, column, ladder, conditions);

test('equal: good contacts', () => {
  expect(wiring([1405, 1406, 1404])).toMatchObject({ verdict: 'equal', seen: 6 });
  expect(wiring([1405, 1406, 1404]).text).toBe(
    'Equal within the uncertainty (+4.6 Ω ± 1.5). Contacts and wires are good while nothing moves. The immobilizer still sees value 6.',
  );
  expect(wiring(key).verdict).toBe('equal');
});

test('series: the resistance with its uncertainty, worked out', () => {
  const w = wiring([1425.4, 1426.4, 1424.4]);
  expect(w.verdict).toBe('series');
  expect(w.series!.ohms).toBeCloseTo(25, 9);
  // gain 0.005 × 25 / √3 = 0.0722; digits 2 / √3 = 1.1547; repeats 1/√3 = 0.5774 twice; display 0.2887 twice
  expect(w.series!.u).toBeCloseTo(Math.hypot(0.0722, 1.1547, 0.5774, 0.5774, 0.2887, 0.2887), 3);
  expect(w.text).toBe(
    '25.0 Ω ± 1.5 more at the steering-column connector; good contacts add at most 9 Ω. Added series resistance: worn or dirty contacts, or a wire down to its last strands. The immobilizer still sees value 6.',
  );
  expect(wiring([1520, 1521, 1519]).text).toContain('The immobilizer sees no value instead of value 6.');
  expect(wiring([1800, 1801, 1799]).text).toContain('The immobilizer sees value 7 instead of value 6.');
});

test('parallel: what of leakage across the key', () => {
  const w = wiring([1330.4, 1331.4, 1329.4]);
  expect(w.verdict).toBe('parallel');
  expect(w.parallel!.ohms).toBeCloseTo((1400 * 1330) / 70, 6); // 26.6 kΩ
  expect(w.text).toContain('70.0 Ω ± 1.5 less at the steering-column connector: 26.6 kΩ of leakage across the key.');
});

test('open, short, jumping, and a key that can’t be used for it', () => {
  expect(wiring([Infinity, Infinity])).toMatchObject({ verdict: 'open', difference: null, seen: null });
  expect(wiring([60_000, 60_010, 60_005]).verdict).toBe('open');
  expect(wiring([0.5, 0.6, 0.5]).verdict).toBe('short');
  expect(wiring([1400, 1600, 1250, 1500]).verdict).toBe('jumping');
  expect(wiring([1400, Infinity, 1401]).verdict).toBe('jumping');
  expect(wiring([1400, 1401], [Infinity, Infinity, Infinity])).toMatchObject({
    verdict: 'unclear',
    text: expect.stringContaining('The key alone is open'),
  });
});

test('too close to tell says so, and how to tell', () => {
  const w = wiring([1413, 1412.5, 1413.5]);
  expect(w.verdict).toBe('unclear');
  expect(w.text).toContain('good contacts add up to 9 Ω: too close to tell. Take more readings, or use a finer meter.');
});

test('seeded: 2,000 columns; what lies clearly in line or across is found, and good ones are hardly ever blamed', () => {
  const maker = new KeyMaker(5, ladder, conditions);
  const wrong = { equal: 0, series: 0, parallel: 0 };
  for (let i = 0; i < 2000; i += 1) {
    const ohms = 1400 + 20 * maker.normal();
    const kind = (['equal', 'series', 'parallel'] as const)[i % 3]!;
    const through = kind === 'equal' ? ohms + maker.even(0, 4) : kind === 'series' ? ohms + maker.even(20, 400) : (ohms * 9000) / (ohms + 9000);
    // One meter reads both, so its gain is the same; its last digits are not.
    const gain = 1 + maker.even(-0.005, 0.005);
    const readings = (r: number) => {
      const off = maker.even(-2, 2);
      return Array.from({ length: 4 }, () => Math.round(r * gain + off + 0.4 + 0.001 * r * maker.normal()));
    };
    if (compareWiring(readings(ohms), readings(through), ladder, conditions).verdict !== kind) wrong[kind] += 1;
  }
  expect(wrong.equal).toBeLessThanOrEqual(20);
  expect(wrong.series).toBeLessThanOrEqual(10);
  expect(wrong.parallel).toBe(0);
});
