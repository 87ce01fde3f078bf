import { assess, type CaseFacts } from '../core/diagnosis';
import { resolveParams, valuesOf } from '../core/library';
import { readContent } from './reader';

const families = [...readContent('content').library.families.values()];
const facts: CaseFacts = { changed: [], symptoms: [], keys: ['A'], runs: {}, verified: false };

/** Every test whose outcome says directly that the immobilizer accepts the key, or that it does not. */
const saying = (family: (typeof families)[number], state: 'holds' | 'broken') =>
  family.tests.flatMap((t) =>
    Object.entries(t.outcomes)
      .filter(([, o]) => !o.provesAll && o.says.some((s) => s.link === 'keyAccepted' && s.state === state && s.weight === 'direct' && !s.when))
      .map(([outcome]) => ({ test: t.id, outcome, key: 'A' })),
  );

test.each(families.map((f) => [f.id, f] as const))('%s: what a refusal said is not said any more once the same key is accepted', (_, family) => {
  const verdictOf = (...seen: { test: string; outcome: string; key: string }[]) =>
    assess(
      family,
      valuesOf(resolveParams(family)),
      facts,
      seen.map((s, i) => ({ id: String(i), ...s })),
    ).verdict;
  const refusals = saying(family, 'broken');
  const stale = refusals.flatMap((refused) => {
    const said = verdictOf(refused);
    if (said?.kind !== 'look') return [];
    return saying(family, 'holds')
      .filter((accepted) => accepted.test !== refused.test && verdictOf(refused, accepted)?.id === said.id)
      .map((accepted) => `${refused.test} ${refused.outcome}, then ${accepted.test} ${accepted.outcome}: still ${said.id}`);
  });
  expect(stale).toEqual([]);
});

test('a key that is accepted alone is told to be left alone, and the engine is next', () => {
  const dwell = families.find((f) => f.id === 'transponder-dwell')!;
  const seen = [
    { id: '1', test: 'lamp', outcome: 'refused', key: 'A' },
    { id: '2', test: 'keysApart', outcome: 'accepted', key: 'A' },
  ];
  expect(assess(dwell, valuesOf(resolveParams(dwell)), facts, seen).verdict?.id).toBe('disturbed');
  const later = [...seen, { id: '3', test: 'engine', outcome: 'dies', key: 'A' }];
  expect(assess(dwell, valuesOf(resolveParams(dwell)), facts, later).verdict?.id).not.toBe('disturbed');
});
