import { csvLines } from '../csv';
import { type Coverage, coverages } from './coverage';
import { codesInText, type FoundCode, type FoundCodes } from './inText';
import { moduleIn, type ScannedModule, scannedModules } from './modules';
import { statusIn, statusOf } from './status';

/** What a field of a file can be, by its names in small letters without signs. */
const meanings = {
  code: ['code', 'dtc', 'troublecode', 'faultcode', 'codes', 'dtcs', 'troublecodes', 'faultcodes', 'faults'],
  failureType: ['failuretype', 'failuretypebyte', 'ftb', 'symptom'],
  status: ['status', 'state'],
  statusByte: ['statusbyte', 'statusmask'],
  module: ['module', 'controlmodule', 'ecu', 'controlunit', 'unit'],
  freezeFrame: ['freezeframe', 'snapshot', 'environment'],
  coverage: ['coverage', 'heard'],
  /** Words beside a code or about a scan, in which another one is mentioned rather than found. */
  aside: ['note', 'comment', 'remark', 'description', 'title', 'meaning'],
} as const;
type Meaning = keyof typeof meanings;

const meaningOf = (name: string): Meaning | undefined => {
  const plain = name.toLowerCase().replaceAll(/[^a-z]/g, '');
  return (Object.keys(meanings) as Meaning[]).find((meaning) => (meanings[meaning] as readonly string[]).includes(plain));
};

/** One code with the fields beside it, as text. */
type Fields = Partial<Record<Meaning, string>> & { freezeLines?: string[] };

/** A place in the file: characters before it, and its line from 1. */
interface Place {
  at: number;
  line: number;
}

/**
 * The trouble codes of a file with fields.
 * @returns undefined where the text is none: neither JSON nor CSV with a column for the code
 */
