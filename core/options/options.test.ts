import { shippedContent } from '../../content/shipped.testing';
import { type Belief, Diagnostician, type Finding, somethingElse } from '../diagnosis';
import { resolveParams, valuesOf } from '../library';
import { type PriceBook } from '../quote';
import {
  asksAgain,
  caseBill,
  type Kept,
  type Option,
  type OptionFacts,
  proposeOptions,
  settle,
  signaturePath,
  spentSoFar,
  spreadOf,
  wayCost,
  type WorkDone,
} from '.';

const { families, replacements } = shippedContent().library;
const book: PriceBook = {
  decimals: 2,
  rate: 8400,
  stepMin: 6,
  leastMin: 0,
  callOut: 0,
  leastBill: 0,
  tax: 10_000,
  taxName: 'Tax',
  items: [],
};
const keys = { learned: 2, main: 1, valet: 0, master: 1 };

/** Facts of a case, as the page has them. */
function factsOf(id: string, seen: readonly string[], more: Partial<OptionFacts> = {}): OptionFacts {
  const family = families.get(id)!;
  const findings = seen.map((line, i): Finding => {
    const [test, outcome, key] = line.split(' ') as [string, string, string?];
    return { id: String(i), test, outcome, ...(key === undefined ? {} : { key }) };
  });
  const doctor = new Diagnostician({ family, params: valuesOf(resolveParams(family)), told: [], keys: ['A', 'B'], ratePerMinute: 1.4, findings });
  return {
    family,
    replacement: replacements.get(id) ?? null,
    book,
    beliefs: doctor.beliefs(),
    ways: doctor.ways(),
    cured: false,
    keys,
    tools: ['scan tool', 'programming tool'],
    planned: [],
    ...more,
  };
}
const ids = (options: readonly Option[]) => options.map((o) => o.id);
/** Beliefs in one fault at a chance, the rest in something else. */
const sure = (id: string, fault: string, p: number, key?: string): Belief[] => {
  const { title, link } = families.get(id)!.faults!.find((f) => f.id === fault)!;
  return [
    { fault, title, link, p, prior: p, ...(key === undefined ? {} : { key }) },
    { fault: somethingElse, title: 'Something else', link: null, p: 1 - p, prior: 1 - p },
  ];
};

