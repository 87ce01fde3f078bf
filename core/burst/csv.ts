import { failed, ok, type Problem, type Result } from '../units';
import { type Capture, type CaptureReader, mostSamples, Samples, type TimeNote } from './capture';
import type { Kernel, LineState } from './kernel';
import { plainKernel } from './plainKernel';
import { sentences } from './sentences';

/** Longest line, characters. */
const longestLine = 256;
/** A step that is longer than so many others is a gap, in steps. */
const gapSteps = 1.5;
/** A step may differ so much from the others without a word, in steps: times are printed with few digits. */
const unevenSteps = 0.6;
/** Within this a step is neither. */
const plainSteps = Math.min(unevenSteps, gapSteps - 1);

const [newline, carriage, space, tab, comma, semicolon, plus, minus, point, zero, nine, quote] = [10, 13, 32, 9, 44, 59, 43, 45, 46, 48, 57, 34];
const isExponent = (c: number) => c === 101 || c === 69;
/** The unit that a header gives in brackets. */
const unitOf = (cell: string): string | undefined => /[([]\s*([^)\]]{1,20}?)\s*[)\]]$/.exec(cell)?.[1];
const isVolts = (cell: string) => /^(volts?|voltage|v)\b/i.test(cell);
const isTime = (cell: string) => /^(seconds?|sec|time|s)\b/i.test(cell);
/** Powers of ten that a double holds exactly: a product or quotient with them is rounded once (W. D. Clinger, PLDI 1990, the simple case). */
const exact = Array.from({ length: 23 }, (_, i) => 10 ** i);
const unread = Number.NaN;

/**
 * CSV of a scope: a header line, then seconds and volts; or volts alone, with the rate in the header (`volts,1000000 Hz`). A comma, a semicolon or a tab parts
 * them, as in the header; with a semicolon or a tab a comma may be the decimal point. Every time is compared with the one before.
 */
