import { createHash } from 'node:crypto';
import { generator } from '../units';
import { calculateChecksum } from './checksum';
import { type MemoryDiff } from './diffSlots';
import { diffMemory, judgeWrite, type Layout, lostByRestoring, memoryDigest, readSlots, regionsOf, writeSlot } from './index';
import { imageOf, mirrored, plain, plainMemory, used } from './layouts.testing';
import { parseLayout } from './schema';
import { often } from '../../content/often.testing';

const value = <T>(result: { ok: true; value: T } | { ok: false; problems: { message: string }[] }): T => {
  if (!result.ok) throw new Error(result.problems.map((p) => p.message).join(' '));
  return result.value;
};
const said = (result: { ok: boolean; problems?: readonly { path: string; message: string }[] }) =>
  result.problems?.map((p) => [p.path, p.message].filter(Boolean).join(': ')) ?? [];
const [a, b, c] = [
  [0x4b, 0x10, 0x22, 0x01],
  [0x4b, 0x10, 0x22, 0x02],
  [0x7c, 0x01, 0x00, 0x9e],
] as const;
const two = () => plainMemory({ 1: used(a, 1, 70_000), 3: used(b, 2) });
/** A memory of the mirrored box with nothing in it. */
const blank = () => {
  const memory = new Uint8Array(1024);
  memory.set(calculateChecksum(memory, mirrored.checksums[1]!, 0, 'low'), 0x3fe);
  return imageOf(memory, 0x8000);
};
const newKey = { identity: 'A1B2C3D4E5F6', secret: '0011223344556677' };

describe('checksums', () => {
  const over = { id: 'x', title: 'x', at: 9, over: { at: 0, bytes: 9 } };
  const nine = new Uint8Array(11);
  nine.set([...'123456789'].map((d) => d.charCodeAt(0)));
  test.each([
    // The check value that the catalogs of CRCs give for these parameters.
    ['crc16', 2, 'high', false, [0x29, 0xb1]],
    ['crc16', 2, 'low', false, [0xb1, 0x29]],
    // 49 to 57 added up: 477.
    ['sum', 2, 'high', false, [0x01, 0xdd]],
    ['sum', 1, 'high', false, [0xdd]],
    ['sum', 1, 'high', true, [0x22]],
    // 1^2^...^9 of the digits and nine times 30 (hexadecimal): 1 ^ 30.
    ['xor', 1, 'high', false, [0x31]],
  ] as const)('%s of %i bytes, %s byte first, inverted %s', (kind, bytes, order, inverted, expected) => {
    expect([...calculateChecksum(nine, { ...over, kind, bytes, inverted }, 0, order)]).toEqual(expected);
  });
  test('its own bytes are left out of what it is over', () => {
    const whole = { ...over, kind: 'sum', bytes: 2, over: { at: 0, bytes: 11 } } as const;
    const before = calculateChecksum(nine, whole, 0, 'high');
    nine.set(before, 9);
    expect([...calculateChecksum(nine, whole, 0, 'high')]).toEqual([...before]);
    nine.set([0, 0], 9);
  });
});

