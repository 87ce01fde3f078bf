import { failed, type Problem, type Result } from '../units';
import { LampRecorder, type Recording } from './recording';
import { sentences } from './sentences';

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
    path: sentences.lineOfFile(number + 1),
    message: sentences.lineTooLong(longestLine),
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

const empty = (): Result<Recording> => failed({ code: 'empty', path: '', message: sentences.empty });

/** CSV: a header `seconds,level`, then a line for every change or at even steps; level 0 or 1. A point separates decimals. */
export function lampCsvReader(): LampFileReader {
  const recorder = new LampRecorder();
  let header = false;
  return byLine(
    (line, number) => {
      const wrong = (message: string): Problem => ({ code: 'csv', path: sentences.lineAt(number), message });
      if (line === '') return undefined;
      if (!header) {
        header = true;
        if (/^\ufeff?seconds\s*,\s*level$/i.test(line)) return undefined;
        return wrong(sentences.headerMissing(JSON.stringify(line.slice(0, 60))));
      }
      const [at = '', level = '', ...more] = line.split(',').map((cell) => cell.trim());
      if (more.length > 0) return wrong(sentences.twoColumns(more.length + 2));
      if (!/^\d+(\.\d+)?(e[+-]?\d+)?$/i.test(at)) return wrong(sentences.secondsUnread(JSON.stringify(at)));
      if (level !== '0' && level !== '1') return wrong(sentences.levelUnread(JSON.stringify(level)));
      const problem = recorder.take({ atS: Number(at), lit: level === '1' });
      return problem && { ...problem, path: sentences.lineAt(number) };
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
      if (!scale || unit === undefined) return wrong(sentences.timeScaleUnread(JSON.stringify(words.join(' ').slice(0, 40))));
      [tick, parts] = [Number(scale[1]), unit];
    }
    if (section === '$var') {
      const [kind = '', size = '', id = ''] = words;
      if (size !== '1' || kind === 'real') return wrong(sentences.wireTooWide(kind, size));
      if (wire !== null && wire !== id) return wrong(sentences.secondWire);
      wire = id;
    }
    if (section === '$enddefinitions') {
      header = false;
      if (tick === 0) return wrong(sentences.timeScaleMissing);
      if (wire === null) return wrong(sentences.noWire);
    }
    return undefined;
  };
  return byLine(
    (line, number) => {
      const path = sentences.lineAt(number);
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
          return { code: 'vcd', path, message: sentences.notVcd(JSON.stringify(word.slice(0, 40))) };
        } else if (word.startsWith('#')) {
          if (!/^#\d+$/.test(word)) return { code: 'vcd', path, message: sentences.vcdTimeUnread(JSON.stringify(word.slice(0, 40))) };
          at = (Number(word.slice(1)) * tick) / parts;
        } else if (/^[01xz]/i.test(word) && word.slice(1) === wire) {
          const problem = recorder.take({ atS: at, lit: word.startsWith('1') });
          if (problem) return { ...problem, path };
        } else return { code: 'vcd', path, message: sentences.vcdChangeUnread(JSON.stringify(word.slice(0, 40)), wire ?? '!') };
      }
      return undefined;
    },
    // The last time mark ends the look, also when nothing changed there.
    () => (recorder.count === 0 ? empty() : recorder.end(at)),
  );
}
