import { rowOf, withHumanError } from './rows';
import { fault, test } from './small.testing';

const lamp = test('lamp', ['out', 'flashes', 'dark'], {
  'guard.accepts': { out: 0.9, flashes: 0.06, dark: 0.04 },
  'guard.refuses': { out: 0.02, flashes: 0.96, dark: 0.02 },
  'guard.mute': [{ when: { param: 'cut', is: 'starter' }, p: { dark: 1 } }, { p: { out: 0.5, dark: 0.5 } }],
  cover: { out: 0.5, flashes: 0.5 },
});
const shows = (guard: string | Record<string, number>) => fault('some', 'reader', { shows: { guard } });

describe('the chances of a test under a fault', () => {
  it.each([
    ['its own row first', fault('cover', 'reader', { shows: { guard: 'mute' } }), {}, [0.5, 0.5, 0], 'fault'],
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
    expect(rowOf(test('t', ['x', 'y'], { default: { x: 1 }, 'coil.works': { y: 1 } }), null, {}).p).toEqual([1, 0]);
  });

  it('spreads a slip evenly over the other outcomes', () => {
    // 0.9 · 0.94 + 0.1 · 0.06 / 2 = 0.849; 0.1 · 0.94 + 0.9 · 0.03 = 0.121; 0 + 1 · 0.03 = 0.03.
    withHumanError([0.9, 0.1, 0], 0.06).forEach((x, i) => expect(x).toBeCloseTo([0.849, 0.121, 0.03][i]!, 12));
    expect(withHumanError([1], 0.3)).toEqual([1]);
  });
});
