import { sentences } from './sentences';
import type { Slot, SlotState } from './slots';

/** A key that somebody holds, with the identity that a key reader shows of it, hexadecimal. */
export interface KeyInHand {
  tag: string;
  keyId: string;
}

/** A slot beside the keys in hand. */
export interface SlotBeside {
  slot: number;
  state: SlotState;
  keyId: string | null;
  /** The keys at hand that are stored here; a clone has the identity of its first. */
  tags: string[];
  /** Other slots with the same key. */
  alsoIn: number[];
  says: 'here' | 'away' | 'disabled' | 'empty' | 'provenEmpty' | 'unclear';
}

export interface Beside {
  slots: SlotBeside[];
  /** Where each key in hand is stored; nowhere: an empty list. */
  keys: { tag: string; slots: number[] }[];
  text: string;
}

/**
 * The stored keys beside the keys in hand: which stored one is here, which is missing, which is there twice, and which slots are empty.
 * @param proven both reads of the memory were equal, so what is empty is proven empty
 */
export function besideKeys(slots: readonly Pick<Slot, 'slot' | 'state' | 'keyId'>[], inHand: readonly KeyInHand[], proven: boolean): Beside {
  const holds = (s: { state: SlotState; keyId: string | null }) => s.state === 'used' || s.state === 'disabled';
  const bare = (id: string) => id.replace(/\s+/g, '').toUpperCase();
  const found = slots.map((s): SlotBeside => {
    const tags = s.keyId === null || !holds(s) ? [] : inHand.filter((k) => bare(k.keyId) === bare(s.keyId!)).map((k) => k.tag);
    const alsoIn =
      s.keyId === null || !holds(s)
        ? []
        : slots.filter((o) => o.slot !== s.slot && holds(o) && o.keyId !== null && bare(o.keyId) === bare(s.keyId!)).map((o) => o.slot);
    return { slot: s.slot, state: s.state, keyId: s.keyId, tags, alsoIn, says: saysOf(s.state, tags, proven) };
  });
  const keys = inHand.map(({ tag }) => ({ tag, slots: found.filter((s) => s.tags.includes(tag)).map((s) => s.slot) }));
  return { slots: found, keys, text: textOf(found, keys, proven) };
}

function saysOf(state: SlotState, tags: readonly string[], proven: boolean): SlotBeside['says'] {
  if (state === 'empty') return proven ? 'provenEmpty' : 'empty';
  if (state === 'unclear' || state === 'disabled') return state;
  return tags.length === 0 ? 'away' : 'here';
}

function textOf(slots: readonly SlotBeside[], keys: Beside['keys'], proven: boolean): string {
  const with_ = (says: SlotBeside['says']) => slots.filter((s) => s.says === says).map((s) => s.slot);
  const stored = keys.filter((k) => k.slots.length > 0).map((k) => sentences.tagIn(k.tag, listed(k.slots)));
  const missing = keys.filter((k) => k.slots.length === 0).map((k) => k.tag);
  const twice = slots.filter((s) => s.alsoIn.some((o) => o > s.slot) && s.alsoIn.every((o) => o > s.slot)).map((s) => listed([s.slot, ...s.alsoIn]));
  const lines: [string[], (list: string) => string][] = [
    [stored, sentences.storedHere],
    [missing, sentences.notStored],
    [with_('away').map(String), sentences.storedAway],
    [with_('disabled').map(String), sentences.disabledSlots],
    [twice, sentences.storedTwice],
    [with_('unclear').map(String), sentences.unclearSlots],
    [with_(proven ? 'provenEmpty' : 'empty').map(String), proven ? sentences.provenEmpty : sentences.emptyOnce],
  ];
  const said = lines.flatMap(([items, say]) => (items.length > 0 ? [say(items.join(', '))] : []));
  return [proven ? sentences.readTwice : sentences.readOnce, ...said].join(' ');
}

const listed = (slots: readonly number[]): string => slots.join(' + ');

/** What was done to a slot: a key into an empty one, over a used one, or a lost key disabled, the last two with the reason that was written. */
export type SlotAct = { slot: number; how: 'new' } | { slot: number; how: 'over' | 'disabled'; reason: string };

export const writtenWords = (done: SlotAct): string =>
  done.how === 'new'
    ? sentences.writtenNew(done.slot)
    : done.how === 'over'
      ? sentences.writtenOver(done.slot, done.reason)
      : sentences.slotDisabled(done.slot, done.reason);
