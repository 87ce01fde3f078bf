import { shippedContent } from '../../content/shipped.testing';
import { assessKey, assessWiggle, type Conditions, oneRange, type ReadingGroup, type WiggleSample } from '.';

const { ladders } = shippedContent().library;
const twelve = ladders.get('veskar-twelve')!;
const pair = ladders.get('dunmore-pair')!;
const meter = oneRange('M', { percent: 0.5, digits: 2, resolutionOhms: 1 });
const conditions: Conditions = { meter, leadOhms: 0.4, temperatureC: 20 };
const group = (side: 1 | 2, turned: boolean, ...readings: number[]): ReadingGroup => ({ side, turned, readings });

describe('a whole key', () => {
  test('one pellet in both orientations', () => {
    const key = assessKey([group(1, false, 1400, 1401, 1399), group(1, true, 1402, 1400)], twelve, conditions);
    expect(key).toMatchObject({ verdict: 'step', steps: [6], head: 'Value 6.', missing: '' });
    expect(key.pellets[0]!.joint.n).toBe(5);
  });
  test('what is missing is said, one thing at a time', () => {
    expect(assessKey([group(1, false, 1400)], twelve, conditions).missing).toBe('Measure the other direction too.');
    expect(assessKey([group(1, false, 770)], pair, conditions).missing).toBe('Side 2 is not measured yet.');
    expect(assessKey([group(1, false, 770), group(1, true, 770), group(2, false, 1190)], pair, conditions).missing).toBe(
      'Side 2: measure the other direction too.',
    );
  });
  test('two pellets: both steps, and the one that is none leads', () => {
    const good = assessKey([group(1, false, 770, 769), group(2, false, 1190, 1191)], pair, conditions);
    expect(good).toMatchObject({ verdict: 'step', steps: [4, 5], head: 'Values 4 and 5.' });
    expect(good.p).toBeCloseTo(good.pellets[0]!.joint.p * good.pellets[1]!.joint.p, 12);
    expect(assessKey([group(1, false, 770, 769), group(2, false, Infinity, Infinity, Infinity)], pair, conditions)).toMatchObject({
      verdict: 'open',
      steps: [4, null],
      head: 'Side 2: Open.',
    });
  });
  test('orientations that don’t agree are a contact, not a value', () => {
    const key = assessKey([group(1, false, 1400, 1401, 1399), group(1, true, Infinity, Infinity, Infinity)], twelve, conditions);
    expect(key).toMatchObject({ verdict: 'unstable', steps: [null], head: 'The direction matters.' });
    expect(key.text).toBe(
      'As it goes in: value 6. Turned over: open. A contact of the resistor chip is worn or dirty. Clean it and measure both again.',
    );
  });
  test('without a reading there is nothing to tell', () =>
    expect(() => assessKey([group(1, false)], twelve, conditions)).toThrow('A key can’t be identified without a reading.'));
});

describe('a column that is moved', () => {
  const run = (ohms: (i: number) => number, n = 100, step = 0.1): WiggleSample[] =>
    Array.from({ length: n }, (_none, i) => ({ atS: i * step, ohms: ohms(i) }));
  const marks = [
    { atS: 2, say: 'tilt up' },
    { atS: 6, say: 'left lock' },
  ];
  test('nothing moves', () => {
    expect(
      assessWiggle(
        run((i) => 1400 + (i % 3)),
        marks,
        meter,
      ),
    ).toMatchObject({
      verdict: 'same',
      rest: 1401,
      breaks: [],
      text: 'The reading stays at 1.401 kΩ for 10 s, whatever was moved. The wires are good.',
    });
  });
  test('breaks are found, timed and put to the mark before them', () => {
    const w = assessWiggle(
      run((i) => (i >= 65 && i <= 68 ? Infinity : i === 30 || i === 31 ? 1600 : 1400)),
      marks,
      meter,
    );
    expect(w.breaks).toEqual([
      { fromS: 3, toS: expect.closeTo(3.1, 9), kind: 'jump', ohms: 1600, samples: 2, mark: 'tilt up' },
      { fromS: 6.5, toS: expect.closeTo(6.8, 9), kind: 'open', ohms: Infinity, samples: 4, mark: 'left lock' },
    ]);
    expect(w.text).toBe(
      '2 breaks, 1 of them open, the first after 3.0 s, at “tilt up”, “left lock”. A fine wire or a contact breaks where it bends.',
    );
  });
  test('a single number that is off is no break, a single open one is; two with one between them are two', () => {
    expect(
      assessWiggle(
        run((i) => (i === 50 ? 1600 : 1400)),
        [],
        meter,
      ).verdict,
    ).toBe('same');
    expect(
      assessWiggle(
        run((i) => (i === 50 ? Infinity : 1400)),
        [],
        meter,
      ),
    ).toMatchObject({ verdict: 'changes', breaks: [{ samples: 1, mark: null }] });
    expect(
      assessWiggle(
        run((i) => (i === 50 || i === 52 ? 1600 : 1400)),
        [],
        meter,
      ).breaks,
    ).toHaveLength(2);
    // Twenty-five red lines are twenty-five breaks, not one.
    expect(
      assessWiggle(
        run((i) => (i >= 20 && i < 70 && i % 2 === 0 ? Infinity : 1400)),
        [],
        meter,
      ).breaks,
    ).toHaveLength(25);
    expect(
      assessWiggle(
        run((i) => (i === 50 || i === 53 ? Infinity : 1400)),
        [],
        meter,
      ).breaks,
    ).toHaveLength(2);
  });
  test('too short to say anything, both sides of the limit; a break counts at once', () => {
    expect(
      assessWiggle(
        run(() => 1400, 50, 0.1),
        [],
        meter,
      ).verdict,
    ).toBeNull();
    expect(
      assessWiggle(
        run(() => 1400, 51, 0.1),
        [],
        meter,
      ).verdict,
    ).toBe('same');
    expect(
      assessWiggle(
        run(() => 1400, 19, 1),
        [],
        meter,
      ).verdict,
    ).toBeNull();
    expect(
      assessWiggle(
        run(() => 1400, 20, 1),
        [],
        meter,
      ).verdict,
    ).toBe('same');
    expect(
      assessWiggle(
        run((i) => (i > 3 ? Infinity : 1400), 8),
        [],
        meter,
      ).verdict,
    ).toBe('changes');
    expect(assessWiggle([], [], meter)).toMatchObject({ verdict: null, rest: null, text: expect.stringContaining('Only 0 readings in 0 s.') });
  });
});
