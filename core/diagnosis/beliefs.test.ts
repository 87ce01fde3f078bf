import { counted, explain, type Finding, fitOf, modelAfter, UnknownFinding, weigh } from './beliefs';
import { compile, type Opening } from './compile';
import { weights } from './learned';
import { generator } from '../units';
import { family, fault, testOf } from './small.testing';

const opening: Opening = { told: [], keys: ['A', 'B'], ratePerMinute: 1 };
const close = (found: ArrayLike<number>, expected: number[], digits = 10) => expected.forEach((x, i) => expect(found[i]).toBeCloseTo(x, digits));
const seen = (test: string, outcome: string, key?: string, id = test): Finding => ({ id, test, outcome, ...(key === undefined ? {} : { key }) });

describe('posteriors worked by hand', () => {
  // Two faults of equal prior and "something else" with 0.2: priors 0.4, 0.4, 0.2.
  const two = family(
    [fault('open', 'reader'), fault('dead', 'key')],
    [testOf('field', ['there', 'none'], { default: { there: 0.9, none: 0.1 }, open: { there: 0.2, none: 0.8 } })],
  );

  it('weighs one outcome', () => {
    const compiled = compile(two, {}, opening);
    // Row of "dead": the default, 0.1 for none. "Something else": the mean of the faults, (0.8 + 0.1) / 2 = 0.45, and a tenth even: 0.405 + 0.05 = 0.455.
    // 0.4 · 0.8 = 0.32; 0.4 · 0.1 = 0.04; 0.2 · 0.455 = 0.091; sum 0.451.
    close(weigh(compiled, counted(compiled, [seen('field', 'none')])), [0.32 / 0.451, 0.04 / 0.451, 0.091 / 0.451]);
  });

  it('lifts a prior by what changed, and keeps what it was', () => {
    const lifted = family([fault('open', 'reader', { lifts: { accident: 3 } }), fault('dead', 'key')], two.tests);
    const compiled = compile(lifted, {}, { ...opening, told: ['accident', 'water'] });
    // 0.4 · 3 = 1.2; 0.4; 0.2; sum 1.8.
    close(weigh(compiled, []), [1.2 / 1.8, 0.4 / 1.8, 0.2 / 1.8]);
    close(compiled.familyPriors, [0.4, 0.4, 0.2]);
  });

  it('learns from the proven cases of the shop', () => {
    const compiled = compile(two, {}, { ...opening, proven: { open: 12, somethingElse: 3 } });
    // (40 · 0.4 + 12) / 55 = 28/55; 40 · 0.4 / 55 = 16/55; (40 · 0.2 + 3) / 55 = 11/55.
    expect(weights.priors).toBe(40);
    close(weigh(compiled, []), [28 / 55, 16 / 55, 11 / 55]);
  });

  it('changes nothing below twelve proven cases', () => {
    close(weigh(compile(two, {}, { ...opening, proven: { open: 11 } }), []), [0.4, 0.4, 0.2]);
    close(weigh(compile(two, {}, { ...opening, proven: { open: 12 } }), []), [(16 + 12) / 52, 16 / 52, 8 / 52]);
  });

  it('learns from the cases of a vehicle line, from eight on', () => {
    const learned = { line: { dead: 8 }, slips: {}, testMinutes: {}, fixMinutes: {} };
    // Of the type 28/55, 16/55, 11/55; then (20 · 28/55) / 28 and so on.
    close(weigh(compile(two, {}, { ...opening, proven: { open: 12, somethingElse: 3 }, learned }), []), [
      (20 * 28) / 55 / 28,
      ((20 * 16) / 55 + 8) / 28,
      (20 * 11) / 55 / 28,
    ]);
    close(weigh(compile(two, {}, { ...opening, proven: { open: 12, somethingElse: 3 }, learned: { ...learned, line: { dead: 7 } } }), []), [
      28 / 55,
      16 / 55,
      11 / 55,
    ]);
  });

  it('takes slips and minutes from what was counted, each with the weight of the content, and only where twelve cases are proven', () => {
    const learned = {
      line: {},
      slips: { field: { n: 100, off: 18 } },
      testMinutes: { field: { n: 8, sum: 80 } },
      fixMinutes: { open: { n: 8, sum: 800 } },
    };
    const test = two.tests[0]!;
    const taught = compile(two, {}, { ...opening, proven: { open: 12 }, learned });
    // (100 · 0.02 + 18) / 200 = 0.1, where the test says nothing of its own; half of both minutes.
    expect(taught.tests[0]!.test.humanError).toBeCloseTo((100 * (test.humanError ?? 0.02) + 18) / 200, 12);
    expect(taught.tests[0]!.test.minutes).toBe((test.minutes + 10) / 2);
    expect(taught.hypotheses[0]!.repair.minutes).toBe((two.faults![0]!.cure.minutes + 100) / 2);
    expect(compile(two, {}, { ...opening, proven: { open: 11 }, learned }).tests[0]!.test).toBe(test);
  });

  it('puts human error into the chances', () => {
    const slips = family(two.faults!, [{ ...two.tests[0]!, humanError: 0.1 }]);
    const compiled = compile(slips, {}, opening);
    // 0.8 · 0.9 + 0.2 · 0.1 = 0.74; 0.1 · 0.9 + 0.9 · 0.1 = 0.18; 0.455 · 0.9 + 0.545 · 0.1 = 0.464.
    const sum = 0.4 * 0.74 + 0.4 * 0.18 + 0.2 * 0.464;
    close(weigh(compiled, counted(compiled, [seen('field', 'none')])), [(0.4 * 0.74) / sum, (0.4 * 0.18) / sum, (0.2 * 0.464) / sum]);
  });

  it('rules out a fault whose repair was in vain, and believes one that worked', () => {
    const compiled = compile(two, {}, opening);
    close(weigh(compiled, counted(compiled, [{ id: 'r', repair: 'open', worked: false }])), [0, 2 / 3, 1 / 3]);
    // 0.4 · 1; 0.4 · 0.02; 0.2 · 0.02; sum 0.412.
    close(weigh(compiled, counted(compiled, [{ id: 'r', repair: 'open', worked: true }])), [0.4 / 0.412, 0.008 / 0.412, 0.004 / 0.412]);
  });

  it('leaves another key as it should be when the fault sits in one', () => {
    const keyed = family(
      [fault('dead', 'key', { perKey: true, shows: { immobilizer: 'misses' } })],
      [
        testOf(
          'lamp',
          ['out', 'flashes'],
          { 'immobilizer.accepts': { out: 0.9, flashes: 0.1 }, 'immobilizer.misses': { out: 0.1, flashes: 0.9 } },
          { perKey: true },
        ),
      ],
    );
    const compiled = compile(keyed, {}, opening);
    expect(compiled.hypotheses.map((h) => h.id)).toEqual(['dead@A', 'dead@B']);
    // Half of 0.8 for each key. Flashing with A: 0.4 · 0.9, 0.4 · 0.1, and 0.2 · (0.9 · 0.5 + 0.05) = 0.1.
    close(weigh(compiled, counted(compiled, [seen('lamp', 'flashes', 'A')])), [0.36 / 0.5, 0.04 / 0.5, 0.1 / 0.5]);
  });
});

