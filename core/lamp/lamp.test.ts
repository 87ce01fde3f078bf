import type { LaidLamp } from '../library';
import { expectedLit, lampCsvReader, lampFeatures, type LampFileReader, lampVcdReader, lampVerdict, readLamp, recordingOf, seenWords } from '.';
import { alignedLogDensity } from './likelihood';
import { firstSeconds, type Recording } from './recording';

const lamp = (id: string, segments: LaidLamp['segments'] & object, decisiveS = 4): LaidLamp => ({
  id,
  title: `The ${id} one`,
  moment: 'ignition-on',
  segments,
  decisiveS,
  meaning: `Means ${id}.`,
  act: 'Do it.',
});
const accepted = lamp('accepted', [{ on: 3 }, { off: 3 }], 5);
const fast = lamp('fast', [{ repeat: [{ on: 0.25 }, { off: 0.25 }] }]);
const dark = lamp('dark', [{ off: 6 }]);
const steady = lamp('steady', [{ on: 8 }], 6);
const all = [accepted, fast, dark, steady];

/** Lights from pairs of on and off, each tapped `late`. */
const seen = (lengthS: number, pairs: [on: number, off: number][], late = 0.2): Recording => ({
  lengthS,
  lit: pairs.map(([on, off]) => ({ onS: on + late, offS: Math.min(off + late, lengthS) })),
  litAtEnd: pairs.some(([, off]) => off + late >= lengthS),
});
const flashing = (n: number, period = 0.5, from = 0): [number, number][] =>
  Array.from({ length: n }, (_, i) => [from + i * period, from + i * period + period / 2]);

describe('recordings', () => {
  const s = (atS: number, lit: boolean) => ({ atS, lit });
  test('changes and even samples of the same lamp are the same recording', () => {
    const changes = recordingOf([s(0.2, true), s(3.1, false), s(6, false)]);
    const samples = recordingOf(Array.from({ length: 61 }, (_, i) => s(i / 10, i >= 2 && i < 31)));
    expect(changes).toEqual({ ok: true, value: { lengthS: 6, lit: [{ onS: 0.2, offS: 3.1 }], litAtEnd: false } });
    expect(samples).toEqual(changes);
  });
  test('still lit at the end: the end of the look is no observed end', () =>
    expect(recordingOf([s(0.2, true)], 4)).toEqual({ ok: true, value: { lengthS: 4, lit: [{ onS: 0.2, offS: 4 }], litAtEnd: true } }));
  test('no edge at all is a dark lamp', () =>
    expect(recordingOf([s(0, false), s(5, false)])).toMatchObject({ ok: true, value: { lit: [], lengthS: 5 } }));
  test.each([
    [[s(Number.NaN, true)], '[0]: A sample at NaN s. Use seconds from the start of the recording, 0 or more.'],
    [[s(-1, true)], '[0]: A sample at -1 s. Use seconds from the start of the recording, 0 or more.'],
    [[s(1, true), s(0.9, false)], '[1]: 0.9 s is before the sample above (1 s). Put the samples in order of time.'],
    [[s(600, true)], undefined],
    [
      [s(600.1, true)],
      '[0]: A sample at 600.1 s; a recording has at most 600 s. Are these milliseconds? Write seconds from the start of the recording.',
    ],
    [[], ': The recording has no length. Record for some seconds.'],
    [[s(0, true)], ': The recording has no length. Record for some seconds.'],
    [
      Array.from({ length: 40_010 }, (_, i) => s(i / 1000, i % 2 === 0)),
      '[40000]: More than 20000 changes can’t be a light. Filter the recording, or choose another channel.',
    ],
  ])('%#', (samples, message) => {
    const result = recordingOf(samples);
    expect(result.ok ? undefined : `${result.problems[0]!.path}: ${result.problems[0]!.message}`).toBe(message);
  });
  test('the first seconds of a longer one', () => {
    const long = seen(
      10,
      [
        [0, 1],
        [4, 6],
      ],
      0,
    );
    expect(firstSeconds(long, 5)).toEqual({
      lengthS: 5,
      lit: [
        { onS: 0, offS: 1 },
        { onS: 4, offS: 5 },
      ],
      litAtEnd: true,
    });
    expect(firstSeconds(long, 3)).toEqual({ lengthS: 3, lit: [{ onS: 0, offS: 1 }], litAtEnd: false });
    expect(firstSeconds(long, 10)).toBe(long);
  });
});

