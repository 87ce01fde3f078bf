import { compile } from './compile';
import { rowOf, statementChances, withHumanError } from './rows';
import { family, fault, testOf } from './small.testing';

const lamp = testOf('lamp', ['out', 'flashes', 'dark'], {
  'immobilizer.accepts': { out: 0.9, flashes: 0.06, dark: 0.04 },
  'immobilizer.refuses': { out: 0.02, flashes: 0.96, dark: 0.02 },
  'immobilizer.mute': [{ when: { param: 'cut', is: 'starter' }, p: { dark: 1 } }, { p: { out: 0.5, dark: 0.5 } }],
  cover: { out: 0.5, flashes: 0.5 },
});
const shows = (immobilizer: string | Record<string, number>) => fault('some', 'reader', { shows: { immobilizer } });

describe('the chances of a test under a fault', () => {
  it.each([
    ['its own row first', fault('cover', 'reader', { shows: { immobilizer: 'mute' } }), {}, [0.5, 0.5, 0], 'fault'],
    ['what it shows', shows('refuses'), {}, [0.02, 0.96, 0.02], 'shown'],
    ['several states in their shares', shows({ accepts: 0.5, refuses: 0.5 }), {}, [0.46, 0.51, 0.03], 'shown'],
    ['the row whose condition holds', shows('mute'), { cut: 'starter' }, [0, 0, 1], 'shown'],
    ['the row without a condition', shows('mute'), { cut: 'fuel' }, [0.5, 0, 0.5], 'shown'],
    ['a state the test does not tell apart', shows('stuck'), {}, [0.9, 0.06, 0.04], 'shown'],
    ['what nobody said', fault('other', 'reader'), {}, [0.9, 0.06, 0.04], 'default'],
    ['a vehicle without a fault', null, {}, [0.9, 0.06, 0.04], 'default'],
  ])('%s', (_, of, params, p, origin) => {
    const row = rowOf(lamp, of, params as Record<string, string>);
    row.p.forEach((x, i) => expect(x).toBeCloseTo(p[i]!, 12));
    expect(row.origin).toBe(origin);
  });

  it('prefers default over the state without a fault where both stand', () => {
    expect(rowOf(testOf('t', ['x', 'y'], { default: { x: 1 }, 'coil.works': { y: 1 } }), null, {}).p).toEqual([1, 0]);
  });

  it('spreads a slip evenly over the other outcomes', () => {
    // 0.9 · 0.94 + 0.1 · 0.06 / 2 = 0.849; 0.1 · 0.94 + 0.9 · 0.03 = 0.121; 0 + 1 · 0.03 = 0.03.
    withHumanError([0.9, 0.1, 0], 0.06).forEach((x, i) => expect(x).toBeCloseTo([0.849, 0.121, 0.03][i]!, 12));
    expect(withHumanError([1], 0.3)).toEqual([1]);
  });
});

describe('what the customer says', () => {
  const dies = {
    symptom: 'startsAndDies',
    reliability: 0.8,
    p: {
      'engine.silent': 0.01,
      'engine.dies': 0.9,
      'engine.blocked': [{ when: { param: 'cut', is: 'starter' }, p: 0.02 }, { p: 0.6 }],
      swapped: 0.7,
      default: 0.1,
    },
  };
  const starter = fault('starter', 'reader', { shows: { engine: 'silent' } });
  const unpaired = fault('unpaired', 'reader', { shows: { engine: 'blocked' } });
  const pump = fault('pump', 'reader', { shows: { engine: { dies: 0.5, silent: 0.5 } } });
  const swapped = fault('swapped', 'reader', { shows: { engine: 'silent' } });
  const other = fault('other', 'reader');
  const chances = (cut: string) =>
    statementChances(
      dies,
      [starter, unpaired, pump, swapped, other].map((f) => ({ fault: f, prior: 0.2 })),
      { cut },
    );

  it('is weighed by the fault, by what it shows, or by default, as far as it is reliable', () => {
    // Rows 0.01, 0.6, 0.455, 0.7, 0.1; mean 0.373; 0.8 of the row and 0.2 of the mean.
    const mean = (0.01 + 0.6 + 0.455 + 0.7 + 0.1) / 5;
    [0.01, 0.6, 0.455, 0.7, 0.1].forEach((row, i) => expect(chances('fuel')[i]).toBeCloseTo(0.8 * row + 0.2 * mean, 12));
    expect(chances('starter')[1]).toBeLessThan(chances('fuel')[1]! / 3);
  });

  it('says nothing at all where it is not reliable', () => {
    const faults = [starter, pump].map((f) => ({ fault: f, prior: 0.5 }));
    const [a, b] = statementChances({ ...dies, reliability: 1e-9 }, faults, {});
    expect(a! / b!).toBeCloseTo(1, 6);
  });

  it('counts for what fits and against what does not; what is not said counts for nothing', () => {
    const of = (told: string[]) =>
      compile(family([starter, pump, other], [], { statements: [dies] }), {}, { told, keys: [], ratePerMinute: 1 }).model.faults.map((f) => f.prior);
    const [before, after] = [of([]), of(['startsAndDies'])];
    expect(before[0]).toBeCloseTo(before[1]!, 12);
    expect(after[0]! / before[0]!).toBeLessThan(0.6);
    expect(after[1]! / before[1]!).toBeGreaterThan(1.5);
    // "Something else" is told of as faults are on average.
    const rest = (p: number[]) => 1 - p.reduce((a, b) => a + b, 0);
    expect(rest(after)).toBeCloseTo(rest(before), 12);
    expect(of(['noSuchStatement'])).toEqual(before);
  });
});