describe('reading slots', () => {
  test('used, empty and disabled slots with what their fields say', () => {
    const memory = plainMemory({ 1: used(a, 1, 70_000), 3: used(b, 2), 4: [0x0d, ...used(c).slice(1)] });
    const found = readSlots(imageOf(memory), plain);
    expect(found.problems).toEqual([]);
    expect(found.slots).toEqual([
      { slot: 1, state: 'used', keyId: '4B102201', fields: { state: 'used', identity: '4B102201', role: 'main', count: '70000' } },
      { slot: 2, state: 'empty', keyId: null, fields: {} },
      { slot: 3, state: 'used', keyId: '4B102202', fields: { state: 'used', identity: '4B102202', role: 'valet', count: '0' } },
      { slot: 4, state: 'disabled', keyId: '7C01009E', fields: { state: 'disabled', identity: '7C01009E', role: 'main', count: '0' } },
      { slot: 5, state: 'empty', keyId: null, fields: {} },
    ]);
    expect([found.bytes, found.digest]).toEqual([256, createHash('sha256').update(memory).digest('hex')]);
  });

  test('a slot is proven empty in every byte, not by its state', () => {
    const memory = two();
    memory[0x20 + 16 + 7] = 0x12;
    const found = readSlots(imageOf(memory), plain);
    expect(found.slots[1]!.state).toBe('unclear');
    expect(said({ ok: true, problems: found.problems })).toEqual([
      'slot 2: Its state says empty, but 1 byte of it is not. It is not proven empty: leave it alone.',
      'slot 2: The checksum is FF; 12 would fit. A bad read, or another layout: read again.',
    ]);
  });

  test('a state that has no name, a key without identity, a key in two slots, a wrong checksum', () => {
    const memory = plainMemory({ 1: used(a), 2: used([0xff, 0xff, 0xff, 0xff]), 3: used(a), 4: [0x77, 1, 2, 3] });
    memory[0x20 + 15]! ^= 0x40;
    const found = readSlots(imageOf(memory), plain);
    expect(found.slots.map((s) => s.state)).toEqual(['used', 'used', 'used', 'unclear', 'empty']);
    expect(said({ ok: true, problems: found.problems })).toEqual([
      'slot 2: Its state says used, but its key has no identity. Read the memory again.',
      'slot 4: Its state is 77, which the layout does not know (used, empty, disabled). Leave this slot alone.',
      'slot 3: Key 4B102201 is also in slot 1: written twice. One of the two can be freed.',
      expect.stringMatching(/^slot 1: The checksum is [0-9A-F]{2}; [0-9A-F]{2} would fit\. A bad read, or another layout: read again\.$/),
    ]);
  });

  test('a file that is too short has no slots; one that is longer says so', () => {
    const short = readSlots(imageOf(two().subarray(0, 200)), plain);
    expect(short.slots).toEqual([]);
    expect(said({ ok: true, problems: short.problems })).toEqual([
      'The byte at 00C8 is not in the file; the layout “Plain box” takes 256 bytes. Choose the file of the whole memory, or its layout.',
    ]);
    const gap = {
      segments: [
        { at: 0, bytes: new Uint8Array(64) },
        { at: 80, bytes: new Uint8Array(400) },
      ],
    };
    expect(said({ ok: true, problems: readSlots(gap, plain).problems })[0]).toMatch(/^The byte at 0040 is not in the file/);
    const longer = readSlots(imageOf(Uint8Array.from([...two(), 1, 2, 3])), plain);
    expect(longer.slots).toHaveLength(5);
    expect(said({ ok: true, problems: longer.problems })).toEqual([
      'The file holds 3 bytes more than the 256 of the layout “Plain box”. Is it the layout of this memory?',
    ]);
  });

  test('a copy that differs, and a secret that is never told', () => {
    const image = value(writeSlot(blank(), mirrored, 2, newKey)).image;
    expect(readSlots(image, mirrored).problems).toEqual([]);
    expect(JSON.stringify(readSlots(image, mirrored))).not.toContain('0011223344556677');
    expect(readSlots(image, mirrored).slots[2]!.fields).toMatchObject({ secret: '••••', identity: 'A1B2C3D4E5F6', count: '0' });
    image.segments[0]!.bytes[0x210]! ^= 1;
    expect(said({ ok: true, problems: readSlots(image, mirrored).problems })).toEqual([
      'Copy: 1 byte differs from what is copied, the first one at 0210. Read the memory again.',
      expect.stringMatching(/^Check over all: The checksum is /),
    ]);
  });

  test('the digest is that of the bytes, and tells gaps apart', () => {
    const bytes = Uint8Array.from([1, 2, 3, 4]);
    expect(memoryDigest(imageOf(bytes))).toBe(createHash('sha256').update(bytes).digest('hex'));
    const parted = (at: number) => ({
      segments: [
        { at: 0, bytes: bytes.subarray(0, 2) },
        { at, bytes: bytes.subarray(2) },
      ],
    });
    expect(new Set([memoryDigest(parted(8)), memoryDigest(parted(9)), memoryDigest(imageOf(bytes))]).size).toBe(3);
  });
});

