import { failed, ok, type Problem, quantityWords, readDigits, type Result } from '../units';
import { sentences } from './sentences';

/** One reading of an ohmmeter: ohms, or `Infinity` where the meter showed its overload mark. */
export type Reading = number;

/** More than this is no resistor key. */
const mostOhms = 1e9;
/** As many readings as anybody takes of one key. */
export const mostReadings = 1000;
/** Longest capture while the column is moved, seconds. */
export const longestWiggleS = 60;

const factors: Readonly<Record<string, number>> = { '': 1, k: 1e3, K: 1e3, M: 1e6, G: 1e9 };

/**
 * A reading as it is typed or pasted: `1180`, `1,180`, `1.18k`, `1,18 kΩ`, `1k18` (IEC 60062), or a meter's overload mark (`OL`, `1.`, `∞`). Separators
 * are read as everywhere (readDigits); `1,180k` and `1180,1183` are asked about. `m` is refused, since it may be meant as milli or as mega.
 */
export function parseReading(text: string, path = ''): Result<Reading> {
  const wrong = (code: string, message: string) => failed({ code, path, message });
  const said = text.trim();
  if (said === '') return wrong('empty', sentences.readingEmpty);
  // Meters with four old-fashioned digits show a lone 1 at the left, copied down as "1.".
  if (/^(0\.?L|O\.?L\.?|overload|over|open|inf|infinity|∞|1\s*\.)\s*([kKMG]?\s*(Ω|Ω|ohms?))?$/i.test(said)) return ok(Infinity);
  const unit = said.replace(/\s*(Ω|Ω|ohms?)$/i, '');
  const inside = /^([+-]?\d+)([kKMGR])(\d+)$/.exec(unit);
  const plain = inside ? undefined : /^([+-]?[\d.,'’\u0020\u00a0\u202f]*\d)(e[+-]?\d{1,2})?\s*([a-zA-Z]?)$/i.exec(unit);
  const digits = inside ? readDigits(`${inside[1]}.${inside[3]}`) : plain ? readDigits(plain[1]!) : undefined;
  if (!digits) {
    if (/^[+-]?\d+([.,]\d+){2,}\s*[kKM]?$/.test(unit)) return wrong('separators', sentences.separators(quoted(said)));
    return wrong('number', sentences.noReading(quoted(said)));
  }
  const letter = inside ? inside[2]! : plain![3]!;
  if (letter === 'm') return wrong('unit', sentences.milliOrMega(quoted(said)));
  const factor = letter === 'R' ? 1 : Object.hasOwn(factors, letter) ? factors[letter] : undefined;
  if (factor === undefined) return wrong('unit', sentences.foreignUnit(quoted(said), letter));
  const power = Number(`1${plain?.[2] ?? ''}`);
  const comma = plain?.[1]!.includes(',') === true;
  if (comma && digits.otherwise !== undefined && factor * power !== 1) {
    const [thousand, decimal] = [digits.value, digits.otherwise].map((n) => tidy(n * factor * power));
    return wrong('ambiguous', sentences.twoMeanings(quoted(said), quantityWords(thousand!, 'Ω'), quantityWords(decimal!, 'Ω'), thousand, decimal));
  }
  if (comma && digits.otherwise === undefined && /^[+-]?\d{3,},\d{3,}$/.test(plain![1]!)) return wrong('ambiguous', sentences.oneOrTwo(quoted(said)));
  const ohms = tidy(digits.value * factor * power);
  if (ohms < 0) return wrong('negative', sentences.negative(quoted(said)));
  if (ohms > mostOhms) return wrong('tooLarge', sentences.tooLarge(quoted(said)));
  return ok(ohms);
}
/** Twelve digits: more than any meter has, and the fold of a factor leaves no tail such as 1182.9999999999998. */
const tidy = (n: number): number => Number(n.toPrecision(12));
const quoted = (text: string): string => JSON.stringify(text.slice(0, 40));

/**
 * Readings as a column or a line: one to a line, or parted by semicolons, tabs, blanks, or a comma with a blank after it. A first line of several that
 * holds no digit is a header.
 * @returns every reading, or each cell that is none, with its line
 */
export function parseReadings(text: string): Result<Reading[]> {
  const readings: Reading[] = [];
  const problems: Problem[] = [];
  const lines = text.replace(/^\ufeff/, '').split(/\r\n|\r|\n/);
  const written = lines.flatMap((l, i) => (l.trim() === '' ? [] : [i]));
  const header = written.length > 1 ? written[0] : undefined;
  lines.forEach((line, i) => {
    if (i === header && !/\d|∞|^\W*(O\.?L|over|open|inf)/i.test(line)) return;
    // Two figures that could be one: nobody reads 1 Ω and 180 Ω of the same key.
    if (/^\s*\d{1,2}( \d{3})+(?:[.,]\d+)?\s*(Ω|\u2126|ohms?)?\s*$/i.test(line)) {
      const message = sentences.oneOrSeveral(quoted(line.trim()), line.replace(/\D/g, ''));
      problems.push({ code: 'ambiguous', path: lines.length > 1 ? sentences.lineAt(i + 1) : '', message });
      return;
    }
    for (const cell of cellsOf(line)) {
      const read = parseReading(cell, lines.length > 1 ? sentences.lineAt(i + 1) : '');
      if (read.ok) readings.push(read.value);
      else problems.push(...read.problems);
    }
  });
  if (problems.length > 0) return failed(...problems.slice(0, 20));
  if (readings.length === 0) return failed({ code: 'empty', path: '', message: sentences.noReadingYet });
  if (readings.length > mostReadings)
    return failed({
      code: 'tooMany',
      path: '',
      message: sentences.tooManyReadings(readings.length, mostReadings),
    });
  return ok(readings);
}

function cellsOf(line: string): string[] {
  return line
    .split(/[;\t]|,(?=\s)/)
    .map((cell) => cell.trim())
    .filter(Boolean)
    .flatMap((cell) => cell.replace(/\s+(?=(?:[kKMG]\s*)?(?:Ω|Ω|ohms?)\b|[kKMG](?:\s|$|Ω|Ω)|(?:Ω|Ω))/gi, '').split(/\s+/));
}

/** The finest step that stands in readings as they were typed, ohms: what the meter resolved. 1 where none has decimals. */
export function typedResolution(texts: readonly string[]): number {
  const steps = texts.flatMap((text) => {
    const match = /^\s*([\d.,'’]*\d)\s*([kKM]?)/.exec(text);
    const digits = match ? readDigits(match[1]!) : undefined;
    return digits ? [factors[match![2] ?? '']! / 10 ** digits.decimals] : [];
  });
  return steps.length === 0 ? 1 : Math.min(...steps);
}
