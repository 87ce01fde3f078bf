import type { Problem } from '../units';
import { type Layout, type LayoutChecksum, namedRegions } from './layout';
import { mostNumberBytes } from './fieldText';
import { sentences } from './sentences';

interface Place {
  at: number;
  bytes: number;
  title: string;
}

/** What in a layout can't be: places outside or on top of one another, states that aren't told apart, checksums that wait for each other. */
export function lintLayout(layout: Layout): Problem[] {
  const problems: Problem[] = [];
  const add = (code: string, path: string, message: string) => problems.push({ code, path, message });
  const { slots, fields, checksums } = layout;
  const inSlot: Place[] = [...fields, ...checksums.filter((c) => c.each)];
  const slotNames = (title: string) => title || sentences.slots;
  for (const { at, bytes, title } of inSlot) if (at + bytes > slots.bytes) add('outside', 'fields', sentences.outsideSlot(title, slots.bytes));
  overlaps(inSlot, (a, b) => add('overlap', 'fields', sentences.overlapping(a.title, b.title)));
  // One stretch for all slots: a mistake in their size is one problem, not a hundred.
  const all: Place[] = [{ at: slots.at, bytes: slots.bytes * slots.count, title: '' }, ...namedRegions({ ...layout, slots: { ...slots, count: 0 } })];
  for (const { at, bytes, title } of all) if (at + bytes > layout.bytes) add('outside', '', sentences.outsideMemory(slotNames(title), layout.bytes));
  overlaps(all, (a, b) => add('overlap', '', sentences.overlapping(slotNames(a.title), slotNames(b.title))));
  lintFields(layout, add);
  lintChecksums(layout, add);
  layout.mirrors.forEach((mirror, i) => {
    const source = { at: mirror.from, bytes: mirror.bytes, title: mirror.title };
    if (mirror.from + mirror.bytes > layout.bytes) add('outside', `mirrors[${i}].from`, sentences.outsideMemory(mirror.title, layout.bytes));
    for (const other of [...layout.mirrors, ...checksums.filter((c) => c.each === undefined)])
      if (meet(source, other)) add('circle', `mirrors[${i}].from`, sentences.mirrorOf(mirror.title, other.title));
  });
  return problems;
}

type Add = (code: string, path: string, message: string) => void;

function lintFields({ fields, empty }: Layout, add: Add): void {
  for (const kind of ['state', 'identity'] as const) {
    const [, second] = fields.filter((f) => f.kind === kind);
    if (second) add('twice', 'fields', sentences.oneOfKind(second.title, kind));
  }
  fields.forEach((field, i) => {
    const path = `fields[${i}]`;
    if (!field.values) {
      if (field.kind === 'state') add('states', path, sentences.stateValues);
      if (field.kind === 'counter' && field.bytes > mostNumberBytes) add('wide', `${path}.bytes`, sentences.wideNumber(field.title, mostNumberBytes));
      return;
    }
    if (field.bytes > mostNumberBytes) return add('wide', `${path}.bytes`, sentences.wideNumber(field.title, mostNumberBytes));
    const values = Object.entries(field.values);
    for (const [name, value] of values) {
      if (value >= 2 ** (8 * field.bytes)) add('value', `${path}.values.${name}`, sentences.valueTooLarge(name, value, field.bytes));
      if (values.some(([other, same]) => other < name && same === value)) add('value', `${path}.values.${name}`, sentences.valueTwice(name));
    }
    if (field.kind !== 'state') return;
    if (values.some(([name]) => name !== 'used' && name !== 'empty' && name !== 'disabled')) add('states', `${path}.values`, sentences.stateValues);
    const blank = Array.from({ length: field.bytes }).reduce((n: number) => n * 256 + empty, 0);
    if (field.values.used === undefined || field.values.empty !== blank) add('states', `${path}.values`, sentences.stateValues);
  });
}

function lintChecksums({ checksums, slots, bytes }: Layout, add: Add): void {
  checksums.forEach((checksum, i) => {
    const { kind, over, title } = checksum;
    const widths: Record<LayoutChecksum['kind'], number[]> = { sum: [1, 2, 4], xor: [1], crc16: [2] };
    if (!widths[kind].includes(checksum.bytes)) add('wide', `checksums[${i}].bytes`, sentences.checksumBytes(title, widths[kind].join(', ')));
    if (over.at + over.bytes > (checksum.each ? slots.bytes : bytes)) add('outside', `checksums[${i}].over`, sentences.overOutside(title));
    if (checksum.each) return;
    for (const later of checksums.slice(i + 1)) {
      const place = later.each ? { at: slots.at, bytes: slots.bytes * slots.count } : later;
      if (meet(over, place)) add('circle', `checksums[${i}].over`, sentences.checksumLater(title, later.title));
    }
  });
}

const meet = (a: { at: number; bytes: number }, b: { at: number; bytes: number }) => a.at < b.at + b.bytes && b.at < a.at + a.bytes;

function overlaps(places: readonly Place[], found: (a: Place, b: Place) => void): void {
  const sorted = places.toSorted((a, b) => a.at - b.at);
  let widest = sorted[0];
  for (const place of sorted.slice(1)) {
    if (widest && meet(widest, place)) found(widest, place);
    if (!widest || place.at + place.bytes > widest.at + widest.bytes) widest = place;
  }
}
