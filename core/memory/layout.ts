import type { Checked } from '../library';

/** What a field of a slot is. `secret` is never shown, not even in part. */
export type FieldKind = 'state' | 'identity' | 'role' | 'band' | 'counter' | 'secret' | 'other';
/** What the state of a slot can be called in a layout. */
export type WrittenState = 'used' | 'empty' | 'disabled';
/** Public checks: the bytes added up; all of them XORed; CRC with the polynomial 1021 (hexadecimal) that begins with FFFF. */
export type ChecksumKind = 'sum' | 'xor' | 'crc16';

export interface LayoutField {
  id: string;
  title: string;
  kind: FieldKind;
  /** Within the slot, bytes from its beginning. */
  at: number;
  bytes: number;
  /** Names of values; every state has them. */
  values?: Record<string, number>;
}

export interface LayoutChecksum {
  id: string;
  title: string;
  kind: ChecksumKind;
  /** `slot`: one in each slot, and its places are within the slot. */
  each?: 'slot';
  at: number;
  bytes: number;
  /** What it is calculated from; its own bytes are left out where they lie in it. */
  over: { at: number; bytes: number };
  /** Each of its own bytes is kept the other way around, all ones and zeros exchanged. */
  inverted?: boolean;
}

/** Where the slots of a memory stand and what is in them. Places are bytes from the beginning of the memory, if nothing else is said. */
export interface Layout {
  kind: 'layout';
  id: string;
  version: number;
  title: string;
  /** The system type it belongs to. */
  family: string;
  source: string;
  checked: Checked;
  /** Address of the memory's first byte in files that have addresses. */
  base: number;
  bytes: number;
  /** Which end of a number of several bytes comes first. */
  order: 'high' | 'low';
  /** What every byte of an empty slot is. */
  empty: number;
  slots: { at: number; bytes: number; count: number; first: number };
  fields: LayoutField[];
  /** Further places with a name; a counter changes by itself, a secret is never shown. */
  areas: { id: string; title: string; kind: 'counter' | 'secret' | 'other'; at: number; bytes: number }[];
  /** Copies: what stands from `from` on stands again from `at` on. */
  mirrors: { id: string; title: string; from: number; bytes: number; at: number }[];
  /** In the order in which they are calculated. */
  checksums: LayoutChecksum[];
}

/** A stretch of a memory and what it is, for a drawing and for telling what changed. */
export interface Region {
  at: number;
  bytes: number;
  is: 'slot' | 'mirror' | 'checksum' | 'counter' | 'secret' | 'other' | 'unnamed';
  title: string;
  /** Its number, for a slot. */
  slot?: number;
  /** The id of its area, mirror or checksum. */
  id?: string;
}

export const slotNumbers = ({ slots }: Layout): number[] => Array.from({ length: slots.count }, (_, i) => slots.first + i);

/** Where a slot begins. @param slot its number */
export const placeOfSlot = ({ slots }: Layout, slot: number): number => slots.at + (slot - slots.first) * slots.bytes;

/** The places that have a name, in order; those of a layout with errors may overlap. */
export function namedRegions(layout: Layout): Region[] {
  return [
    ...slotNumbers(layout).map((slot): Region => {
      return { at: placeOfSlot(layout, slot), bytes: layout.slots.bytes, is: 'slot', title: String(slot), slot };
    }),
    ...layout.mirrors.map((m): Region => ({ at: m.at, bytes: m.bytes, is: 'mirror', title: m.title, id: m.id })),
    ...layout.areas.map((a): Region => ({ at: a.at, bytes: a.bytes, is: a.kind, title: a.title, id: a.id })),
    ...layout.checksums
      .filter((c) => c.each === undefined)
      .map((c): Region => ({ at: c.at, bytes: c.bytes, is: 'checksum', title: c.title, id: c.id })),
  ].toSorted((a, b) => a.at - b.at);
}

/** Every byte of the memory in one stretch or another, in order. */
export function regionsOf(layout: Layout): Region[] {
  const regions: Region[] = [];
  let at = 0;
  const unnamed = (to: number) => {
    if (to > at) regions.push({ at, bytes: to - at, is: 'unnamed', title: '' });
  };
  for (const region of namedRegions(layout)) {
    unnamed(region.at);
    regions.push(region);
    at = region.at + region.bytes;
  }
  unnamed(layout.bytes);
  return regions;
}
