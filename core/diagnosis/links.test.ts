import type { LinkState } from '../chain';
import type { LinkStatus } from './assess';
import type { Belief } from './diagnose';
import { believe } from './links';

const link = (id: string, state: LinkState, keys: LinkStatus['keys'] = []): LinkStatus => ({ id, title: id, how: '', state, keys, because: [] });
const belief = (on: string | null, p: number, key?: string): Belief => ({ fault: 'f', title: 'f', link: on, p, prior: p, ...(key ? { key } : {}) });
const state = (said: LinkState, own: number, above = 0) =>
  believe([link('above', 'unproven'), link('it', said)], [belief('above', above), belief('it', own), belief(null, 1 - own - above)])[1]!.state;

describe('the state of a link', () => {
  it.each([
    ['nothing speaks of it', 'unproven', 0.9, 0, 'unproven'],
    ['said to hold, and hardly suspected', 'holds', 0.05, 0, 'holds'],
    ['said to hold, and suspected a little more', 'holds', 0.051, 0, 'doubtful'],
    ['doubted, and hardly suspected', 'doubtful', 0.01, 0, 'doubtful'],
    ['nearly sure', 'doubtful', 0.8, 0, 'broken'],
    ['not quite sure', 'doubtful', 0.79, 0, 'doubtful'],
    ['seen to fail, whatever the reason above', 'broken', 0.1, 0.4, 'broken'],
    ['seen to fail, and more speaks for something below', 'broken', 0.1, 0.39, 'doubtful'],
  ] as const)('%s', (_, said, own, above, expected) => expect(state(said, own, above)).toBe(expected));

  it('judges each key by what sits in it', () => {
    const [found] = believe(
      [
        link('key', 'doubtful', [
          { tag: 'A', state: 'doubtful' },
          { tag: 'B', state: 'holds' },
          { tag: 'C', state: 'unproven' },
        ]),
      ],
      [belief('key', 0.85, 'A'), belief('key', 0.02, 'B')],
    );
    expect(found!.keys.map((k) => k.state)).toEqual(['broken', 'holds', 'unproven']);
  });

  it.each([
    [0.49, 'holds'],
    [0.5, 'doubtful'],
    [0.8, 'broken'],
  ] as const)('takes a key that was seen to be well for well, until %d speaks for a fault in it', (p, expected) => {
    const [found] = believe([link('key', 'doubtful', [{ tag: 'A', state: 'holds' }])], [belief('key', p, 'A')]);
    expect(found!.keys[0]!.state).toBe(expected);
  });
});