describe('writing a slot', () => {
  test('into an empty one: fields, check and nothing else; what was read stays as it was', () => {
    const before = two();
    const kept = before.slice();
    const { image, changes } = value(writeSlot(imageOf(before), plain, 2, { identity: '7c 01 00 9e', role: 'valet' }));
    expect([...before]).toEqual([...kept]);
    // Written out by hand: state, identity, role, two bytes empty, presses, four empty, check.
    const slot = [0x5a, 0x7c, 0x01, 0x00, 0x9e, 0x02, 0xff, 0xff, 0, 0, 0, 0xff, 0xff, 0xff, 0xff];
    const expected = kept.slice();
    expected.set([...slot, slot.reduce((x, y) => x ^ y, 0)], 0x30);
    expect([...image.segments[0]!.bytes]).toEqual([...expected]);
    expect(changes.map((c) => [c.at, c.before, c.after, c.what])).toEqual([
      [0x30, 'FF', '5A', 'Slot 2, State'],
      [0x31, 'FFFFFFFF', '7C01009E', 'Slot 2, Identity'],
      [0x35, 'FF', '02', 'Slot 2, Role'],
      [0x38, 'FFFFFF', '000000', 'Slot 2, Presses'],
      [0x3f, 'FF', expect.any(String), 'Slot 2, Check'],
    ]);
  });

  test('checksums and copies follow; a secret is masked in what changes', () => {
    const { image, changes } = value(writeSlot(blank(), mirrored, 0, newKey));
    expect(image.segments[0]!.at).toBe(0x8000);
    const { bytes } = image.segments[0]!;
    expect([...bytes.subarray(0x100, 0x1c0)]).toEqual([...bytes.subarray(0x200, 0x2c0)]);
    expect(readSlots(image, mirrored).problems).toEqual([]);
    expect(changes.filter((x) => x.what.endsWith('Secret') || x.what === 'Copy').every((x) => x.after === '••••')).toBe(true);
    expect(changes.map((x) => x.what)).toContain('Check over all');
  });

  test('refused, with what to do', () => {
    const written = (slot: number, values: Record<string, string>, over = false) => said(writeSlot(imageOf(two()), plain, slot, values, over));
    expect(written(1, { identity: '7C01009E' })).toEqual(['slot: Slot 1 is not proven empty. Choose an empty one.']);
    expect(written(6, { identity: '7C01009E' })).toEqual(['slot: There is no slot 6: “Plain box” has slots 1 to 5. Choose one of them.']);
    expect(written(2, {})).toEqual(['identity: Identity is missing. Write it as the key was read.']);
    expect(written(2, { identity: '7C0100', role: 'spare', count: '16777216', toString: 'x' })).toEqual([
      'toString: “toString” is no field of a slot. Use one of: state, identity, role, count.',
      'identity: Identity: this is something else. Expected: 8 hexadecimal digits.',
      'role: Role: this is something else. Expected: main, valet.',
      'count: Presses: this is something else. Expected: a whole number from 0 to 16777215.',
    ]);
    expect(written(2, { identity: '7C01009G' })).toEqual(['identity: Identity: this is something else. Expected: 8 hexadecimal digits.']);
    expect(written(2, { identity: '7C01009E', count: '16777215' })).toEqual([]);
  });

  test('over one that is used: only what was given changes, such as its state', () => {
    const { image } = value(writeSlot(imageOf(two()), plain, 3, { state: 'disabled' }, true));
    expect(readSlots(image, plain)).toMatchObject({
      problems: [],
      slots: [{}, {}, { state: 'disabled', keyId: '4B102202', fields: { role: 'valet' } }, {}, {}],
    });
  });
});

