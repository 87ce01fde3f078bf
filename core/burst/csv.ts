import { failed, ok, type Problem, type Result } from '../units';
import { type Capture, type CaptureReader, mostSamples, Samples, type TimeNote } from './capture';
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
/** Powers of ten that a double holds exactly: a product or quotient with them is rounded once (W. D. Clinger, PLDI 1990, the simple case). */
const exact = Array.from({ length: 23 }, (_, i) => 10 ** i);
const unread = Number.NaN;
/** Digits up to which a number of ours is exact before it is divided. */
const mostPlainDigits = 15;

/**
 * CSV of a scope: a header line, then seconds and volts; or volts alone, with the rate in the header (`volts,1000000 Hz`). A comma, a semicolon or a tab parts
 * them, as in the header; with a semicolon or a tab a comma may be the decimal point. Every time is compared with the one before.
 */
export function burstCsvReader(): CaptureReader {
  const samples = new Samples();
  const notes = new Map<TimeNote['kind'], TimeNote>();
  const buffer = new Uint8Array(longestLine);
  let length = 0;
  let line = 0;
  let head: { delimiter: number; columns: 1 | 2; rateHz: number } | null = null;
  /** Seconds of the first sample and of the last one, and the sum of the steps that are no gaps: in an array, since a number that closures share is made anew each time. */
  const times = new Float64Array(3);
  const [first, last, evenS] = [0, 1, 2];
  /** How many steps that sum has: their mean says best how long a step is. */
  let even = 0;
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
    const cells = text.split(String.fromCharCode(delimiter)).map((cell) => cell.trim());
    if (!/[A-Za-z]{2}/.test(cells[0]!)) return problem('header', sentences.headerMissing(JSON.stringify(text.slice(0, 60))));
    const rate = /^([\d.]+(?:[eE]\d+)?) ?([kM]?)(?:Hz|S\/s|Sa\/s)$/.exec(cells.at(-1)!);
    const rateHz = rate ? Number(rate[1]) * { '': 1, k: 1e3, M: 1e6 }[rate[2] as '' | 'k' | 'M'] : 0;
    if (cells.length !== 2 || (rate && !(rateHz > 0))) return problem('header', sentences.headerMissing(JSON.stringify(text.slice(0, 60))));
    head = { delimiter, columns: rate ? 1 : 2, rateHz };
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
      if (samples.length === 0) times[first] = at;
      else {
        const here = at - times[last]!;
        if (here < 0) return problem('backwards', sentences.timeBackwards);
        const step = even > 0 ? times[evenS]! / even : here;
        const isGap = here > gapSteps * step;
        if (here === 0) note('repeat');
        else if (isGap) note('gap');
        else if (Math.abs(here - step) > unevenSteps * step) note('uneven');
        if (!isGap) {
          times[evenS]! += here;
          even += 1;
        }
      }
      times[last] = at;
    }
    if (samples.length >= mostSamples) return problem('tooMany', sentences.tooMany(mostSamples / 1e6));
    samples.push(volts);
    return undefined;
  };

  /**
   * Lines as nearly every one is, where they lie in the piece: plain numbers of up to fifteen digits with a point, with nothing around them. It stops before the first
   * line that is otherwise or not whole, which is read by `readLine` then; both read the same of a line (a test holds them against each other).
   * @returns where it stopped
   */
  const readPlain = (bytes: Uint8Array, from: number): number => {
    const { delimiter, columns } = head!;
    const timed = columns === 2;
    const end = bytes.length;
    let begin = from;
    let before = times[last]!;
    let sum = times[evenS]!;
    let steps = even;
    // What closures share is slow: here everything is local, and put back at the end.
    const [nought, dot] = [zero, point];
    plain: for (;;) {
      let i = begin;
      let at = 0;
      let value: number;
      for (let column = timed ? 0 : 1; ; column += 1) {
        const negative = bytes[i] === minus;
        if (negative) i += 1;
        const start = i;
        let behind = -1;
        // Up to nine digits in whole numbers of 32 bits, which are several times as fast; the rare ones with more once again.
        let small = 0;
        for (; i < end; i += 1) {
          const c = bytes[i]! - nought;
          if (c >= 0 && c <= 9) small = (Math.imul(small, 10) + c) | 0;
          else if (behind < 0 && c === dot - nought) behind = i + 1;
          else break;
        }
        const digits = i - start - (behind < 0 ? 0 : 1);
        if (digits === 0 || digits > mostPlainDigits) break plain;
        let mantissa = small;
        if (digits > 9) {
          mantissa = 0;
          for (let k = start; k < i; k += 1) if (bytes[k] !== dot) mantissa = mantissa * 10 + (bytes[k]! - nought);
        }
        if (behind >= 0) mantissa /= exact[i - behind]!;
        value = negative ? -mantissa : mantissa;
        if (column === 1) break;
        if (i >= end || bytes[i] !== delimiter) break plain;
        at = value;
        i += 1;
      }
      if (i < end && bytes[i] === carriage) i += 1;
      if (i >= end || bytes[i] !== newline) break plain;
      line += 1;
      begin = i + 1;
      const here = at - before;
      const step = steps > 0 ? sum / steps : here;
      if (timed && samples.length > 0 && samples.length < mostSamples && here > 0 && Math.abs(here - step) <= plainSteps * step) {
        sum += here;
        steps += 1;
        before = at;
        samples.push(value);
        continue;
      }
      // The first sample, a step that is to be noted, or one too many.
      times[last] = before;
      times[evenS] = sum;
      even = steps;
      if (take(at, value, timed)) return begin;
      before = times[last];
      sum = times[evenS];
      steps = even;
    }
    times[last] = before;
    times[evenS] = sum;
    even = steps;
    return begin;
  };

  return {
    push(bytes) {
      if (wrong) return wrong;
      for (let i = 0; i < bytes.length; i += 1) {
        if (length === 0 && head) {
          i = readPlain(bytes, i);
          if (wrong) return wrong;
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
    },
    end(): Result<Capture> {
      const found = wrong ?? (length > 0 ? readLine() : undefined);
      length = 0;
      if (found) return failed(found);
      if (!head || samples.length < 2) return failed({ code: 'empty', path: '', message: sentences.emptyCsv });
      const seconds = notes.has('gap') ? times[evenS]! / even : (times[last]! - times[first]!) / (samples.length - 1);
      const sampleRateHz = head.columns === 1 ? head.rateHz : 1 / seconds;
      if (!Number.isFinite(sampleRateHz)) return failed({ code: 'noRate', path: '', message: sentences.noRate });
      return ok({ samples, sampleRateHz, startS: times[first]!, notes: [...notes.values()] });
    },
  };
}
