import { type Battery, batteryTypes, course, minutesWords, mostMinutes, predict, reserveVerdict } from '.';
import { chargeAtRest, kinds, voltsAtRest } from './battery';
import { voltsUnder } from './discharge';
import { minutesLeft } from './predict';
import { parseBattery } from './schema';
import { generator } from '../units';
import { often } from '../../content/often.testing';

const usual: Battery = { type: 'flooded', capacityAh: 60, openCircuitVolts: 12.5, temperatureC: 20, ageYears: 3, loadAmps: 6, limitVolts: 12 };
/** New, full and at 25 °C, down to the 10.5 V of the ratings. */
const rated = (type: Battery['type'], capacityAh: number, loadAmps: number): Battery => ({
  type,
  capacityAh,
  loadAmps,
  openCircuitVolts: 13,
  temperatureC: 25,
  ageYears: 0,
  limitVolts: 10.5,
});
const minutesOf = (battery: Battery) => predict(battery, { minutes: 1 }).minutesAboveLimit;

describe('published figures (their origin: docs/reserve.md)', () => {
  /** IEC 60095-1: reserve capacity in minutes at 25 A to 10.5 V, from the rating at 20 hours: β·C^α. */
  const reserveOf = { flooded: (c: number) => 0.7732 * c ** 1.1828, agm: (c: number) => 1.1339 * c ** 1.1201 };
  test.each(batteryTypes.flatMap((type) => [40, 45, 60, 70, 80, 100].map((c) => [type, c] as const)))(
    '%s, %d Ah: the minutes at 25 A are those of the standard to a tenth, and not above them',
    (type, c) => {
      const minutes = minutesOf(rated(type, c, 25));
      expect(minutes / reserveOf[type](c)).toBeGreaterThan(0.9);
      expect(minutes / reserveOf[type](c)).toBeLessThan(1.02);
    },
  );

  /** EN 50342-1, older editions: C = √(17778 + 208.3·RC) − 133.3, vented batteries. */
  test.each([45, 60, 80, 100])('flooded, %d Ah: the older relation of both ratings, to a tenth', (c) => {
    const reserve = ((c + 133.3) ** 2 - 17778) / 208.3;
    expect(Math.abs(minutesOf(rated('flooded', c, 25)) / reserve - 1)).toBeLessThan(0.1);
  });

  /** Share of the rating that is had in so many hours, as discharge tables print it. */
  test.each([
    ['flooded', 20, 1],
    ['flooded', 10, 0.9],
    ['flooded', 5, 0.8],
    ['agm', 20, 1],
    ['agm', 10, 0.93],
    ['agm', 5, 0.85],
  ] as const)('%s over %d hours gives %d of its rating, within a twentieth', (type, hours, share) => {
    const amps = (60 * share) / hours;
    expect(Math.abs(minutesOf(rated(type, 60, amps)) / 60 / hours - 1)).toBeLessThan(0.05);
  });

  test.each(batteryTypes)('%s: rested volts and charge are the table, both ways', (type) => {
    for (const [charge, volts] of kinds[type].rested) {
      expect(chargeAtRest(kinds[type], volts)).toBeCloseTo(charge, 9);
      expect(voltsAtRest(kinds[type], charge)).toBeCloseTo(volts, 9);
    }
    expect(chargeAtRest(kinds[type], 11)).toBe(0);
    expect(chargeAtRest(kinds[type], 14)).toBe(1);
  });

  test('cold takes what the rule of a hundredth for each kelvin says: 57 % at -18 °C', () => {
    const cold = minutesOf({ ...rated('flooded', 60, 3), temperatureC: -18 }) / minutesOf(rated('flooded', 60, 3));
    expect(cold).toBeGreaterThan(0.53);
    expect(cold).toBeLessThan(0.59);
  });
});

