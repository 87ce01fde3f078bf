import { assess, type CaseFacts } from './assess';
import type { Finding } from './beliefs';
import { Diagnostician } from './diagnose';
import { type Cured, guide } from './guide';
import { isPutBack } from '../library';
import { formatChance } from '../units';
import { type ProofEntry, proofOf } from './proof';
import { family, fault, testOf } from './small.testing';

const kit = {
  ...family(
    [
      fault('open', 'reader', { title: 'Coil open', cure: { do: 'mend', minutes: 60 } }),
      fault('unpaired', 'keyAccepted', { title: 'Not paired', cure: { do: 'relearn', minutes: 45, procedure: 'relearn' } }),
      fault('cover', 'reader', { title: 'Cover', cure: { do: 'take it off', minutes: 2 }, prove: { say: 'Put it back once.', putBack: true } }),
    ],
    [
      testOf(
        'lamp',
        ['out', 'flashes'],
        { default: { out: 0.02, flashes: 0.98 }, unpaired: { out: 0.98, flashes: 0.02 } },
        { humanError: 0.001, triage: ['immobilizer'] },
      ),
      testOf('field', ['there', 'none'], { default: { there: 0.98, none: 0.02 }, open: { there: 0.02, none: 0.98 } }, { minutes: 5 }),
      testOf('away', ['helps', 'same'], { default: { helps: 0.02, same: 0.98 }, cover: { helps: 0.98, same: 0.02 } }, { minutes: 2 }),
    ],
    { elsewhere: { prior: 0.02, minutes: 60, money: 200 } },
  ),
  next: [
    { procedure: 'relearn', why: 'by the family', when: { changed: 'ecm' } },
    {
      verify: true as const,
      why: 'try each key',
      when: {
        any: [
          { evidence: 'engine', is: 'runs' },
          { run: 'relearn', is: 'finished' },
        ],
      },
    },
  ],
};
const seen = (t: string, outcome: string): Finding => ({ id: t, test: t, outcome });
function steps(findings: Finding[], more: Partial<CaseFacts> = {}, cured: Cured | null = null, procedures = ['relearn']) {
  const facts: CaseFacts = { changed: [], symptoms: [], keys: ['A'], runs: {}, verified: false, ...more };
  const lines = findings.flatMap((f) => ('test' in f ? [f] : []));
  const diagnosis = new Diagnostician({ family: kit, params: {}, told: facts.changed, keys: [], ratePerMinute: 1, findings }).diagnose();
  return guide(kit, assess(kit, {}, facts, lines), diagnosis, findings, cured, new Set(procedures), facts.verified).map((s) =>
    s.kind === 'test'
      ? `test ${s.test.id}`
      : s.kind === 'procedure'
        ? `procedure ${s.procedure}${s.fault ? ` for ${s.fault}` : ''}`
        : 'fault' in s
          ? `${s.kind} ${s.fault}${s.kind === 'prove' ? ` ${s.ask}` : ''}`
          : s.kind,
  );
}
type Untimed = ProofEntry extends infer E ? (E extends ProofEntry ? Omit<E, 'at'> : never) : never;
const cure = (id: string, entries: readonly Untimed[], keys = ['A'], waitMin?: number, starts?: number): Cured => {
  const found = kit.faults!.find((f) => f.id === id)!;
  return {
    fault: found,
    proof: proofOf(
      entries.map((e, i) => ({ at: i * 60_000, ...e })),
      keys,
      { putBack: isPutBack(found.prove), waitMin, starts },
    ),
  };
};