describe('when a pattern is lit', () => {
  test.each<[string, LaidLamp, number, number, [number, number][]]>([
    ['out stays out', accepted, 20, 1, [[0, 3]]],
    ['lit stays lit', steady, 20, 1, [[0, 20]]],
    ['a slower lamp', accepted, 20, 1.1, [[0, 3.3]]],
    ['a look that ends in the light', accepted, 2, 1, [[0, 2]]],
    [
      'repeated for as long as one looks',
      fast,
      1.2,
      1,
      [
        [0, 0.25],
        [0.5, 0.75],
        [1, 1.2],
      ],
    ],
    ['never', dark, 9, 1, []],
  ])('%s', (_what, pattern, length, tempo, expected) => {
    const lit = expectedLit(pattern, length, tempo).map((l) => [l.onS, l.offS]);
    expect(lit.length).toBe(expected.length);
    lit.flat().forEach((x, i) => expect(x).toBeCloseTo(expected.flat()[i]!, 9));
  });
});

/** The same sum over alignments, written out naively: every way to pair taps and lights in order. */
function naive(r: Recording, lights: { onS: number; offS: number }[], delay: number): number {
  const gauss = (x: number, sd: number) => Math.exp(-0.5 * (x / sd) ** 2) / (sd * Math.sqrt(2 * Math.PI));
  const edge = (x: number) => (Math.abs(x) >= 3 ? 1e-6 : 0.9 * gauss(x, 0.1) + 0.1 * gauss(x, 0.35) + 1e-6);
  const end = (i: number, j: number) => {
    const openTap = r.litAtEnd && i === r.lit.length - 1;
    const openLight = lights[j]!.offS + delay >= r.lengthS;
    if (openTap && openLight) return 1;
    if (openTap) return edge(r.lengthS - lights[j]!.offS - delay) / 2;
    return edge(r.lit[i]!.offS - (openLight ? r.lengthS : lights[j]!.offS + delay));
  };
  const ways = (i: number, j: number): number => {
    if (i === 0 && j === 0) return 1;
    let sum = 0;
    if (j > 0) sum += ways(i, j - 1) * (lights[j - 1]!.onS + delay >= r.lengthS ? 1 : 0.04);
    const slip = (t: { onS: number; offS: number }) => Math.exp(-(t.offS - t.onS) / 0.3) / 0.3 + 1e-6;
    if (i > 0) sum += ways(i - 1, j) * (0.02 / (r.lengthS + 1)) * slip(r.lit[i - 1]!);
    if (i > 0 && j > 0) sum += ways(i - 1, j - 1) * 0.92 * edge(r.lit[i - 1]!.onS - lights[j - 1]!.onS - delay) * end(i - 1, j - 1);
    if (i > 1 && j > 0)
      sum +=
        ((ways(i - 2, j - 1) * 0.04) / (lights[j - 1]!.offS - lights[j - 1]!.onS + 0.3) ** 2) *
        edge(r.lit[i - 2]!.onS - lights[j - 1]!.onS - delay) *
        end(i - 1, j - 1);
    return sum;
  };
  return Math.log(ways(r.lit.length, lights.length));
}

describe('likelihood', () => {
  test.each([
    ['as tapped', seen(4, flashing(4)), 0.2],
    [
      'one missed',
      seen(
        4,
        flashing(4).filter((_, i) => i !== 2),
      ),
      0.2,
    ],
    [
      'one in two goes',
      seen(3, [
        [0, 0.1],
        [0.15, 0.25],
        [0.5, 0.75],
      ]),
      0.25,
    ],
    ['nothing tapped', seen(2, []), 0.2],
    ['taps that fit nothing', seen(3, [[1.9, 2.6]]), 0.1],
    ['lit at the end', seen(2.3, flashing(5)), 0.2],
  ])('%s: the recursion is the sum over all alignments', (_what, recording, delay) => {
    const lights = expectedLit(fast, recording.lengthS).slice(0, 5);
    // The table's steps of 2 ms are the only difference.
    expect(alignedLogDensity(recording, lights, delay)).toBeCloseTo(naive(recording, lights, delay), 1);
  });
  test('a long look does not run out of the range of numbers', () => {
    const recording = seen(60, flashing(120));
    const density = alignedLogDensity(recording, expectedLit(steady, 60), 0.2);
    expect(Number.isFinite(density)).toBe(true);
    expect(density).toBeLessThan(alignedLogDensity(recording, expectedLit(fast, 60), 0.2));
  });
});

