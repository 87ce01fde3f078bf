import { generator } from '../units';
import { inWords, parseDrawerCsv, parseTolerance, type Resistor, seriesValues, type Shape, substitutes, voltsOf, type Wanted } from '.';

const across = (...r: number[]) => 1 / r.reduce((s, x) => s + 1 / x, 0);
/** Every way to join one to three of a stock, one after the other. */
function everyCombination(stock: readonly Resistor[]): { parts: number; of: number[]; value: (f: (i: number) => number) => number }[] {
  const all: ReturnType<typeof everyCombination> = [];
  const n = stock.length;
  for (let a = 0; a < n; a += 1) {
    all.push({ parts: 1, of: [a], value: (f) => f(a) });
    for (let b = a; b < n; b += 1) {
      all.push({ parts: 2, of: [a, b], value: (f) => f(a) + f(b) });
      all.push({ parts: 2, of: [a, b], value: (f) => across(f(a), f(b)) });
      for (let c = 0; c < n; c += 1) {
        if (c >= b) {
          all.push({ parts: 3, of: [a, b, c], value: (f) => f(a) + f(b) + f(c) });
          all.push({ parts: 3, of: [a, b, c], value: (f) => across(f(a), f(b), f(c)) });
        }
        all.push({ parts: 3, of: [a, b, c], value: (f) => f(c) + across(f(a), f(b)) });
        all.push({ parts: 3, of: [a, b, c], value: (f) => across(f(a) + f(b), f(c)) });
      }
    }
  }
  return all;
}

function bruteForce(stock: readonly Resistor[], { targetOhms, window, mostParts = 3, limit = 10 }: Wanted) {
  const enough = (of: number[]) => of.every((i) => of.filter((j) => j === i).length <= (stock[i]!.count ?? 3));
  return everyCombination(stock)
    .filter((c) => c.parts <= mostParts && enough(c.of))
    .map((c) => {
      const [low, high] = ([-1, 1] as const).map((sign) => c.value((i) => stock[i]!.ohms * (1 + sign * stock[i]!.tolerance))) as [number, number];
      const inside = window ? low >= window.low && high <= window.high : null;
      return { inside, parts: c.parts, error: Math.abs(c.value((i) => stock[i]!.ohms) - targetOhms) };
    })
    .sort((x, y) => (window ? Number(y.inside) - Number(x.inside) || x.parts - y.parts || x.error - y.error : x.error - y.error))
    .slice(0, limit);
}

const values = (...ohms: number[]): Resistor[] => ohms.map((o) => ({ ohms: o, tolerance: 0.01 }));

test('one part where one is inside, then fewest parts, then error', () => {
  const found = substitutes(values(100, 220, 470, 1000, 1200), { targetOhms: 1420, window: { low: 1320, high: 1480 }, limit: 3 })!;
  expect(found.map((c) => [c.expression, c.parts, c.inside])).toEqual([
    ['220 + 1200', 2, true],
    // 470 + 1000 is nearer, but 1 % more of it is 1484.7 Ω.
    ['470 + 470 + 470', 3, true],
    ['1200 + (470 || 470)', 3, true],
  ]);
  expect(found[0]).toMatchObject({ nominal: 1420, error: 0, worstLow: expect.closeTo(1405.8, 6), worstHigh: expect.closeTo(1434.2, 6) });
});

test.each([
  ['one', [470], '470 Ω'],
  ['series', [390, 680], '390 Ω and 680 Ω in series'],
  ['parallel', [2200, 3900], '2.2 kΩ and 3.9 kΩ in parallel'],
  ['series3', [4.7, 470, 1e6], '4.7 Ω, 470 Ω and 1 MΩ in series'],
  ['parallel3', [999.9, 1000, 1.5e6], '999.9 Ω, 1 kΩ and 1.5 MΩ in parallel'],
  ['pairAcross', [470, 470, 1200], '470 Ω and 470 Ω in parallel, 1.2 kΩ in series with both'],
  ['pairInLine', [220, 330, 4700], '220 Ω and 330 Ω in series, 4.7 kΩ across both'],
] as const)('said at the bench: %s of %j', (shape, ohms, said) => expect(inWords({ shape, resistors: values(...ohms) })).toBe(said));