describe('what the page of a case proposes', () => {
  it('is what the diagnosis advises, with what else is worth its price', () => {
    expect(steps([])[0]).toBe('test lamp');
    expect(steps([seen('lamp', 'flashes'), seen('field', 'none'), seen('away', 'same')])).toEqual(['repair open']);
  });

  it('is the procedure that cures the fault, where there is one; else the repair', () => {
    expect(steps([seen('lamp', 'out'), seen('field', 'there'), seen('away', 'same')])[0]).toBe('procedure relearn for unpaired');
    expect(steps([seen('lamp', 'out'), seen('field', 'there'), seen('away', 'same')], {}, null, [])[0]).toBe('repair unpaired');
  });

  it('is the test that must come before the fix, until one of those was made', () => {
    const after = { tests: ['away', 'field'], why: 'see that the key reaches it' };
    const careful = { ...kit, faults: kit.faults!.map((f) => (f.id === 'unpaired' ? { ...f, cure: { ...f.cure, after } } : f)) };
    const first = (findings: Finding[]) => {
      const diagnosis = new Diagnostician({ family: careful, params: {}, told: [], keys: [], ratePerMinute: 1, findings }).diagnose();
      const act = { ...diagnosis, advice: { kind: 'act' as const, fault: 'unpaired', p: 0.9, text: 'now' } };
      const assessment = assess(careful, {}, { changed: [], symptoms: [], keys: [], runs: {}, verified: false }, []);
      return guide(careful, assessment, act, findings, null, new Set(), false);
    };
    expect(first([seen('lamp', 'out')])[0]).toMatchObject({ kind: 'test', test: { id: expect.stringMatching(/away|field/) }, why: after.why });
    expect(first([seen('lamp', 'out')])[1]).toMatchObject({ kind: 'repair', fault: 'unpaired' });
    for (const made of after.tests)
      expect(first([seen('lamp', 'out'), seen(made, made === 'away' ? 'same' : 'there')])[0]).toMatchObject({ kind: 'repair', fault: 'unpaired' });
  });

  it.each<[string, number, 'broken' | 'doubtful', Record<string, unknown>, boolean]>([
    ['at its limit', 0.8, 'broken', {}, true],
    ['under its limit', 0.7999, 'broken', {}, false],
    ['where nothing was seen of its place', 0.95, 'doubtful', {}, false],
    ['that writes to the vehicle', 0.95, 'broken', { effect: 'writes' }, false],
    ['that needs a check first', 0.95, 'broken', { after: { tests: ['away'], why: 'look' } }, false],
  ])('puts the fix of a likely cause beside the test: %s', (_what, p, state, more, beside) => {
    const known = { ...kit, faults: kit.faults!.map((f) => (f.id === 'open' ? { ...f, cure: { ...f.cure, ...more } } : f)) } as typeof kit;
    const diagnosis = new Diagnostician({ family: known, params: {}, told: [], keys: [], ratePerMinute: 1, findings: [] }).diagnose();
    const assessment = assess(known, {}, { changed: [], symptoms: [], keys: [], runs: {}, verified: false }, []);
    const links = assessment.links.map((l) => (l.id === 'reader' ? { ...l, state } : l));
    const leading = { ...diagnosis.beliefs.find((b) => b.fault === 'open')!, p };
    const told = guide(known, { ...assessment, links }, { ...diagnosis, beliefs: [leading] }, [], null, new Set(), false);
    expect(told[0]).toMatchObject({ kind: 'test', test: { id: 'lamp' } });
    const likely = {
      kind: 'repair',
      fault: 'open',
      why: `“Coil open” is likely already (${formatChance(p)}). Fixing it now skips the test; the test makes sure.`,
    };
    expect(told.slice(1).filter((s) => s.kind === 'repair')).toEqual(beside ? [likely] : []);
  });

  it('goes on with the key that failed before every key is verified', () => {
    const perKey = (outcome: string, key: string): Finding => ({ id: key, test: 'engine', outcome, key });
    const started = {
      ...kit,
      tests: [
        ...kit.tests,
        { ...testOf('engine', ['runs', 'silent'], { default: { runs: 0.5, silent: 0.5 } }), perKey: true },
        { ...testOf('keyTurned', ['works', 'same'], { default: { works: 0.02, same: 0.98 }, open: { works: 0.4, same: 0.6 } }), perKey: true },
      ].map((t) => (t.id === 'engine' ? { ...t, outcomes: { ...t.outcomes, runs: { ...t.outcomes.runs!, provesAll: true as const } } } : t)),
    };
    const first = (findings: Finding[], key: string) => {
      const lines = findings.flatMap((f) => ('test' in f ? [f] : []));
      const diagnosis = new Diagnostician({ family: started, params: {}, told: [], keys: ['A', 'B'], ratePerMinute: 1, findings }).diagnose();
      const next = [{ ...diagnosis.next[0]!, test: 'keyTurned', key }];
      const facts = { changed: [], symptoms: [], keys: ['A', 'B'], runs: {}, verified: false };
      const advice = { kind: 'test' as const, test: 'keyTurned', key, text: '' };
      return guide(started, assess(started, {}, facts, lines), { ...diagnosis, advice, next }, findings, null, new Set(), false).map((s) => s.kind);
    };
    expect(first([perKey('silent', 'A'), perKey('runs', 'B')], 'A')).toEqual(['test', 'verify']);
    expect(first([perKey('silent', 'A'), perKey('runs', 'B')], 'B')).toEqual(['verify', 'test']);
    expect(first([perKey('silent', 'A'), perKey('runs', 'A')], 'A')).toEqual(['verify', 'test']);
  });

  it('keeps what the family’s own rules name beside it, once', () => {
    expect(steps([], { changed: ['ecm'] }).slice(0, 2)).toEqual(['test lamp', 'procedure relearn']);
    expect(
      steps([seen('lamp', 'out'), seen('field', 'there'), seen('away', 'same')], { changed: ['ecm'] }).filter((s) => s.startsWith('procedure')),
    ).toHaveLength(1);
  });

  it('takes a finding once more when the findings do not fit together, and is unknown when none would explain it', () => {
    const findings = [seen('lamp', 'out'), seen('field', 'none')];
    const diagnosis = new Diagnostician({ family: kit, params: {}, told: [], keys: [], ratePerMinute: 1, findings }).diagnose();
    const assessment = assess(kit, {}, { changed: [], symptoms: [], keys: [], runs: {}, verified: false }, []);
    const next = (finding: string | undefined, tests = diagnosis.next) =>
      guide(
        kit,
        assessment,
        { ...diagnosis, next: tests, advice: { kind: 'contradiction', text: "They don't fit.", ...(finding ? { finding } : {}) } },
        findings,
        null,
        new Set(),
        false,
      )[0];
    expect(next('field')).toMatchObject({ kind: 'test', test: { id: 'field' }, why: "They don't fit." });
    expect(next(undefined, [])).toEqual({ kind: 'unknown', why: "They don't fit." });
  });

  it.each<[string, Cured, string[]]>([
    ['untried keys come first', cure('open', [{ kind: 'change', what: 'coil' }]), ['verify']],
    [
      'then the cause is brought back',
      cure('cover', [
        { kind: 'change', what: 'cover' },
        { kind: 'tried', key: 'A', works: true },
      ]),
      ['prove cover broughtBack', 'verify'],
    ],
    [
      'and taken away again',
      cure('cover', [
        { kind: 'change', what: 'cover' },
        { kind: 'tried', key: 'A', works: true },
        { kind: 'broughtBack', fails: true },
      ]),
      ['prove cover takenAway', 'verify'],
    ],
    [
      'a cause that can’t be brought back needs only the keys',
      cure('open', [
        { kind: 'change', what: 'coil' },
        { kind: 'tried', key: 'A', works: true },
      ]),
      ['verify'],
    ],
    ['both at once are both shown', cure('cover', [{ kind: 'change', what: 'cover' }]), ['verify', 'prove cover broughtBack']],
  ])('proves a cure: %s', (_, cured, expected) => expect(steps([], {}, cured)).toEqual(expected));

  it('hands over when all of it is done', () => {
    const done = cure('open', [
      { kind: 'change', what: 'coil' },
      { kind: 'tried', key: 'A', works: true },
    ]);
    expect(steps([], { verified: true }, done)).toEqual(['handOver']);
    expect(steps([], { runs: { relearn: 'finished' }, verified: true })[0]).toBe('handOver');
  });

  it('offers no procedure of the rules once a fix has worked, and offers it again when the fix failed', () => {
    const done = cure('open', [
      { kind: 'change', what: 'coil' },
      { kind: 'tried', key: 'A', works: true },
    ]);
    expect(steps([], { changed: ['ecm'], verified: true }, done)).toEqual(['handOver']);
    expect(steps([], { changed: ['ecm'] }, null)).toContain('procedure relearn');
    const failed = cure('open', [
      { kind: 'change', what: 'coil' },
      { kind: 'tried', key: 'A', works: false },
    ]);
    expect(failed.proof.standing).toBe('failed');
    expect(steps([], { changed: ['ecm'] }, failed)).toContain('procedure relearn');
  });

  it('counts the tries that a fix asks for, after the keys and before the hand-over', () => {
    const tries = (n: number) => cure('open', [{ kind: 'change', what: 'coil' }, ...Array.from({ length: n }, () => triedA)], ['A'], undefined, 3);
    const triedA = { kind: 'tried', key: 'A', works: true } as const;
    expect(steps([], {}, tries(0))).toEqual(['verify', 'prove open triedAgain']);
    expect(steps([], {}, tries(1))).toEqual(['verify', 'prove open triedAgain']);
    expect(steps([], { verified: true }, tries(2))).toEqual(['prove open triedAgain', 'handOver']);
    expect(steps([], { verified: true }, tries(3))).toEqual(['handOver']);
  });
});
