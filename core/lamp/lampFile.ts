import { failed, type Problem, type Result } from '../units';
import { LampRecorder, type Recording } from './recording';

/** Reads a recording in pieces, as they come from a file. */
export interface LampFileReader {
  /** @returns the first problem; nothing more is read after it */
  push(text: string): Problem | undefined;
  end(): Result<Recording>;
}

/** No line of either format is longer; what is longer is another kind of file. */
const longestLine = 400;

/** Cuts text into lines over the borders of pieces and gives each to `take`, with its number from 1. */
function byLine(take: (line: string, number: number) => Problem | undefined, end: () => Result<Recording>): LampFileReader {
  let rest = '';
  let number = 0;
  let wrong: Problem | undefined;
  const tooLong = (): Problem => ({
    code: 'kind',
    path: `line ${number + 1}`,
    message: `A line of more than ${longestLine} characters. This is not a recording of a light; use CSV (seconds,level) or VCD.`,
  });
  const one = (line: string) => {
    number += 1;
    wrong ??= line.length > longestLine ? tooLong() : take(line.trim(), number);
  };
  return {
    push(text) {
      if (wrong) return wrong;
      const lines = (rest + text).split('\n');
      rest = lines.pop()!;
      for (const line of lines) {
        one(line);
        if (wrong) return wrong;
      }
      if (rest.length > longestLine) wrong = tooLong();
      return wrong;
    },
    end() {
      if (!wrong && rest !== '') one(rest);
      return wrong ? failed(wrong) : end();
    },
  };
}

const empty = (): Result<Recording> =>
  failed({ code: 'empty', path: '', message: 'The file has no samples. Record the light for some seconds, starting at that moment.' });

/** CSV: a header `seconds,level`, then a line for every change or at even steps; level 0 or 1. A point separates decimals. */
export function lampCsvReader(): LampFileReader {
  const recorder = new LampRecorder();
  let header = false;
  return byLine(
    (line, number) => {
      const wrong = (message: string): Problem => ({ code: 'csv', path: `line ${number}`, message });
      if (line === '') return undefined;
      if (!header) {
        header = true;
        if (/^\ufeff?seconds\s*,\s*level$/i.test(line)) return undefined;
        return wrong(`Found ${JSON.stringify(line.slice(0, 60))}. Begin with the header seconds,level.`);
      }
      const [at = '', level = '', ...more] = line.split(',').map((cell) => cell.trim());
      if (more.length > 0) return wrong(`Found ${more.length + 2} columns. Write two: seconds and level, with decimal points.`);
      if (!/^\d+(\.\d+)?(e[+-]?\d+)?$/i.test(at)) return wrong(`Found ${JSON.stringify(at)} for seconds. Write seconds such as 2.85.`);
      if (level !== '0' && level !== '1') return wrong(`Found ${JSON.stringify(level)} for the level. Write 0 (dark) or 1 (lit).`);
      const problem = recorder.take({ atS: Number(at), lit: level === '1' });
      return problem && { ...problem, path: `line ${number}` };
    },
    () => (recorder.count === 0 ? empty() : recorder.end()),
  );
}

/** Parts of a second. */
const units: Readonly<Record<string, number>> = { s: 1, ms: 1e3, us: 1e6, ns: 1e9, ps: 1e12, fs: 1e15 };

/** VCD (IEEE 1364, four-state value change dump) with one wire of one bit; x and z count as dark. */
export function lampVcdReader(): LampFileReader {
  const recorder = new LampRecorder();
  // A tick is this many of these parts of a second: whole numbers, so that times come out as they are meant.
  let tick = 0;
  let parts = 1;
  let wire: string | null = null;
  let header = true;
  let section: string | null = null;
  let words: string[] = [];
  let at = 0;
  const closed = (path: string): Problem | undefined => {
    const wrong = (message: string): Problem => ({ code: 'vcd', path, message });
    if (section === '$timescale') {
      const scale = /^(1|10|100)\s*([a-z]+)$/.exec(words.join(''));
      const unit = units[scale?.[2] ?? ''];
      if (!scale || unit === undefined) return wrong(`Found ${JSON.stringify(words.join(' ').slice(0, 40))}. Use a time scale such as 1 ms.`);
      [tick, parts] = [Number(scale[1]), unit];
    }
    if (section === '$var') {
      const [kind = '', size = '', id = ''] = words;
      if (size !== '1' || kind === 'real') return wrong(`Found a ${kind} of ${size} bits. Use one wire of one bit.`);
      if (wire !== null && wire !== id) return wrong('A second wire. Use a file with one wire, the light.');
      wire = id;
    }
    if (section === '$enddefinitions') {
      header = false;
      if (tick === 0) return wrong('The time scale is missing. Write $timescale 1 ms $end before the definitions end.');
      if (wire === null) return wrong('No wire is defined. Define one wire of one bit.');
    }
    return undefined;
  };
  return byLine(
    (line, number) => {
      const path = `line ${number}`;
      for (const word of line.split(/\s+/).filter(Boolean)) {
        if (word === '$end') {
          const problem = section && closed(path);
          if (problem) return problem;
          section = null;
        } else if (word.startsWith('$')) {
          // The values that stand between $dumpvars and its $end are values like any other.
          section = ['$dumpvars', '$dumpall', '$dumpon', '$dumpoff'].includes(word) ? null : word;
          words = [];
        } else if (section) {
          if (words.length < 20) words.push(word);
        } else if (header) {
          return { code: 'vcd', path, message: `Found ${JSON.stringify(word.slice(0, 40))} before the definitions end. This is not a VCD file.` };
        } else if (word.startsWith('#')) {
          if (!/^#\d+$/.test(word)) return { code: 'vcd', path, message: `Found ${JSON.stringify(word.slice(0, 40))}. Write a time such as #2850.` };
          at = (Number(word.slice(1)) * tick) / parts;
        } else if (/^[01xz]/i.test(word) && word.slice(1) === wire) {
          const problem = recorder.take({ atS: at, lit: word.startsWith('1') });
          if (problem) return { ...problem, path };
        } else
          return { code: 'vcd', path, message: `Found ${JSON.stringify(word.slice(0, 40))}. Write changes of the wire such as 1${wire ?? '!'}.` };
      }
      return undefined;
    },
    // The last time mark ends the look, also when nothing changed there.
    () => (recorder.count === 0 ? empty() : recorder.end(at)),
  );
}
