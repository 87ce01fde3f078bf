import { besideKeys, type KeyInHand, writtenWords } from './beside';
import type { Slot, SlotState } from './slots';

type S = Pick<Slot, 'slot' | 'state' | 'keyId'>;
const slot = (n: number, state: SlotState, keyId: string | null = null): S => ({ slot: n, state, keyId });
const box = [slot(1, 'used', '0A01'), slot(2, 'used', '0A02'), slot(3, 'disabled', '0A03'), slot(4, 'empty'), slot(5, 'empty')];
const hand = (...keys: [string, string][]): KeyInHand[] => keys.map(([tag, keyId]) => ({ tag, keyId }));

describe('stored keys beside keys in hand', () => {
  it.each<[string, S[], KeyInHand[], boolean, string]>([
    [
      'one here, one missing, one disabled, two empty',
      box,
      hand(['A', '0A01'], ['B', '0B00']),
      true,
      'Read twice, equal. Stored: tag A in slot 1. Not stored: tag B. Stored and not at hand: slot 2. Disabled: slot 3. Proven empty: slot 4, 5.',
    ],
    [
      'read once: nothing is proven empty',
      box,
      hand(['A', '0a 01']),
      false,
      'Read once: no slot is proven empty. Stored: tag A in slot 1. Stored and not at hand: slot 2. Disabled: slot 3. Empty in this read: slot 4, 5.',
    ],
    [
      'the same key in two slots',
      [slot(1, 'used', 'FF'), slot(2, 'used', 'FF'), slot(3, 'used', 'EE')],
      hand(['A', 'FF'], ['C', 'EE']),
      true,
      'Read twice, equal. Stored: tag A in slot 1 + 2, tag C in slot 3. The same key twice: slots 1 + 2.',
    ],
    [
      'one that can’t be told, and one without an identity',
      [slot(1, 'unclear', '0A01'), slot(2, 'used')],
      hand(['A', '0A01']),
      true,
      'Read twice, equal. Not stored: tag A. Stored and not at hand: slot 2. Not clear: slot 1.',
    ],
    [
      'a clone in hand has the identity of its first',
      [slot(1, 'used', 'AA')],
      hand(['A', 'AA'], ['B', 'AA']),
      true,
      'Read twice, equal. Stored: tag A in slot 1, tag B in slot 1.',
    ],
    [
      'nobody has read a key',
      [slot(1, 'used', 'AA'), slot(2, 'empty')],
      [],
      true,
      'Read twice, equal. Stored and not at hand: slot 1. Proven empty: slot 2.',
    ],
  ])('%s', (_, slots, inHand, proven, text) => expect(besideKeys(slots, inHand, proven).text).toBe(text));

  it('names the places: a disabled key in hand is found, a slot that is not clear belongs to nobody', () => {
    const { slots, keys } = besideKeys([...box, slot(6, 'unclear', '0A01')], hand(['A', '0A01'], ['D', '0A03']), true);
    expect(keys).toEqual([
      { tag: 'A', slots: [1] },
      { tag: 'D', slots: [3] },
    ]);
    expect(slots.map((s) => [s.slot, s.says, s.tags.join(' ')])).toEqual([
      [1, 'here', 'A'],
      [2, 'away', ''],
      [3, 'disabled', 'D'],
      [4, 'provenEmpty', ''],
      [5, 'provenEmpty', ''],
      [6, 'unclear', ''],
    ]);
  });

  it('agrees with a naive count over 2,000 seeded memories', () => {
    let seed = 7;
    const random = (n: number) => (seed = (seed * 1103515245 + 12345) % 2147483648) % n;
    for (let round = 0; round < 2000; round += 1) {
      const slots = Array.from({ length: 1 + random(6) }, (_, i) => {
        const state = (['used', 'used', 'empty', 'disabled', 'unclear'] as const)[random(5)]!;
        return slot(i + 1, state, state === 'empty' ? null : ['AA', 'BB', 'CC', null][random(4)]!);
      });
      const inHand = hand(...(['A', 'B'] as const).slice(0, random(3)).map((t): [string, string] => [t, ['AA', 'BB', 'DD'][random(3)]!]));
      const { keys } = besideKeys(slots, inHand, random(2) === 1);
      for (const { tag, slots: found } of keys) {
        const id = inHand.find((k) => k.tag === tag)!.keyId;
        const expected = slots.filter((s) => (s.state === 'used' || s.state === 'disabled') && s.keyId === id).map((s) => s.slot);
        expect(found).toEqual(expected);
      }
    }
  });
});

test('what was done to a slot stands with its reason', () => {
  expect(writtenWords({ slot: 4, how: 'new' })).toBe('A key was written into slot 4.');
  expect(writtenWords({ slot: 2, how: 'over', reason: 'lost, says the owner' })).toBe('Slot 2 was written over: lost, says the owner');
  expect(writtenWords({ slot: 3, how: 'disabled', reason: 'stolen' })).toBe('The key in slot 3 was disabled: stolen');
});
