import { failed, ok, type Problem, type Result } from '../units';
import { calculateChecksum } from './checksum';
import { fieldBytes, hexText, masked } from './fieldText';
import type { MemoryImage } from './image';
import { type Layout, placeOfSlot, slotNumbers } from './layout';
import { sentences } from './sentences';
import { memoryOf, slotBytes, stateOf } from './slots';

/** One changed stretch of a new file, for a look before it is written. */
export interface ByteChange {
  /** Bytes from the beginning of the memory. */
  at: number;
  before: string;
  after: string;
  /** What stands there, in words. */
  what: string;
}

export interface SlotWritten {
  image: MemoryImage;
  /** In order of their places; the bytes of a secret are masked. */
  changes: ByteChange[];
}

/**
 * A new image in which one slot holds what was asked for; the one that was read stays as it is. An empty slot gets every field, its state `used` where
 * none is given and what has no field stays empty; of a slot that isn't empty only the fields given change. Checksums and copies follow.
 * @param values fields by their ids, as a person writes them
 * @param over a slot that isn't empty in every byte may be written: a person gave a reason
 */
export function writeSlot(image: MemoryImage, layout: Layout, slot: number, values: Record<string, string>, over = false): Result<SlotWritten> {
  const memory = memoryOf(image, layout);
  if (!memory.ok) return memory;
  const numbers = slotNumbers(layout);
  if (!numbers.includes(slot))
    return failed({ code: 'slot', path: 'slot', message: sentences.slotRange(slot, numbers[0]!, numbers.at(-1)!, layout.title) });
  const state = stateOf(slotBytes(memory.value, layout, slot), layout);
  if (state !== 'empty' && !over) return failed({ code: 'notEmpty', path: 'slot', message: sentences.slotNotEmpty(slot) });
  const filled = fill(layout, values, state === 'empty');
  if (!filled.ok) return filled;
  const next = memory.value.slice();
  const place = placeOfSlot(layout, slot);
  for (const { at, bytes } of filled.value) next.set(bytes, place + at);
  for (const checksum of layout.checksums) if (checksum.each) next.set(calculateChecksum(next, checksum, place, layout.order), place + checksum.at);
  for (const { from, at, bytes } of layout.mirrors) next.copyWithin(at, from, from + bytes);
  for (const checksum of layout.checksums) if (!checksum.each) next.set(calculateChecksum(next, checksum, 0, layout.order), checksum.at);
  return ok({ image: put(image, layout, next), changes: changesOf(memory.value, next, layout) });
}

/** The bytes of the fields, where in the slot they go. */
function fill(layout: Layout, values: Record<string, string>, fresh: boolean): Result<{ at: number; bytes: Uint8Array }[]> {
  const problems: Problem[] = Object.keys(values)
    .filter((id) => !layout.fields.some((f) => f.id === id))
    .map((id) => ({ code: 'field', path: id, message: sentences.noField(id, layout.fields.map((f) => f.id).join(', ')) }));
  const filled = layout.fields.flatMap((field) => {
    const given = Object.hasOwn(values, field.id) ? values[field.id]! : fresh ? missing(field.kind) : undefined;
    if (given === undefined) {
      if (fresh && field.kind === 'identity') problems.push({ code: 'field', path: field.id, message: sentences.identityAsked(field.title) });
      return [];
    }
    const bytes = fieldBytes(field, given, layout.order);
    if (bytes.ok) return [{ at: field.at, bytes: bytes.value }];
    problems.push(...bytes.problems);
    return [];
  });
  return problems.length > 0 ? failed(...problems) : ok(filled);
}

/** What a field of a new key holds when nobody said. */
const missing = (kind: Layout['fields'][number]['kind']) => (kind === 'state' ? 'used' : kind === 'counter' ? '0' : undefined);

/** The image with the memory of the layout exchanged; what lies beyond it stays. */
function put({ segments }: MemoryImage, { base }: Layout, memory: Uint8Array): MemoryImage {
  return {
    segments: segments.map(({ at, bytes }) => {
      if (at > base || at + bytes.length < base + memory.length) return { at, bytes };
      const copy = bytes.slice();
      copy.set(memory, base - at);
      return { at, bytes: copy };
    }),
  };
}

/** A part of the memory with a name that nothing else has, so that each changed byte is told once. */
interface Part {
  at: number;
  bytes: number;
  what: string;
  secret?: boolean;
}

function partsOf(layout: Layout): Part[] {
  const hides = layout.fields.some((f) => f.kind === 'secret');
  return [
    ...slotNumbers(layout).flatMap((slot): Part[] => {
      const from = placeOfSlot(layout, slot);
      const named = [...layout.fields, ...layout.checksums.filter((c) => c.each)];
      return named.map((f) => ({ at: from + f.at, bytes: f.bytes, what: sentences.inSlot(slot, f.title), secret: f.kind === 'secret' }));
    }),
    ...layout.mirrors.map((m): Part => ({ at: m.at, bytes: m.bytes, what: m.title, secret: hides })),
    ...layout.checksums.filter((c) => !c.each).map((c): Part => ({ at: c.at, bytes: c.bytes, what: c.title })),
  ];
}

function changesOf(before: Uint8Array, after: Uint8Array, layout: Layout): ByteChange[] {
  return partsOf(layout)
    .flatMap(({ at, bytes, what, secret }) => {
      const runs: ByteChange[] = [];
      for (let i = at; i < at + bytes; i += 1) {
        if (before[i] === after[i]) continue;
        let to = i;
        while (to < at + bytes && before[to] !== after[to]) to += 1;
        const said = (memory: Uint8Array) => (secret ? masked : hexText(memory.subarray(i, to)));
        runs.push({ at: i, before: said(before), after: said(after), what });
        i = to;
      }
      return runs;
    })
    .toSorted((a, b) => a.at - b.at);
}