describe('before and after', () => {
  const written = () => value(writeSlot(imageOf(two()), plain, 2, { identity: '7C01009E' })).image;
  test('only that slot, field by field', () => {
    const diff = value(diffMemory(imageOf(two()), written(), plain));
    expect(diff).toEqual({
      changes: [
        { slot: 2, field: 'state', before: 'empty', after: 'used' },
        { slot: 2, field: 'identity', before: 'empty', after: '7C01009E' },
        { slot: 2, field: 'count', before: 'empty', after: '0' },
        { slot: 2, field: 'check', before: 'FF', after: expect.any(String) },
      ],
      outsideSlots: [],
    });
    expect(judgeWrite(diff, 2)).toEqual({ fine: true, text: 'Only slot 2 changed.', unexpected: [] });
    expect(judgeWrite(diff, 4)).toEqual({
      fine: false,
      text: 'Slot 4 is as it was: nothing was written there. Don’t write again before contacts and power are checked.',
      unexpected: ['Slot 2 changed too.'],
    });
  });

  test('a counter that went up is expected; one that went down, another slot and a byte without a name are not', () => {
    const after = written();
    const bytes = after.segments[0]!.bytes;
    bytes[0x13] = 1;
    const counted = value(diffMemory(imageOf(two()), after, plain));
    expect(counted.outsideSlots).toEqual([
      { at: 0x10, bytes: 4, is: 'counter', title: 'Starts', before: '00000100', after: '00000101', expected: true },
    ]);
    expect(judgeWrite(counted, 2)).toMatchObject({ fine: true, text: 'Only slot 2 changed, and what follows from it: checksums, copies, counters.' });
    bytes[0x12] = 0;
    bytes[0x40 + 9] = 5;
    bytes[0xf0] = 0;
    bytes[2]! ^= 1;
    const judged = judgeWrite(value(diffMemory(imageOf(two()), after, plain)), 2);
    expect(judged).toEqual({
      fine: false,
      text: 'Slot 2 changed, and something that should not have. Don’t reinstall it. Read again first.',
      unexpected: [
        'Slot 3 changed too.',
        'Variant: 9 bytes from 0000 changed, and do not follow from the slot.',
        'Starts: 4 bytes from 0010 changed, and do not follow from the slot.',
        'Bytes without a name: 1 byte from 00F0 changed, and do not follow from the slot.',
      ],
    });
  });

  test('copies and checksums that fit are expected, others not; secrets stay masked', () => {
    const before = blank();
    const { image } = value(writeSlot(before, mirrored, 5, newKey));
    const diff = value(diffMemory(before, image, mirrored));
    expect(diff.outsideSlots.map((o) => [o.is, o.title, o.expected])).toEqual([
      ['mirror', 'Copy', true],
      ['checksum', 'Check over all', true],
    ]);
    expect(JSON.stringify(diff)).not.toMatch(/00112233|4455/);
    image.segments[0]!.bytes[0x2a0]! ^= 4;
    image.segments[0]!.bytes[0x44] = 0x3e;
    const bad = value(diffMemory(before, image, mirrored));
    expect(bad.outsideSlots.map((o) => [o.title, o.expected])).toEqual([
      ['Secret of the vehicle', false],
      ['Copy', false],
      ['Check over all', false],
    ]);
    expect(bad.outsideSlots[0]).toMatchObject({ before: '••••', after: '••••' });
  });

  test('what lies beyond the layout is told too', () => {
    const longer = (last: number) => imageOf(Uint8Array.from([...two(), 1, 2, last]));
    expect(value(diffMemory(longer(3), longer(3), plain)).outsideSlots).toEqual([]);
    expect(value(diffMemory(longer(3), longer(4), plain)).outsideSlots).toEqual([
      {
        at: 256,
        bytes: 3,
        is: 'unnamed',
        title: 'Beyond the layout',
        before: expect.stringMatching(/^SHA-256 /),
        after: expect.any(String),
        expected: false,
      },
    ]);
  });

  test('an older image over a newer state: what would be lost', () => {
    const now = written();
    now.segments[0]!.bytes.set([0, 0, 2, 9], 0x10);
    expect(value(lostByRestoring(now, imageOf(two()), plain))).toEqual([
      'The key in slot 2 would be lost.',
      'Starts would be set from 521 to 256. The ECM may refuse that.',
    ]);
    expect(value(lostByRestoring(imageOf(two()), now, plain))).toEqual([
      'Slot 2 is empty now and would hold a key again.',
      'Starts would be set from 256 to 521. The ECM may refuse that.',
    ]);
    expect(value(lostByRestoring(now, now, plain))).toEqual([]);
    const other = plainMemory({ 1: used(c), 3: used(b, 2) });
    expect(value(lostByRestoring(imageOf(two()), imageOf(other), plain))).toEqual(['Slot 1 would be set back to what it was.']);
  });
});

