import { compile } from './compile';
import { policyNames, simulate } from './simulate';
import { family, fault, testOf } from './small.testing';
import { divergence, tellableBits, tellableFaults } from './tellable';

const cure = (minutes: number) => ({ do: 'mend', minutes });
const kit = family(
  [
    fault('a', 'reader', { cure: cure(50) }),
    fault('b', 'key', { cure: cure(80) }),
    fault('c', 'keyAccepted', { cure: cure(120) }),
    fault('twin', 'keyAccepted', { cure: cure(60) }),
  ],
  [
    testOf('one', ['x', 'y'], { default: { x: 0.95, y: 0.05 }, a: { x: 0.05, y: 0.95 } }, { minutes: 3, humanError: 0.02 }),
    testOf('two', ['x', 'y'], { default: { x: 0.95, y: 0.05 }, b: { x: 0.05, y: 0.95 } }, { minutes: 3, humanError: 0.02 }),
    testOf('none', ['x', 'y'], { default: { x: 0.5, y: 0.5 } }, { minutes: 40 }),
  ],
  { elsewhere: { prior: 0.05, minutes: 60, money: 100 } },
);
const compiled = compile(kit, {}, { told: [], keys: [], ratePerMinute: 1 });
const run = (policy: (typeof policyNames)[number], more: Partial<Parameters<typeof simulate>[1]> = {}) =>
  simulate(compiled, { policy, trials: 600, seed: 3, fixed: ['none', 'one', 'two'], ...more });

describe('the simulation', () => {
  const results = Object.fromEntries(policyNames.map((p) => [p, run(p)]));

  it.each(policyNames)('counts every trial of "%s" once', (policy) => {
    const r = results[policy]!;
    expect(r.solved + r.wrong + r.unknown).toBe(600);
    expect(r.meanCost).toBeGreaterThan(r.meanExtraCost);
    expect(r.somethingElse.trials + r.twoFaults.trials).toBeGreaterThan(0);
    expect(r.p90Minutes).toBeGreaterThanOrEqual(r.meanMinutes * 0.8);
  });

  it('draws the same for the same seed, and differently for another', () => {
    expect(run('engine')).toEqual(results.engine);
    expect(run('engine', { seed: 4 })).not.toEqual(results.engine);
  });

  it('finds the engine close to the optimum, and both better than a useless order and than chance', () => {
    expect(results.engine!.meanExtraCost).toBeLessThan(results.optimal!.meanExtraCost * 1.1);
    expect(results.engine!.meanExtraCost).toBeLessThan(results.fixed!.meanExtraCost * 0.9);
    expect(results.engine!.meanExtraCost).toBeLessThan(results.random!.meanExtraCost);
  });

  it('makes fewer mistakes without human error, and more with tables that are off', () => {
    const sure = run('engine', { humanError: false, twoFaults: 0 });
    expect(sure.tellable.solved).toBe(sure.tellable.trials);
    expect(run('engine', { disturbed: 0.3 }).trials).toBe(600);
    expect(sure.twoFaults.trials).toBe(0);
  });

  it('tells how far it is', () => {
    const done: number[] = [];
    run('fixed', { trials: 120, progress: (n) => done.push(n) });
    expect(done).toEqual([50, 100]);
  });
});

describe('faults that tests can tell apart', () => {
  it('measures the distance of two faults over all tests: by hand', () => {
    // With human error 0.02: 0.95 · 0.98 + 0.05 · 0.02 = 0.932. Each of two tests: 2 · √(0.932 · 0.068) = 0.5035, −log2 = 0.990 bits.
    expect(divergence(compiled, 0, 1)).toBeCloseTo(2 * 0.99, 2);
    expect(divergence(compiled, 2, 3)).toBeCloseTo(0, 10);
    expect(tellableBits).toBe(1);
    expect(tellableFaults(compiled)).toEqual([false, false, false, false]);
  });

  it('counts those that are at least a bit from every other', () => {
    const surer = { ...kit, faults: kit.faults!.slice(0, 2) };
    expect(tellableFaults(compile(surer, {}, { told: [], keys: [], ratePerMinute: 1 }))).toEqual([true, true]);
  });
});
