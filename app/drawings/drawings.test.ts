import { shipped } from '../../content/session.testing';
import { drawnAnswers } from './AnswerDrawing';
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
