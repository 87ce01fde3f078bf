import type { Finding } from './beliefs';
import { Diagnostician, type Situation } from './diagnose';
import { isNeedless } from './doableNow';
import { family, fault, testOf } from './small.testing';

const kit = family(
  [
    fault('open', 'reader', { title: 'Coil open', cure: { do: 'mend', minutes: 60 } }),
    fault('dead', 'key', { title: 'Chip dead', group: 'key', cure: { do: 'new key', minutes: 80 } }),
    fault('pump', 'keyAccepted', { title: 'Pump', group: 'engine', cure: { do: 'new pump', minutes: 90 } }),
  ],
  [
    testOf('lamp', ['out', 'flashes'], { default: { out: 0.02, flashes: 0.98 }, pump: { out: 0.98, flashes: 0.02 } }, { humanError: 0.001 }),
    testOf(
      'field',
      ['there', 'none'],
      { default: { there: 0.98, none: 0.02 }, open: { there: 0.02, none: 0.98 } },
      { minutes: 5, tools: ['detector'], needs: { after: ['lamp'] } },
    ),
    testOf('gauge', ['stands', 'missing'], { default: { stands: 0.98, missing: 0.02 }, pump: { stands: 0.02, missing: 0.98 } }, { minutes: 4 }),
    testOf('bridge', ['turns', 'still'], { default: { turns: 0.5, still: 0.5 } }, { effect: 'bypass' }),
  ],
  { elsewhere: { prior: 0.02, minutes: 60, money: 200 } },
);
const seen = (t: string, outcome: string, id = t): Finding => ({ id, test: t, outcome });
const situation = (findings: Finding[], more: Partial<Situation> = {}): Situation => ({
  family: kit,
  params: {},
  told: [],
  keys: [],
  ratePerMinute: 1,
  findings,
  ...more,
});
const diagnose = (findings: Finding[], more: Partial<Situation> = {}) => new Diagnostician(situation(findings, more)).diagnose();

describe('the immobilizer is asked first', () => {
  const guarded = {
    ...kit,
    tests: kit.tests.map((t) => (t.id === 'lamp' ? { ...t, triage: ['immobilizer' as const] } : t)),
    faults: [...kit.faults!, fault('cover', 'reader', { title: 'Cover', prior: 20, cure: { do: 'take it off', minutes: 1 } })],
  };
  it('before a repair that costs next to nothing, and not again', () => {
    expect(diagnose([], { family: guarded }).advice).toMatchObject({ kind: 'test', test: 'lamp' });
    expect(diagnose([seen('lamp', 'flashes')], { family: guarded }).advice).toMatchObject({ kind: 'act', fault: 'cover' });
  });
});

describe('a fix that has nothing left to do', () => {
  const look = testOf('look', ['better', 'same', 'none'], {
    default: { better: 0.02, same: 0.49, none: 0.49 },
    cover: { better: 0.8, same: 0.1, none: 0.1 },
  });
  const covered = {
    ...kit,
    tests: [...kit.tests, look],
    faults: [
      ...kit.faults!,
      fault('cover', 'reader', { title: 'Cover', prior: 20, cure: { do: 'take it off', minutes: 1, unless: ['look.none', 'look.same'] } }),
    ],
  };
  const adviceAfter = (...findings: Finding[]) => diagnose(findings, { family: covered });

  it.each(['none', 'same'])('is not advised after "%s", though it is still the cheapest for its chance, and the chance stays told', (outcome) => {
    const { advice, beliefs } = adviceAfter(seen('lamp', 'flashes'), seen('look', outcome));
    expect(beliefs[0]).toMatchObject({ fault: 'cover' });
    expect(beliefs[0]!.p).toBeGreaterThan(0.5);
    expect(advice).not.toMatchObject({ kind: 'act', fault: 'cover' });
    // Without what rules it out, it is.
    const before = { ...covered, faults: covered.faults.map((f) => ({ ...f, cure: { do: f.cure.do, minutes: f.cure.minutes } })) };
    expect(diagnose([seen('lamp', 'flashes'), seen('look', outcome)], { family: before }).advice).toMatchObject({ kind: 'act', fault: 'cover' });
  });

  it('is advised again once the look comes out otherwise', () => {
    expect(adviceAfter(seen('lamp', 'flashes'), seen('look', 'better')).advice).toMatchObject({ kind: 'act', fault: 'cover' });
    const corrected = adviceAfter(seen('lamp', 'flashes'), seen('look', 'none', 'first'), seen('look', 'better', 'later'));
    expect(corrected.advice).toMatchObject({ kind: 'act', fault: 'cover' });
  });
});

