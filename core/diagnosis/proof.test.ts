import { type ProofEntry, proofOf } from './proof';

const change = (what = 'coil'): ProofEntry => ({ kind: 'change', what });
const tried = (key: string | undefined, works = true): ProofEntry => ({ kind: 'tried', works, ...(key === undefined ? {} : { key }) });
const back = (fails: boolean): ProofEntry => ({ kind: 'broughtBack', fails });
const away = (works: boolean): ProofEntry => ({ kind: 'takenAway', works });

describe('how well a cure is proven', () => {
  test.each<[string, ProofEntry[], string[], boolean, string, string[]]>([
    ['nothing was tried', [change()], ['A', 'B'], false, 'unknown', ['Start it with key A, and let it run.', 'Start it with key B, and let it run.']],
    ['one of two keys', [change(), tried('A')], ['A', 'B'], false, 'likely', ['Start it with key B, and let it run.']],
    ['every key', [change(), tried('A'), tried('B')], ['A', 'B'], false, 'proven', []],
    ['keys without identity', [change(), tried(undefined)], [], false, 'proven', []],
    ['a key that fails', [change(), tried('A'), tried('B', false)], ['A', 'B'], false, 'failed', []],
    ['a key that failed and works now', [change(), tried('A', false), tried('A')], ['A'], false, 'proven', []],
    ['tried before the last change', [change(), tried('A'), change('relay')], ['A'], false, 'unknown', ['Start it with key A, and let it run.']],
    ['a cause that was not brought back', [change(), tried('A')], ['A'], true, 'likely', ['Bring the suspected cause back once: it must fail.']],
    ['brought back, and it failed', [change(), tried('A'), back(true)], ['A'], true, 'likely', ['Take the cause away again: it must work.']],
    ['brought back, failed, cured again', [change(), tried('A'), back(true), away(true)], ['A'], true, 'proven', []],
    ['brought back, and it works all the same', [change(), tried('A'), back(false)], ['A'], true, 'unknown', []],
    ['taken away, and it fails still', [change(), tried('A'), back(true), away(false)], ['A'], true, 'failed', []],
    ['nothing at all', [], ['A'], false, 'unknown', ['Start it with key A, and let it run.']],
  ])('%s', (_, entries, keys, putBack, standing, open) => {
    expect(proofOf(entries, keys, putBack)).toMatchObject({ standing, open });
  });

  test('two changes with nothing tried between are pointed out, others are not', () => {
    const together = (entries: ProofEntry[]) => proofOf(entries, ['A'], false).changedTogether;
    expect(together([change('coil'), change('relay')])).toEqual(['coil', 'relay']);
    expect(together([change('coil'), tried('A', false), change('relay')])).toBeNull();
    expect(together([change('coil'), change('relay'), tried('A')])).toEqual(['coil', 'relay']);
    expect(together([change('coil'), change('relay'), tried('A', false), change('fuse')])).toBeNull();
    expect(together([change('coil')])).toBeNull();
  });
});
