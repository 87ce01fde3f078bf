import { generator } from '../units';
import { burstCsvReader, burstWavReader, type Capture, measure, type Measured, Samples } from '.';
import { type Synthetic, synthetic, volts } from './synthetic.testing';

const measured = (s: Synthetic): Measured => {
  const result = measure(synthetic(s));
  if (!result.ok) throw new Error(result.problems[0]!.message);
  return result.value;
};
const three: [number, number][] = [
  [0.011, 0.02],
  [0.043, 0.02],
  [0.0757, 0.0213],
];
const rms = (list: readonly number[]) => Math.sqrt(list.reduce((n, x) => n + x * x, 0) / list.length);
const mean = (list: readonly number[]) => list.reduce((n, x) => n + x, 0) / list.length;

/** Bytes that hostile files may take in the heap and beside it: their readers', and what is not cleared away yet. */
const mostGrown = 200e6;
function watchMemory() {
  const held = () => {
    const { heapUsed, external } = process.memoryUsage();
    return heapUsed + external;
  };
  const before = held();
  let most = before;
  return { look: () => void (most = Math.max(most, held())), grown: () => most - before };
}

describe('measuring', () => {
  test('three bursts without noise: starts, lengths, amplitude and carrier', () => {
    const { bursts, carrierHz, quality, limits, lengthS } = measured({ bursts: three, amplitude: 0.8 });
    expect(bursts).toHaveLength(3);
    bursts.forEach((b, i) => {
      expect(Math.abs(b.startS - three[i]![0]) * 1e6).toBeLessThan(1);
      expect(Math.abs(b.durationS - three[i]![1]) * 1e6).toBeLessThan(2);
      expect(b.amplitude).toBeCloseTo(0.8, 2);
      expect(b).toMatchObject({ notches: 0, depth: 0 });
    });
    expect(Math.abs(carrierHz! - 125_000)).toBeLessThan(1);
    expect([quality, limits, lengthS]).toEqual(['good', [], 0.1]);
  });

  test('at 20 dB and a million samples a second edges are off by less than 1 µs in the mean and spread by 2 µs at most', () => {
    const [starts, ends]: [number[], number[]] = [[], []];
    for (let seed = 1; seed <= 15; seed += 1) {
      const { bursts } = measured({ bursts: three, snrDb: 20, seed });
      expect(bursts).toHaveLength(3);
      bursts.forEach((b, i) => {
        starts.push((b.startS - three[i]![0]) * 1e6);
        ends.push((b.startS + b.durationS - three[i]![0] - three[i]![1]) * 1e6);
      });
    }
    for (const off of [starts, ends]) {
      expect(Math.abs(mean(off))).toBeLessThan(1);
      expect(rms(off.map((x) => x - mean(off)))).toBeLessThan(2);
    }
  });

  test.each([10, 20, 30])('the carrier at %d dB is at most 1.2 times as uncertain as the bound of Cramér and Rao, and says so', (snrDb) => {
    const length = 0.02;
    const n = length * 1e6;
    // For a real tone (D. C. Rife, R. R. Boorstyn, IEEE Transactions on Information Theory 20 (1974) 591).
    const bound = Math.sqrt(12 / (10 ** (snrDb / 10) * n * (n * n - 1))) * (1e6 / (2 * Math.PI));
    const off: number[] = [];
    const told: number[] = [];
    for (let seed = 1; seed <= 40; seed += 1) {
      const carrierHz = 124_000 + 37 * seed;
      const { bursts } = measured({ bursts: [[0.015, length]], lengthS: 0.05, snrDb, seed, carrierHz });
      off.push(bursts[0]!.carrierHz - carrierHz);
      told.push(bursts[0]!.carrierUncertaintyHz!);
    }
    expect(rms(off)).toBeLessThan(1.2 * bound);
    expect(rms(off)).toBeGreaterThan(0.7 * bound);
    expect(mean(told) / rms(off)).toBeGreaterThan(0.7);
    expect(mean(told) / rms(off)).toBeLessThan(1.5);
  });

  const drawn = (next: () => number, snrDb: number, seed: number) => {
    const count = Math.floor(6 * next());
    const bursts = Array.from({ length: count }, (_, k): [number, number] => [0.006 + 0.03 * k + 0.004 * next(), 0.004 + 0.016 * next()]);
    const carrierHz = next() < 0.5 ? 125_000 : 134_200;
    const hum: [number, number] = [next() < 0.5 ? 0 : 0.4 * next(), 60];
    const found = measured({ bursts, snrDb, carrierHz, hum, lengthS: 0.2, rateHz: 600_000, seed });
    return { count, told: found.quality === 'notMeasurable' ? 'not measurable' : found.bursts.length };
  };

  test('from 10 dB on no count is wrong, whatever floor, hum and carrier', () => {
    const next = generator(77);
    for (let i = 0; i < 40; i += 1) {
      const snrDb = 10 + 30 * next();
      const { count, told } = drawn(next, snrDb, i);
      expect([i, snrDb, told]).toEqual([i, snrDb, count]);
    }
  });

  test('from 3 to 10 dB it is right or not measurable, and never nothing where something is', () => {
    const next = generator(78);
    let unsure = 0;
    for (let i = 0; i < 60; i += 1) {
      const snrDb = 3 + 7 * next();
      const { count, told } = drawn(next, snrDb, i);
      if (told === 'not measurable') unsure += 1;
      expect([i, snrDb, told]).toEqual([i, snrDb, count > 0 && told === 'not measurable' ? told : count]);
    }
    expect(unsure).toBeGreaterThan(20);
  });

  test('noise alone is nothing', () => {
    for (let seed = 1; seed <= 12; seed += 1)
      expect(measured({ snrDb: 6, seed, lengthS: 0.05 })).toMatchObject({ quality: 'nothing', bursts: [], carrierHz: null });
  });

  test('dips inside a burst are counted with their depth; pauses are not', () => {
    const dips: [number, number, number][] = [
      [0.004, 0.0005, 0.6],
      [0.006, 0.0005, 1],
      [0.009, 0.0015, 0.4],
    ];
    const { bursts } = measured({ bursts: [[0.02, 0.02]], dips, snrDb: 30 });
    expect(bursts).toHaveLength(1);
    expect(bursts[0]!.notches).toBe(3);
    expect(bursts[0]!.depth).toBeGreaterThan(0.9);
    expect(measured({ bursts: [[0.02, 0.02]], dips: [[0.008, 0.003, 1]], snrDb: 30 }).bursts).toHaveLength(2);
    // Where noise makes as many, it is not said.
    expect(measured({ bursts: [[0.02, 0.02]], snrDb: 8 }).bursts[0]).toMatchObject({ notches: null, depth: null });
  });

  test('what limits a measurement is said', () => {
    const limitsOf = (s: Synthetic) => measured({ snrDb: 30, ...s }).limits;
    expect(limitsOf({ bursts: three, clip: 0.7 })).toEqual(['clipped']);
    expect(limitsOf({ bursts: three, rateHz: 400_000 })).toEqual(['undersampled']);
    expect(limitsOf({ bursts: three, hum: [2, 60] })).toEqual(['hum']);
    expect(
      limitsOf({
        bursts: [
          [0, 0.01],
          [0.05, 0.01],
        ],
      }),
    ).toEqual(['startsInside']);
    expect(limitsOf({ bursts: [[0.05, 0.06]] })).toEqual(['endsInside']);
    const capture: Capture = { ...synthetic({ bursts: three, snrDb: 30 }), notes: [{ kind: 'gap', line: 4, count: 1 }] };
    expect(measure(capture)).toMatchObject({ ok: true, value: { quality: 'limited', limits: ['gaps'] } });
  });

  test('shorter than a hundredth of a second is refused, and a hundredth is not', () => {
    const of = (n: number) => measure({ samples: Samples.of(new Float32Array(n)), sampleRateHz: 1e6, startS: 0, notes: [] });
    expect(of(9_999)).toMatchObject({ ok: false, problems: [{ message: 'Too short to measure: capture at least a hundredth of a second.' }] });
    expect(of(10_000)).toMatchObject({ ok: true, value: { quality: 'nothing', samples: 10_000 } });
  });
});

