import { type ProofEntry, proofOf } from './proof';

type Untimed = ProofEntry extends infer E ? (E extends ProofEntry ? Omit<E, 'at'> : never) : never;
const minute = 60_000;
/** A minute apart, unless a moment is given. */
const timed = (entries: readonly (Untimed & { at?: number })[]): ProofEntry[] => entries.map((e, i) => ({ at: i * minute, ...e }));

const change = (what = 'coil'): Untimed => ({ kind: 'change', what });
const tried = (key: string | undefined, works = true): Untimed => ({ kind: 'tried', works, ...(key === undefined ? {} : { key }) });
const back = (fails: boolean): Untimed => ({ kind: 'broughtBack', fails });
const away = (works: boolean): Untimed => ({ kind: 'takenAway', works });

describe('how well a cure is proven', () => {
  test.each<[string, Untimed[], string[], boolean, string, string[]]>([
    ['nothing was tried', [change()], ['A', 'B'], false, 'unknown', ['Start it with tag A, and let it run.', 'Start it with tag B, and let it run.']],
    ['one of two keys', [change(), tried('A')], ['A', 'B'], false, 'likely', ['Start it with tag B, and let it run.']],
    ['every key', [change(), tried('A'), tried('B')], ['A', 'B'], false, 'proven', []],
    ['keys without identity', [change(), tried(undefined)], [], false, 'proven', []],
    ['a key that fails', [change(), tried('A'), tried('B', false)], ['A', 'B'], false, 'failed', []],
    ['a key that failed and works now', [change(), tried('A', false), tried('A')], ['A'], false, 'proven', []],
    ['tried before the last change', [change(), tried('A'), change('relay')], ['A'], false, 'unknown', ['Start it with tag A, and let it run.']],
    ['a cause that was not brought back', [change(), tried('A')], ['A'], true, 'likely', ['Bring the fault back once: the car must fail again.']],
    ['brought back, and it failed', [change(), tried('A'), back(true)], ['A'], true, 'likely', ['Remove the fault again: it must work.']],
    ['brought back, failed, cured again', [change(), tried('A'), back(true), away(true)], ['A'], true, 'proven', []],
    ['brought back, and it works all the same', [change(), tried('A'), back(false)], ['A'], true, 'unknown', []],
    ['taken away, and it fails still', [change(), tried('A'), back(true), away(false)], ['A'], true, 'failed', []],
    ['nothing at all', [], ['A'], false, 'unknown', ['Start it with tag A, and let it run.']],
  ])('%s', (_, entries, keys, putBack, standing, open) => {
    expect(proofOf(timed(entries), keys, { putBack })).toMatchObject({ standing, open });
  });

  test('two changes with nothing tried between are pointed out, others are not', () => {
    const together = (entries: Untimed[]) => proofOf(timed(entries), ['A'], { putBack: false }).changedTogether;
    expect(together([change('coil'), change('relay')])).toEqual(['coil', 'relay']);
    expect(together([change('coil'), tried('A', false), change('relay')])).toBeNull();
    expect(together([change('coil'), change('relay'), tried('A')])).toEqual(['coil', 'relay']);
    expect(together([change('coil'), change('relay'), tried('A', false), change('fuse')])).toBeNull();
    expect(together([change('coil')])).toBeNull();
  });

  // "Start three times in a row, an hour after charging."
  test.each([
    [59 * minute + 59_999, 'likely'],
    [60 * minute, 'proven'],
  ])('a start %i ms after the repair, where an hour must pass, is %s', (at, standing) => {
    const asked = { putBack: false, waitMin: 60 };
    const entries = timed([change('battery'), { ...tried('A'), at: 5 * minute }, { ...tried('A'), at }]);
    const proof = proofOf(entries, ['A'], asked);
    expect(proof.standing).toBe(standing);
    expect(proof.waitUntil).toBe(standing === 'proven' ? null : 60 * minute);
    expect(proof.open).toEqual(
      standing === 'proven' ? [] : ['Start it once more, at least 60 minutes after the repair: only that confirms the fix.'],
    );
  });

  test('the rest begins anew with another repair, and a start that fails after it is no proof', () => {
    const asked = { putBack: false, waitMin: 10 };
    const again = timed([change(), { ...change('relay'), at: 8 * minute }, { ...tried('A'), at: 12 * minute }]);
    expect(proofOf(again, ['A'], asked)).toMatchObject({ standing: 'likely', waitUntil: 18 * minute });
    const fails = timed([change(), { ...tried('A', false), at: 12 * minute }]);
    expect(proofOf(fails, ['A'], asked)).toMatchObject({ standing: 'failed', waitUntil: 10 * minute });
    expect(proofOf([], ['A'], asked).waitUntil).toBeNull();
  });

  // "Tilt and turn the wheel over 4 starts without a miss."
  test.each<[string, Untimed[], number, string]>([
    ['each key once is two of four', [change(), tried('A'), tried('B')], 2, 'likely'],
    ['tries without a key count', [change(), tried('A'), tried('B'), tried(undefined)], 3, 'likely'],
    ['the number is reached', [change(), tried('A'), tried('B'), tried(undefined), tried(undefined)], 4, 'proven'],
    ['more than that count no more', [change(), tried('A'), tried('B'), ...Array.from({ length: 9 }, () => tried('A'))], 4, 'proven'],
    ['a number without every key', [change(), ...Array.from({ length: 4 }, () => tried('A'))], 4, 'likely'],
    ['a miss is the car’s, with no key named', [change(), tried('A'), tried('B'), tried(undefined, false)], 0, 'failed'],
    ['after a miss it begins anew', [change(), tried('A'), tried('B'), tried('A', false), tried('A'), tried('A')], 2, 'likely'],
    ['another change begins anew', [change(), ...Array.from({ length: 4 }, () => tried('A')), change('relay')], 0, 'unknown'],
  ])('tries are counted: %s', (_, entries, done, standing) => {
    const proof = proofOf(timed(entries), ['A', 'B'], { putBack: false, starts: 4 });
    expect(proof).toMatchObject({ standing, starts: { done, of: 4 } });
    expect(proof.open.includes(`Try it again: ${done} of 4 in a row so far.`)).toBe(done < 4);
  });

  // "10 starts with the new key": the other one was never wrong.
  test.each<[string, Untimed[], number]>([
    ['another key’s try is not', [change(), tried('A'), tried('B')], 1],
    ['the repair’s own try, which names none, is', [change(), tried(undefined), tried('B'), tried('A')], 2],
    ['another key’s miss does not begin it anew', [change(), tried('A'), tried('B', false), tried('B'), tried('A')], 2],
    ['its own miss does', [change(), tried('A'), tried('A', false), tried('A'), tried('B')], 1],
  ])('of a key that was mended only its own tries are counted: %s', (_, entries, done) => {
    const proof = proofOf(timed(entries), ['A', 'B'], { putBack: false, starts: 4, key: 'A' });
    expect(proof.starts).toEqual({ done, of: 4 });
    expect(proof.open).toContain(`Try it again with tag A: ${done} of 4 in a row so far.`);
  });

  test('another key that starts after the rest is no proof of the one that was mended', () => {
    const asked = { putBack: false, waitMin: 10, key: 'A' };
    const entries = [change(), tried('A'), { ...tried('B'), at: 11 * minute }];
    expect(proofOf(timed(entries), ['A', 'B'], asked)).toMatchObject({ standing: 'likely', waitUntil: 10 * minute });
    expect(proofOf(timed([...entries, { ...tried('A'), at: 12 * minute }]), ['A', 'B'], asked).standing).toBe('proven');
  });

  test('where a rest is asked for, only the tries after it count', () => {
    const asked = { putBack: false, waitMin: 60, starts: 3 };
    const early = [1, 2, 3].map((n) => ({ ...tried('A'), at: n * minute }));
    const late = [60, 61, 62].map((n) => ({ ...tried('A'), at: n * minute }));
    expect(proofOf(timed([change(), ...early, late[0]!]), ['A'], asked)).toMatchObject({ standing: 'likely', starts: { done: 1 }, waitUntil: null });
    expect(proofOf(timed([change(), ...early, ...late]), ['A'], asked)).toMatchObject({ standing: 'proven', starts: { done: 3 } });
  });

  test.each([undefined, 1])('where %s try is asked for, none is counted', (starts) => {
    expect(proofOf(timed([change(), tried('A')]), ['A'], { putBack: false, starts })).toMatchObject({ standing: 'proven', starts: null });
  });
});