describe('repeating', () => {
  const tests = (independent: boolean) => [
    testOf('try', ['taken', 'not'], { default: { taken: 0.5, not: 0.5 }, open: { taken: 0.1, not: 0.9 } }, independent ? { independent } : {}),
  ];
  const faults = [fault('open', 'reader'), fault('dead', 'key')];
  const three = ['not', 'not', 'taken'].map((o, i) => seen('try', o, undefined, String(i)));

  it('counts the latest of a test whose repetition is nothing new', () => {
    const compiled = compile(family(faults, tests(false)), {}, opening);
    expect(counted(compiled, three).map((f) => f.id)).toEqual(['2']);
    expect(weigh(compiled, counted(compiled, three))).toEqual(weigh(compiled, counted(compiled, [seen('try', 'taken')])));
  });

  it('counts each trial of a test whose trials are independent', () => {
    const compiled = compile(family(faults, tests(true)), {}, opening);
    // "Something else": 0.9 · 0.3 + 0.05 = 0.32 for taken, 0.68 for not; it has a rate of its own, which its trials teach: then (0.68 + 1) / 2 for not,
    // and (0.32 + 0) / 3 for taken.
    const [a, b, c] = [0.4 * 0.9 * 0.9 * 0.1, 0.4 * 0.125, (0.2 * 0.68 * 1.68 * 0.32) / 6];
    close(weigh(compiled, counted(compiled, three)), [a / (a + b + c), b / (a + b + c), c / (a + b + c)]);
  });

  it('takes trials of one kind in any order, and expects of the next one what they taught', () => {
    const compiled = compile(family(faults, tests(true)), {}, opening);
    close(weigh(compiled, counted(compiled, three)), [...weigh(compiled, counted(compiled, [three[2]!, three[0]!, three[1]!]))]);
    const findings = counted(compiled, three.slice(0, 2));
    // After two "not": (0.32 + 0) / 3 for taken, (0.68 + 2) / 3 for not; the known faults have their rows.
    close(modelAfter(compiled, findings).tests[0]!.p, [0.1, 0.5, 0.32 / 3, 0.9, 0.5, 2.68 / 3], 6);
    expect(modelAfter(compiled, [])).toBe(compiled.model);
  });

  it('takes a reading that was repeated alike for less of a slip', () => {
    const compiled = compile(family(faults, [{ ...tests(false)[0]!, humanError: 0.2 }]), {}, opening);
    const once = weigh(compiled, counted(compiled, [seen('try', 'taken')]))[0]!;
    const twice = weigh(compiled, counted(compiled, [seen('try', 'taken', undefined, '0'), seen('try', 'taken', undefined, '1')]))[0]!;
    const otherwise = weigh(compiled, counted(compiled, [seen('try', 'not', undefined, '0'), seen('try', 'taken', undefined, '1')]))[0]!;
    // 0.1 · 0.8 + 0.9 · 0.2 = 0.26 of one reading; with a slip of 0.2² = 0.04 it is 0.1 · 0.96 + 0.9 · 0.04 = 0.132.
    expect(once).toBeCloseTo((0.4 * 0.26) / (0.4 * 0.26 + 0.4 * 0.5 + 0.2 * 0.392), 10);
    expect(twice).toBeCloseTo((0.4 * 0.132) / (0.4 * 0.132 + 0.4 * 0.5 + 0.2 * 0.3344), 10);
    expect(otherwise).toBe(once);
  });

  it('never counts two tests that look at the same thing', () => {
    const same = [...tests(false), { ...tests(false)[0]!, id: 'other', same: 'try' }];
    const compiled = compile(family(faults, same), {}, opening);
    expect(counted(compiled, [seen('try', 'not'), seen('other', 'taken')]).map((f) => f.id)).toEqual(['other']);
  });
});