describe('what is offered', () => {
  it('follows from the likeliest causes, each with a price that is its own bill, and a higher one while it may be something else', () => {
    const after = {
      coilOpen: [
        { p: 0.7, minutes: 0, money: 0 },
        { p: 0.25, minutes: 60, money: 150 },
        { p: 0.05, minutes: 600, money: 0 },
      ],
    };
    const facts = factsOf('ring', [], { beliefs: sure('ring', 'coilOpen', 0.7), ways: { act: [], test: [], after } });
    const [fix] = proposeOptions(facts);
    // 40 min at 84 an hour in steps of 6 min are 42 min: 58.80; parts 45; tax a tenth: 114.18.
    expect(fix).toMatchObject({
      id: 'fix.coilOpen',
      kind: 'fix',
      p: 0.7,
      effects: [],
      price: { low: 11418 },
      minutes: { low: 40, high: 100 },
      needs: [],
      unproven: 'Whether this is the cause at all: the tests so far don’t show it clearly.',
    });
    // In 90 of 100 no more than 60 min and 150 on top: 102 min and 195.
    expect(fix!.price.high).toBe(Math.round((8400 * 102) / 60 + 19500) * 1.1);
    expect(fix!.risks[0]!.say).toBe('It is not “Antenna coil or its wire open”: the search goes on.');
    expect(fix!.risks[0]!.p).toBeCloseTo(0.3, 9);
  });

  it('has one price where the cause is clear', () => {
    const after = {
      coilOpen: [
        { p: 0.95, minutes: 0, money: 0 },
        { p: 0.05, minutes: 60, money: 150 },
      ],
    };
    const [fix] = proposeOptions(factsOf('ring', [], { beliefs: sure('ring', 'coilOpen', 0.95), ways: { act: [], test: [], after } }));
    expect(fix!.price.low).toBe(fix!.price.high);
    expect(fix!.unproven).toBe('Until every key was tried after the fix.');
  });

  it.each([
    [0.099, false],
    [0.1, true],
  ])('a cause at %d is offered: %s', (p, offered) =>
    expect(ids(proposeOptions(factsOf('ring', [], { beliefs: sure('ring', 'coilOpen', p) }))).includes('fix.coilOpen')).toBe(offered),
  );

  it('repair or replace a key, one key or two, clone or learn', () => {
    const options = proposeOptions(factsOf('ring', [], { beliefs: sure('ring', 'chipDead', 0.95, 'A') }));
    expect(ids(options)).toEqual(['fix.chipDead.A', 'or.chipDead.A', 'key.new.1', 'key.new.2', 'key.clone', 'sendOut']);
    const [fix, repaired, one, two, clone] = options as [Option, Option, Option, Option, Option, Option];
    expect(fix.effects).toEqual(['addsKey']);
    expect(repaired).toMatchObject({ effects: [], warranty: 'None promised: a repaired key may fail again.' });
    expect(repaired.p).toBeCloseTo(0.57, 9);
    expect(repaired.risks[0]!.p).toBeCloseTo(0.4, 9);
    expect(two.price.low).toBeGreaterThan(one.price.low);
    expect(two.price.low).toBeLessThan(2 * one.price.low);
    expect(clone.effects).toEqual([]);
    expect(clone.risks[0]!.say).toBe('A clone can’t be told apart from the original, and can’t be locked out alone.');
  });

  it('a part new, used or remanufactured, by hand or with a scan tool, in the time of its plan', () => {
    const options = proposeOptions(factsOf('ring', [], { beliefs: sure('ring', 'engineDonor', 0.92) }));
    const parts = options.filter((o) => o.kind === 'part');
    expect(ids(parts)).toContain('part.engine.new.scanTool');
    expect(ids(parts)).toContain('part.engine.donor.scanTool');
    expect(ids(options)).not.toContain('fix.engineDonor');
    const of = (origin: string) => parts.find((o) => o.id === `part.engine.${origin}.scanTool`)!;
    expect(of('donor').price.low).toBeLessThan(of('new').price.low);
    expect(of('new').needs).toContain('A scan tool');
    expect(of('new').needs).toContain('Proof of authority');
    for (const o of parts) expect(o.effects.length).toBeGreaterThan(0);
  });

  it('without a scan tool nothing is offered that needs one', () => {
    const options = proposeOptions(factsOf('ring', [], { beliefs: sure('ring', 'engineDonor', 0.92), tools: [] }));
    expect(options.filter((o) => o.kind === 'part' && o.by === 'scanTool')).toEqual([]);
  });

  it('test further first, with what 10 and 90 of 100 such cases cost, as long as no cause is clear', () => {
    const facts = factsOf('ring', ['lamp refused A']);
    const test = proposeOptions(facts).find((o) => o.kind === 'test')!;
    const [low, , high] = spreadOf(facts.ways!.test, book);
    expect(test.price).toEqual({ low, high });
    expect(ids(proposeOptions({ ...facts, beliefs: sure('ring', 'coilOpen', 0.9) }))).not.toContain('test');
  });

  it('after a fix that worked only keys are offered', () => {
    expect(ids(proposeOptions(factsOf('ring', [], { cured: true, keys: { ...keys, learned: 1 } })))).toEqual(['key.new.1', 'key.new.2', 'key.clone']);
    expect(proposeOptions(factsOf('ring', [], { cured: true }))).toEqual([]);
  });

  it.each([...families.keys()])(
    '%s: after its light says refused every option has a price, a warranty, what stays unproven and an id of its own',
    (id) => {
      const family = families.get(id)!;
      const light = family.tests.find((t) => t.triage?.includes('immobilizer'))!;
      const refused = Object.entries(light.outcomes).find(([, o]) => o.says.some((s) => s.link === 'keyAccepted' && s.state === 'broken'));
      const options = proposeOptions(factsOf(id, refused ? [`${light.id} ${refused[0]} A`] : [], { planned: ['engine'] }));
      expect(options.length).toBeGreaterThan(3);
      expect(new Set(ids(options)).size).toBe(options.length);
      for (const o of options) {
        expect([o.id, o.price.low > 0, o.price.high >= o.price.low, o.minutes.high >= o.minutes.low]).toEqual([o.id, true, true, true]);
        expect([o.id, o.warranty.length > 5, o.unproven.length > 5, o.what.length > 5]).toEqual([o.id, true, true, true]);
        expect([o.id, [o.price.low, o.price.high].every(Number.isSafeInteger)]).toEqual([o.id, true]);
      }
    },
  );
});

