import { lookAtReads, type MemoryImage, readSlots, sampleMemory, simulatedRead, simulatedWrite, slotNumbers, writeSlot } from './index';
import { imageOf, mirrored, plain, plainMemory, used } from './layouts.testing';

const box = imageOf(plainMemory({ 1: used([1, 2, 3, 4]), 2: used([5, 6, 7, 8]) }));
const copy = (image: MemoryImage): MemoryImage => simulatedRead(image, 'clean', 1);
const withKey = (image: MemoryImage, slot: number): MemoryImage => {
  const written = writeSlot(image, plain, slot, { identity: '0A0B0C0D' });
  if (!written.ok) throw new Error(written.problems[0]!.message);
  return written.value.image;
};

describe('what can be said of the reads there are', () => {
  test('nothing yet; one read: its slots, and nothing is proven', () => {
    const nothing = { slots: null, compared: null, proven: false, nextSlot: null, diff: null, judged: null, lost: null, problems: [] };
    expect(lookAtReads({}, plain, null)).toEqual(nothing);
    expect(lookAtReads({ first: box }, plain, null)).toEqual({ ...nothing, slots: readSlots(box, plain) });
  });
  test('two equal reads: the first empty slot is the next one; two that differ: none is', () => {
    expect(lookAtReads({ first: box, second: copy(box) }, plain, null)).toMatchObject({ proven: true, nextSlot: 3, compared: { says: 'same' } });
    expect(lookAtReads({ first: box, second: simulatedRead(box, 'dirty', 3) }, plain, null)).toMatchObject({ proven: false, nextSlot: null });
    const full = imageOf(plainMemory(Object.fromEntries([1, 2, 3, 4, 5].map((n) => [n, used([n, 0, 0, n])]))));
    expect(lookAtReads({ first: full, second: full }, plain, null)).toMatchObject({ proven: true, nextSlot: null });
  });
  test('two equal reads of something else prove nothing', () => {
    const short = imageOf(new Uint8Array(10));
    expect(lookAtReads({ first: short, second: short, after: short }, plain, 1)).toMatchObject({
      proven: false,
      nextSlot: null,
      judged: null,
      problems: [{ code: 'notCovered' }],
    });
  });
  test('a read back: only that slot, and the slots are those of now', () => {
    const look = lookAtReads({ first: box, second: box, after: withKey(box, 3) }, plain, 3);
    expect(look.judged).toMatchObject({ fine: true });
    expect(look.slots!.slots[2]).toMatchObject({ state: 'used', keyId: '0A0B0C0D' });
    // The next slot is told of the reads before the write.
    expect(look.nextSlot).toBe(3);
  });
  test('an older file: what would be lost against the latest read', () => {
    expect(lookAtReads({ first: box, older: box, after: withKey(box, 4) }, plain, 4).lost).toEqual(['The key in slot 4 would be lost.']);
    expect(lookAtReads({ first: box, older: box }, plain, null).lost).toEqual([]);
  });
});

describe('the simulated reader', () => {
  test.each([plain, mirrored])('$title: its memory is sound, and the same from the same seed', (layout) => {
    const memory = sampleMemory(layout, 5);
    const found = readSlots(memory, layout);
    expect(found.problems).toEqual([]);
    const [one, two, three] = slotNumbers(layout);
    expect(found.slots.filter((s) => s.state !== 'empty').map((s) => [s.slot, s.state])).toEqual([
      [one, 'used'],
      [two, 'used'],
      [three, 'disabled'],
    ]);
    expect(readSlots(sampleMemory(layout, 5), layout).digest).toBe(found.digest);
    expect(readSlots(sampleMemory(layout, 6), layout).digest).not.toBe(found.digest);
  });
  test('each bad contact shows in the second read as what it is', () => {
    const memory = sampleMemory(mirrored, 8);
    const says = (contact: Parameters<typeof simulatedRead>[1]) =>
      lookAtReads({ first: copy(memory), second: simulatedRead(memory, contact, 4) }, mirrored, null).compared!.says;
    expect([says('clean'), says('dirty'), says('line'), says('moved')]).toEqual(['same', 'scattered', 'line', 'shift']);
    // Twice dirty is not twice the same.
    expect(readSlots(simulatedRead(memory, 'dirty', 4), mirrored).digest).not.toBe(readSlots(simulatedRead(memory, 'dirty', 5), mirrored).digest);
  });
  test('a write arrives whole, or is lost in the middle and shows as that', () => {
    const memory = sampleMemory(plain, 9);
    const wanted = withKey(memory, 5);
    const read = (after: MemoryImage) => lookAtReads({ first: memory, after }, plain, 5);
    expect(read(simulatedWrite(memory, wanted, false)).judged).toMatchObject({ fine: true });
    const half = simulatedWrite(memory, wanted, true);
    expect(readSlots(half, plain).digest).not.toBe(readSlots(wanted, plain).digest);
    expect(readSlots(half, plain).problems.map((p) => p.path)).toContain('slot 5');
    expect(read(half).judged).toMatchObject({
      fine: false,
      text: 'Slot 5 changed, but not to what it should be: written in part. Don’t reinstall it, and use no other slot.',
      unexpected: [expect.stringMatching(/^slot 5: The checksum is /)],
    });
    // Also where nobody said which slot it was to be: the one that changed is judged.
    expect(lookAtReads({ first: memory, after: half }, plain, null).judged).toMatchObject({
      fine: false,
      text: expect.stringContaining('Slot 5 changed, but not'),
    });
    expect(lookAtReads({ first: memory, after: wanted }, plain, null).judged).toMatchObject({ fine: true, text: 'Only slot 5 changed.' });
    // Also where no checksum would tell.
    const unchecked = { ...plain, checksums: [] };
    const blind = lookAtReads({ first: memory, after: half, wanted }, unchecked, 5).judged!;
    expect(blind).toMatchObject({ fine: false, unexpected: ['Slot 5 is not as in the file that was to be written.'] });
    expect(lookAtReads({ first: memory, after: wanted, wanted }, unchecked, 5).judged).toMatchObject({ fine: true });
    expect(readSlots(memory, plain).problems).toEqual([]);
  });
});