describe('properties, over seeded random families', () => {
  const random = generator(6);
  const row = (n: number) => {
    const x = Array.from({ length: n }, () => random() + 0.02);
    const total = x.reduce((a, b) => a + b);
    return Object.fromEntries(x.map((y, i) => [`o${i}`, y / total]));
  };
  const drawn = Array.from({ length: 40 }, () => {
    const faults = Array.from({ length: 2 + Math.floor(random() * 7) }, (_, i) => fault(`f${i}`, 'reader', { prior: 0.1 + random() }));
    const tests = Array.from({ length: 6 }, (_, i) => {
      const n = 2 + Math.floor(random() * 3);
      return testOf(
        `t${i}`,
        Array.from({ length: n }, (__, o) => `o${o}`),
        { default: row(n), ...Object.fromEntries(faults.map((f) => [f.id, row(n)])) },
        { humanError: random() * 0.2 },
      );
    });
    const compiled = compile(family(faults, tests), {}, opening);
    const findings = tests.map((t) => seen(t.id, `o${Math.floor(random() * Object.keys(t.outcomes).length)}`));
    return { compiled, findings };
  });

  it.each(drawn.map((d, i) => [i, d] as const))('model %i: sums to one, in any order, explained to the last deciban', (_, { compiled, findings }) => {
    const weights = weigh(compiled, counted(compiled, findings));
    expect(weights.reduce((a, b) => a + b)).toBeCloseTo(1, 12);
    expect(weights.every((w) => w >= 0 && w <= 1)).toBe(true);
    const turned = [...findings].reverse();
    close(weigh(compiled, counted(compiled, turned)), [...weights], 10);
    for (const part of [new Set([0]), new Set([0, 1]), new Set([compiled.hypotheses.length])]) {
      const { prior, weights: decibans, now } = explain(compiled, counted(compiled, findings), part);
      expect(decibans.reduce((n, w) => n + w.decibans, prior)).toBeCloseTo(now, 8);
      const inside = [...part].reduce((n, f) => n + weights[f]!, 0);
      expect(now).toBeCloseTo(10 * Math.log10(inside / (1 - inside)), 6);
    }
  });

  it('is not moved by a test whose outcomes are equally likely under all', () => {
    const compiled = compile(
      family([fault('a', 'reader'), fault('b', 'key')], [testOf('coin', ['x', 'y'], { default: { x: 0.5, y: 0.5 } })]),
      {},
      opening,
    );
    close(weigh(compiled, counted(compiled, [seen('coin', 'x')])), [...weigh(compiled, [])]);
  });
});