test('a window narrower than the parts can keep has nothing inside, and the nearest are given', () => {
  const found = substitutes(values(1000, 1500), { targetOhms: 1000, window: { low: 995, high: 1005 }, limit: 2 })!;
  expect(found.map((c) => [c.expression, c.inside])).toEqual([
    ['1000', false],
    ['1500', false],
  ]);
  // At exactly the edge of the window it is inside.
  expect(substitutes([{ ohms: 1000, tolerance: 0.01 }], { targetOhms: 1000, window: { low: 990, high: 1010 }, mostParts: 1 })![0]!.inside).toBe(true);
  expect(substitutes([{ ohms: 1000, tolerance: 0.01 }], { targetOhms: 1000, window: { low: 990.1, high: 1010 }, mostParts: 1 })![0]!.inside).toBe(
    false,
  );
});

test('a drawer: no more of a kind than there are, and nothing that gets too hot', () => {
  const drawer: Resistor[] = [
    { ohms: 100, tolerance: 0.05, count: 1, watts: 0.25 },
    { ohms: 330, tolerance: 0.05, count: 2, watts: 0.25 },
  ];
  const wanted: Wanted = { targetOhms: 990, limit: 1 };
  expect(substitutes(drawer, wanted)![0]).toMatchObject({ expression: '100 + 330 + 330', nominal: 760 });
  expect(substitutes([{ ...drawer[1]!, count: 3 }], wanted)![0]).toMatchObject({ expression: '330 + 330 + 330', nominal: 990 });
  // 12 V across 165 Ω: each 330 Ω takes 12² / 330 = 0.436 W, more than a quarter watt.
  expect(substitutes(drawer, { targetOhms: 165, limit: 1 })![0]).toMatchObject({ expression: '330 || 330', hottestWatts: null });
  const cool = substitutes(drawer, { targetOhms: 165, limit: 5, senseVolts: 12 })!;
  expect(cool.map((c) => c.expression)).not.toContain('330 || 330');
  for (const c of cool) expect(c.hottestWatts).toBeLessThanOrEqual(0.25);
  expect(substitutes([], wanted)).toEqual([]);
  expect(substitutes([{ ohms: 100, tolerance: 0, count: 0 }], wanted)).toEqual([]);
});

test.each<[Shape, number[], number[]]>([
  ['one', [100], [12]],
  ['series', [100, 300], [3, 9]],
  ['parallel', [100, 300], [12, 12]],
  ['series3', [100, 200, 300], [2, 4, 6]],
  ['parallel3', [100, 200, 300], [12, 12, 12]],
  ['pairAcross', [200, 200, 100], [6, 6, 6]],
  ['pairInLine', [100, 200, 50], [4, 8, 12]],
])('volts across each part of %s, 12 V across the whole', (shape, ohms, volts) => {
  const found = voltsOf(shape, ohms, 12);
  expect(found).toHaveLength(volts.length);
  found.forEach((v, i) => expect(v).toBeCloseTo(volts[i]!, 9));
});

test('stops when it is told to, and says how far it is', () => {
  const shares: number[] = [];
  expect(substitutes(seriesValues('E24'), { targetOhms: 1387, progress: (s) => shares.push(s) })).toHaveLength(10);
  expect(shares.length).toBeGreaterThan(5);
  expect([...shares].sort((a, b) => a - b)).toEqual(shares);
  expect(substitutes(seriesValues('E24'), { targetOhms: 1387, stopped: () => true })).toBeNull();
});