describe('act now or test further', () => {
  it.each([...families.keys()])('%s: the shares of each way add up to 1, and testing is never dearer in the mean by what it decides with', (id) => {
    const { ways } = factsOf(id, []);
    for (const way of [ways!.act, ways!.test, ...Object.values(ways!.after)]) {
      expect(way.reduce((n, s) => n + s.p, 0)).toBeCloseTo(1, 9);
      expect(way.every((s) => s.p > 0 && s.minutes >= 0 && s.money >= 0)).toBe(true);
    }
  });

  it('says what 10, 50 and 90 of 100 such cases cost, both sides of each step', () => {
    const way = [
      { p: 0.1, minutes: 60, money: 0 },
      { p: 0.4, minutes: 120, money: 0 },
      { p: 0.4, minutes: 0, money: 500 },
      { p: 0.1, minutes: 600, money: 0 },
    ];
    // 84, 168, 500 and 840, each with a tenth of tax.
    expect(wayCost(way, book)).toEqual({ p10: 9240, p50: 18480, p90: 55000, mean: 924 + 7392 + 22000 + 9240 });
    expect(wayCost([], book)).toBeNull();
  });

  it('where one cause is certain, acting costs exactly its fix', () => {
    const family = families.get('ring')!;
    const doctor = new Diagnostician({ family, params: valuesOf(resolveParams(family)), told: [], keys: ['A'], ratePerMinute: 1.4, findings: [] });
    doctor.weights.fill(0);
    const at = doctor.compiled.hypotheses.findIndex((h) => h.fault.id === 'coilOpen');
    (doctor as unknown as { decisive: Float64Array }).decisive.fill(0);
    (doctor as unknown as { decisive: Float64Array }).decisive[at] = 1;
    expect(doctor.ways()).toEqual({
      act: [{ p: 1, minutes: 40, money: 45 }],
      test: [{ p: 1, minutes: 40, money: 45 }],
      after: { coilOpen: [{ p: 1, minutes: 0, money: 0 }] },
    });
  });
});

const by = { by: 'Ines Marrow', at: 5 };
const fix = (): Option => proposeOptions(factsOf('ring', [], { beliefs: sure('ring', 'coilOpen', 0.7) }))[0]!;

describe('what the shop writes over an option', () => {
  const settled = (...entries: Kept[]) => settle([fix()], entries, book);
  it('changes its bill and keeps what may come on top', () => {
    const before = fix();
    const [o] = settled({
      kind: 'change',
      option: 'fix.coilOpen',
      change: { minutes: 60, parts: 10000, days: { low: 1, high: 2 } },
      reason: 'dear coil',
      ...by,
    }).options;
    expect(o).toMatchObject({
      price: { low: 20240 },
      minutes: { low: 60, high: 60 },
      days: { low: 1, high: 2 },
      changed: { reason: 'dear coil', by: 'Ines Marrow' },
    });
    expect(o!.price.high - o!.price.low).toBe(before.price.high - before.price.low);
  });
  it('a word leaves the price as it is', () => {
    const [o] = settled({ kind: 'change', option: 'fix.coilOpen', change: { warranty: 'Two years' }, reason: 'ours', ...by }).options;
    expect(o).toMatchObject({ warranty: 'Two years', price: fix().price, entries: fix().entries });
  });
  it('is hidden with its reason and shown again; the latest counts', () => {
    const hide: Kept = { kind: 'hide', option: 'fix.coilOpen', reason: 'no coil to be had', ...by };
    expect(settled(hide).options[0]!.hidden).toMatchObject({ reason: 'no coil to be had' });
    expect(settled(hide, { kind: 'show', option: 'fix.coilOpen', ...by }).options[0]!.hidden).toBeNull();
    expect(settled({ kind: 'hide', option: 'fix.gone', reason: 'x', ...by }).options[0]!.hidden).toBeNull();
  });
  it('an option of its own stands beside the others', () => {
    const { options } = settled({
      kind: 'own',
      id: 'own.1',
      option: { title: 'Tow it home', what: '', minutes: 30, parts: 5000, days: { low: 0, high: 0 }, warranty: '', unproven: '', effects: [] },
      reason: 'asked for',
      ...by,
    });
    expect(options.map((o) => o.id)).toEqual(['fix.coilOpen', 'own.1']);
    // 30 min are 42; parts 50; a tenth of tax.
    expect(options[1]!.price).toEqual({ low: 10120, high: 10120 });
  });
});