describe('another key', () => {
  const keyed = family(
    [fault('dead', 'key', { perKey: true }), fault('open', 'reader')],
    [
      testOf(
        'lamp',
        ['out', 'flashes'],
        { default: { out: 0.9, flashes: 0.1 }, dead: { out: 0.1, flashes: 0.9 }, open: { out: 0.1, flashes: 0.9 } },
        { perKey: true },
      ),
      testOf(
        'second',
        ['out', 'flashes'],
        { default: { out: 0.9, flashes: 0.1 }, dead: { out: 0.1, flashes: 0.9 }, open: { out: 0.1, flashes: 0.9 } },
        { perKey: true, same: 'lamp', needs: { keys: 'second' } },
      ),
    ],
  );
  it('is not proposed with the first one, and may be recorded with it', () => {
    const proposed = diagnose([], { family: keyed, keys: ['A', 'B'] }).next.filter((n) => n.test === 'second');
    expect(proposed.every((n) => n.key === 'B')).toBe(true);
    const after = diagnose([{ id: '1', test: 'second', outcome: 'flashes', key: 'A' }], { family: keyed, keys: ['A', 'B'] });
    const dead = after.beliefs.find((b) => b.fault === 'dead' && b.key === 'A')!;
    expect(dead.p).toBeGreaterThan(dead.prior);
    expect(diagnose([{ id: '1', test: 'second', outcome: 'flashes', key: 'A' }], { family: keyed, keys: ['A'] }).beliefs).toHaveLength(3);
  });
});

describe('the advice', () => {
  it('tests on while no repair is sure enough', () => {
    const { advice, next } = diagnose([]);
    expect(advice).toMatchObject({ kind: 'test', test: 'lamp' });
    expect(next[0]).toMatchObject({ test: 'lamp', minutes: 1 });
    // "Open" and "dead" against "pump": a third of the chance answers "out".
    expect(next[0]!.gainBits).toBeGreaterThan(0.7);
    expect(next[0]!.why).toMatch(/^Tells “[\w ,]+” from “Key accepted”\. Repairing the wrong one costs \d+( to \d+)? min\.$/);
    expect(next[0]!.leads.map((l) => [l.outcome, l.fault])).toEqual([
      ['out', 'pump'],
      ['flashes', 'open'],
    ]);
    expect(next[0]!.leads.reduce((n, l) => n + l.p, 0)).toBeCloseTo(1, 10);
  });

  it('acts when the next test costs more than it can save', () => {
    const { advice, next } = diagnose([seen('lamp', 'flashes'), seen('field', 'none'), seen('gauge', 'stands')]);
    expect(advice).toMatchObject({ kind: 'act', fault: 'open' });
    expect(advice.text).toBe('Fix now: Coil open (97 %). More testing isn’t worth it.');
    expect(next).toEqual([]);
  });

  it('says why a fault is fixed before a likelier one', () => {
    const two = family(
      [
        fault('cover', 'reader', { title: 'Cover', prior: 1, cure: { do: 'take it off', minutes: 1 } }),
        fault('open', 'reader', { title: 'Coil open', prior: 3, cure: { do: 'mend', minutes: 60, money: 20 } }),
      ],
      [],
      { elsewhere: { prior: 0.02, minutes: 60, money: 200 } },
    );
    const { advice, beliefs } = diagnose([], { family: two });
    expect(beliefs[0]).toMatchObject({ fault: 'open' });
    expect(advice).toMatchObject({ kind: 'act', fault: 'cover' });
    expect(advice.text).toBe(
      'Fix now: Cover (25 %). More testing isn’t worth it. More likely: coil open (74 %), but its fix takes 60 min and parts, this one 1 min. Trying this one first is still cheaper on average.',
    );
  });

  it('leaves the immobilizer alone, and goes on beyond it', () => {
    const slow = { ...kit, faults: [...kit.faults!, fault('spark', 'keyAccepted', { group: 'engine', title: 'Spark' })] };
    const withSpark = {
      ...slow,
      tests: slow.tests.map((t) =>
        t.id === 'lamp' ? { ...t, p: { ...t.p, spark: { out: 0.999, flashes: 0.001 }, default: { out: 0.005, flashes: 0.995 } } } : t,
      ),
    };
    const { advice } = diagnose([seen('lamp', 'out')], { family: withSpark });
    expect(advice).toMatchObject({ kind: 'leave', test: 'gauge' });
    expect(advice.text).toMatch(/^Leave the immobilizer alone: over 99 % that it is something else\. Next: gauge\.$/);
  });

  it('asks for what is missing where it would save most', () => {
    const { advice, next } = diagnose([seen('lamp', 'flashes')], { atHand: { tools: [] } });
    expect(advice).toEqual({
      kind: 'get',
      what: 'detector',
      test: 'field',
      text: 'Get detector: field would tell more than anything that can be done here now.',
    });
    expect(next.map((n) => n.test)).not.toContain('field');
    expect(diagnose([seen('lamp', 'flashes')], { atHand: { tools: ['detector'] } }).advice).toMatchObject({ kind: 'test', test: 'field' });
  });

  it('says that findings do not fit together, which entry is in doubt, and stops saying so when it was read again', () => {
    const findings = [seen('lamp', 'flashes'), seen('field', 'none'), seen('gauge', 'missing')];
    const clash = diagnose(findings.slice(0, 3), { family: { ...kit, tests: kit.tests.map((t) => ({ ...t, p: sharper(t.p!) })) } });
    expect(clash.fit.contradiction).toBe(true);
    expect(clash.advice).toMatchObject({ kind: 'contradiction', finding: 'gauge' });
    expect(clash.advice.text).toBe('These results contradict each other. If “gauge: missing” is wrong, the others fit together. Repeat it.');
  });

  it('ends in unknown when everything known is ruled out', () => {
    const ruled = ['open', 'dead', 'pump'].map((f): Finding => ({ id: f, repair: f, worked: false }));
    expect(diagnose(ruled).advice).toMatchObject({ kind: 'unknown' });
    expect(diagnose(ruled).beliefs[0]).toMatchObject({ fault: 'somethingElse', link: null, p: 1 });
  });

  it('asks for proof after a repair that worked', () => {
    const { advice } = diagnose([seen('lamp', 'flashes'), { id: 'r', repair: 'open', worked: true }]);
    expect(advice).toMatchObject({ kind: 'act', fault: 'open', text: 'Fixed: Coil open. To confirm the fix: start it' });
  });
});