describe('reading', () => {
  test.each<[string, Recording, string, number]>([
    ['lit three seconds, then out', seen(7.5, [[0, 3]]), 'accepted', 0.95],
    ['the same, tapped late', seen(7.5, [[0, 3]], 0.45), 'accepted', 0.9],
    ['flashing', seen(6, flashing(12)), 'fast', 0.99],
    [
      'flashing, two missed, one doubled',
      seen(
        6,
        flashing(12).filter((_, i) => i !== 3 && i !== 7),
      ),
      'fast',
      0.99,
    ],
    ['nothing', seen(6, []), 'dark', 0.85],
    ['lit all the time', seen(9, [[0, 9]]), 'steady', 0.95],
  ])('%s', (_what, recording, id, atLeast) => {
    const reading = readLamp(all, recording);
    expect(reading).toMatchObject({ state: 'decided', moreS: 0, patterns: [{ id }, {}, {}, {}, {}] });
    expect(reading.patterns[0]!.p).toBeGreaterThan(atLeast);
    expect(reading.patterns.reduce((sum, p) => sum + p.p, 0)).toBeCloseTo(1, 9);
  });
  test('what fits nothing is none of these', () => {
    const odd = seen(8, [
      [0.3, 0.4],
      [1.9, 4.1],
      [4.3, 4.4],
      [6.6, 7.7],
    ]);
    expect(readLamp(all, odd).patterns[0]!.id).toBe('none');
  });
  test.each([
    [4.999, 'more'],
    [5, 'decided'],
  ])('accepted needs five seconds: looked %s s', (lengthS, state) => {
    const reading = readLamp([accepted, fast], seen(lengthS, [[0, 3]]));
    expect(reading.state).toBe(state);
    expect(reading.moreS).toBeCloseTo(5 - lengthS, 9);
  });
  // Taken for a dark lamp with one slip of nine seconds before slips were short.
  test('lit all the time is never a dark lamp', () => {
    expect(readLamp([fast, dark], seen(10, [[0, 10]])).patterns[0]!.id).toBe('none');
    expect(readLamp([fast, dark], seen(10, [[4.1, 4.2]])).patterns[0]!.id).toBe('dark');
  });
  // Taken for the family's flashing with many misses before "none of these" knew even flashing.
  test('flashing evenly in another tempo is none of these', () => {
    const other = Array.from({ length: 8 }, (_, i): [number, number] => [i * 1.1, i * 1.1 + 0.55]);
    expect(readLamp([fast, steady], seen(9, other))).toMatchObject({ state: 'decided', patterns: [{ id: 'none' }, {}, {}] });
  });
  test('none of these is not said before a pattern could have shown itself', () => {
    const strange = flashing(4, 0.9);
    expect(readLamp(all, seen(3.9, strange))).toMatchObject({
      state: 'more',
      moreS: expect.closeTo(0.1, 9),
      patterns: [{ id: 'none' }, {}, {}, {}, {}],
    });
    expect(readLamp(all, seen(4, strange))).toMatchObject({ state: 'decided', moreS: 0 });
  });
  test('lit so far could be accepted or steady: how much longer to look', () => {
    const reading = readLamp(all, seen(2, [[0, 2]]));
    expect(reading).toMatchObject({ state: 'more', moreS: 4 });
    expect(lampVerdict(reading, all, 'F')).toBe('Lit all the time. Not watched long enough to decide. Watch 4 s longer, from the start.');
  });
  test('two that nobody can tell apart are both named', () => {
    const twin = { ...fast, id: 'twin', title: 'The twin' };
    const reading = readLamp([fast, twin, dark], seen(6, flashing(12)));
    expect(reading.state).toBe('pair');
    expect(lampVerdict(reading, [fast, twin, dark], 'F')).toMatch(
      /One of these two in “F”: “The (fast one|twin)” or “The (fast one|twin)”\. You can’t tell them apart by eye/,
    );
  });
  test('the same recording means other things in another family', () => {
    const recording = seen(6, flashing(12));
    const other = { ...fast, id: 'learning', meaning: 'It learns.' };
    expect(lampVerdict(readLamp([fast, dark], recording), [fast, dark], 'One')).toContain('“The fast one” in “One”');
    expect(lampVerdict(readLamp([other, dark], recording), [other, dark], 'Two')).toContain('“The fast one” in “Two” (over 99 %). It learns. Do it.');
  });
  test('texts are left out, and without a lamp there is nothing to read', () => {
    const text: LaidLamp = { id: 't', title: 'T', moment: 'key-in', message: 'No key', decisiveS: 3 };
    expect(readLamp([text, dark], seen(6, [])).patterns.map((p) => p.id)).toEqual(['dark', 'none']);
    expect(() => readLamp([text], seen(6, []))).toThrow(new RangeError('No light pattern is given.'));
  });
});

