import { readContent } from '../../content/reader';
import { generator } from '../units';
import { addedAfter, linesOf, moved, movedBy, reworded, without } from './edit';
import type { Step } from './definition';
import { lintErrors } from './lint';
import { parseProcedure } from './schema';

const { procedures, families, cautions } = readContent('content').library;
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
