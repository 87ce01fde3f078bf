import { assess, type CaseFacts } from '../core/diagnosis';
import { anotherKey, resolveParams, valuesOf } from '../core/library';
import { shippedContent } from './shipped.testing';

const families = [...shippedContent().library.families.values()];
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

describe('what a rule tells to look at is said until it was done', () => {
  const looks = families.flatMap((family) =>
    family.verdicts.filter((v) => v.kind === 'look').map((verdict) => [`${family.id}, ${verdict.id}`, { family, verdict }] as const),
  );
  // Any outcome of a test does it; a test is taken for made whatever came out.
  const made = (family: (typeof families)[number], name: string, i: number) => {
    const light = family.tests.find((t) => t.triage?.includes('immobilizer'))!;
    const test = name === anotherKey ? light : family.tests.find((t) => t.id === name)!;
    const outcome = Object.entries(test.outcomes).find(([, o]) => o.says.every((s) => s.link !== 'keyAccepted') && !o.provesAll)?.[0];
    return (name === anotherKey ? ['A', 'B'] : ['A']).map((key, k) => ({
      id: `${i}.${k}`,
      test: test.id,
      outcome: outcome ?? Object.keys(test.outcomes)[0]!,
      key,
    }));
  };

  test.each(looks)('%s says what to do, in steps', (_, { verdict }) => {
    expect(verdict.steps ?? []).not.toHaveLength(0);
    for (const { do: say } of verdict.steps!) expect(say).toMatch(/^[a-z].*[^.]$/);
  });

  test.each(looks)('%s: a step that was done is not said any more, the others are', (_, { family, verdict }) => {
    // The rule alone, whatever else would speak before it or make it fall silent.
    const alone = { ...family, verdicts: [{ ...verdict, when: { not: { changed: 'nothing' } } }] };
    const say = (done: readonly string[]) =>
      assess(
        alone,
        valuesOf(resolveParams(family)),
        { ...facts, keys: ['A', 'B'] },
        done.flatMap((name, i) => made(family, name, i)),
      ).verdict?.say;
    const lower = (text: string | undefined) => text?.toLowerCase() ?? '';
    const steps = verdict.steps ?? [];
    for (const step of steps) expect(lower(say([]))).toContain(step.do.toLowerCase());
    steps.forEach((step, i) => {
      const after = lower(say(step.until?.slice(0, 1) ?? []));
      if (step.until) expect(after).not.toContain(step.do.toLowerCase());
      const shared = (other: (typeof steps)[number]) =>
        other.until?.includes(step.until?.[0] ?? '') ||
        other.until?.includes(anotherKey) ||
        (step.until?.[0] === anotherKey && other.until?.some((id) => family.tests.find((t) => t.id === id)?.triage?.includes('immobilizer')));
      for (const other of steps.filter((o, k) => k !== i && !shared(o))) expect(after).toContain(other.do.toLowerCase());
    });
    const all = say(steps.flatMap((s) => s.until?.slice(0, 1) ?? []));
    if (steps.every((s) => s.until)) expect(all).toBeUndefined();
    else expect(all).toContain(verdict.say);
  });
});

test('two keys refused, then a field at the antenna: neither "try the other key" nor "check the antenna coil" is said again', () => {
  const family = families.find((f) => f.id === 'engine-immobilizer')!;
  const said = (seen: readonly [string, string, string?][]) =>
    assess(
      family,
      valuesOf(resolveParams(family)),
      { ...facts, keys: ['A', 'B'] },
      seen.map(([t, outcome, key], i) => ({ id: String(i), test: t, outcome, ...(key ? { key } : {}) })),
    ).verdict?.say;
  expect(said([['lamp', 'refused', 'A']])).toBe('Not recognized. Try the other key first, then check antenna coil and amplifier.');
  // The other key at the light, by its own test or by the light's.
  const other = [
    ['lamp', 'refused', 'A'],
    ['lamp', 'refused', 'B'],
  ] as [string, string, string][];
  expect(said(other)).toBe('Not recognized. Check antenna coil and amplifier.');
  expect(
    said([
      ['lamp', 'refused', 'A'],
      ['otherKey', 'refused', 'B'],
    ]),
  ).toBe('Not recognized. Check antenna coil and amplifier.');
  expect(said([...other, ['coilField', 'always']])).toBeUndefined();
});