describe('what it looks like, in figures and words', () => {
  test.each<[Recording, object, string]>([
    [seen(5, []), { steadyS: 0, flashes: 0, periodS: null, groups: [], last: 'dark' }, 'Nothing lit.'],
    [seen(5, [[0, 5]]), { flashes: 0, last: 'lit' }, 'Lit all the time.'],
    [seen(6, [[0, 2.8]]), { flashes: 0, last: 'dark' }, 'Lit 2.8 s, then dark.'],
    [seen(5, [[0, 2], ...flashing(4, 0.5, 2.5)]), { flashes: 4, groups: [4] }, 'Lit 2 s, then 4 flashes, one every 0.5 s; dark at the end.'],
    [
      seen(12, [...flashing(3, 0.9), ...flashing(3, 0.9, 5)], 0.1),
      { flashes: 6, groups: [3, 3] },
      '6 flashes in groups of 3, 2.75 s apart, one every 0.9 s; dark at the end.',
    ],
    [seen(3, [[1.5, 1.8]]), { steadyS: 0, flashes: 1, duty: null }, '1 flash; dark at the end.'],
  ])('%#', (recording, figures, words) => {
    const features = lampFeatures(recording);
    expect(features).toMatchObject(figures);
    expect(seenWords(features)).toBe(words);
  });
  test('half lit, half dark', () => expect(lampFeatures(seen(6, flashing(10))).duty).toBeCloseTo(0.5, 6));
});