export function codesInFields(text: string): FoundCodes | undefined {
  return /^\s*[[{]/.test(text) ? inJson(text) : inCsv(text);
}

function inCsv(text: string): FoundCodes | undefined {
  const [head] = /\S[^\n]*/.exec(text) ?? [''];
  if (!/[,;]/.test(head)) return undefined;
  const rows = csvLines(text);
  const columns = rows?.[0]?.cells.map(meaningOf);
  if (!rows || !columns?.includes('code')) return undefined;
  const places = new Places(text);
  const found: FoundCodes = { codes: [], guesses: [] };
  for (const { line, cells } of rows.slice(1)) {
    const fields: Fields = {};
    columns.forEach((meaning, i) => {
      if (meaning !== undefined && cells[i]) fields[meaning] ??= cells[i];
    });
    if (fields.freezeFrame !== undefined) fields.freezeLines = fields.freezeFrame.split(/; ?/);
    const before = found.codes.length + found.guesses.length;
    addRow(found, fields, (code) => places.inLine(line, code));
    // A row whose columns are others is read as any line.
    if (fields.code !== undefined && found.codes.length + found.guesses.length === before) addText(found, places.textOf(line));
  }
  return found;
}

/** Any value of the file, with what the objects around it say. */
interface Inside {
  value: unknown;
  /** Name that it has where it stands. */
  name?: Meaning | undefined;
  around: Fields;
}

function inJson(text: string): FoundCodes | undefined {
  let whole: unknown;
  try {
    whole = JSON.parse(text.replace(/^\ufeff/, ''));
  } catch {
    return undefined;
  }
  const places = new Places(text);
  const found: FoundCodes = { codes: [], guesses: [] };
  const left: Inside[] = [{ value: whole, around: {} }];
  while (left.length > 0) {
    const { value, name, around } = left.pop()!;
    if (typeof value === 'string') addRow(found, { ...around, code: value }, (code) => places.next(code));
    else if (typeof value === 'object' && value !== null) {
      const inside = Array.isArray(value) ? value.map((of: unknown): Inside => ({ value: of, name, around })) : inObject(found, value, around);
      for (let i = inside.length - 1; i >= 0; i -= 1) left.push(inside[i]!);
    }
  }
  return found;
}

/** What is in an object, each with the fields that speak of its codes. */
function inObject(found: FoundCodes, object: object, around: Fields): Inside[] {
  const fields: Fields = {};
  const rest: Pick<Inside, 'value' | 'name'>[] = [];
  const entries = Object.entries(object).map(([key, value]) => ({ name: meaningOf(key), value: value as unknown }));
  const coded = entries.some(({ name }) => name === 'code');
  for (const { name, value } of entries) {
    if (name === 'freezeFrame') fields.freezeLines = linesOf(value);
    else if (name === 'coverage' && typeof value === 'object' && value !== null) addHeard(found, value);
    else if (name === undefined || name === 'code') rest.push({ value, name });
    else if (name === 'aside') rest.push(...(coded ? [] : [{ value }]));
    else if (typeof value === 'string') fields[name] = value;
    else if (typeof value === 'number' && Number.isInteger(value) && value >= 0 && value <= 255)
      fields[name === 'status' ? 'statusByte' : name] = value.toString(16).padStart(2, '0');
    else rest.push({ value });
  }
  if (!coded && fields.coverage !== undefined) addRow(found, fields, () => ({ at: 0, line: 1 }));
  return rest.map((inside) => ({ ...inside, around: { ...around, ...fields } }));
}

/** The lines of a freeze frame: a text, a list of them, or names with their values. */
function linesOf(value: unknown): string[] {
  if (typeof value === 'string') return value.split(/; ?|\n/);
  if (Array.isArray(value)) return value.filter((line) => typeof line === 'string');
  if (typeof value !== 'object' || value === null) return [];
  return Object.entries(value).flatMap(([name, of]) => (typeof of === 'string' || typeof of === 'number' ? [`${name}: ${of}`] : []));
}

/** Adds what the field of the code holds, with what the fields beside it say; a row without a code may still say who was heard. */
function addRow(found: FoundCodes, fields: Fields, place: (code: string) => Place): void {
  const module = fields.module === undefined ? undefined : moduleOf(fields.module);
  if (module !== undefined && fields.coverage !== undefined) addHeard(found, { [module]: fields.coverage });
  if (fields.code === undefined) return;
  const { codes, guesses } = codesInText(fields.code, 0, module);
  if (codes.length + guesses.length === 0) return;
  const { at, line } = place(fields.code);
  const beside = besides(fields);
  for (const code of codes)
    found.codes.push({ ...code, ...beside, ...(module === undefined ? {} : { module }), at: at + code.at, line: line + code.line - 1 });
  for (const guess of guesses) found.guesses.push({ ...guess, at: at + guess.at });
}

function addText(found: FoundCodes, { text, at, line }: Place & { text: string }): void {
  const { codes, guesses } = codesInText(text, at);
  for (const code of codes) found.codes.push({ ...code, line: line + code.line - 1 });
  for (const guess of guesses) found.guesses.push(guess);
}

function besides({ failureType, status, statusByte, freezeLines }: Fields): Partial<FoundCode> {
  const type = /^(?:0x)?([0-9A-F]{2})h?$/i.exec(failureType ?? '')?.[1]?.toUpperCase();
  const alone = /^(?:0x)?([0-9A-F]{2})h?$/i.exec(statusByte ?? status ?? '')?.[1]?.toUpperCase();
  const said = status === undefined ? undefined : statusIn(status);
  const byte = alone ?? said?.statusByte;
  const word = said?.status ?? (byte === undefined ? undefined : statusOf(parseInt(byte, 16)));
  const lines = freezeLines?.map((line) => line.trim()).filter((line) => line !== '');
  return {
    ...(type === undefined ? {} : { failureType: type }),
    ...(word === undefined ? {} : { status: word }),
    ...(byte === undefined ? {} : { statusByte: byte }),
    ...(lines && lines.length > 0 ? { freezeFrame: lines } : {}),
  };
}

const moduleOf = (name: string): ScannedModule | undefined =>
  scannedModules.find((id) => id === name.trim()) ?? moduleIn(name, 'cell') ?? moduleIn(name, 'before');

function addHeard(found: FoundCodes, heard: object): void {
  for (const [name, said] of Object.entries(heard)) {
    const module = moduleOf(name);
    const coverage = coverages.find((c): c is Coverage => c === said);
    if (module !== undefined && coverage !== undefined) found.coverage = { ...found.coverage, [module]: coverage };
  }
}

/** Searches that may come to nothing before none is begun any more: each goes through the rest of the text. */
const mostMisses = 50;

/** Where the parts of a text stand, asked for in their order. */
class Places {
  readonly #starts: number[];
  #at = 0;
  #misses = 0;
  constructor(readonly text: string) {
    this.#starts = [0, ...[...text.matchAll(/\r\n|\r|\n/g)].map((m) => m.index + m[0].length)];
  }
  /** A cell of a line, or the line where the cell is written otherwise, such as with quotation marks in it. */
  inLine(line: number, cell: string): Place {
    const start = this.#starts[line - 1] ?? 0;
    const at = this.text.slice(start, this.#starts[line]).indexOf(cell);
    return { at: start + Math.max(at, 0), line };
  }
  textOf(line: number): Place & { text: string } {
    const at = this.#starts[line - 1] ?? 0;
    return { text: this.text.slice(at, this.#starts[line]).trimEnd(), at, line };
  }
  /** A text of JSON behind the one asked for before; where it is written with escapes, that one’s end. */
  next(part: string): Place {
    const at = this.#misses < mostMisses ? this.text.indexOf(part, this.#at) : -1;
    if (at < 0) this.#misses += 1;
    else this.#at = at + part.length;
    return { at: at < 0 ? this.#at : at, line: this.#lineAt(at < 0 ? this.#at : at) };
  }
  #lineAt(at: number): number {
    let [low, high] = [0, this.#starts.length];
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      if (this.#starts[middle]! <= at) low = middle;
      else high = middle;
    }
    return low + 1;
  }
}
