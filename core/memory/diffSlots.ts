import { compareBytes } from '../copycheck';
import { ok, type Result } from '../units';
import { numberOfBytes, calculateChecksum } from './checksum';
import { fieldText, hexText, masked } from './fieldText';
import { byteCount, hex, type MemoryImage } from './image';
import { type Layout, type Region, regionsOf, slotNumbers } from './layout';
import { sentences } from './sentences';
import { checksumBytes, memoryDigest, memoryOf, slotBytes, stateOf } from './slots';

export interface SlotChange {
  slot: number;
  /** The id of a field or of the slot's checksum; `state` for its state; null for bytes that have no name in the layout. */
  field: string | null;
  before: string;
  after: string;
}

export interface OutsideChange {
  /** Bytes from the beginning of the memory, and how many of them. */
  at: number;
  bytes: number;
  is: Region['is'];
  title: string;
  before: string;
  after: string;
  /** Follows from a change in a slot: a checksum that fits, a copy that is equal, a counter that went up. */
  expected: boolean;
}

export interface MemoryDiff {
  changes: SlotChange[];
  outsideSlots: OutsideChange[];
}

/** Most bytes of a stretch that are written out. */
const mostShown = 16;
const shownBytes = (bytes: Uint8Array) => (bytes.length <= mostShown ? hexText(bytes) : `${hexText(bytes.subarray(0, mostShown))}…`);

/** What changed between two reads: in which slot and field, and what outside of the slots. @returns a problem where one of them isn't a whole memory */
export function diffMemory(before: MemoryImage, after: MemoryImage, layout: Layout): Result<MemoryDiff> {
  const [old, now] = [memoryOf(before, layout), memoryOf(after, layout)];
  if (!old.ok) return old;
  if (!now.ok) return now;
  const changes = slotNumbers(layout).flatMap((slot) => slotChanges(old.value, now.value, layout, slot));
  const outsideSlots = regionsOf(layout)
    .filter((r) => r.is !== 'slot')
    .flatMap((region) => outsideChanges(old.value, now.value, layout, region));
  return ok({ changes, outsideSlots: [...outsideSlots, ...beyond(before, after, layout)] });
}

/** What a file holds beyond the memory of the layout, told as one. */
function beyond(before: MemoryImage, after: MemoryImage, { base, bytes }: Layout): OutsideChange[] {
  const [old, now] = [before, after].map(({ segments }) => ({
    segments: segments
      .flatMap((s) => [
        { at: s.at, bytes: s.bytes.subarray(0, Math.max(0, base - s.at)) },
        { at: Math.max(s.at, base + bytes), bytes: s.bytes.subarray(Math.max(0, base + bytes - s.at)) },
      ])
      .filter((s) => s.bytes.length > 0),
  })) as [MemoryImage, MemoryImage];
  const [a, b] = [memoryDigest(old), memoryDigest(now)];
  if (a === b) return [];
  const said = (digest: string) => sentences.digest(digest.slice(0, 16));
  const most = Math.max(byteCount(old), byteCount(now));
  return [{ at: bytes, bytes: most, is: 'unnamed', title: sentences.beyondLayout, before: said(a), after: said(b), expected: false }];
}

function slotChanges(old: Uint8Array, now: Uint8Array, layout: Layout, slot: number): SlotChange[] {
  const [a, b] = [slotBytes(old, layout, slot), slotBytes(now, layout, slot)];
  if (a.every((byte, i) => byte === b[i])) return [];
  const changes: SlotChange[] = [];
  const named = new Uint8Array(a.length);
  const states = [stateOf(a, layout), stateOf(b, layout)] as const;
  if (states[0] !== states[1]) changes.push({ slot, field: 'state', before: states[0], after: states[1] });
  for (const field of layout.fields) {
    const [x, y] = [a, b].map((bytes) => bytes.subarray(field.at, field.at + field.bytes)) as [Uint8Array, Uint8Array];
    named.fill(1, field.at, field.at + field.bytes);
    if (hexText(x) === hexText(y) || (field.kind === 'state' && states[0] !== states[1])) continue;
    const said = (bytes: Uint8Array, empty: boolean) => (empty ? sentences.emptyField : fieldText(field, bytes, layout.order));
    changes.push({ slot, field: field.id, before: said(x, states[0] === 'empty'), after: said(y, states[1] === 'empty') });
  }
  for (const { id, at, bytes, each } of layout.checksums) {
    if (!each) continue;
    const [x, y] = [a, b].map((all) => hexText(all.subarray(at, at + bytes))) as [string, string];
    named.fill(1, at, at + bytes);
    if (x !== y) changes.push({ slot, field: id, before: x, after: y });
  }
  const rest = [a, b].map((bytes) => bytes.filter((_, i) => named[i] === 0)) as [Uint8Array, Uint8Array];
  const hides = layout.fields.some((f) => f.kind === 'secret');
  const said = (bytes: Uint8Array) => (hides ? masked : shownBytes(bytes));
  if (hexText(rest[0]) !== hexText(rest[1])) changes.push({ slot, field: null, before: said(rest[0]), after: said(rest[1]) });
  return changes;
}