export function burstCsvReader(kernel: Kernel = plainKernel()): CaptureReader {
  const samples = new Samples();
  const notes = new Map<TimeNote['kind'], TimeNote>();
  const buffer = new Uint8Array(longestLine);
  let length = 0;
  let line = 0;
  let head: { delimiter: number; columns: 1 | 2; rateHz: number } | null = null;
  /** Seconds of the first sample. */
  let firstS = 0;
  const state: LineState = { delimiter: comma, timed: true, last: 0, sumS: 0, steps: 0 };
  let wrong: Problem | undefined;

  const problem = (code: string, message: string): Problem => (wrong = { code, path: sentences.lineAt(line), message });
  const note = (kind: TimeNote['kind']) => {
    const before = notes.get(kind);
    if (before) before.count += 1;
    else notes.set(kind, { kind, line, count: 1 });
  };

  /** The header: what parts the columns, and the rate where there is one column. */
  const readHead = (): Problem | undefined => {
    const text = String.fromCharCode(...buffer.subarray(0, length))
      .replace(/^\u00ef\u00bb\u00bf/, '')
      .trim();
    if (text === '') return undefined;
    const delimiter = text.includes('\t') ? tab : text.includes(';') ? semicolon : comma;
    const cells = text.split(String.fromCharCode(delimiter)).map((cell) => cell.trim().replace(/^"|"$/g, ''));
    if (!/[A-Za-z]{2}/.test(cells[0]!)) return problem('header', sentences.headerMissing(JSON.stringify(text.slice(0, 60))));
    const rate = /^([\d.]+(?:[eE]\d+)?) ?([kM]?)(?:Hz|S\/s|Sa\/s)$/.exec(cells.at(-1)!);
    const rateHz = rate ? Number(rate[1]) * { '': 1, k: 1e3, M: 1e6 }[rate[2] as '' | 'k' | 'M'] : 0;
    if (cells.length !== 2 || (rate && !(rateHz > 0))) return problem('header', sentences.headerMissing(JSON.stringify(text.slice(0, 60))));
    const [time, volts] = rate ? [undefined, cells[0]!] : [cells[0]!, cells[1]!];
    if (time !== undefined && isVolts(time) && isTime(volts)) return problem('header', sentences.swapped);
    for (const [cell, units] of [
      [time, ['s', 'sec', 'second', 'seconds']],
      [volts, ['v', 'volt', 'volts']],
    ] as const) {
      const unit = cell === undefined ? undefined : unitOf(cell);
      if (unit !== undefined && !(units as readonly string[]).includes(unit.toLowerCase())) return problem('header', sentences.otherUnit(unit));
    }
    head = { delimiter, columns: rate ? 1 : 2, rateHz };
    [state.delimiter, state.timed] = [delimiter, !rate];
    return undefined;
  };

  /** A number in the bytes from `from` up to `to`, spaces and quotation marks around it left out; NaN where it is none. */
  const number = (from: number, to: number, decimalComma: boolean): number => {
    while (from < to && (buffer[from] === space || buffer[from] === quote)) from += 1;
    while (to > from && (buffer[to - 1] === space || buffer[to - 1] === quote)) to -= 1;
    let at = from;
    const negative = buffer[at] === minus;
    if (negative || buffer[at] === plus) at += 1;
    let [digits, significant, shift, seenPoint] = [0, 0, 0, false];
    let mantissa = 0;
    for (; at < to; at += 1) {
      const c = buffer[at]!;
      if (c >= zero && c <= nine) {
        digits += 1;
        // Beyond fifteen digits nothing is gained; the place counts all the same.
        if (significant < 15) {
          mantissa = mantissa * 10 + (c - zero);
          if (mantissa > 0) significant += 1;
          if (seenPoint) shift -= 1;
        } else if (!seenPoint) shift += 1;
      } else if (!seenPoint && (c === point || (decimalComma && c === comma))) seenPoint = true;
      else break;
    }
    if (digits === 0) return unread;
    if (at < to && isExponent(buffer[at]!)) {
      at += 1;
      const down = buffer[at] === minus;
      if (down || buffer[at] === plus) at += 1;
      if (at >= to) return unread;
      let exponent = 0;
      for (; at < to; at += 1) {
        const c = buffer[at]!;
        if (c < zero || c > nine) return unread;
        exponent = Math.min(9999, exponent * 10 + (c - zero));
      }
      shift += down ? -exponent : exponent;
    }
    if (at !== to) return unread;
    const size = Math.abs(shift);
    const value = size < exact.length ? (shift < 0 ? mantissa / exact[size]! : mantissa * exact[size]!) : mantissa * 10 ** shift;
    return Number.isFinite(value) ? (negative ? -value : value) : unread;
  };

  const readLine = (): Problem | undefined => {
    line += 1;
    if (length > 0 && buffer[length - 1] === carriage) length -= 1;
    if (!head) return readHead();
    const { delimiter, columns } = head;
    let blank = true;
    let cut = -1;
    let parts = 1;
    for (let i = 0; i < length; i += 1) {
      const c = buffer[i]!;
      if (c === delimiter) {
        parts += 1;
        if (cut < 0) cut = i;
      } else if (c !== space) blank = false;
    }
    if (blank && parts === 1) return undefined;
    if (parts !== columns) return problem('columns', sentences.columns(parts, columns));
    const decimalComma = delimiter !== comma;
    const volts = number(columns === 2 ? cut + 1 : 0, length, decimalComma);
    if (Number.isNaN(volts)) return problem('volts', sentences.voltsUnread);
    if (columns === 1) return take(0, volts, false);
    const at = number(0, cut, decimalComma);
    if (Number.isNaN(at)) return problem('seconds', sentences.secondsUnread);
    return take(at, volts, true);
  };

  /** One sample, its time compared with the one before. */
  const take = (at: number, volts: number, timed: boolean): Problem | undefined => {
    if (timed) {
      if (samples.length === 0) firstS = at;
      else {
        const here = at - state.last;
        if (here < 0) return problem('backwards', sentences.timeBackwards);
        const step = state.steps > 0 ? state.sumS / state.steps : here;
        const isGap = here > gapSteps * step;
        if (here === 0) note('repeat');
        else if (isGap) note('gap');
        else if (Math.abs(here - step) > unevenSteps * step) note('uneven');
        if (!isGap) {
          state.sumS += here;
          state.steps += 1;
        }
      }
      state.last = at;
    }
    if (samples.length >= mostSamples) return problem('tooMany', sentences.tooMany(mostSamples / 1e6));
    samples.push(volts);
    return undefined;
  };

  /** Plain lines by the kernel, the first of all and all others byte by byte: both read the same of a line (a test holds them against each other). */
  const readPiece = (bytes: Uint8Array): Problem | undefined => {
    kernel.hold(bytes);
    for (let i = 0; i < bytes.length; i += 1) {
      if (length === 0 && head && samples.length > 0 && samples.length < mostSamples) {
        const { volts, end } = kernel.lines(i, state, plainSteps, mostSamples - samples.length);
        samples.pushAll(volts);
        line += volts.length;
        i = end;
        if (i >= bytes.length) break;
      }
      const c = bytes[i]!;
      if (c === newline) {
        const found = readLine();
        if (found) return found;
        length = 0;
      } else if (length < longestLine) {
        buffer[length] = c;
        length += 1;
      } else {
        line += 1;
        return problem('lineTooLong', sentences.lineTooLong(longestLine));
      }
    }
    return undefined;
  };

  return {
    push(all) {
      for (let from = 0; from < all.length && !wrong; from += kernel.pieceBytes) readPiece(all.subarray(from, from + kernel.pieceBytes));
      return wrong;
    },
    end(): Result<Capture> {
      const found = wrong ?? (length > 0 ? readLine() : undefined);
      length = 0;
      if (found) return failed(found);
      if (!head || samples.length < 2) return failed({ code: 'empty', path: '', message: sentences.emptyCsv });
      const seconds = notes.has('gap') ? state.sumS / state.steps : (state.last - firstS) / (samples.length - 1);
      const sampleRateHz = head.columns === 1 ? head.rateHz : 1 / seconds;
      if (!Number.isFinite(sampleRateHz)) return failed({ code: 'noRate', path: '', message: sentences.noRate });
      return ok({ samples, sampleRateHz, startS: firstS, notes: [...notes.values()] });
    },
  };
}