describe('seeded: against a naive reader of the bytes', () => {
  test('a slot written into a random memory reads back, and everything else is as it was', () => {
    const draw = generator(21);
    const byte = () => Math.floor(draw() * 256);
    for (let round = 0; round < often(500, 150); round += 1) {
      const layout: Layout = round % 2 === 0 ? plain : mirrored;
      const memory = Uint8Array.from({ length: layout.bytes }, byte);
      const { at, bytes, count, first } = layout.slots;
      const slot = first + Math.floor(draw() * count);
      const place = at + (slot - first) * bytes;
      memory.fill(layout.empty, place, place + bytes);
      const identity = Array.from({ length: layout.fields[1]!.bytes }, byte);
      const hexOf = (x: readonly number[]) => x.map((v) => v.toString(16).padStart(2, '0')).join('');
      const { image } = value(writeSlot(imageOf(memory, layout.base), layout, slot, { identity: hexOf(identity) }));
      const now = image.segments[0]!.bytes;
      const from = place + layout.fields[1]!.at;
      expect([...now.subarray(from, from + identity.length)]).toEqual(identity);
      const free = new Set<number>();
      for (let i = place; i < place + bytes; i += 1) free.add(i);
      for (const m of layout.mirrors) for (let i = 0; i < m.bytes; i += 1) free.add(m.at + i);
      for (const check of layout.checksums) if (!check.each) for (let i = 0; i < check.bytes; i += 1) free.add(check.at + i);
      for (let i = 0; i < memory.length; i += 1) if (now[i] !== memory[i]) expect(free.has(i)).toBe(true);
      const diff: MemoryDiff = value(diffMemory(imageOf(memory, layout.base), image, layout));
      expect(judgeWrite(diff, slot).fine).toBe(true);
    }
  });

  test('any bytes at all are read, compared and drawn without an exception', () => {
    const draw = generator(22);
    for (let round = 0; round < often(500, 150); round += 1) {
      const layout = round % 2 === 0 ? plain : mirrored;
      const make = () =>
        imageOf(
          Uint8Array.from({ length: layout.bytes }, () => Math.floor(draw() * 4) * 85),
          layout.base,
        );
      const [x, y] = [make(), make()];
      expect(readSlots(x, layout).slots).toHaveLength(layout.slots.count);
      expect(value(diffMemory(x, y, layout)).changes.length).toBeGreaterThan(0);
    }
  });
});