/** Reads a text in pieces of a length. */
function csv(text: string, piece = 7): ReturnType<ReturnType<typeof burstCsvReader>['end']> {
  const reader = burstCsvReader();
  const bytes = new TextEncoder().encode(text);
  for (let i = 0; i < bytes.length; i += piece) reader.push(bytes.subarray(i, i + piece));
  return reader.end();
}
const read = (text: string): Capture => {
  const result = csv(text);
  if (!result.ok) throw new Error(`${result.problems[0]!.path}: ${result.problems[0]!.message}`);
  return result.value;
};
const told = (text: string) => {
  const result = csv(text);
  return result.ok ? 'ok' : `${result.problems[0]!.path}: ${result.problems[0]!.message}`;
};
const list = ({ samples }: Capture) => Array.from({ length: samples.length }, (_, i) => Math.fround(samples.at(i)));

describe('CSV', () => {
  test.each<[string, string, number[], number]>([
    ['commas', 'seconds,volts\n0,1\n1e-6,-2.5\n2E-06,+0.125\n', [1, -2.5, 0.125], 1e6],
    ['semicolons and decimal commas', 'Zeit;Spannung\r\n0,0;1,5\r\n0,000002;-1,5', [1.5, -1.5], 5e5],
    ['tabs, spaces, quotation marks, empty lines', 'time\tV out\n\n 0 \t "1" \n0.5e-5\t2\n\n', [1, 2], 2e5],
    ['volts alone, with the rate in the header', 'volts,2 MS/s\n1\n.5\n-3.', [1, 0.5, -3], 2e6],
    ['a mark of UTF-8', '\ufeffseconds,volts\n0,1\n1,2', [1, 2], 1],
  ])('%s', (_, text, values, rateHz) => {
    const capture = read(text);
    expect(list(capture)).toEqual(values.map(Math.fround));
    expect(capture.sampleRateHz / rateHz).toBeCloseTo(1, 9);
    expect(capture.notes).toEqual([]);
  });

  test('times that do not fit are told with their first line', () => {
    const times = [0, 1, 2, 3, 3, 4, 5, 9, 10, 11.8, 12];
    expect(read(`seconds,volts\n${times.map((t) => `${t},0`).join('\n')}`).notes).toEqual([
      { kind: 'repeat', line: 6, count: 1 },
      { kind: 'gap', line: 9, count: 2 },
      { kind: 'uneven', line: 12, count: 1 },
    ]);
  });

  test.each<[string, string]>([
    ['', ': The file has no samples. Export seconds and volts from the scope as CSV, with a header line.'],
    ['seconds,volts\n0,1', ': The file has no samples. Export seconds and volts from the scope as CSV, with a header line.'],
    ['0,1\n1,2', 'line 1: The first line is "0,1". Begin with a header such as seconds,volts.'],
    ['seconds,volts,more\n0,1,2', 'line 1: The first line is "seconds,volts,more". Begin with a header such as seconds,volts.'],
    ['volts,seconds\n0,1\n1,2', 'line 1: The volts come first here. Export seconds first, then volts.'],
    ['Time (ms),Channel A (V)\n0,1\n1,2', 'line 1: The header says ms. Export seconds and volts.'],
    ['"Time (us)","Channel A (V)"\n0,1\n1,2', 'line 1: The header says us. Export seconds and volts.'],
    ['Time [s];Channel A [mV]\n0;1\n1;2', 'line 1: The header says mV. Export seconds and volts.'],
    ['Time (s),Channel A (V)\n0,1\n1,2', 'ok'],
    ['seconds,volts\n0,1\n1', 'line 3: This line has 1 columns; the header has 2. Write 2.'],
    ['seconds,volts\n0,1\n1,2,3', 'line 3: This line has 3 columns; the header has 2. Write 2.'],
    ['seconds,volts\n0,one', 'line 2: The volts can’t be read. Write them such as -0.125 or 3.2e-2.'],
    ['seconds,volts\n0,1\n1,NaN', 'line 3: The volts can’t be read. Write them such as -0.125 or 3.2e-2.'],
    ['seconds,volts\n0,1\n1,1e400', 'line 3: The volts can’t be read. Write them such as -0.125 or 3.2e-2.'],
    ['seconds,volts\n0,1e', 'line 2: The volts can’t be read. Write them such as -0.125 or 3.2e-2.'],
    ['seconds,volts\n0x1,1', 'line 2: The seconds can’t be read. Write them such as 0.00125 or 1.25e-3.'],
    ['seconds,volts\n2,1\n1,1', 'line 3: This time is before the one above. Export the samples in order of time.'],
    ['seconds,volts\n2,1\n2,1', ': All samples have the same time, so there is no sample rate. Export more digits of the seconds.'],
    [
      `seconds,volts\n0,${'1'.repeat(300)}`,
      'line 2: A line of more than 256 characters. This is not a capture of a scope; use CSV with seconds and volts.',
    ],
  ])('%j: what it is refused for', (text, message) => expect(told(text)).toBe(message));

  test('numbers of any form are read as the language reads them, to the last place of a float', () => {
    const next = generator(5);
    const forms = [
      (x: number) => String(x),
      (x: number) => x.toFixed(6),
      (x: number) => x.toExponential(9),
      (x: number) => x.toPrecision(17),
      (x: number) => `+${Math.abs(x)}`,
    ];
    const texts = Array.from({ length: 5000 }, (_, i) => forms[i % forms.length]!((next() - 0.5) * 10 ** Math.floor(next() * 30 - 20)));
    const capture = read(`volts,1 Hz\n${texts.join('\n')}`);
    // Fifteen digits are read, so that of two neighbors now and then the other one is taken.
    const off = list(capture).filter((x, i) => Math.abs(x - Number(texts[i])) > 2 ** -23 * Math.abs(Number(texts[i])));
    expect(off).toEqual([]);
  });

  test('pieces of any length make the same capture', () => {
    const text = `seconds,volts\n${Array.from({ length: 400 }, (_, i) => `${i / 1000},${Math.sin(i)}`).join('\n')}\n`;
    const whole = csv(text, 1e9);
    for (const piece of [1, 2, 3, 64, 1000]) expect(csv(text, piece)).toEqual(whole);
  });

  test('plain lines, read fast, make the same as byte by byte, where every line is read carefully: samples, times, notes and what is wrong', () => {
    const next = generator(77);
    const pick = <T>(of: readonly T[]): T => of[Math.floor(next() * of.length)]!;
    let refused = 0;
    for (let file = 0; file < 1000; file += 1) {
      const delimiter = pick([',', ',', ';', '\t']);
      const alone = next() < 0.2;
      let t = next() < 0.2 ? -0.01 : 0;
      const lines = Array.from({ length: 1 + Math.floor(next() * 60) }, () => {
        t += pick([1e-6, 1e-6, 1e-6, 1e-6, 1e-6, 1e-6, 1e-6, 1e-6, 1.7e-6, 5e-6, 0, next() < 0.05 ? -1e-6 : 1e-6]);
        const x = (next() - 0.5) * 10 ** Math.floor(next() * 8 - 4);
        const said = pick([
          x.toFixed(6),
          x.toFixed(6),
          x.toFixed(3),
          x.toFixed(12),
          String(x),
          x.toExponential(4),
          `.${Math.floor(next() * 1e6)}`,
          '-0',
          '7.',
        ]);
        const volts =
          next() < 0.004 ? pick(['', 'x', '1e400', '--1', '1.2.3', '-', '.']) : delimiter !== ',' && next() < 0.2 ? said.replace('.', ',') : said;
        const line = alone ? volts : `${pick([t.toFixed(7), t.toFixed(7), t.toFixed(9), t.toExponential(8)])}${delimiter}${volts}`;
        return `${next() < 0.02 ? ' ' : ''}${line}${next() < 0.1 ? '\r' : ''}${next() < 0.01 ? '\n' : ''}`;
      });
      const text = `${alone ? `volts${delimiter}1 MHz` : `seconds${delimiter}volts`}\n${lines.join('\n')}${next() < 0.5 ? '\n' : ''}`;
      const [fast, careful] = [csv(text, 1e9), csv(text, 1)];
      expect(fast).toEqual(careful);
      if (!fast.ok) refused += 1;
    }
    // Both ways were taken.
    expect(refused).toBeGreaterThan(50);
    expect(refused).toBeLessThan(700);
  });

  test('ten thousand texts that are anything: an answer each time, and a line wherever something is wrong in one', () => {
    const next = generator(9);
    const memory = watchMemory();
    const bits = ['0,1\n', '1,2\n', 'seconds,volts\n', ',', ';', '\n', '1e400', 'NaN', '-', '"', '\u0000', '.', '9'.repeat(40), 'e-9', '\t', '\r\n'];
    for (let i = 0; i < 10_000; i += 1) {
      const text =
        (next() < 0.7 ? 'seconds,volts\n' : '') +
        Array.from({ length: Math.floor(next() * 12) }, () => bits[Math.floor(next() * bits.length)]).join('');
      const said = told(text);
      memory.look();
      expect(said === 'ok' || /^(line \d+)?: .+\.$/.test(said)).toBe(true);
    }
    expect(memory.grown()).toBeLessThan(mostGrown);
  });
});

