import { type ActSketch, replacementOf } from './content.testing';
import { factWords, lackWords } from './planWords';
import { bothWays, planReplacement } from './plan';

const swap: ActSketch = { id: 'swap', stage: 'fit', each: 'electronic', gives: ['$part.installed'], takes: ['$part.out'] };
const ids = (plan: { steps: { id: string }[] }) => plan.steps.map((s) => s.id);

describe('a plan', () => {
  const content = replacementOf(
    {
      engine: { title: 'ECM', holds: { identity: {}, pairing: { with: ['immobilizer.secret'] } }, otherwise: 'Send it out.' },
      immobilizer: { title: 'Immobilizer', holds: { secret: {}, counters: {} }, otherwise: 'Order one.' },
      reader: { title: 'Coil', plain: 'Nothing in it.' },
    },
    [
      { id: 'read', stage: 'before', each: 'electronic', by: 'scanTool', untilInstalled: true, gives: ['$part.saved'] },
      { id: 'note', stage: 'before', each: 'counting', insteadOf: 'read' },
      swap,
      { id: 'fit', stage: 'fit', each: 'mechanical', gives: ['$part.installed'] },
      { id: 'program', by: 'scanTool', tools: ['programming tool'], gives: ['engine.identity'] },
      { id: 'learn', by: 'hand', keys: { main: 1 }, gives: ['immobilizer.secret'] },
      { id: 'pair', by: 'hand', needs: ['engine.identity', 'immobilizer.secret'], gives: ['engine.pairing'], effect: 'replacesKeys' },
      { id: 'count', stage: 'restore', each: 'counting', by: 'scanTool', needs: ['$part.saved'], gives: ['$part.counters'] },
      { id: 'close', stage: 'after', gives: [] },
    ],
  );

  test('in order, with what each waits for, what it brings and the sums', () => {
    const plan = planReplacement(content, { replaced: { engine: 'new' } });
    expect(plan.steps.map(({ id, after, brings }) => ({ id, after, brings }))).toEqual([
      { id: 'read.engine', after: [], brings: [] },
      { id: 'swap.engine', after: ['read.engine'], brings: [] },
      { id: 'program', after: ['swap.engine'], brings: ['engine.identity'] },
      { id: 'pair', after: ['swap.engine', 'program'], brings: ['engine.pairing'] },
      { id: 'close', after: ['read.engine', 'swap.engine', 'program', 'pair'], brings: [] },
    ]);
    expect(plan).toMatchObject({ minutes: 50, attended: 50, money: 0, lost: ['engine.identity', 'engine.pairing'], cannot: [] });
  });

  test('what was made with something that is gone is void too', () => {
    const plan = planReplacement(content, { replaced: { immobilizer: 'new' } });
    expect(plan.lost).toEqual(['engine.pairing', 'immobilizer.secret', 'immobilizer.counters']);
    expect(ids(plan)).toEqual(['read.immobilizer', 'swap.immobilizer', 'learn', 'pair', 'count.immobilizer', 'close']);
  });

  test('its own module, repaired, lost nothing; a plain part has nothing to learn; a part that is not there is said', () => {
    expect(ids(planReplacement(content, { replaced: { engine: 'repaired' } }))).toEqual(['read.engine', 'swap.engine', 'close']);
    const coil = planReplacement(content, { replaced: { reader: 'new', body: 'new' } });
    expect(ids(coil)).toEqual(['fit.reader', 'close']);
    expect(coil.plain).toEqual([
      { part: 'reader', say: 'Nothing in it.' },
      { part: 'body', say: 'Not here.' },
    ]);
    expect(planReplacement(content, { replaced: { body: 'new' } }).steps).toEqual([]);
  });

  test('what comes with the part need not be brought, and what is in already is not read or swapped', () => {
    const have = { tools: [], keys: { learned: 1, main: 1, valet: 0, master: 0 }, facts: ['engine.identity', 'engine.installed'] };
    expect(ids(planReplacement(content, { replaced: { engine: 'new' }, have }))).toEqual(['pair', 'close']);
  });

  test('a missing tool, a missing key: nothing is begun, and why and what then is said', () => {
    const have = { tools: ['scan tool'], keys: { learned: 1, main: 0, valet: 1, master: 0 }, facts: [] };
    const plan = planReplacement(content, { replaced: { engine: 'new', immobilizer: 'new' }, have });
    expect(plan.steps).toEqual([]);
    expect(plan.cannot).toEqual([
      { fact: 'engine.identity', because: [{ code: 'tool', act: 'program', tool: 'programming tool' }], then: 'Send it out.' },
      {
        fact: 'engine.pairing',
        because: [
          { code: 'waitsFor', act: 'pair', fact: 'engine.identity' },
          { code: 'waitsFor', act: 'pair', fact: 'immobilizer.secret' },
        ],
        then: 'Send it out.',
      },
      { fact: 'immobilizer.secret', because: [{ code: 'keys', act: 'learn', role: 'main', n: 1 }], then: 'Order one.' },
    ]);
    expect(plan.cannot.flatMap((c) => c.because.map((l) => lackWords(l, (id) => id)))).toEqual([
      '“program” needs a programming tool.',
      '“pair” needs something that is not available: ECM: vehicle identity.',
      '“pair” needs something that is not available: Immobilizer module: shared secret.',
      '“learn” needs a main key.',
    ]);
  });

  test('counters that stay wrong are told, and the rest goes on; without a scan tool the dash is noted instead', () => {
    const plan = planReplacement(content, { replaced: { immobilizer: 'new' }, byHand: true });
    expect(ids(plan)).toEqual(['note.immobilizer', 'swap.immobilizer', 'learn', 'pair', 'close']);
    expect(plan.cannot).toEqual([
      {
        fact: 'immobilizer.counters',
        because: [{ code: 'byHand', act: 'count.immobilizer' }],
        then: 'Order one.',
      },
    ]);
    expect(lackWords(plan.cannot[0]!.because[0]!, () => 'Set the counters')).toBe('“Set the counters” needs a scan tool.');
    expect(factWords('immobilizer.counters')).toBe('Immobilizer module: counters');
  });

  test('both ways side by side', () => {
    const { byHand, withTool } = bothWays(content, { replaced: { engine: 'new' } });
    expect(byHand.steps).toEqual([]);
    expect(withTool.minutes).toBe(50);
  });
});