/** The same chances, ten times surer. */
const sharper = (p: object) => JSON.parse(JSON.stringify(p).replaceAll('0.98', '0.998').replaceAll('0.02', '0.002')) as never;

describe('what can be made now', () => {
  // Found on a walk: "Get Light at insertion: one more try with this key would tell more than anything that can be done here now."
  it('asks for nothing where a test only waits for another one', () => {
    const slow = testOf('early', ['x', 'y'], { default: { x: 0.5, y: 0.5 } }, { minutes: 30, title: 'Light' });
    const sharp = testOf(
      'late',
      ['there', 'none'],
      { default: { there: 0.98, none: 0.02 }, open: { there: 0.02, none: 0.98 } },
      { needs: { after: ['early'] } },
    );
    const two = { ...kit, faults: kit.faults!.slice(0, 2), tests: [slow, sharp] };
    expect(diagnose([], { family: two, atHand: { tools: [] } }).advice.kind).not.toBe('get');
    const tooled = { ...two, tests: [slow, { ...sharp, needs: {}, tools: ['scope'] }] };
    expect(diagnose([], { family: tooled, atHand: { tools: [] } }).advice).toMatchObject({ kind: 'get', what: 'scope' });
  });

  it('takes what looks at the same for the test that must come before, unless a certain outcome is needed', () => {
    const light = testOf('light', ['out', 'flashes'], { default: { out: 0.02, flashes: 0.98 }, pump: { out: 0.98, flashes: 0.02 } });
    const other = { ...light, id: 'other', same: 'light' };
    const late = testOf('late', ['there', 'none'], { default: { there: 0.98, none: 0.02 }, open: { there: 0.02, none: 0.98 } });
    const made = (after: string) =>
      diagnose([seen('other', 'flashes')], { family: { ...kit, tests: [light, other, { ...late, needs: { after: [after] } }] } }).next.map(
        (n) => n.test,
      );
    expect(made('light')).toContain('late');
    expect(made('light.flashes')).not.toContain('late');
  });

  it('asks for one more try ten times at most, with each key', () => {
    const again = testOf('again', ['taken', 'not'], { default: { taken: 0.02, not: 0.98 } }, { independent: true, perKey: true });
    const tried = (n: number): Finding[] => Array.from({ length: n }, (_, i) => ({ ...seen('again', 'not', `t${i}`), key: 'A' }));
    const needless = (key: string, n: number) => isNeedless({ test: again, key }, { family: { ...kit, tests: [again] }, findings: tried(n) });
    expect([needless('A', 9), needless('A', 10), needless('B', 10)]).toEqual([false, true, false]);
  });

  it('waits for what must come before', () => {
    expect(diagnose([]).next.map((n) => n.test)).not.toContain('field');
    expect(diagnose([seen('lamp', 'flashes')]).next.map((n) => n.test)).toContain('field');
  });

  it('proposes nothing that can not change the decision', () => {
    for (const findings of [[], [seen('lamp', 'flashes')]]) expect(diagnose(findings).next.map((n) => n.test)).not.toContain('bridge');
  });

  it('is the same for the same findings', () => {
    const findings = [seen('lamp', 'flashes')];
    expect(diagnose(findings)).toEqual(diagnose(findings));
  });
});

describe('two faults at once', () => {
  it('is reported apart, and grows when one repair was not enough', () => {
    const findings = [seen('lamp', 'out'), seen('field', 'none'), seen('gauge', 'missing')];
    const { pairs, beliefs } = diagnose(findings);
    expect(pairs.top[0]!.faults).toEqual([0, 2]);
    expect(pairs.p).toBeGreaterThan(0.2);
    expect(beliefs.reduce((n, b) => n + b.p, 0)).toBeCloseTo(1, 10);
    expect(diagnose([]).pairs.p).toBeCloseTo(0.02, 10);
    expect(diagnose([]).pairs.top.reduce((n, t) => n + t.p, 0)).toBeCloseTo(0.02, 10);
    expect(diagnose([...findings, { id: 'r', repair: 'open', worked: false }]).pairs.p).toBeGreaterThan(pairs.p);
  });
});
