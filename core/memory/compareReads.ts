import { type ByteRange, compareBytes } from '../copycheck';
import { byteCount, hex, type MemoryImage } from './image';
import { sentences } from './sentences';

/**
 * What a second read says of the first: equal; over other addresses; the same bytes moved; one data line that is always the same; differences close
 * together; differences here and there.
 */
export type ReadsSay = 'same' | 'length' | 'shift' | 'line' | 'together' | 'scattered';

export interface ReadsCompared {
  says: ReadsSay;
  /** In words, with what it points to and what to do. */
  text: string;
  /** Bytes that differ. */
  differing: number;
  /** Stretches that differ, the first of them, as addresses. */
  ranges: ByteRange[];
  /** Whether there are more. */
  more: boolean;
  /** Bytes by which the second one is moved: positive toward higher addresses. */
  moved?: number;
  /** The bit that is always the same in one of the reads, and its value there. */
  line?: { bit: number; value: 0 | 1 };
}

/** Farthest move that is looked for, bytes. */
const farthest = 64;
/** A move explains a read when so many of its bytes fit then, and fewer than the other share fit without. */
const movedShare = 0.98;
const restShare = 0.9;
/** Bytes by which a move is first judged; the whole follows where they fit. */
const sampled = 4096;
/** Differences within so many bytes stand together; in a small memory, within this share of it. */
const closeBy = 512;
const closeByShare = 1 / 8;
/** Fewer than this say nothing of a data line: it may be chance. */
const leastForLine = 8;

/** Two reads of one memory, before anything is written: equal, or where they differ and what that points to. */
export function compareReads(first: MemoryImage, second: MemoryImage): ReadsCompared {
  const same = first.segments.length === second.segments.length && first.segments.every((s, i) => covers(s, second.segments[i]!));
  if (!same) return { says: 'length', text: sentences.length(byteCount(first), byteCount(second)), differing: 0, ranges: [], more: false };
  const found = { differing: 0, ranges: [] as ByteRange[], more: false };
  first.segments.forEach((s, i) => {
    const { differing, ranges, more } = compareBytes(s.bytes, second.segments[i]!.bytes);
    found.differing += differing;
    found.ranges.push(...ranges.map((r) => ({ ...r, at: r.at + s.at })));
    found.more ||= more;
  });
  if (found.differing === 0) return { says: 'same', text: sentences.same, ...found };
  const moved = movedBy(first, second);
  if (moved !== undefined) return { says: 'shift', text: sentences.shift(moved), ...found, moved };
  const line = found.differing >= leastForLine ? stuckLine(first, second) : undefined;
  if (line) return { says: 'line', text: (line.value === 0 ? sentences.lineLow : sentences.lineHigh)(line.bit, found.differing), ...found, line };
  const [from, last] = [found.ranges[0]!, found.ranges.at(-1)!];
  const to = last.at + last.length - 1;
  if (!found.more && to - from.at < Math.min(closeBy, byteCount(first) * closeByShare))
    return { says: 'together', text: sentences.together(found.differing, hex(from.at, 4), hex(to, 4)), ...found };
  return { says: 'scattered', text: sentences.scattered(found.differing), ...found };
}

type Segment = MemoryImage['segments'][number];
const covers = (a: Segment, b: Segment) => a.at === b.at && a.bytes.length === b.bytes.length;

/** The move under which nearly all bytes of the longest stretch fit; undefined where none does, or nearly all fit as they stand. */
function movedBy(first: MemoryImage, second: MemoryImage): number | undefined {
  const longest = first.segments.reduce((n, s, i) => (s.bytes.length > first.segments[n]!.bytes.length ? i : n), 0);
  const [a, b] = [first.segments[longest]!.bytes, second.segments[longest]!.bytes];
  if (a.length < 4 * farthest || fits(a, b, 0) > restShare) return undefined;
  for (let by = 1; by <= farthest; by += 1)
    for (const move of [by, -by]) if (fits(a, b, move, sampled) > movedShare && fits(a, b, move) > movedShare && !allAlike(a)) return move;
  return undefined;
}

/** Share of the bytes of `b` that are those of `a`, `move` places before; over all that both have, or over so many of them. */
function fits(a: Uint8Array, b: Uint8Array, move: number, most = Infinity): number {
  const [from, to] = [Math.max(0, move), Math.min(b.length, a.length + move)];
  const step = Math.max(1, Math.floor((to - from) / most));
  let [same, all] = [0, 0];
  for (let i = from; i < to; i += step) {
    all += 1;
    if (b[i] === a[i - move]) same += 1;
  }
  return all === 0 ? 0 : same / all;
}

/** A memory of one value fits under any move. */
const allAlike = (bytes: Uint8Array) => bytes.every((b) => b === bytes[0]);

/** The one bit in which all differing bytes differ, where it has the same value each time in one of the reads, also in the bytes that agree. */
function stuckLine(first: MemoryImage, second: MemoryImage): { bit: number; value: 0 | 1 } | undefined {
  let differing = 0;
  let [andA, orA, andB, orB] = [0xff, 0, 0xff, 0];
  first.segments.forEach(({ bytes }, i) => {
    const other = second.segments[i]!.bytes;
    for (let k = 0; k < bytes.length; k += 1) {
      const [a, b] = [bytes[k]!, other[k]!];
      differing |= a ^ b;
      andA &= a;
      orA |= a;
      andB &= b;
      orB |= b;
    }
  });
  const bit = Math.log2(differing);
  if (!Number.isInteger(bit)) return undefined;
  if ((orA & orB & differing) === 0) return { bit, value: 0 };
  return ((andA | andB) & differing) !== 0 ? { bit, value: 1 } : undefined;
}