describe('predict', () => {
  test('healthy, half an hour: go; the middle lies in its band and the sure minutes under the middle', () => {
    const p = predict(usual, { minutes: 30 });
    expect(p).toMatchObject({ verdict: 'go', supplyAmps: 0, surfaceCharge: false });
    expect(p.endVoltsLow).toBeLessThan(p.endVolts);
    expect(p.endVolts).toBeLessThan(p.endVoltsHigh);
    expect(p.endVolts).toBeLessThan(p.startVolts);
    expect(p.minutesSure).toBeLessThan(p.minutesAboveLimit);
    expect(p.minutesSure).toBeGreaterThan(30);
  });
  test('two hours of the same: only with a supply, and with the least one that does it', () => {
    const asked = { minutes: 120 };
    const p = predict(usual, asked);
    expect(p.verdict).toBe('goWithSupply');
    const low = (amps: number) => predict({ ...usual, loadAmps: usual.loadAmps - amps }, asked).endVoltsLow;
    expect(low(p.supplyAmps)).toBeGreaterThanOrEqual(usual.limitVolts);
    expect(low(p.supplyAmps - 1)).toBeLessThan(usual.limitVolts);
  });
  test('12.1 V at rest is nearly flat', () => {
    const p = predict({ ...usual, openCircuitVolts: 12.1 }, { minutes: 10 });
    expect(p.verdict).toBe('dont');
    expect(p.charge).toBeCloseTo(0.306, 3);
    expect(predict({ ...usual, openCircuitVolts: 12.14 }, { minutes: 10 }).verdict).toBe('goWithSupply');
  });
  test('both sides of the limit: the sure minutes hold, one more does not', () => {
    const { minutesSure } = predict(usual, { minutes: 1 });
    expect(predict(usual, { minutes: minutesSure - 0.2 }).verdict).toBe('go');
    expect(predict(usual, { minutes: minutesSure + 0.5 }).verdict).not.toBe('go');
  });
  test('nothing drawn lasts the day; a limit above the battery is passed at once', () => {
    expect(predict({ ...usual, loadAmps: 0 }, { minutes: 30 })).toMatchObject({
      minutesAboveLimit: mostMinutes,
      minutesSure: mostMinutes,
      verdict: 'go',
    });
    expect(predict({ ...usual, limitVolts: 13 }, { minutes: 30 })).toMatchObject({ minutesAboveLimit: 0, verdict: 'goWithSupply' });
  });
  test('just driven: it says that it looks fuller than it is', () => {
    expect(predict({ ...usual, openCircuitVolts: 12.76 }, { minutes: 5 }).surfaceCharge).toBe(true);
    expect(predict({ ...usual, openCircuitVolts: 12.74 }, { minutes: 5 }).surfaceCharge).toBe(false);
    expect(reserveVerdict(predict({ ...usual, openCircuitVolts: 13.1 }, { minutes: 5 }), 5).text).toContain('Let it rest, then measure again.');
  });
  test('minutes that are no number throw', () => {
    expect(() => predict(usual, { minutes: NaN })).toThrow('Minutes must be numbers from 0.');
    expect(() => predict(usual, { minutes: 5, from: -1 })).toThrow(RangeError);
  });

  test('worse is never better: capacity, load, age, cold, charge, limit (seeded batteries)', () => {
    const next = generator(20261128);
    const between = (a: number, b: number) => a + (b - a) * next();
    for (let i = 0; i < often(500, 60); i += 1) {
      const b: Battery = {
        type: batteryTypes[i % 2]!,
        capacityAh: between(30, 110),
        openCircuitVolts: between(12, 12.9),
        temperatureC: between(-20, 24),
        ageYears: between(0, 8),
        loadAmps: between(1, 20),
        limitVolts: between(11, 12.2),
      };
      const minutes = predict(b, { minutes: 10 });
      const worse: Battery[] = [
        { ...b, capacityAh: b.capacityAh * 0.9 },
        { ...b, loadAmps: b.loadAmps + 1 },
        { ...b, ageYears: b.ageYears + 1 },
        { ...b, temperatureC: b.temperatureC - 5 },
        { ...b, openCircuitVolts: b.openCircuitVolts - 0.1 },
        { ...b, limitVolts: b.limitVolts + 0.1 },
      ];
      for (const w of worse) {
        const p = predict(w, { minutes: 10 });
        expect(p.minutesAboveLimit).toBeLessThanOrEqual(minutes.minutesAboveLimit + 0.1);
        expect(p.endVolts).toBeLessThanOrEqual(minutes.endVolts + 1e-9);
      }
    }
  });

  test('minutes by halving are those of a walk in steps of half a minute (seeded batteries)', () => {
    const next = generator(7);
    for (let i = 0; i < often(100, 30); i += 1) {
      const b: Battery = {
        ...usual,
        type: batteryTypes[i % 2]!,
        capacityAh: 40 + 50 * next(),
        openCircuitVolts: 12.3 + 0.4 * next(),
        loadAmps: 4 + 12 * next(),
      };
      const guess = { charge: 0.6 + 0.4 * next(), resistance: 1, capacity: 1 };
      const draws = [{ fromMinute: 0, amps: b.loadAmps }];
      let walked = 0;
      while (walked < mostMinutes && voltsUnder(b, guess, draws, walked + 0.5) >= b.limitVolts) walked += 0.5;
      const found = minutesLeft(b, guess, draws, 0);
      expect(found).toBeGreaterThanOrEqual(walked - 0.06);
      expect(found).toBeLessThan(walked + 0.5);
    }
  });
});