describe('findings that do not fit together', () => {
  const sure = (id: string, for_: string) =>
    testOf(id, ['yes', 'no'], { default: { yes: 0.01, no: 0.99 }, [for_]: { yes: 0.99, no: 0.01 } }, { humanError: 0.001 });
  const compiled = compile(
    family([fault('a', 'reader'), fault('b', 'key'), fault('c', 'keyAccepted')], [sure('one', 'a'), sure('two', 'a'), sure('three', 'b')]),
    {},
    opening,
  );
  const fit = (...findings: Finding[]) => fitOf(compiled, counted(compiled, findings));

  it('is content with what one fault explains', () => {
    expect(fit(seen('one', 'yes'), seen('two', 'yes'), seen('three', 'no'))).toEqual({ surprise: 0, contradiction: false, suspect: null });
    expect(fit()).toEqual({ surprise: 0, contradiction: false, suspect: null });
  });

  it('names the entry whose error would make the others fit', () => {
    const found = fit(seen('one', 'yes'), seen('two', 'yes'), seen('three', 'yes'));
    // Under "a" the third has 0.011 where 0.989 is usual: −log2(0.011) = 6.5 bits less its usual 0.1 and what the others gain.
    expect(found.contradiction).toBe(true);
    expect(found.suspect).toBe('three');
    expect(found.surprise).toBeGreaterThan(6);
    expect(found.surprise).toBeLessThan(6.6);
  });

  it('does not suspect what was read twice alike', () => {
    const found = fit(seen('one', 'yes'), seen('two', 'yes'), seen('three', 'yes'), seen('three', 'yes', undefined, 'again'));
    expect(found.contradiction).toBe(true);
    expect(found.suspect).toBeNull();
  });

  it('neither crashes nor divides by zero on what is impossible under every fault', () => {
    const never = testOf('never', ['yes', 'no'], { default: { yes: 0, no: 1 } });
    const impossible = compile(family([fault('a', 'reader')], [never], { elsewhere: { prior: 0.000001, minutes: 1, money: 0 } }), {}, opening);
    const findings = counted(impossible, [seen('never', 'yes')]);
    const weights = weigh(impossible, findings);
    expect(weights.reduce((a, b) => a + b)).toBeCloseTo(1, 12);
    expect([...weights].every(Number.isFinite)).toBe(true);
    expect(fitOf(impossible, findings)).toMatchObject({ contradiction: true, suspect: 'never' });
    expect(explain(impossible, findings, new Set([0])).now).toBeGreaterThanOrEqual(-120);
  });
});

describe('findings that have no place', () => {
  const compiled = compile(
    family(
      [fault('open', 'reader'), fault('dead', 'key', { perKey: true })],
      [testOf('lamp', ['out', 'on'], { default: { out: 0.5, on: 0.5 } }, { perKey: true })],
    ),
    {},
    opening,
  );
  it.each([
    [seen('beam', 'out'), 'Test "beam" does not exist here. Use one of: lamp.'],
    [seen('lamp', 'blue', 'A'), 'Outcome "blue" of "lamp" does not exist. Use one of: out, on.'],
    [seen('lamp', 'out', 'C'), '"lamp" was not made with key "C" of this case. Use one of: A, B.'],
    [{ id: 'r', repair: 'pump', worked: false } as Finding, 'Fault "pump" does not exist here. Use one of: open, dead.'],
  ])('%j', (finding, message) => {
    const found = (() => {
      try {
        counted(compiled, [seen('lamp', 'out', 'A'), finding]);
      } catch (error) {
        return error;
      }
    })();
    expect(found).toBeInstanceOf(UnknownFinding);
    expect((found as UnknownFinding).at).toBe(1);
    expect((found as UnknownFinding).message).toBe(message);
  });

  it('refuses a family without faults', () => {
    expect(() => compile(family([], []), {}, opening)).toThrow('The system type "small" has no faults, so there is nothing to weigh.');
  });
});