describe('files', () => {
  const read = (reader: LampFileReader, text: string, piece = 7) => {
    for (let i = 0; i < text.length; i += piece) if (reader.push(text.slice(i, i + piece))) break;
    const result = reader.end();
    return result.ok ? result.value : `${result.problems[0]!.path}: ${result.problems[0]!.message}`;
  };
  const expected = { lengthS: 6, lit: [{ onS: 0.2, offS: 3.1 }], litAtEnd: false };
  test.each([1, 7, 1000])('CSV in pieces of %s characters, CRLF and blank lines', (piece) =>
    expect(read(lampCsvReader(), '\ufeffseconds,level\r\n0.2,1\r\n\r\n3.1, 0\r\n6,0', piece)).toEqual(expected),
  );
  test.each([1, 9, 1000])('VCD in pieces of %s characters', (piece) =>
    expect(
      read(
        lampVcdReader(),
        '$date today $end\n$timescale\n 1 ms\n$end\n$scope module top $end\n$var wire 1 ! lamp $end\n$upscope $end\n$enddefinitions $end\n#0\n$dumpvars\n0!\n$end\n#200\n1!\n#3100 0!\n#6000\n',
        piece,
      ),
    ).toEqual(expected),
  );
  test('unknown states of a wire count as dark', () =>
    expect(read(lampVcdReader(), '$timescale 10 us $end $var wire 1 a x $end $enddefinitions $end #0 xa #100000 1a #200000 za')).toEqual({
      lengthS: 2,
      lit: [{ onS: 1, offS: 2 }],
      litAtEnd: false,
    }));
  test.each([
    ['', ': The file has no samples. Record the light for some seconds, starting at that moment.'],
    ['seconds,level\n', ': The file has no samples. Record the light for some seconds, starting at that moment.'],
    ['time,value\n1,0', 'line 1: The first line is "time,value". Begin with the header seconds,level.'],
    ['seconds,level\n1,on', 'line 2: "on" is not a level. Write 0 (dark) or 1 (lit).'],
    ['seconds,level\n1,0.5', 'line 2: "0.5" is not a level. Write 0 (dark) or 1 (lit).'],
    ['seconds,level\n200 ms,1', 'line 2: "200 ms" is not a time in seconds. Write seconds such as 2.85.'],
    ['seconds,level\nNaN,1', 'line 2: "NaN" is not a time in seconds. Write seconds such as 2.85.'],
    ['seconds,level\n1,5,1', 'line 2: This line has 3 columns. Write two: seconds and level, with decimal points.'],
    ['seconds,level\n2,1\n1,0', 'line 3: 1 s is before the sample above (2 s). Put the samples in order of time.'],
    [
      'seconds,level\n2800,1',
      'line 2: A sample at 2800 s; a recording has at most 600 s. Are these milliseconds? Write seconds from the start of the recording.',
    ],
    ['seconds,level\n1,1', undefined],
    ['\u0000\u0001'.repeat(300), 'line 1: A line of more than 400 characters. This is not a recording of a light; use CSV (seconds,level) or VCD.'],
  ])('CSV %#', (text, message) => expect(typeof read(lampCsvReader(), text) === 'string' ? read(lampCsvReader(), text) : undefined).toBe(message));
  const head = '$timescale 1 ms $end\n$var wire 1 ! lamp $end\n$enddefinitions $end\n';
  test.each([
    ['hello', 'line 1: The definitions have not ended before "hello". This is not a VCD file.'],
    ['$timescale 3 ms $end', 'line 1: "3 ms" can’t be read. Use a time scale such as 1 ms.'],
    ['$timescale 1 ms $end\n$var wire 8 ! bus $end', 'line 2: This is a wire of 8 bits. Use one wire of one bit.'],
    ['$var real 1 ! volts $end', 'line 1: This is a real of 1 bits. Use one wire of one bit.'],
    ['$var wire 1 ! a $end\n$var wire 1 " b $end', 'line 2: A second wire. Use a file with one wire, the light.'],
    ['$var wire 1 ! a $end\n$enddefinitions $end', 'line 2: The time scale is missing. Write $timescale 1 ms $end before the definitions end.'],
    ['$timescale 1 ms $end\n$enddefinitions $end', 'line 2: No wire is defined. Define one wire of one bit.'],
    [`${head}#x`, 'line 4: "#x" is not a time. Write one such as #2850.'],
    [`${head}#1 b101 !`, 'line 4: "b101" is not a change of the wire. Write changes of the wire such as 1!.'],
    [`${head}#5 1!\n#4 0!`, 'line 5: 0.004 s is before the sample above (0.005 s). Put the samples in order of time.'],
    [head, ': The file has no samples. Record the light for some seconds, starting at that moment.'],
  ])('VCD %#', (text, message) => expect(read(lampVcdReader(), text)).toBe(message));
  test('a million even samples need no memory and little time', () => {
    const reader = lampCsvReader();
    reader.push('seconds,level\n');
    for (let block = 0; block < 100; block += 1)
      expect(
        reader.push(
          Array.from({ length: 10_000 }, (_, i) => `${(block * 10_000 + i) / 100_000},${Math.floor((block * 10_000 + i) / 50_000) % 2}`).join('\n') +
            '\n',
        ),
      ).toBeUndefined();
    const result = reader.end();
    expect(result).toMatchObject({ ok: true, value: { litAtEnd: true } });
    if (result.ok) expect(result.value.lit).toHaveLength(10);
  });
});