describe('fitted to what was measured under load', () => {
  const at = (minutes: number, volts: number) => ({ minutes, volts });
  const expected = (minute: number) => predict(usual, { minutes: 0, from: minute }).startVolts;

  test('readings as expected narrow the band', () => {
    const before = predict(usual, { minutes: 40, from: 10 });
    const after = predict(usual, { minutes: 40, from: 10, readings: [at(1, expected(1)), at(5, expected(5)), at(10, expected(10))] });
    expect(after.endVoltsHigh - after.endVoltsLow).toBeLessThan(0.7 * (before.endVoltsHigh - before.endVoltsLow));
    expect(after.endVolts).toBeCloseTo(before.endVolts, 1);
  });
  test('a battery that sags more than expected has fewer minutes, one that holds has more', () => {
    const plain = predict(usual, { minutes: 20, from: 5 }).minutesAboveLimit;
    const by = (dv: number) =>
      predict(usual, { minutes: 20, from: 5, readings: [at(1, expected(1) + dv), at(5, expected(5) + dv)] }).minutesAboveLimit;
    expect(by(-0.12)).toBeLessThan(0.75 * plain);
    expect(by(0.1)).toBeGreaterThan(1.2 * plain);
  });
  test('one reading far below what is usual is believed: a full battery that sags to 12.08 V does not hold for an hour', () => {
    const full = { ...usual, openCircuitVolts: 12.7, ageYears: 4, loadAmps: 8 };
    const before = predict(full, { minutes: 60, from: 1 });
    const after = predict(full, { minutes: 60, from: 1, readings: [at(1, 12.08)] });
    expect(before.verdict).toBe('go');
    expect(after.verdict).toBe('goWithSupply');
    expect(after.startVolts).toBeLessThan(12.2);
    expect(after.minutesAboveLimit).toBeLessThan(70);
  });
  test('one stray reading does not turn three good ones', () => {
    const good = [at(1, expected(1)), at(5, expected(5)), at(8, expected(8))];
    const without = predict(usual, { minutes: 20, from: 8, readings: good });
    const withIt = predict(usual, { minutes: 20, from: 8, readings: [...good, at(6, 10.5)] });
    expect(Math.abs(withIt.endVolts - without.endVolts)).toBeLessThan(0.03);
  });
  test('a weak battery, simulated: its own minutes lie in the band after four readings (100 seeds)', () => {
    const next = generator(41);
    let inside = 0;
    for (let i = 0; i < 100; i += 1) {
      const normal = () => Math.sqrt(-2 * Math.log(next() || 1e-9)) * Math.cos(2 * Math.PI * next());
      const truth = {
        charge: Math.min(1, Math.max(0.1, chargeAtRest(kinds.flooded, 12.5) + 0.06 * normal())),
        resistance: Math.exp(0.25 * normal()),
        capacity: Math.max(0.3, 1 + 0.12 * normal()),
      };
      const draws = [{ fromMinute: 0, amps: usual.loadAmps }];
      const readings = [1, 5, 10, 15].map((m) => at(m, voltsUnder(usual, truth, draws, m) + 0.02 * normal()));
      const p = predict(usual, { minutes: 30, from: 15, readings });
      const end = voltsUnder(usual, truth, draws, 45);
      if (end >= p.endVoltsLow && end <= p.endVoltsHigh) inside += 1;
    }
    expect(inside).toBeGreaterThanOrEqual(85);
  });
  test('a maintainer from minute 10 on stops the fall; one that is taken off lets it go on', () => {
    const drawn = predict(usual, { minutes: 60 }).endVolts;
    const held = predict(usual, {
      minutes: 60,
      draws: [
        { fromMinute: 0, amps: 6 },
        { fromMinute: 10, amps: -2 },
      ],
    });
    expect(held.endVolts).toBeGreaterThan(drawn + 0.3);
    const off = predict(usual, {
      minutes: 30,
      from: 30,
      draws: [
        { fromMinute: 0, amps: 6 },
        { fromMinute: 10, amps: 0 },
        { fromMinute: 30, amps: 6 },
      ],
    });
    expect(off.endVolts).toBeCloseTo(predict(usual, { minutes: 30, from: 10 }).endVolts, 9);
  });
});

