import { failed, ok, type Problem, type Result } from '../units';
import { type Capture, type CaptureReader, mostSamples, Samples } from './capture';
import { sentences } from './sentences';

/** Kinds of samples in WAV (RIFF, Microsoft and IBM 1991): whole numbers, float, and the form that names its kind further behind. */
const [whole, float, extensible] = [1, 3, 0xfffe];
/** Size of a part that is written while it is not known yet: then it goes on to the end. */
const unknownSize = 0xffffffff;

interface Format {
  isFloat: boolean;
  channels: number;
  rateHz: number;
}

/**
 * WAV with one or two channels of 16-bit whole numbers or 32-bit floats. Volts are those of a full scale of 1.
 * @param channel which one is read, from 1
 */
export function burstWavReader(channel = 1): CaptureReader {
  const samples = new Samples();
  let format: Format | null = null;
  let [at, state] = [0, 'riff' as 'riff' | 'part' | 'format' | 'data' | 'skip'];
  /** Bytes of what is being read, that are not whole yet. */
  let rest = new Uint8Array(0);
  /** Bytes that are left of the part. */
  let left = 0;
  let sawData = false;
  let wrong: Problem | undefined;
  const problem = (code: string, message: string): Problem => (wrong = { code, path: sentences.byteAt(at), message });

  const readFormat = (view: DataView): Problem | undefined => {
    let kind = view.getUint16(0, true);
    const [channels, rateHz, bits] = [view.getUint16(2, true), view.getUint32(4, true), view.getUint16(14, true)];
    if (kind === extensible && view.byteLength >= 26) kind = view.getUint16(24, true);
    if (!((kind === whole && bits === 16) || (kind === float && bits === 32))) return problem('wavKind', sentences.wavKind(kind, bits));
    if (channels < 1 || channels > 2) return problem('wavChannels', sentences.wavChannels(channels));
    if (channel > channels) return problem('wavChannel', sentences.wavChannel(channel, channels));
    if (rateHz === 0) return problem('wavRate', sentences.wavRate(rateHz));
    format = { isFloat: kind === float, channels, rateHz };
    return undefined;
  };

  const readPart = (view: DataView): Problem | undefined => {
    const name = String.fromCharCode(...Array.from({ length: 4 }, (_, i) => view.getUint8(i)));
    const size = view.getUint32(4, true);
    if (name === 'fmt ') {
      if (size < 16 || size > 200) return problem('wavSize', sentences.wavSize(name.trim(), size));
      [state, left] = ['format', size + (size % 2)];
    } else if (name === 'data') {
      if (!format) return problem('wavNoFormat', sentences.wavNoFormat);
      sawData = true;
      [state, left] = ['data', size === unknownSize ? Infinity : size];
    } else [state, left] = ['skip', size + (size % 2)];
    return undefined;
  };

  const take = (view: DataView, from: number): Problem | undefined => {
    const { isFloat } = format!;
    const own = from + (channel - 1) * (isFloat ? 4 : 2);
    const volts = isFloat ? view.getFloat32(own, true) : view.getInt16(own, true) / 32768;
    if (!Number.isFinite(volts)) return problem('wavFloat', sentences.wavFloat);
    if (samples.length >= mostSamples) return problem('tooMany', sentences.tooMany(mostSamples / 1e6));
    samples.push(volts);
    return undefined;
  };

  return {
    push(bytes) {
      if (wrong) return wrong;
      let all = bytes;
      if (rest.length > 0) {
        all = new Uint8Array(rest.length + bytes.length);
        all.set(rest);
        all.set(bytes, rest.length);
      }
      const view = new DataView(all.buffer, all.byteOffset, all.byteLength);
      let i = 0;
      const has = (n: number) => all.length - i >= n;
      for (;;) {
        let found: Problem | undefined;
        if (state === 'riff') {
          if (!has(12)) break;
          if (view.getUint32(0) !== 0x52494646 || view.getUint32(8) !== 0x57415645) found = problem('notWav', sentences.notWav);
          i += 12;
          state = 'part';
        } else if (state === 'part') {
          // What comes behind the samples says nothing about them.
          if (sawData) i = all.length;
          if (sawData || !has(8)) break;
          found = readPart(new DataView(all.buffer, all.byteOffset + i, 8));
          i += 8;
        } else if (state === 'format') {
          if (!has(left)) break;
          found = readFormat(new DataView(all.buffer, all.byteOffset + i, left));
          i += left;
          state = 'part';
        } else if (state === 'skip') {
          const n = Math.min(left, all.length - i);
          if (n === 0 && left > 0) break;
          i += n;
          left -= n;
          if (left === 0) state = 'part';
        } else {
          const size = format!.channels * (format!.isFloat ? 4 : 2);
          while (!found && left >= size && has(size)) {
            found = take(view, i);
            i += size;
            left -= size;
          }
          if (!found && left < size) state = 'part';
          else if (!found) break;
        }
        if (found) return found;
      }
      at += i - rest.length;
      rest = all.slice(i);
      return undefined;
    },
    end(): Result<Capture> {
      if (wrong) return failed(wrong);
      const failure = (code: string, message: string) => failed({ code, path: sentences.byteAt(at + rest.length), message });
      if (state === 'riff') return failure('notWav', sentences.notWav);
      if (state === 'data' && left !== Infinity) return failure('wavCut', sentences.wavCut);
      if (!format || samples.length < 2) return failure('wavNoData', sentences.wavNoData);
      return ok({ samples, sampleRateHz: (format as Format).rateHz, startS: 0, notes: [] });
    },
  };
}

/** A capture as WAV of one channel with 32-bit floats, in parts: the header, and the samples as they lie in memory. The rate is a whole number there. */
export function wavOf(samples: Samples, sampleRateHz: number): Uint8Array[] {
  const header = new DataView(new ArrayBuffer(44));
  const rate = Math.round(sampleRateHz);
  const bytes = 4 * samples.length;
  const name = (at: number, text: string) => [...text].forEach((c, i) => header.setUint8(at + i, c.charCodeAt(0)));
  name(0, 'RIFF');
  header.setUint32(4, 36 + bytes, true);
  name(8, 'WAVEfmt ');
  header.setUint32(16, 16, true);
  header.setUint16(20, float, true);
  header.setUint16(22, 1, true);
  header.setUint32(24, rate, true);
  header.setUint32(28, rate * 4, true);
  header.setUint16(32, 4, true);
  header.setUint16(34, 32, true);
  name(36, 'data');
  header.setUint32(40, bytes, true);
  const parts = samples.pieces().map((piece) => new Uint8Array(piece.buffer, piece.byteOffset, piece.byteLength));
  return [new Uint8Array(header.buffer), ...parts];
}
