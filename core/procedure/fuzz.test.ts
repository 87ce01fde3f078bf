import { compile, evidenceOf, fold, type RunEvent } from '.';
import { session } from '../../content/session.testing';
import { happyPath } from './happyPath';
import { parseProcedure } from './schema';
import { often } from '../../content/often.testing';

/** mulberry32: the same numbers for the same seed everywhere. */
function random(seed: number) {
  let state = seed;
  const next = () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
  return { next, below: (n: number) => Math.floor(next() * n) };
}

describe('the way through nested loops and cases', () => {
  type Tree = Record<string, unknown>;

  function grow(seed: number): Tree[] {
    const { next, below } = random(seed);
    let count = 0;
    const id = (prefix: string) => `${prefix}${(count += 1)}`;
    const steps = (depth: number): Tree[] => Array.from({ length: 1 + below(3) }, () => step(depth));
    const step = (depth: number): Tree => {
      const roll = depth > 0 ? next() : 0;
      if (roll < 0.55) return { id: id('s'), do: 'Do it.' };
      if (roll < 0.75) {
        const min = 1 + below(3);
        const body = steps(depth - 1);
        const asked = id('o');
        return {
          repeat: { id: id('r'), min, max: min + below(3), until: { answer: asked, is: 'yes' } },
          exhausted: 'next',
          steps: [...body, { id: asked, observe: '?', answers: { yes: { say: 'y', to: 'next' }, no: { say: 'n', to: 'next' } } }],
        };
      }
      if (roll < 0.88) return { each: { id: id('e'), keys: 'further' }, steps: steps(depth - 1) };
      return {
        id: id('c'),
        choice: { ask: '?' },
        cases: { first: { say: '1', steps: steps(depth - 1) }, second: { say: '2', steps: steps(depth - 1) } },
      };
    };
    return steps(3);
  }

  /** The same way by plain recursion over the tree. */
  function naive(steps: Tree[], keys: number): string[] {
    return steps.flatMap((step) => {
      if (step.repeat) return Array.from({ length: (step.repeat as { min: number }).min }, () => naive(step.steps as Tree[], keys)).flat();
      if (step.each) return Array.from({ length: keys - 1 }, () => naive(step.steps as Tree[], keys)).flat();
      if (step.choice) return [step.id as string, ...naive((step.cases as { first: { steps: Tree[] } }).first.steps, keys)];
      return [step.id as string];
    });
  }

  test('400 seeded trees, with one to four keys, are walked as the tree says', () => {
    for (let seed = 1; seed <= 400; seed += 1) {
      const tree = grow(seed);
      const keys = ['A', 'B', 'C', 'D'].slice(0, 1 + (seed % 4));
      const parsed = parseProcedure({
        kind: 'procedure',
        id: 'x',
        version: 1,
        title: 'X',
        family: 'f',
        source: 's',
        checked: null,
        text: 't',
        effect: 'none',
        interrupted: { default: 'goOn' },
        steps: tree,
      });
      if (!parsed.ok) throw new Error(`seed ${seed}: ${parsed.problems[0]!.path} ${parsed.problems[0]!.message}`);
      const path = happyPath(compile(parsed.value), {}, keys, {}, {}).map((e) => e.step.id);
      expect([seed, path]).toEqual([seed, naive(tree, keys.length)]);
    }
  });
});

describe('the end of a dwell', () => {
  // Tarn Gantry: 560 s, window 60 s, limits 60 s and 150 s after it.
  type Act = [seconds: number, answer: 'lampOut' | 'stillOn'];

  /** The rule as craft.md tells it, written down by itself. */
  function naive(acts: Act[], until: number): string {
    let noted = false;
    let questioned = false;
    for (const [at, answer] of acts) {
      if (noted && at >= 560) return 'over';
      if (answer === 'stillOn') {
        if (at >= 710) return 'stopped';
        noted = false;
        questioned = false;
      } else if (at >= 560) return 'over';
      else if (at >= 500 || questioned) {
        noted = true;
        questioned = false;
      } else {
        questioned = true;
        noted = false;
      }
    }
    return noted && until >= 560 ? 'over' : 'waiting';
  }

  test('seeded sequences of looks end as the plain rule says', () => {
    const ends = new Map<string, number>();
    for (let seed = 1; seed <= often(1000, 300); seed += 1) {
      const { next, below } = random(seed);
      const acts: Act[] = Array.from({ length: 1 + below(5) }, (): Act => [Math.round(next() * 800), next() < 0.5 ? 'lampOut' : 'stillOn']).sort(
        (a, b) => a[0] - b[0],
      );
      const until = acts.at(-1)![0] + below(300);
      const run = session();
      run.prepare();
      run.pass(8);
      run.answer('done');
      run.answer('lit');
      const done: Act[] = [];
      for (const act of acts) {
        run.pass(act[0] - (done.at(-1)?.[0] ?? 0));
        done.push(act);
        if (run.shown().step !== 'dwell' || run.state().status !== 'running') break;
        run.answer(act[1]);
        if (run.state().status !== 'running' || run.shown().step !== 'dwell') break;
      }
      if (run.state().status === 'running' && run.shown().step === 'dwell') run.pass(until - done.at(-1)![0]);
      const end = run.state().status === 'stopped' ? 'stopped' : run.shown().step === 'dwell' ? 'waiting' : 'over';
      expect([seed, acts, end]).toEqual([seed, acts, naive(acts, until)]);
      ends.set(end, (ends.get(end) ?? 0) + 1);
    }
    for (const end of ['over', 'stopped', 'waiting']) expect(ends.get(end)).toBeGreaterThan(often(50, 12));
  });
});

describe('evidence of a run', () => {
  const states = (run: ReturnType<typeof session>) => {
    const all = run.events;
    return all
      .map((event: RunEvent, i) =>
        i === 0
          ? []
          : evidenceOf(run.program, fold(run.program, run.values, all.slice(0, i)), fold(run.program, run.values, all.slice(0, i + 1)), event),
      )
      .flat();
  };
  test('the start and each further key are told with their tags', () => {
    const run = session({ keys: ['A', 'C', 'B'] });
    run.prepare();
    for (let i = 0; i < 3; i += 1) run.round();
    run.pass(8);
    for (const answer of ['done', 'runs']) run.answer(answer);
    for (let key = 0; key < 2; key += 1) for (const answer of ['done', 'done', 'done', 'out']) run.answer(answer);
    expect(run.state().status).toBe('finished');
    expect(states(run)).toEqual([
      { test: 'engine', outcome: 'runs', key: 'A' },
      { test: 'secondKey', outcome: 'accepted', key: 'C' },
      { test: 'secondKey', outcome: 'accepted', key: 'B' },
    ]);
  });
  test('a late key is no evidence, and a stop that means something is', () => {
    const run = session({ keys: ['A', 'B'] });
    run.prepare();
    run.pass(8);
    run.answer('done');
    run.answer('flashing');
    expect(states(run)).toEqual([{ test: 'lamp', outcome: 'refused', key: 'A' }]);
  });
});