function wav(data: ArrayBuffer, { kind = 1, bits = 16, channels = 1, rateHz = 1e6, dataSize = data.byteLength, before = 0 } = {}): Uint8Array {
  const bytes = new Uint8Array(44 + before + data.byteLength);
  const view = new DataView(bytes.buffer);
  const text = (at: number, t: string) => [...t].forEach((c, i) => view.setUint8(at + i, c.charCodeAt(0)));
  text(0, 'RIFF');
  view.setUint32(4, bytes.length - 8, true);
  text(8, 'WAVE');
  text(12, 'fmt ');
  view.setUint32(16, 16, true);
  view.setUint16(20, kind, true);
  view.setUint16(22, channels, true);
  view.setUint32(24, rateHz, true);
  view.setUint16(34, bits, true);
  let at = 36;
  if (before > 0) {
    text(at, 'LIST');
    view.setUint32(at + 4, before - 8, true);
    at += before;
  }
  text(at, 'data');
  view.setUint32(at + 4, dataSize, true);
  bytes.set(new Uint8Array(data), at + 8);
  return bytes;
}
const readWav = (bytes: Uint8Array, { channel = 1, piece = 11 } = {}) => {
  const reader = burstWavReader(channel);
  for (let i = 0; i < bytes.length; i += piece) reader.push(bytes.subarray(i, i + piece));
  return reader.end();
};
const toldWav = (bytes: Uint8Array, more = {}) => {
  const result = readWav(bytes, more);
  return result.ok ? 'ok' : result.problems[0]!.message;
};