describe('used modules', () => {
  const content = replacementOf(
    {
      engine: {
        title: 'ECM',
        learnsFirst: true,
        holds: { identity: { later: true }, calibration: { kept: ['donor', 'remanufactured'] }, secret: {} },
        otherwise: 'Send it out.',
        warns: [{ id: 'foreign', origins: ['donor'], say: 'It belongs to another car.' }],
      },
    },
    [
      swap,
      { id: 'quickByTool', by: 'scanTool', minutes: 5, gives: ['engine.secret'] },
      { id: 'slowByHand', minutes: 40, gives: ['engine.secret', 'engine.toolFree'] },
      { id: 'write', by: 'scanTool', gives: ['engine.identity', 'engine.calibration'] },
    ],
  );

  test('a new one meets the tool at once; a used one learns by hand first, although that takes longer', () => {
    expect(ids(planReplacement(content, { replaced: { engine: 'new' } }))).toEqual(['swap.engine', 'quickByTool', 'write']);
    for (const origin of ['donor', 'remanufactured'] as const) {
      const plan = planReplacement(content, { replaced: { engine: origin } });
      expect(ids(plan)).toEqual(['swap.engine', 'slowByHand', 'write']);
      expect(plan.warnings.map((w) => w.id)).toEqual(origin === 'donor' ? ['usedBeforeTool', 'foreign'] : ['usedBeforeTool']);
    }
  });

  test('what can be set another day stops nothing', () => {
    const plan = planReplacement(content, { replaced: { engine: 'donor' }, byHand: true });
    expect(ids(plan)).toEqual(['swap.engine', 'slowByHand']);
    expect(plan.cannot.map((c) => c.fact)).toEqual(['engine.identity']);
  });
});

