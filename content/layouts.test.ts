import { type MemoryImage, readSlots, regionsOf, slotNumbers, writeSlot } from '../core/memory';
import { shippedContent } from './shipped.testing';

const { library } = shippedContent();

test('the shipped layouts: one plain, one kept twice, one with a checksum over all', () => {
  expect([...library.layouts.keys()].sort()).toEqual(['dunmore-five', 'dunmore-mirrored', 'veskar-whole']);
  expect(library.layouts.get('dunmore-mirrored')!.mirrors).toHaveLength(1);
  const [all] = library.layouts.get('veskar-whole')!.checksums;
  // Over every byte but its own.
  expect(all!.over).toEqual({ at: 0, bytes: library.layouts.get('veskar-whole')!.bytes - all!.bytes });
});

test.each([...library.layouts.values()])('$id: every byte has its place; each slot is written once and reads back', (layout) => {
  expect(regionsOf(layout).reduce((n, r) => n + r.bytes, 0)).toBe(layout.bytes);
  const identity = layout.fields.find((f) => f.kind === 'identity')!;
  let image: MemoryImage = { segments: [{ at: layout.base, bytes: new Uint8Array(layout.bytes).fill(layout.empty) }] };
  for (const slot of slotNumbers(layout)) {
    const id = String(slot).padStart(2 * identity.bytes, 'A0B1C2D3');
    const written = writeSlot(image, layout, slot, { identity: id });
    if (!written.ok) throw new Error(written.problems[0]!.message);
    image = written.value.image;
    expect(readSlots(image, layout)).toMatchObject({ problems: [] });
    expect(readSlots(image, layout).slots.find((s) => s.slot === slot)).toMatchObject({ state: 'used', keyId: id });
  }
});