test('seeded: 150 small stocks with and without windows, counts and tolerances, against every combination there is', () => {
  const draw = generator(77);
  const even = (a: number, b: number) => a + (b - a) * draw();
  for (let round = 0; round < 150; round += 1) {
    const stock = Array.from({ length: 3 + Math.floor(draw() * 9) }, (): Resistor => {
      const ohms = Number((10 ** even(1, 4)).toPrecision(2));
      return { ohms, tolerance: [0.001, 0.01, 0.05][Math.floor(draw() * 3)]!, ...(round % 3 === 0 ? { count: 1 + Math.floor(draw() * 3) } : {}) };
    }).filter((r, i, all) => all.findIndex((x) => x.ohms === r.ohms) === i);
    stock.sort((a, b) => a.ohms - b.ohms);
    const targetOhms = 10 ** even(1.3, 4);
    const width = even(0.002, 0.2);
    const wanted: Wanted = {
      targetOhms,
      limit: 1 + Math.floor(draw() * 12),
      mostParts: (1 + Math.floor(draw() * 3)) as 1 | 2 | 3,
      ...(round % 2 === 0 ? { window: { low: targetOhms * (1 - width), high: targetOhms * (1 + even(0.2, 1) * width) } } : {}),
    };
    const expected = bruteForce(stock, wanted);
    const found = substitutes(stock, wanted)!;
    const say = `seed 77, round ${round}: ${JSON.stringify({ stock, wanted })}`;
    expect([say, found.map((c) => c.inside)]).toEqual([say, expected.map((c) => c.inside)]);
    if (wanted.window) expect([say, found.map((c) => c.parts)]).toEqual([say, expected.map((c) => c.parts)]);
    found.forEach((c, i) => expect(Math.abs(c.error - expected[i]!.error)).toBeLessThan(1e-6 * targetOhms));
  }
});

test('E96 over six decades: 576 values from 1 Ω to below 1 MΩ, as IEC 60063 has them', () => {
  const e96 = seriesValues('E96').map((r) => r.ohms);
  expect(e96).toHaveLength(576);
  expect(e96.slice(0, 8)).toEqual([1, 1.02, 1.05, 1.07, 1.1, 1.13, 1.15, 1.18]);
  expect(e96.at(-1)).toBe(976_000);
  expect(e96).toContain(1370);
  expect(
    seriesValues('E12')
      .map((r) => r.ohms)
      .slice(12, 24),
  ).toEqual([10, 12, 15, 18, 22, 27, 33, 39, 47, 56, 68, 82]);
  expect(seriesValues('E24', 0.05)[24]).toEqual({ ohms: 10, tolerance: 0.05 });
  // Three of them hit a value that none of them is, to a thousandth of an ohm.
  expect(substitutes(seriesValues('E96'), { targetOhms: 1387.3, limit: 1 })![0]!.error).toBeLessThan(0.001);
});

test('a drawer is read from CSV, and every wrong cell is said', () => {
  expect(parseDrawerCsv('ohms,tolerance_percent,count,watts\n1k,1,5,0.25\n220,5%,0,0.5\n470,1,2,0.25\n')).toEqual({
    ok: true,
    value: [
      { ohms: 1000, tolerance: 0.01, count: 5, watts: 0.25 },
      { ohms: 470, tolerance: 0.01, count: 2, watts: 0.25 },
    ],
  });
  const bad = parseDrawerCsv('ohms,tolerance_percent,count,watts\n0,60,-1,none');
  expect(bad).toMatchObject({
    ok: false,
    problems: [
      { path: 'line 2, count', message: 'You typed "-1". Write how many there are.' },
      { path: 'line 2, watts', message: 'You typed "none". Write watts above zero, such as 0.25.' },
      { path: 'line 2, ohms', message: '"0" can’t be used here. Write ohms above zero, such as 1180 or 1.18k.' },
      { path: 'line 2, tolerance_percent', message: 'You typed "60". Write percent from 0 to 50, such as 1%.' },
    ],
  });
  expect(parseDrawerCsv('ohms,count')).toMatchObject({
    problems: [{ path: 'line 1', message: 'The first line is "ohms,count". Begin with the header ohms,tolerance_percent,count,watts.' }],
  });
  expect(parseDrawerCsv('ohms,tolerance_percent,count,watts\n')).toMatchObject({ problems: [{ code: 'empty' }] });
  expect(parseTolerance('0,5 %')).toEqual({ ok: true, value: 0.005 });
});