describe('the agreement', () => {
  const agreed = (more: object = {}) =>
    ({
      kind: 'agree',
      options: [
        {
          id: 'key.new.1',
          title: 'One new key',
          effects: ['addsKey'],
          entries: [{ kind: 'priced', title: 'Blank', amount: 2500 }],
          price: { low: 9000, high: 9000 },
          minutes: { low: 30, high: 30 },
        },
      ],
      limit: 20000,
      book: 1,
      who: '',
      how: 'phone',
      words: 'Go ahead',
      declined: [],
      ...by,
      ...more,
    }) as never;
  const spent = (amount: number) => ({ amount, say: (a: number) => `${a / 100}` });
  it.each([
    ['nothing is agreed yet', null, { title: 'X', effect: 'replacesKeys' }, 0, null],
    ['what is agreed', agreed(), { title: 'Learn a key', effect: 'addsKey' }, 0, null],
    ['an effect that needs no authority', agreed(), { title: 'Look', effect: 'none' }, 0, null],
    [
      'another effect',
      agreed(),
      { title: 'Erase all', effect: 'replacesKeys' },
      0,
      '“Erase all” changes the stored keys or writes to a module. The customer agreed to something else: ask again.',
    ],
    ['at the limit', agreed(), null, 20000, null],
    ['above the limit', agreed(), null, 20001, 'Work and parts so far come to 200.01; the customer agreed to 200 at most: ask again.'],
    ['without a limit', agreed({ limit: null }), null, 1e8, null],
    [
      'everything declined',
      { kind: 'decline', who: '', how: 'phone', words: 'No', declined: [], ...by } as never,
      null,
      0,
      'The customer wants nothing more done: ask again before any more work.',
    ],
  ] as const)('%s', (_what, now, next, amount, says) => expect(asksAgain(now, next, spent(amount))).toBe(says));

  it('who agreed that all keys are learned anew agreed to one that is added, not the other way round', () => {
    const all = agreed({ options: [{ ...(agreed() as { options: object[] }).options[0], effects: ['replacesKeys'] }] });
    expect(asksAgain(all, { title: 'Add', effect: 'addsKey' }, spent(0))).toBeNull();
  });

  it('diagnosis is on the bill whatever was said; work that belongs to what was agreed is not billed twice', () => {
    const work: WorkDone[] = [
      { title: 'Lamp', minutes: 10, counted: true, part: 'diagnosis' },
      { title: 'Other key', minutes: 20, counted: false, part: 'diagnosis' },
      { title: 'Relearn', minutes: 90, counted: true, part: 'fix' },
    ];
    expect(caseBill(book, work, null).lines).toEqual([{ title: 'Diagnosis', minutes: 30, count: 1, amount: 4200 }]);
    expect(caseBill(book, work, agreed()).lines.map((l) => [l.title, l.amount])).toEqual([
      ['Diagnosis', 4200],
      ['Blank', 2500],
    ]);
    // Two hours of work and the blank, with a tenth of tax.
    expect(spentSoFar(book, work, agreed())).toBe(Math.round((16800 + 2500) * 1.1));
    expect(caseBill(book, [], null).total).toBe(0);
  });
});

test('a signature is drawn as a path; a point is a short line', () => {
  expect(
    signaturePath({
      width: 100,
      height: 50,
      strokes: [
        [1, 2, 3, 4, 5, 6],
        [7, 8],
      ],
    }),
  ).toBe('M1 2L3 4L5 6M7 8h0.1');
});
