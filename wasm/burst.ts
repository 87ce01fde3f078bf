/**
 * The two loops over every byte and every sample of a capture, in AssemblyScript: `npm run build` makes a WebAssembly module of it. Its face is core/burst/kernel.ts, its twin
 * in plain TypeScript core/burst/plainKernel.ts; both do the same operations in the same order, and core/burst/kernel.test.ts holds them against each other to the bit.
 * Everything lies at fixed places of a memory that never grows.
 */

/** Bytes of a piece of a file, and behind them as many as a number's window may reach over its end. */
const pieceBytes: usize = 1 << 18;
const windowBytes: usize = 16;
/** Values of one stretch, of the table of the carrier, and of the longest mean. */
const stretchLength: usize = 8192;
const tableLength: usize = 2048;
const longestMean: usize = 1024;

const POWERS: usize = 1024;
const STATE: usize = POWERS + 16 * 8;
const INPUT: usize = 2048;
// A line has two bytes at least, so half as many samples as bytes at most.
const VOLTS: usize = INPUT + pieceBytes + 8 * windowBytes;
const SAMPLES: usize = VOLTS + (pieceBytes / 2) * 4;
const TABLE: usize = SAMPLES + stretchLength * 4;
const RING: usize = TABLE + tableLength * 16;
const SUMS: usize = RING + longestMean * 16;
const POWER: usize = SUMS + 16;
const END: usize = POWER + stretchLength * 8;

export function inputAt(): usize {
  return INPUT;
}
export function stateAt(): usize {
  return STATE;
}
export function voltsAt(): usize {
  return VOLTS;
}
export function samplesAt(): usize {
  return SAMPLES;
}
export function tableAt(): usize {
  return TABLE;
}
export function ringAt(): usize {
  return RING;
}
export function sumsAt(): usize {
  return SUMS;
}
export function powerAt(): usize {
  return POWER;
}
export function start(): void {
  const pages = <i32>((END + 0xffff) >>> 16);
  if (memory.size() < pages) memory.grow(pages - memory.size());
  let power: f64 = 1;
  for (let i: usize = 0; i < 16; i += 1) {
    store<f64>(POWERS + i * 8, power);
    power *= 10;
  }
}

/** Behind the number that was read; 0 where there is none that is plain. */
let behind: usize = 0;

/**
 * A plain number: a minus or none, digits, a point or none, and what ends it all within sixteen bytes. The digits are moved to the right end of the window, the point left
 * out, and taken together by fours, eights and sixteen.
 */
function number(from: usize): f64 {
  const minus = load<u8>(from) === 45;
  const p = from + <usize>minus;
  const digits = i8x16.sub(v128.load(p), i8x16.splat(48));
  let others = i8x16.bitmask(i8x16.ge_u(digits, i8x16.splat(10))) | 0x10000;
  let end = ctz(others);
  let index = v128(0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15);
  let decimals = 0;
  if (load<u8>(p + end) === 46) {
    const point = end;
    others &= others - 1;
    end = ctz(others | 0x10000);
    decimals = end - point - 1;
    index = i8x16.add(index, i8x16.splat(<i8>(end - 16)));
    index = i8x16.add(index, i8x16.le_s(index, i8x16.splat(<i8>point)));
    behind = end > 15 || end < 2 ? 0 : p + end;
  } else {
    index = i8x16.add(index, i8x16.splat(<i8>(end - 16)));
    behind = end > 15 || end < 1 ? 0 : p + end;
  }
  const right = i8x16.swizzle(digits, index);
  const weights = i16x8(1000, 100, 10, 1, 1000, 100, 10, 1);
  const high = i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(right), weights);
  const low = i32x4.dot_i16x8_s(i16x8.extend_high_i8x16_u(right), weights);
  const fours = i32x4.add(v128.shuffle<i32>(high, low, 0, 2, 4, 6), v128.shuffle<i32>(high, low, 1, 3, 5, 7));
  const eights = i32x4.mul(fours, i32x4(10000, 1, 10000, 1));
  const upper = <i64>(i32x4.extract_lane(eights, 0) + i32x4.extract_lane(eights, 1));
  const lower = <i64>(i32x4.extract_lane(eights, 2) + i32x4.extract_lane(eights, 3));
  const value = <f64>(upper * 100000000 + lower) / load<f64>(POWERS + ((<usize>decimals) & 15) * 8);
  return minus ? -value : value;
}

/**
 * Lines of plain numbers from a place of the piece on: seconds and volts, or volts alone. It stops before the first that is otherwise, that is not whole, or whose step of time
 * differs by more than `within` steps from the mean. State: the last time, the sum of the steps, their number; then the place where it stopped.
 * @returns how many were read
 */
export function lines(from: usize, to: usize, delimiter: i32, timed: i32, within: f64, most: i32): i32 {
  const end = INPUT + to;
  let p = INPUT + from;
  let before = load<f64>(STATE);
  let sum = load<f64>(STATE + 8);
  let steps = load<f64>(STATE + 16);
  let n = 0;
  while (n < most && p < end) {
    let q = p;
    let at: f64 = 0;
    if (timed) {
      at = number(q);
      q = behind;
      if (q === 0 || <i32>load<u8>(q) !== delimiter) break;
      q += 1;
    }
    const volts = number(q);
    q = behind;
    if (q === 0) break;
    if (load<u8>(q) === 13) q += 1;
    if (q >= end || load<u8>(q) !== 10) break;
    if (timed) {
      const here = at - before;
      const step = steps > 0 ? sum / steps : here;
      if (!(here > 0 && Math.abs(here - step) <= within * step)) break;
      sum += here;
      steps += 1;
      before = at;
    }
    store<f32>(VOLTS + ((<usize>n) << 2), <f32>volts);
    n += 1;
    p = q + 1;
  }
  store<f64>(STATE, before);
  store<f64>(STATE + 8, sum);
  store<f64>(STATE + 16, steps);
  store<f64>(STATE + 24, <f64>(p - INPUT));
  return n;
}

/**
 * Mixes samples of the stretch down with the table, and gives the power of the mean over `length` of them that ends at each.
 * @param place in the table, of the first of them; the table does not end before the last
 * @param ring place in the ring of what the first one takes the place of
 */
export function mix(from: i32, n: i32, place: i32, length: i32, ring: i32, near: f64, slope: f64, scale: f64): void {
  let sums = v128.load(SUMS);
  let x = SAMPLES + ((<usize>from) << 2);
  let out = POWER + ((<usize>from) << 3);
  let turned = TABLE + ((<usize>place) << 4);
  let old = RING + ((<usize>ring) << 4);
  const ringEnd = RING + ((<usize>length) << 4);
  const end = x + ((<usize>n) << 2);
  while (x < end) {
    const product = f64x2.mul(f64x2.splat(<f64>load<f32>(x) - near), v128.load(turned));
    near += slope;
    sums = f64x2.add(sums, f64x2.sub(product, v128.load(old)));
    v128.store(old, product);
    old += 16;
    if (old === ringEnd) old = RING;
    const squares = f64x2.mul(sums, sums);
    store<f64>(out, (f64x2.extract_lane(squares, 0) + f64x2.extract_lane(squares, 1)) * scale);
    x += 4;
    out += 8;
    turned += 16;
  }
  v128.store(SUMS, sums);
}