function outsideChanges(old: Uint8Array, now: Uint8Array, layout: Layout, region: Region): OutsideChange[] {
  const part = (memory: Uint8Array, at: number, bytes: number) => memory.subarray(at, at + bytes);
  const whole = [part(old, region.at, region.bytes), part(now, region.at, region.bytes)] as const;
  const { differing, ranges, more } = compareBytes(...whole);
  if (differing === 0) return [];
  const { is, title } = region;
  const expected = isExpected(old, now, layout, region);
  // A copy of slots may hold their secrets.
  const hides = is === 'secret' || (is === 'mirror' && layout.fields.some((f) => f.kind === 'secret'));
  const said = (bytes: Uint8Array) => (hides ? masked : shownBytes(bytes));
  const change = (at: number, bytes: number): OutsideChange => {
    return { at, bytes, is, title, before: said(part(old, at, bytes)), after: said(part(now, at, bytes)), expected };
  };
  // What has a name is told once; what has none, stretch by stretch, and the rest in one where there are too many.
  if (is !== 'unnamed') return [change(region.at, region.bytes)];
  const told = ranges.map((r) => change(region.at + r.at, r.length));
  if (!more) return told;
  const last = ranges.at(-1)!;
  const from = region.at + last.at + last.length;
  return [...told, change(from, region.at + region.bytes - from)];
}

function isExpected(old: Uint8Array, now: Uint8Array, layout: Layout, region: Region): boolean {
  switch (region.is) {
    case 'checksum': {
      const checksum = layout.checksums.find((c) => c.id === region.id)!;
      return hexText(checksumBytes(now, checksum, 0)) === hexText(calculateChecksum(now, checksum, 0, layout.order));
    }
    case 'mirror': {
      const { from, at, bytes } = layout.mirrors.find((m) => m.id === region.id)!;
      return compareBytes(now.subarray(from, from + bytes), now.subarray(at, at + bytes)).differing === 0;
    }
    case 'counter': {
      const [a, b] = [old, now].map((m) => [...m.subarray(region.at, region.at + region.bytes)]) as [number[], number[]];
      const ordered = (bytes: number[]) => (layout.order === 'high' ? bytes : bytes.reverse());
      return compareNumbers(ordered(b), ordered(a)) > 0;
    }
    default:
      return false;
  }
}

function compareNumbers(a: readonly number[], b: readonly number[]): number {
  const at = a.findIndex((x, i) => x !== b[i]);
  return at < 0 ? 0 : a[at]! - b[at]!;
}

/** Whether a write did what it should: one slot, and what follows from it. */
export interface WriteJudged {
  fine: boolean;
  /** In words. */
  text: string;
  /** What else changed, a line each. */
  unexpected: string[];
}

/**
 * @param slot the one that was to be written
 * @param faults what is wrong with the memory after the write and was not before, in sentences
 */
export function judgeWrite({ changes, outsideSlots }: MemoryDiff, slot: number, faults: readonly string[] = []): WriteJudged {
  const others = [...new Set(changes.map((c) => c.slot))].filter((s) => s !== slot).map((s) => sentences.slotChanged(s));
  const outside = outsideSlots.filter((o) => !o.expected).map((o) => sentences.outsideChanged(o.title, hex(o.at, 4), o.bytes));
  const unexpected = [...others, ...outside, ...faults];
  if (!changes.some((c) => c.slot === slot)) return { fine: false, text: sentences.notWritten(slot), unexpected };
  if (faults.length > 0 && faults.length === unexpected.length) return { fine: false, text: sentences.halfWritten(slot), unexpected };
  return unexpected.length > 0
    ? { fine: false, text: sentences.moreWritten(slot), unexpected }
    : { fine: true, text: (outsideSlots.length === 0 ? sentences.onlyWritten : sentences.restFollows)(slot), unexpected };
}

/** What would be lost if an older read were written over the memory as it is now, a line each: keys that it doesn't have, counters that went on. */
export function lostByRestoring(now: MemoryImage, older: MemoryImage, layout: Layout): Result<string[]> {
  const [is, was] = [memoryOf(now, layout), memoryOf(older, layout)];
  if (!is.ok) return is;
  if (!was.ok) return was;
  const slots = slotNumbers(layout).flatMap((slot) => {
    const [a, b] = [slotBytes(is.value, layout, slot), slotBytes(was.value, layout, slot)];
    if (hexText(a) === hexText(b)) return [];
    const [stateNow, stateThen] = [stateOf(a, layout), stateOf(b, layout)];
    if (stateNow === 'empty') return [sentences.comesBack(slot)];
    return [stateThen === 'empty' ? sentences.slotLost(slot) : sentences.slotSetBack(slot)];
  });
  const counters = layout.areas.flatMap(({ kind, at, bytes, title }) => {
    if (kind !== 'counter') return [];
    const [a, b] = [is.value, was.value].map((m) => [...m.subarray(at, at + bytes)]) as [number[], number[]];
    return a.join() === b.join() ? [] : [sentences.counterSetBack(title, ...([a, b].map((x) => counterText(x, layout)) as [string, string]))];
  });
  return ok([...slots, ...counters]);
}

const counterText = (bytes: number[], { order }: Layout) =>
  bytes.length <= 6 ? String(numberOfBytes(Uint8Array.from(bytes), order)) : hexText(Uint8Array.from(bytes));
