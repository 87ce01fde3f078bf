import type { Layout } from './layout';

const about = { kind: 'layout', version: 1, family: 'slot-store', source: 'Made up.', checked: null } as const;

/** Five slots of 16 bytes from 20 (hexadecimal) on, each with a check of its own; a counter and a name outside. */
export const plain: Layout = {
  ...about,
  id: 'plain',
  title: 'Plain box',
  base: 0,
  bytes: 256,
  order: 'high',
  empty: 0xff,
  slots: { at: 0x20, bytes: 16, count: 5, first: 1 },
  fields: [
    { id: 'state', title: 'State', kind: 'state', at: 0, bytes: 1, values: { used: 0x5a, empty: 0xff, disabled: 0x0d } },
    { id: 'identity', title: 'Identity', kind: 'identity', at: 1, bytes: 4 },
    { id: 'role', title: 'Role', kind: 'role', at: 5, bytes: 1, values: { main: 1, valet: 2 } },
    { id: 'count', title: 'Presses', kind: 'counter', at: 8, bytes: 3 },
  ],
  areas: [
    { id: 'starts', title: 'Starts', kind: 'counter', at: 0x10, bytes: 4 },
    { id: 'variant', title: 'Variant', kind: 'other', at: 0, bytes: 9 },
  ],
  mirrors: [],
  checksums: [{ id: 'check', title: 'Check', kind: 'xor', each: 'slot', at: 15, bytes: 1, over: { at: 0, bytes: 15 } }],
};

/** Slots that are kept twice, with secrets, low byte first, empty is zero; then a CRC over all. */
export const mirrored: Layout = {
  ...about,
  id: 'mirrored',
  title: 'Mirrored box',
  base: 0x8000,
  bytes: 1024,
  order: 'low',
  empty: 0,
  slots: { at: 0x100, bytes: 24, count: 8, first: 0 },
  fields: [
    { id: 'state', title: 'State', kind: 'state', at: 0, bytes: 2, values: { used: 0xc33c, empty: 0, disabled: 0x3cc3 } },
    { id: 'identity', title: 'Identity', kind: 'identity', at: 2, bytes: 6 },
    { id: 'secret', title: 'Secret', kind: 'secret', at: 10, bytes: 8 },
    { id: 'count', title: 'Times used', kind: 'counter', at: 18, bytes: 4 },
  ],
  areas: [{ id: 'sealed', title: 'Secret of the vehicle', kind: 'secret', at: 0x40, bytes: 8 }],
  mirrors: [{ id: 'copy', title: 'Copy', from: 0x100, bytes: 192, at: 0x200 }],
  checksums: [
    { id: 'check', title: 'Check', kind: 'sum', each: 'slot', at: 22, bytes: 2, over: { at: 0, bytes: 22 }, inverted: true },
    { id: 'all', title: 'Check over all', kind: 'crc16', at: 0x3fe, bytes: 2, over: { at: 0, bytes: 1024 } },
  ],
};

/** A memory that fits the layout, byte by byte and apart from the code under test: nothing in it, then what is put. */
export function plainMemory(put: Record<number, readonly number[]> = {}): Uint8Array {
  const memory = new Uint8Array(256).fill(0xff);
  memory.set(
    [...'GULLY-005'].map((c) => c.charCodeAt(0)),
    0,
  );
  memory.set([0, 0, 1, 0], 0x10);
  for (const [slot, bytes] of Object.entries(put)) {
    const at = 0x20 + (Number(slot) - 1) * 16;
    const all = [...bytes, ...Array.from({ length: 15 - bytes.length }, () => 0xff)];
    memory.set([...all, all.reduce((x, b) => x ^ b, 0)], at);
  }
  return memory;
}

/** A used slot of the plain box: identity, role, presses. */
export const used = (identity: readonly [number, number, number, number], role = 1, presses = 0): number[] => {
  return [0x5a, ...identity, role, 0xff, 0xff, (presses >> 16) & 255, (presses >> 8) & 255, presses & 255];
};

export const imageOf = (bytes: Uint8Array, at = 0) => ({ segments: [{ at, bytes }] });