describe('moving a car’s own data', () => {
  const parts = {
    immobilizer: { title: 'Box', holds: { secret: {} }, otherwise: 'Order one.' },
    engine: { title: 'ECM', holds: { pairing: { with: ['immobilizer.secret'] } }, otherwise: 'Send it out.' },
  };
  const move: ActSketch = { id: 'move', bench: true, back: 'transferred', each: 'electronic', gives: ['$part.secret', '$part.pairing'] };

  test('is done before the part goes in, and what other parts have from it counts again', () => {
    const content = replacementOf(parts, [swap, move]);
    expect(ids(planReplacement(content, { replaced: { immobilizer: 'new' } }))).toEqual(['move.immobilizer', 'swap.immobilizer']);
    // The ECM is new too: it never had the pairing.
    expect(ids(planReplacement(content, { replaced: { immobilizer: 'new', engine: 'new' } }))).toEqual([
      'move.immobilizer',
      'swap.immobilizer',
      'move.engine',
      'swap.engine',
    ]);
  });

  test('parts that come as a set need all of it', () => {
    const content = replacementOf(parts, [
      swap,
      { id: 'set', together: ['immobilizer', 'engine'], origins: ['donor'], gives: ['immobilizer.secret', 'engine.pairing'] },
    ]);
    expect(ids(planReplacement(content, { replaced: { immobilizer: 'donor', engine: 'donor' } }))).toEqual([
      'swap.immobilizer',
      'swap.engine',
      'set',
    ]);
    expect(planReplacement(content, { replaced: { immobilizer: 'donor' } }).steps).toEqual([]);
    expect(planReplacement(content, { replaced: { immobilizer: 'donor', engine: 'new' } }).steps).toEqual([]);
  });
});

describe('warnings', () => {
  const content = replacementOf(
    {
      immobilizer: { title: 'Box', holds: { keyList: {}, counters: { mileage: true } }, otherwise: 'Order one.' },
      engine: { title: 'ECM', holds: { pairing: {} }, otherwise: 'Send it out.' },
    },
    [
      swap,
      { id: 'learn', effect: 'replacesKeys', gives: ['immobilizer.keyList', 'engine.pairing'], warns: { id: 'careful', say: 'Careful.' } },
      { id: 'count', stage: 'restore', gives: ['immobilizer.counters'] },
    ],
    { mainKeys: true },
  );
  const keys = (learned: number, valet = 0) => ({ tools: ['scan tool'], keys: { learned, main: learned - valet, valet, master: 0 }, facts: [] });
  const warned = (have: ReturnType<typeof keys>) => planReplacement(content, { replaced: { engine: 'new' }, have }).warnings.map((w) => w.id);

  test('of keys: none, one, only valet keys, two', () => {
    expect(warned(keys(0))).toEqual(['noKey', 'keysForgotten', 'careful']);
    expect(warned(keys(1))).toEqual(['singleKey', 'keysForgotten', 'careful']);
    expect(warned(keys(1, 1))).toEqual(['valetOnly', 'keysForgotten', 'careful']);
    expect(warned(keys(2, 1))).toEqual(['keysForgotten', 'careful']);
  });

  test('of two modules at once, the mileage, and a job without a scan tool', () => {
    const both = planReplacement(content, { replaced: { immobilizer: 'new', engine: 'new' } });
    expect(both.warnings.map((w) => w.id)).toEqual(['bothAtOnce', 'mileage', 'keysForgotten', 'careful']);
    expect(both.warnings.at(-1)).toEqual({ id: 'careful', say: 'Careful.' });
    // Its own module, repaired, lost nothing.
    const repaired = planReplacement(content, { replaced: { immobilizer: 'repaired', engine: 'new' }, byHand: true });
    expect(repaired.warnings.map((w) => w.id)).toEqual(['keysForgotten', 'noScan', 'careful']);
  });
});
