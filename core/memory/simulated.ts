import { generator } from '../units';
import { calculateChecksum } from './checksum';
import type { MemoryImage } from './image';
import { type Layout, slotNumbers } from './layout';
import { writeSlot } from './writeSlot';

/** What is wrong with a simulated reader's contacts: nothing; dirt; one data line without contact; the memory set in a few places too far. */
export type Contact = 'clean' | 'dirty' | 'line' | 'moved';

/** A memory of this layout that nobody owns: two keys that are used, one that is disabled where the layout knows that, and the rest empty. */
export function sampleMemory(layout: Layout, seed: number): MemoryImage {
  const draw = generator(seed);
  const byte = () => Math.floor(draw() * 256);
  const memory = new Uint8Array(layout.bytes).fill(layout.empty);
  for (const { at, bytes, kind } of layout.areas) {
    for (let i = at; i < at + bytes; i += 1) memory[i] = kind === 'counter' ? 0 : byte();
    if (kind === 'counter') memory[layout.order === 'high' ? at + bytes - 1 : at] = 1 + Math.floor(draw() * 200);
  }
  for (const checksum of layout.checksums) if (!checksum.each) memory.set(calculateChecksum(memory, checksum, 0, layout.order), checksum.at);
  let image: MemoryImage = { segments: [{ at: layout.base, bytes: memory }] };
  const [one, two, three] = slotNumbers(layout);
  const knowsDisabled = layout.fields.some((f) => f.values?.disabled !== undefined);
  for (const [slot, state] of [[one, 'used'], [two, 'used'], ...(knowsDisabled ? [[three, 'disabled'] as const] : [])] as const) {
    if (slot === undefined) continue;
    const values = layout.fields.map((f): [string, string] => {
      if (f.kind === 'state') return [f.id, state];
      if (f.values) return [f.id, Object.keys(f.values)[slot === one ? 0 : Math.min(1, Object.keys(f.values).length - 1)]!];
      if (f.kind === 'counter') return [f.id, String(Math.floor(draw() * 200))];
      return [f.id, Array.from({ length: f.bytes }, () => byte().toString(16).padStart(2, '0')).join('')];
    });
    const written = writeSlot(image, layout, slot, Object.fromEntries(values));
    if (written.ok) image = written.value.image;
  }
  return image;
}

/** Places by which a memory that was set in wrong is read too far. */
const tooFar = 3;

/** A read of a simulated memory; dirt falls somewhere else each time. */
export function simulatedRead({ segments }: MemoryImage, contact: Contact, seed: number): MemoryImage {
  const draw = generator(seed);
  return {
    segments: segments.map(({ at, bytes }) => {
      const read = bytes.slice();
      if (contact === 'line') for (let i = 0; i < read.length; i += 1) read[i]! &= ~(1 << 4);
      if (contact === 'moved') for (let i = 0; i < read.length; i += 1) read[i] = bytes[(i + tooFar) % bytes.length]!;
      if (contact === 'dirty')
        // From one byte in two hundred on, and always a few.
        for (let n = 4 + Math.floor(read.length / 200); n > 0; n -= 1) read[Math.floor(draw() * read.length)]! ^= 1 << Math.floor(draw() * 8);
      return { at, bytes: read };
    }),
  };
}

/**
 * What a simulated memory holds after a write of `to` over `from`.
 * @param lost the supply is lost in the middle: what comes after that place stays as it was, and the byte there is neither the one nor the other
 */
export function simulatedWrite(from: MemoryImage, to: MemoryImage, lost: boolean): MemoryImage {
  if (!lost) return { segments: to.segments.map(({ at, bytes }) => ({ at, bytes: bytes.slice() })) };
  const changed = to.segments.flatMap(({ bytes }, s) =>
    [...bytes.keys()].filter((i) => bytes[i] !== from.segments[s]?.bytes[i]).map((i) => [s, i] as const),
  );
  const [segment, place] = changed[Math.floor(changed.length / 2)] ?? [0, 0];
  return {
    segments: to.segments.map(({ at, bytes }, s) => {
      const mixed = (from.segments[s]?.bytes ?? bytes).slice();
      mixed.set(s < segment ? bytes : s === segment ? bytes.subarray(0, place) : bytes.subarray(0, 0));
      if (s === segment && changed.length > 0) mixed[place] = ~(mixed[place]! ^ bytes[place]!) & 0xff;
      return { at, bytes: mixed };
    }),
  };
}
