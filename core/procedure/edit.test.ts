import { shippedContent } from '../../content/shipped.testing';
import { generator } from '../units';
import { addedAfter, lineInWords, linesOf, moved, movedBy, redirected, refigured, reworded, targetsFor, without } from './edit';
import type { Step } from './definition';
import { lintErrors } from './lint';
import { parseProcedure } from './schema';

const { procedures, families, cautions } = shippedContent().library;
const steps = (id: string): Step[] => procedures.get(id)!.steps;
const ids = (list: readonly Step[]) => linesOf(list).map((l) => l.id);

const small: Step[] = [
  { id: 'a', do: 'A', done: 'Done', cautions: [], takes: 1 },
  {
    repeat: { id: 'r', min: 1, max: 2 },
    steps: [
      { id: 'b', do: 'B', done: 'Done', cautions: [], takes: 1 },
      { id: 'c', observe: 'C?', answers: { yes: { say: 'Yes', to: 'next' }, no: { say: 'No', to: 'next' } }, cautions: [], takes: 1 },
    ],
  },
  {
    id: 'd',
    choice: { ask: 'D?' },
    cases: { one: { say: 'One', steps: [{ id: 'e', do: 'E', done: 'Done', cautions: [], takes: 1 }] }, two: { say: 'Two', steps: [] } },
    cautions: [],
    takes: 1,
  },
];

test('line by line: loops and cases hold theirs, each with its place among its neighbors', () => {
  expect(linesOf(small).map((l) => [l.id, l.depth, l.kind, l.place?.at, l.place?.of])).toEqual([
    ['a', 0, 'do', 0, 3],
    ['r', 0, 'repeat', 1, 3],
    ['b', 1, 'do', 0, 2],
    ['c', 1, 'observe', 1, 2],
    ['d', 0, 'choice', 2, 3],
    ['d one', 1, 'case', undefined, undefined],
    ['e', 2, 'do', 0, 1],
  ]);
  expect(linesOf(small)[3]).toMatchObject({ words: 'C?', says: { yes: 'Yes', no: 'No' } });
});

test('moved: among neighbors only, and not beyond the ends', () => {
  expect(ids(moved(small, 'd', 'a'))).toEqual(['d', 'd one', 'e', 'a', 'r', 'b', 'c']);
  expect(ids(moved(small, 'a', 'b'))).toEqual(ids(small));
  expect(ids(movedBy(small, 'r', -1))).toEqual(['r', 'b', 'c', 'a', 'd', 'd one', 'e']);
  expect(ids(movedBy(small, 'c', 1))).toEqual(ids(small));
  expect(ids(movedBy(small, 'c', -1))).toEqual(['a', 'r', 'c', 'b', 'd', 'd one', 'e']);
  expect(ids(movedBy(small, 'a', -1))).toEqual(ids(small));
});

test('left out, added with an id of its own, reworded', () => {
  expect(ids(without(small, 'r'))).toEqual(['a', 'd', 'd one', 'e']);
  const more = addedAfter(addedAfter(small, 'b', 'Wipe it.'), 'e', 'Look.');
  expect(ids(more)).toEqual(['a', 'r', 'b', 'own1', 'c', 'd', 'd one', 'e', 'own2']);
  const other = reworded(more, 'c', { words: 'See it?', hint: 'Closely.', says: { yes: 'I do' } });
  expect(linesOf(other)[4]).toMatchObject({ words: 'See it?', hint: 'Closely.', says: { yes: 'I do', no: 'No' } });
  expect(linesOf(reworded(other, 'c', { hint: '' }))[4]).toMatchObject({ words: 'See it?', hint: '' });
  expect(linesOf(reworded(small, 'd', { says: { two: 'None' } }))[4]).toMatchObject({ says: { one: 'One', two: 'None' } });
});

const timed: Step[] = [
  { id: 'w', do: 'Wait.', wait: { from: [], min: '$dwell', max: 90 }, late: 'restart', cautions: [], takes: 0 },
  {
    repeat: { id: 'r', min: 1, max: '$rounds' },
    exhausted: 'stop.beyond',
    steps: [
      { id: 'h', do: 'Hold.', hold: { min: 7, counted: true }, cautions: [], takes: 1 },
      { id: 'v', ask: 'Volts?', value: { unit: 'V', min: 6, max: 16, atLeast: 12 }, unmet: 'Low.', waivable: false, cautions: [], takes: 1 },
      { id: 'm', ask: 'Text?', message: 'learned', within: 30, absent: 'restartCycle', cautions: [], takes: 1 },
      { id: 'o', observe: 'Lit?', answers: { yes: { say: 'Yes', to: 'next' }, no: { say: 'No', to: 'stop.beyond' } }, cautions: [], takes: 1 },
    ],
  },
];