describe('layouts', () => {
  const parsed = (change: Partial<Layout>) => said(parseLayout({ ...structuredClone(plain), ...change }));
  const field = (id: string, at: number, bytes: number, more: object = {}) => ({ id, title: id, kind: 'other', at, bytes, ...more }) as const;
  const [state, identity] = plain.fields;

  test('those of these tests are sound, and every byte is in one region', () => {
    for (const layout of [plain, mirrored]) {
      expect(said(parseLayout(layout))).toEqual([]);
      const regions = regionsOf(layout);
      let at = 0;
      for (const region of regions) {
        expect(region.at).toBe(at);
        at += region.bytes;
      }
      expect(at).toBe(layout.bytes);
      expect(regions.filter((r) => r.is === 'slot')).toHaveLength(layout.slots.count);
    }
  });

  test.each<[string, Partial<Layout>, string]>([
    [
      'a field beyond the slot',
      { fields: [state!, identity!, field('x', 12, 5)] },
      'fields: x goes beyond the 16 bytes of a slot. Correct its place or its length.',
    ],
    [
      'fields on one another',
      { fields: [state!, identity!, field('x', 4, 2)] },
      'fields: On the same bytes: Identity, x. Correct the place of one of them.',
    ],
    [
      'a field on the check',
      { fields: [state!, identity!, field('x', 15, 1)] },
      'fields: On the same bytes: x, Check. Correct the place of one of them.',
    ],
    [
      'slots beyond the memory',
      { slots: { ...plain.slots, count: 15 } },
      'The slot area goes beyond the 256 bytes of the memory. Correct its place or its length.',
    ],
    [
      'a counter on the slots',
      { areas: [{ id: 'n', title: 'N', kind: 'counter', at: 0x1e, bytes: 4 }] },
      'On the same bytes: N, The slot area. Correct the place of one of them.',
    ],
    [
      'two states',
      { fields: [state!, identity!, { ...state!, id: 'other', at: 6 }] },
      'fields: State is a second field of the kind state. A slot has one: give it another kind.',
    ],
    [
      'a state whose empty is no empty byte',
      { fields: [{ ...state!, values: { used: 1, empty: 0 } }, identity!] },
      'fields[0].values: A state has values named used and empty, and disabled if the memory knows that; the value of empty is that of empty bytes. Write them so.',
    ],
    [
      'a value that does not fit',
      { fields: [state!, identity!, field('x', 6, 1, { values: { a: 256 } })] },
      'fields[2].values.a: a is 256, too large for 1 bytes. Correct the value.',
    ],
    [
      'two names of a value',
      { fields: [state!, identity!, field('x', 6, 1, { values: { a: 2, b: 2 } })] },
      'fields[2].values.b: b has the value of another name. Correct one of them.',
    ],
    [
      'a CRC of one byte',
      { checksums: [{ ...plain.checksums[0]!, kind: 'crc16' }] },
      'checksums[0].bytes: Check is of the wrong length. A checksum of this kind has this many bytes: 2.',
    ],
    [
      'a check over what is not there',
      { checksums: [{ ...plain.checksums[0]!, over: { at: 2, bytes: 15 } }] },
      'checksums[0].over: Check is calculated from bytes that are not there. Correct its range.',
    ],
    [
      'a check over one that comes later',
      {
        checksums: [{ id: 'all', title: 'All', kind: 'sum', at: 0xfe, bytes: 2, over: { at: 0, bytes: 254 } }, plain.checksums[0]!],
      },
      'checksums[0].over: All is calculated from Check, which comes later in the list. Put Check before it.',
    ],
    [
      'a copy of what changes afterward',
      {
        mirrors: [{ id: 'm', title: 'M', from: 0x90, bytes: 16, at: 0xb0 }],
        checksums: [{ id: 'all', title: 'All', kind: 'sum', at: 0x94, bytes: 2, over: { at: 0, bytes: 16 } }],
      },
      'mirrors[0].from: M copies bytes in which All stands, and that changes afterward. Copy only what is finished.',
    ],
    ['more than a memory has', { bytes: 17_000_000 }, 'bytes: The file has 17000000. Use 16777216 or less.'],
  ])('%s', (_what, change, message) => {
    expect(parsed(change)).toContain(message);
  });
});
