import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';
import { compareBytes } from '../copycheck';
import { failed, ok, type Problem, type Result } from '../units';
import { bytesOfNumber, numberOfBytes, calculateChecksum } from './checksum';
import { fieldText, hexText, nameOf } from './fieldText';
import { byteCount, hex, type MemoryImage } from './image';
import { type Layout, type LayoutChecksum, placeOfSlot, slotNumbers, type WrittenState } from './layout';
import { sentences } from './sentences';

/** `unclear`: its state has no name, or it says empty and there are bytes in it. Only a slot that is empty in every byte is `empty`. */
export type SlotState = WrittenState | 'unclear';

export interface Slot {
  slot: number;
  state: SlotState;
  /** The identity of its key, hexadecimal; null where the layout has none, or the slot is empty. */
  keyId: string | null;
  /** What its fields say, by their ids; secrets are masked. Nothing for an empty slot. */
  fields: Record<string, string>;
}

export interface SlotsRead {
  /** SHA-256 of the memory, hexadecimal. */
  digest: string;
  /** Bytes of the file. */
  bytes: number;
  slots: Slot[];
  problems: Problem[];
}

/** SHA-256 of what an image holds: of its bytes where they are one stretch; otherwise each stretch has its address and length, four bytes each, before it. */
export function memoryDigest({ segments }: MemoryImage): string {
  if (segments.length === 1) return bytesToHex(sha256(segments[0]!.bytes));
  const hash = sha256.create();
  for (const { at, bytes } of segments)
    hash
      .update(bytesOfNumber(at, 4, 'high'))
      .update(bytesOfNumber(bytes.length, 4, 'high'))
      .update(bytes);
  return bytesToHex(hash.digest());
}

/** The memory of a layout out of an image, which may hold more. @returns a problem where a byte of it is missing */
export function memoryOf({ segments }: MemoryImage, { base, bytes, title }: Layout): Result<Uint8Array> {
  const whole = segments.find((s) => s.at <= base && s.at + s.bytes.length >= base + bytes);
  if (whole) return ok(whole.bytes.subarray(base - whole.at, base - whole.at + bytes));
  const touching = segments.filter((s) => s.at < base + bytes && s.at + s.bytes.length > base);
  let missing = base;
  for (const { at, bytes: there } of touching) {
    if (at > missing) break;
    missing = at + there.length;
  }
  return failed({ code: 'notCovered', path: '', message: sentences.notCovered(hex(missing, 4), title, bytes) });
}

/** The slots of a memory, and what in it doesn't fit together. A file that doesn't hold the whole memory of the layout has no slots, only the problem. */
export function readSlots(image: MemoryImage, layout: Layout): SlotsRead {
  const bytes = byteCount(image);
  const found = { digest: memoryDigest(image), bytes };
  const memory = memoryOf(image, layout);
  if (!memory.ok) return { ...found, slots: [], problems: memory.problems };
  const problems: Problem[] = [];
  if (bytes > layout.bytes)
    problems.push({ code: 'more', path: '', message: sentences.moreThanLayout(bytes - layout.bytes, layout.title, layout.bytes) });
  const slots = slotNumbers(layout).map((slot) => readSlot(memory.value, layout, slot, problems));
  problems.push(...keysTwice(slots), ...mirrorProblems(memory.value, layout), ...checksumProblems(memory.value, layout));
  return { ...found, slots, problems };
}

const inSlot = (slot: number) => sentences.slot(slot);

function readSlot(memory: Uint8Array, layout: Layout, slot: number, problems: Problem[]): Slot {
  const bytes = slotBytes(memory, layout, slot);
  const state = stateOf(bytes, layout);
  if (state === 'empty') return { slot, state, keyId: null, fields: {} };
  const add = (code: string, message: string) => problems.push({ code, path: inSlot(slot), message });
  const written = layout.fields.find((f) => f.kind === 'state');
  if (state === 'unclear' && written) {
    const own = bytes.subarray(written.at, written.at + written.bytes);
    const name = nameOf(written, numberOfBytes(own, layout.order));
    if (name === undefined) add('state', sentences.stateUnknown(hexText(own), Object.keys(written.values!).join(', ')));
    else add('notEmpty', sentences.notEmpty(bytes.reduce((n, b) => n + (b === layout.empty ? 0 : 1), 0)));
  }
  const fields = Object.fromEntries(layout.fields.map((f) => [f.id, fieldText(f, bytes.subarray(f.at, f.at + f.bytes), layout.order)]));
  const identity = layout.fields.find((f) => f.kind === 'identity');
  if (!identity) return { slot, state, keyId: null, fields };
  const own = bytes.subarray(identity.at, identity.at + identity.bytes);
  if (state === 'used' && own.every((b) => b === layout.empty)) add('noKey', sentences.noKey);
  return { slot, state, keyId: hexText(own), fields };
}

export const slotBytes = (memory: Uint8Array, layout: Layout, slot: number): Uint8Array => {
  const at = placeOfSlot(layout, slot);
  return memory.subarray(at, at + layout.slots.bytes);
};

export function stateOf(bytes: Uint8Array, { fields, empty, order }: Layout): SlotState {
  if (bytes.every((b) => b === empty)) return 'empty';
  const written = fields.find((f) => f.kind === 'state');
  if (!written) return 'used';
  const name = nameOf(written, numberOfBytes(bytes.subarray(written.at, written.at + written.bytes), order));
  return name === 'used' || name === 'disabled' ? name : 'unclear';
}

/** A key that stands in two slots: written twice, or two keys that were made alike. */
function keysTwice(slots: readonly Slot[]): Problem[] {
  const first = new Map<string, number>();
  return slots.flatMap(({ slot, state, keyId }) => {
    if (state !== 'used' || keyId === null) return [];
    const before = first.get(keyId);
    if (before !== undefined) return [{ code: 'twice', path: inSlot(slot), message: sentences.keyTwice(keyId, before) }];
    first.set(keyId, slot);
    return [];
  });
}

function mirrorProblems(memory: Uint8Array, { mirrors }: Layout): Problem[] {
  return mirrors.flatMap(({ title, from, at, bytes }) => {
    const { differing, ranges } = compareBytes(memory.subarray(from, from + bytes), memory.subarray(at, at + bytes));
    return differing === 0 ? [] : [{ code: 'mirror', path: title, message: sentences.mirrorDiffers(differing, hex(at + ranges[0]!.at, 4)) }];
  });
}

/** Checksums that don't fit what they stand for. Those of slots count where the slot isn't empty. */
function checksumProblems(memory: Uint8Array, layout: Layout): Problem[] {
  return layout.checksums.flatMap((checksum) => {
    if (!checksum.each) return checksumProblem(memory, checksum, 0, layout, checksum.title);
    return slotNumbers(layout).flatMap((slot) =>
      stateOf(slotBytes(memory, layout, slot), layout) === 'empty'
        ? []
        : checksumProblem(memory, checksum, placeOfSlot(layout, slot), layout, inSlot(slot)),
    );
  });
}

function checksumProblem(memory: Uint8Array, checksum: LayoutChecksum, from: number, layout: Layout, path: string): Problem[] {
  const [is, fits] = [checksumBytes(memory, checksum, from), calculateChecksum(memory, checksum, from, layout.order)].map(hexText) as [
    string,
    string,
  ];
  return is === fits ? [] : [{ code: 'checksum', path, message: sentences.checksumWrong(is, fits) }];
}

export const checksumBytes = (memory: Uint8Array, { at, bytes }: LayoutChecksum, from: number): Uint8Array =>
  memory.subarray(from + at, from + at + bytes);
