import { shipped } from '../../content/session.testing';
import type { KeyKind } from '../../core/library';
import { drawnAnswers } from './AnswerDrawing';
import { partStates } from './KeyDrawing';
import { systemDrawings } from './SystemDrawing';

test('every shipped system type has a drawing of its own, and nothing else has one', () => {
  expect(Object.keys(systemDrawings).sort()).toEqual([...shipped.families.keys()].sort());
  expect(new Set(Object.values(systemDrawings)).size).toBe(shipped.families.size);
});

test('every test of every system type says where it is made', () => {
  for (const family of shipped.families.values())
    for (const test of family.tests) expect([family.id, test.id, test.where]).toEqual([family.id, test.id, expect.any(String)]);
});

test('an answer that is drawn is one that can be given', () => {
  for (const [question, value] of drawnAnswers)
    expect([question, value, shipped.features.find((f) => f.id === question)?.values]).toEqual([
      question,
      value,
      expect.objectContaining({ [value]: expect.any(String) }),
    ]);
});

test.each<[string, KeyKind, Record<string, string>, string]>([
  ['nothing was tried', 'buttonHead', {}, 'blade untried, chip untried, remote untried'],
  ['a refused key may have a sound chip', 'chipHead', { turns: 'yes', accepted: 'no' }, 'blade works, chip untried'],
  ['an accepted one has', 'chipHead', { accepted: 'yes' }, 'blade untried, chip works'],
  ['a reader gets nothing', 'pushFob', { chipReads: 'no', accepted: 'yes', remote: 'yes' }, 'chip fails, remote works'],
  ['one of two abilities fails', 'plain', { turns: 'yes', doors: 'no' }, 'blade fails'],
  ['not tested is not tried', 'slotFob', { infrared: 'notTested', remote: 'no' }, 'chip untried, remote fails'],
])('parts of a key: %s', (_, kind, results, said) => {
  expect(
    partStates(kind, results)
      .map(({ part, state }) => `${part} ${state}`)
      .join(', '),
  ).toBe(said);
});