test('the course begins at now, ends at the end and never leaves its band', () => {
  const p = predict(usual, { minutes: 45 });
  const drawn = course(usual, { minutes: 45 });
  expect(drawn).toHaveLength(25);
  expect(drawn[0]).toMatchObject({ minute: 0, middle: p.startVolts });
  expect(drawn.at(-1)).toEqual({ minute: 45, low: p.endVoltsLow, middle: p.endVolts, high: p.endVoltsHigh });
  for (const { low, middle, high } of drawn) expect(low <= middle && middle <= high).toBe(true);
});

describe('in words', () => {
  test.each([
    [{}, 30, 'The battery is enough.', /^It holds for at least \d+ minutes; the work needs 30 minutes\.$/],
    [{}, 120, /^Connect a battery maintainer of at least \d A first\.$/, /^Without it, count on \d+ minutes only; the work needs 120 minutes\.$/],
    [
      { openCircuitVolts: 12.0 },
      20,
      'Don’t start. The battery is nearly flat.',
      /^At rest it shows 16 % of its charge\. Charge it, or replace it, then measure again\. A maintainer would have to give \d+ A all the time\.$/,
    ],
  ] as const)('%j for %d minutes', (change, minutes, head, text) => {
    const said = reserveVerdict(predict({ ...usual, ...change }, { minutes }), minutes);
    expect(said.head).toEqual(typeof head === 'string' ? head : expect.stringMatching(head));
    expect(said.text).toMatch(text);
  });
  test('minutes are rounded down, and a day is a day', () => {
    expect([0.9, 1, 1.99, 24.9, mostMinutes].map(minutesWords)).toEqual(['0 minutes', '1 minute', '1 minute', '24 minutes', 'a day or more']);
  });
});

test.each([
  [{ ...usual, type: 'lithium' }, 'type', 'flooded, agm'],
  [{ ...usual, capacityAh: 3.9 }, 'capacityAh', '4'],
  [{ ...usual, limitVolts: '12' }, 'limitVolts', ''],
  [{ ...usual, loadAmps: 201 }, 'loadAmps', '200'],
  [{ ...usual, readings: [{ minutes: 2, volts: 24 }] }, 'readings[0].volts', '16'],
  [{ ...usual, colour: 1 }, 'colour', ''],
])('a file that can’t be: %j', (data, path, said) => {
  const parsed = parseBattery(data);
  expect(parsed.ok).toBe(false);
  if (parsed.ok) return;
  expect(parsed.problems[0]).toMatchObject({ path, message: expect.stringContaining(said) });
});
test('both ends of each limit are read', () => {
  expect(parseBattery({ ...usual, capacityAh: 4, loadAmps: 0, readings: [] }).ok).toBe(true);
  expect(parseBattery({ ...usual, capacityAh: 400, loadAmps: 200 }).ok).toBe(true);
});
