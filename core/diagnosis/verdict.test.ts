import type { Advice } from './diagnose';
import { oneVerdict } from './verdict';

const rule = (kind: string) => ({ id: kind, kind, say: `rule says ${kind}` });
const weights = (kind: Advice['kind'], immobilizer = 0.02) => ({ advice: { kind, text: `weights say ${kind}` } as Advice, immobilizer });

describe('one verdict, never two', () => {
  test.each([
    ['nothing at all', null, null, null],
    ['rules alone', rule('look'), null, 'rule says look'],
    ['findings that do not fit come first', rule('act'), weights('contradiction'), 'weights say contradiction'],
    // "leave the immobilizer alone… go on with the field of the coil" beside "supply first"
    ['a dark light against weights that would leave it', rule('look'), weights('leave'), 'rule says look'],
    ['an act of the rules against a test', rule('act'), weights('test'), 'rule says act'],
    // "Nothing woke up. Measure the power of the switch first" beside "Fix now: infrared emitter of this key, 96 %"
    ['where to look, once the cause is to be fixed', rule('look'), weights('act'), 'weights say act'],
    ['it runs', rule('cured'), weights('leave'), 'rule says cured'],
    // "Refused. Work on the immobilizer only" beside "Fixed: second chip too near"
    ['a fix has worked: what the light said before is not said any more', rule('look'), 'mended' as const, null],
    ['a fix has worked, and it runs', rule('cured'), 'mended' as const, 'rule says cured'],
    ['both leave it: once', rule('leave'), weights('leave'), 'rule says leave'],
    ['a rule leaves it and the weights have an act', rule('leave'), weights('act', 0.6), 'weights say act'],
    ['no rule, weights leave it', null, weights('leave'), 'weights say leave'],
    ['no rule, a tool is missing', null, weights('get'), 'weights say get'],
    ['no rule, another test', null, weights('test'), null],
    ['no rule, an act', null, weights('act'), null],
  ])('%s', (_, byRule, byWeights, say) => expect(oneVerdict(byRule, byWeights)?.say ?? null).toBe(say));

  test('it runs with one key, and another is refused: that is not the end', () => {
    expect(oneVerdict(rule('cured'), weights('act'), ['B'])!.say).toBe(
      'It runs, but tag B is not right yet. Fix that before the car leaves, or tell the customer.',
    );
    expect(oneVerdict(rule('cured'), weights('act'), ['B', 'C'])!.say).toMatch(/^It runs, but tag B and C are not right yet\./);
    expect(oneVerdict(rule('look'), weights('test'), ['B'])!.say).toBe('rule says look');
    const dead = { advice: { kind: 'act', key: 'A', text: 'mend it' } as Advice, immobilizer: 0.9 };
    expect(oneVerdict(rule('cured'), dead)!.say).toMatch(/^It runs, but tag A is not right yet\./);
    expect(oneVerdict(rule('cured'), weights('act'))!.say).toBe('rule says cured');
    // "Try every key, then hand over", beside "Every key has been verified": said until it was done.
    expect(oneVerdict(rule('cured'), 'mended', [], true)).toBeNull();
    // What was refused was refused before the fix.
    expect(oneVerdict(rule('cured'), 'mended', ['B'])!.say).toBe('rule says cured');
  });

  test.each([
    [0.33, 'rule says leave'],
    [0.34, 'This key was accepted, but the chance that the immobilizer is at fault is still 34 %. It is not cleared yet.'],
  ])('a rule that leaves it while the weights hold %d for the immobilizer', (immobilizer, say) =>
    expect(oneVerdict(rule('leave'), weights('test', immobilizer))!.say).toBe(say),
  );
});