describe('WAV', () => {
  const ints = Int16Array.from([0, 16384, -32768, 32767]);
  test.each([1, 2, 5, 1000])('16-bit, in pieces of %d', (piece) => {
    const result = readWav(wav(ints.buffer), { piece });
    expect(result.ok && [list(result.value), result.value.sampleRateHz]).toEqual([[0, 0.5, -1, Math.fround(32767 / 32768)], 1e6]);
  });

  test('32-bit float, behind another part, whose size is not known', () => {
    const result = readWav(wav(Float32Array.from([0.25, -3]).buffer, { kind: 3, bits: 32, before: 12, dataSize: 0xffffffff }));
    expect(result.ok && list(result.value)).toEqual([0.25, -3]);
  });

  test('one of two channels', () => {
    for (const [channel, values] of [
      [1, [0, -1]],
      [2, [0.5, Math.fround(32767 / 32768)]],
    ] as const) {
      const result = readWav(wav(ints.buffer, { channels: 2 }), { channel });
      expect(result.ok && list(result.value)).toEqual(values);
    }
  });

  test('what is no such file is refused', () => {
    expect(toldWav(new Uint8Array(40))).toBe('This is not a WAV file: it does not begin with RIFF and WAVE.');
    expect(toldWav(new Uint8Array(3))).toBe('This is not a WAV file: it does not begin with RIFF and WAVE.');
    expect(toldWav(wav(ints.buffer, { bits: 24 }))).toBe('A WAV file of kind 1, 24-bit. Save it as 16-bit or as 32-bit float.');
    expect(toldWav(wav(ints.buffer, { channels: 6 }))).toBe('The file has 6 channels. Save one, or two and choose one of them.');
    expect(toldWav(wav(ints.buffer), { channel: 2 })).toBe('There is no channel 2; the file has 1.');
    expect(toldWav(wav(ints.buffer, { rateHz: 0 }))).toBe('A sample rate of 0 Hz. Save the file with its rate.');
    expect(toldWav(wav(ints.buffer, { dataSize: 20 }))).toBe('The file ends in the middle. Copy it again.');
    expect(toldWav(wav(new ArrayBuffer(0)))).toBe('The file holds no samples. Save the capture again.');
    expect(toldWav(wav(Float32Array.from([0, Number.NaN]).buffer, { kind: 3, bits: 32 }))).toBe('A sample is not a number. Save the file again.');
  });

  test('ten thousand files with seeded damage: an answer each time, none hangs', () => {
    const next = generator(3);
    const good = wav(ints.buffer, { before: 12 });
    const memory = watchMemory();
    for (let i = 0; i < 10_000; i += 1) {
      const bytes = good.slice(0, next() < 0.5 ? good.length : Math.floor(next() * good.length));
      for (let k = 0; k < 3 && bytes.length > 0; k += 1) bytes[Math.floor(next() * bytes.length)] = Math.floor(next() * 256);
      const result = readWav(bytes, { piece: 1 + Math.floor(next() * 50) });
      memory.look();
      expect(result.ok || result.problems[0]!.message.length > 10).toBe(true);
    }
    expect(memory.grown()).toBeLessThan(mostGrown);
  });
});

test('a capture from its text: what was made is found', () => {
  const made = volts({ bursts: three, snrDb: 25, rateHz: 500_000 });
  const text = `seconds,volts\n${Array.from(made, (v, i) => `${(i / 500_000).toFixed(7)},${v.toFixed(5)}`).join('\n')}\n`;
  const result = measure(read(text));
  expect(result.ok && result.value.bursts.map((b) => [Math.round(b.startS * 1e4), Math.round(b.durationS * 1e4)])).toEqual([
    [110, 200],
    [430, 200],
    [757, 213],
  ]);
});
