import { draftOf } from './draft';
import { type Figures, fresh } from './fresh.testing';

const names = ['minS', 'maxS', 'withinS', 'n', 'max'] as const;

/** What was read of a text, sentence by sentence; and each figure that is expected and was read otherwise, with whether its line is marked. */
function measured(text: string, expected: readonly Figures[]) {
  const { steps, unsure } = draftOf(text);
  const read = steps.flatMap((s): Figures[] => {
    const figures = Object.fromEntries(names.flatMap((n) => (s[n] === undefined ? [] : [[n, s[n]]])));
    return Object.keys(figures).length > 0 ? [[s.line, figures]] : [];
  });
  const said = (list: readonly Figures[]) =>
    list.flatMap(([line, f], i) =>
      names.flatMap((n) => (f[n] === undefined ? [] : [{ line, id: `${list.slice(0, i).filter((x) => x[0] === line).length} ${n} ${f[n]}` }])),
    );
  const [want, have] = [said(expected), said(read)];
  const missing = want.filter((w) => !have.some((h) => h.line === w.line && h.id === w.id));
  const extra = have.filter((h) => !want.some((w) => h.line === w.line && h.id === w.id));
  return {
    figures: want.length,
    wrong: [...missing, ...extra].map(({ line, id }) => ({ line, id, marked: unsure.includes(line) })),
    missing: missing.length,
  };
}

test.each(fresh)('%s', (_name, text, figures) => {
  expect(measured(text, figures).wrong.filter((w) => !w.marked)).toEqual([]);
});

test('of all figures of the texts that were put away at least 95 % are right', () => {
  const all = fresh.map(([, text, figures]) => measured(text, figures));
  const [figures, missing] = [all.reduce((s, a) => s + a.figures, 0), all.reduce((s, a) => s + a.missing, 0)];
  expect(figures).toBeGreaterThan(90);
  expect((figures - missing) / figures).toBeGreaterThanOrEqual(0.95);
});