test('figures and where things lead: each step has its own, limits of what a value can be are none', () => {
  expect(linesOf(timed).map((l) => [l.id, l.figures.map((f) => `${f.name} ${f.value} ${f.unit}`.trim()), l.leads])).toEqual([
    ['w', ['min $dwell s', 'max 90 s'], [{ way: 'late', to: 'restart' }]],
    ['r', ['min 1', 'max $rounds'], [{ way: 'exhausted', to: 'stop.beyond' }]],
    ['h', ['min 7 s'], []],
    ['v', ['atLeast 12 V'], []],
    ['m', ['within 30 s'], [{ way: 'absent', to: 'restartCycle' }]],
    [
      'o',
      [],
      [
        { answer: 'yes', to: 'next' },
        { answer: 'no', to: 'stop.beyond' },
      ],
    ],
  ]);
  expect(linesOf(timed).map(lineInWords)).toEqual([
    'Wait. At least $dwell s, At most 90 s Too late → start over',
    'At least 1, At most $rounds After the last cycle → stop (beyond)',
    'Hold. At least 7 s',
    'Volts? At least 12 V',
    'Text? Within 30 s Message does not come → this cycle again',
    'Lit? Yes · No No → stop (beyond)',
  ]);
});

test('another figure: a number as a number, anything else as it was typed; only that one changes', () => {
  const figure = (list: Step[], id: string) =>
    linesOf(list)
      .find((l) => l.id === id)!
      .figures.map((f) => f.value);
  expect(figure(refigured(timed, 'w', 'min', ' 45 '), 'w')).toEqual([45, 90]);
  expect(figure(refigured(timed, 'w', 'max', '$dwell + 5'), 'w')).toEqual(['$dwell', '$dwell + 5']);
  expect(figure(refigured(timed, 'r', 'max', ''), 'r')).toEqual([1, '']);
  expect(figure(refigured(timed, 'm', 'within', '20'), 'm')).toEqual([20]);
  expect(figure(refigured(timed, 'v', 'atLeast', '12.4'), 'v')).toEqual([12.4]);
  const other = refigured(timed, 'h', 'min', '8');
  expect(other.filter((s, i) => JSON.stringify(s) !== JSON.stringify(timed[i]))).toHaveLength(1);
  expect(figure(timed, 'h')).toEqual([7]);
});

test('led elsewhere: an answer, a limit, a loop; what is not there stays away', () => {
  const leads = (list: Step[], id: string) => linesOf(list).find((l) => l.id === id)!.leads;
  expect(leads(redirected(timed, 'o', { answer: 'yes', to: 'leaveLoop' }), 'o')[0]).toEqual({ answer: 'yes', to: 'leaveLoop' });
  expect(leads(redirected(timed, 'w', { way: 'late', to: 'next' }), 'w')).toEqual([{ way: 'late', to: 'next' }]);
  expect(leads(redirected(timed, 'r', { way: 'exhausted', to: 'next' }), 'r')).toEqual([{ way: 'exhausted', to: 'next' }]);
  expect(redirected(timed, 'o', { answer: 'maybe', to: 'restart' })).toEqual(timed);
  const stops = { beyond: { text: 'Beyond.' } };
  expect(targetsFor({ stops }, false)).toEqual(['next', 'restartStep', 'restart', 'stop.beyond']);
  expect(targetsFor({ stops }, true)).toContain('leaveLoop');
});

test('every shipped procedure: each figure can be another, each answer lead to each place there is, and the schema reads it', () => {
  for (const p of procedures.values()) {
    let now = p.steps;
    for (const { id, figures, leads, looped } of linesOf(p.steps)) {
      for (const f of figures) now = refigured(now, id, f.name, '$own + 5');
      for (const lead of leads) now = redirected(now, id, { ...lead, to: targetsFor(p, looped).at(-1)! });
    }
    const parsed = parseProcedure({ ...p, steps: now });
    expect(parsed.ok || parsed.problems).toBe(true);
    for (const l of linesOf(now)) expect(l.figures.every((f) => f.value === '$own + 5')).toBe(true);
    expect(linesOf(now).map((l) => l.leads.length)).toEqual(linesOf(p.steps).map((l) => l.leads.length));
  }
});

test('every shipped procedure: any mix of changes leaves data that the schema reads, and no step is doubled or lost by moving', () => {
  const random = generator(20261128);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
  for (const p of procedures.values()) {
    let now = steps(p.id);
    const before = ids(now);
    for (let i = 0; i < 40; i += 1) {
      const lines = linesOf(now);
      const { id } = pick(lines);
      now =
        random() < 0.5
          ? movedBy(now, id, random() < 0.5 ? -1 : 1)
          : random() < 0.5
            ? moved(now, id, pick(lines).id)
            : reworded(now, id, { hint: 'Own words.' });
    }
    expect(ids(now).toSorted()).toEqual(before.toSorted());
    now = addedAfter(now, pick(linesOf(now).filter((l) => l.place)).id, 'Look again.');
    const parsed = parseProcedure({ ...p, steps: now });
    expect(parsed.ok || parsed.problems).toBe(true);
  }
});

test('words alone break nothing', () => {
  for (const p of procedures.values()) {
    const of = [...families.values()].filter((f) => f.id === p.family || p.family === 'every');
    const own = linesOf(p.steps).reduce((s, l) => reworded(s, l.id, { hint: 'Own words.' }), p.steps);
    expect(
      lintErrors({ ...p, steps: own }, of, new Set(cautions.keys())).filter((x) => x.code !== 'unusedParam' && !/never used/.test(x.message)),
    ).toEqual([]);
  }
});
