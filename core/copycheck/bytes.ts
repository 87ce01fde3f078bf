/** A stretch of bytes that differ: offset of the first, and how many. */
export interface ByteRange {
  at: number;
  length: number;
}

export interface BytesCompared {
  equal: boolean;
  /** Bytes that differ, those of a longer file included. */
  differing: number;
  /** Stretches, the first `most` of them, in order; differences closer than 4 bytes are one. */
  ranges: ByteRange[];
  /** Whether there are more stretches than that. */
  more: boolean;
}

/** Differences closer together than this are shown as one stretch, bytes. */
const near = 4;

/**
 * Where two files differ, byte for byte. What one has beyond the other's end differs.
 * @param most stretches that are named
 */
export function compareBytes(a: Uint8Array, b: Uint8Array, most = 20): BytesCompared {
  const found: ByteRange[] = [];
  let differing = 0;
  const length = Math.max(a.length, b.length);
  let more = false;
  for (let i = 0; i < length; i += 1) {
    if (a[i] === b[i]) continue;
    differing += 1;
    const last = found.at(-1);
    if (last && i - (last.at + last.length) < near) last.length = i + 1 - last.at;
    else if (found.length < most) found.push({ at: i, length: 1 });
    else {
      more = true;
      // What is not named is only counted.
      for (i += 1; i < length; i += 1) if (a[i] !== b[i]) differing += 1;
    }
  }
  return { equal: differing === 0, differing, ranges: found, more };
}
