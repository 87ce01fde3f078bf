import { createHash } from 'node:crypto';
import { readdirSync, readFileSync, statSync } from 'node:fs';
import { join, relative } from 'node:path';
import { LRUCache } from 'lru-cache';
import { type Document, isMap, isScalar, LineCounter, parseDocument, visit } from 'yaml';
import {
  type Caution,
  type CautionList,
  checkProfile,
  type CommonParts,
  type Family,
  type Feature,
  type FeatureList,
  lintFamily,
  mergeCommon,
  type Profile,
  everyFamily,
} from '../core/library';
import { boundsProblem, documentBounds } from '../core/library/bounds';
import { type CodeList, lintCodes } from '../core/codes';
import { parseCodes } from '../core/codes/schema';
import type { CallSheet } from '../core/call';
import { parseCall } from '../core/call/schema';
import type { Ladder } from '../core/ladder';
import { parseLadder } from '../core/ladder/schema';
import { parseCautions, parseCommon, parseFamily, parseFeatures, parseProfile } from '../core/library/schema';
import { lintErrors, mergeSteps, type Procedure, type SharedSteps, type Step } from '../core/procedure';
import { parseProcedure, parseSharedSteps } from '../core/procedure/schema';
import { lintReplacement, mergeActs, type Replacement, type SharedActs } from '../core/replacement';
import { parseReplacement, parseSharedActs } from '../core/replacement/schema';
import type { Layout } from '../core/memory';
import { parseLayout } from '../core/memory/schema';
import type { Problem, Result } from '../core/units';

/** Every kind of document the library knows, with its one parser. */
const parsers = {
  family: parseFamily as (data: unknown) => Result<unknown>,
  profile: parseProfile as (data: unknown) => Result<unknown>,
  procedure: parseProcedure as (data: unknown) => Result<unknown>,
  cautions: parseCautions as (data: unknown) => Result<unknown>,
  features: parseFeatures as (data: unknown) => Result<unknown>,
  common: parseCommon as (data: unknown) => Result<unknown>,
  call: parseCall as (data: unknown) => Result<unknown>,
  steps: parseSharedSteps as (data: unknown) => Result<unknown>,
  ladder: parseLadder as (data: unknown) => Result<unknown>,
  replacement: parseReplacement as (data: unknown) => Result<unknown>,
  'replacement-acts': parseSharedActs as (data: unknown) => Result<unknown>,
  layout: parseLayout as (data: unknown) => Result<unknown>,
  codes: parseCodes as (data: unknown) => Result<unknown>,
};
export type DocumentKind = keyof typeof parsers;
export type DocumentBody =
  | Family
  | Profile
  | Procedure
  | CautionList
  | FeatureList
  | CommonParts
  | SharedSteps
  | CallSheet
  | Ladder
  | Replacement
  | SharedActs
  | CodeList
  | Layout;

export interface LibraryDocument {
  kind: DocumentKind;
  id: string;
  version: number;
  hash: string;
  body: DocumentBody;
  file: string;
}

export interface FileProblem {
  file: string;
  path: string;
  message: string;
}

export interface Library {
  documents: LibraryDocument[];
  families: Map<string, Family>;
  profiles: Map<string, Profile>;
  procedures: Map<string, Procedure>;
  /** Steps that procedures share; those of the library already have them put in. */
  steps: Map<string, SharedSteps>;
  cautions: Map<string, Caution>;
  /** What can be seen of a vehicle, in the order of the list. */
  features: Feature[];
  /** What is asked on the telephone, before there is a vehicle. */
  calls: Map<string, CallSheet>;
  /** The steps of resistor keys. */
  ladders: Map<string, Ladder>;
  /** Where the slots of key memories stand. */
  layouts: Map<string, Layout>;
  /** What the parts of each system type hold and how it comes back, with the shared acts put in. */
  replacements: Map<string, Replacement>;
  /** Trouble codes: the public ones, and those of makers. */
  codes: CodeList[];
}

export interface ReadContent {
  library: Library;
  files: number;
  errors: FileProblem[];
}

/** Larger files are not content. */
export const maxContentBytes = 1_000_000;

/** Reads folders of YAML, later folders adding to earlier ones, and checks everything that a person could have got wrong. */
export function readContent(...folders: string[]): ReadContent {
  const library: Library = {
    documents: [],
    families: new Map(),
    profiles: new Map(),
    procedures: new Map(),
    steps: new Map(),
    cautions: new Map(),
    features: [],
    calls: new Map(),
    ladders: new Map(),
    layouts: new Map(),
    replacements: new Map(),
    codes: [],
  };
  const errors: FileProblem[] = [];
  const documents: LibraryDocument[] = [];
  let files = 0;
  for (const folder of folders) {
    const found = listYaml(folder);
    if (!Array.isArray(found)) {
      errors.push({ file: folder, path: '', message: found.message });
      continue;
    }
    for (const path of found) {
      files += 1;
      const file = relative(folder, path);
      const read = readDocument(path, file);
      if ('errors' in read) {
        errors.push(...read.errors);
        continue;
      }
      const twin = documents.find((d) => d.kind === read.kind && d.id === read.id);
      if (twin) errors.push({ file, path: 'id', message: `${read.kind} "${read.id}" also stands in ${twin.file}. Give one of them another id.` });
      else documents.push(read);
    }
  }
  const merge = mergerOf(documents);
  for (const document of documents) {
    const { file } = document;
    // A family or procedure is kept with what it uses, so that a later version of the shared parts changes no old case.
    const merged = merge(document.body);
    if (merged.ok && merged.value === document.body) enter(library, document);
    else if (merged.ok) enter(library, { ...document, body: merged.value, hash: contentHash(merged.value) });
    else errors.push(...merged.problems.map((p) => ({ file, path: p.path, message: p.message })));
  }
  if (errors.length === 0) errors.push(...crossCheck(library));
  return { library, files, errors };
}

/** Puts shared tests into families, shared steps into procedures and shared acts into replacements; other documents stay the same object. */
function mergerOf(documents: readonly { body: DocumentBody }[]): (body: DocumentBody) => Result<DocumentBody> {
  const common = new Map(documents.flatMap(({ body }) => (body.kind === 'common' ? [[body.id, body] as const] : [])));
  const steps = new Map(documents.flatMap(({ body }) => (body.kind === 'steps' ? [[body.id, body] as const] : [])));
  const acts = new Map(documents.flatMap(({ body }) => (body.kind === 'replacement-acts' ? [[body.id, body] as const] : [])));
  return (body) => {
    if (body.kind === 'replacement' && body.use.length > 0) return mergeActs(body, (id) => acts.get(id));
    if (body.kind === 'family' && body.use.length > 0) return mergeCommon(body, (id) => common.get(id));
    if (body.kind === 'procedure' && usesSteps(body.steps)) return mergeSteps(body, (id) => steps.get(id));
    return { ok: true, value: body };
  };
}

function usesSteps(steps: readonly Step[]): boolean {
  return steps.some(
    (s) => 'use' in s || ('steps' in s && usesSteps(s.steps)) || ('cases' in s && Object.values(s.cases).some((c) => usesSteps(c.steps))),
  );
}

function listYaml(folder: string): string[] | { message: string } {
  try {
    return readdirSync(folder, { recursive: true, encoding: 'utf8' })
      .filter((name) => /\.ya?ml$/.test(name) && !/(^|\/)demo\//.test(name))
      .sort()
      .map((name) => join(folder, name));
  } catch {
    return { message: 'This folder can’t be read. Check that it exists and may be read.' };
  }
}

const tooDeep = 'Nested too deeply to be read. Write it flatter.';

/** YAML text to plain data. Anchors are allowed sparingly, duplicate keys and several documents in a file are not. */
export function parseYaml(text: string): Result<unknown> {
  const lines = new LineCounter();
  const signs = text.match(structure)?.length ?? 0;
  if (signs > mostSigns) {
    const message = `${signs} lines and signs such as commas and colons are more than any document has. Choose the right file.`;
    return { ok: false, problems: [{ code: 'tooMuch', path: '', message }] };
  }
  // The reader's own search for keys that stand twice compares each with each.
  const document = parseDocument(text, { uniqueKeys: false, lineCounter: lines, prettyErrors: false });
  const fault = document.errors[0] ?? document.warnings[0] ?? keyTwice(document);
  if (fault?.message.startsWith('Maximum call stack')) return { ok: false, problems: [{ code: 'yaml', path: '', message: tooDeep }] };
  if (fault) {
    const { line, col } = lines.linePos(fault.pos[0]);
    return {
      ok: false,
      problems: [{ code: 'yaml', path: `line ${line}, column ${col}`, message: `${fault.message.replace(/[.]?$/, '.')} Correct the YAML there.` }],
    };
  }
  if (!isMap(document.contents))
    return {
      ok: false,
      problems: [{ code: 'yaml', path: '', message: 'The file must hold one document of fields, beginning with kind. Write them.' }],
    };
  const refused = (path: string, message: string): Result<unknown> => ({ ok: false, problems: [{ code: 'yaml', path, message }] });
  let value: unknown;
  try {
    value = document.toJS({ maxAliasCount: 50 });
  } catch (error) {
    return refused('', error instanceof RangeError ? tooDeep : 'Too many aliases. Write the values out.');
  }
  const problem = boundsProblem(value, documentBounds);
  return problem ? { ok: false, problems: [problem] } : { ok: true, value };
}

/** What means something in YAML; a text with more of it than this takes its reader long and is no document of ours. */
const structure = /[\n,:[\]{}&*!?|>'"-]/g;
const mostSigns = 60_000;

/** The first key that stands twice in its map. */
function keyTwice(document: Document.Parsed): { message: string; pos: [number, number] } | undefined {
  let found: { message: string; pos: [number, number] } | undefined;
  visit(document, {
    Map(_name, map) {
      const seen = new Set<unknown>();
      for (const { key } of map.items) {
        if (!isScalar(key)) continue;
        if (seen.has(key.value)) {
          const at = key.range?.[0] ?? 0;
          found = { message: 'Map keys must be unique.', pos: [at, at] };
          return visit.BREAK;
        }
        seen.add(key.value);
      }
      return undefined;
    },
  });
  return found;
}

type ReadDocument = LibraryDocument | { errors: FileProblem[] };
/** Files read before by this process, by name and text: a folder of one's own is checked together with all that ships, again and again. */
const readBefore = new LRUCache<string, ReadDocument>({ max: 500 });

function readDocument(path: string, file: string): ReadDocument {
  const size = statSync(path).size;
  if (size > maxContentBytes) return { errors: [{ file, path: '', message: `The file is larger than ${maxContentBytes} bytes. Split it.` }] };
  const text = readFileSync(path, 'utf8');
  const name = createHash('sha256').update(`${file}\0${text}`).digest('hex');
  const read = readBefore.get(name) ?? documentOf(text, file);
  readBefore.set(name, read);
  return read;
}

function documentOf(text: string, file: string): ReadDocument {
  const fail = (problems: Problem[]) => ({ errors: problems.map((p) => ({ file, path: p.path, message: p.message })) });
  const problem = (message: string, at = '') => fail([{ code: 'file', path: at, message }]);
  const data = parseYaml(text);
  if (!data.ok) return fail(data.problems);
  const kind = (data.value as { kind?: unknown }).kind;
  if (typeof kind !== 'string' || !Object.hasOwn(parsers, kind))
    return problem(`The file has ${JSON.stringify(kind)}. Use one of: ${Object.keys(parsers).join(', ')}.`, 'kind');
  const parsed = parsers[kind as DocumentKind](data.value);
  if (!parsed.ok) return fail(parsed.problems);
  const body = parsed.value as DocumentBody;
  return { kind: kind as DocumentKind, id: body.id, version: body.version, hash: contentHash(body), body, file };
}

/** A document, checked as its form is now: what is written passes the same check as what is read. */
export function checkBody(kind: DocumentKind, body: unknown): Result<DocumentBody> {
  return parsers[kind](body) as Result<DocumentBody>;
}

/** A stored document, read as the form is now. @throws Error when it can't be read, which a migration of the form should have prevented */
export function parseBody(kind: DocumentKind, body: unknown): DocumentBody {
  const parsed = parsers[kind](body);
  if (!parsed.ok) throw new Error(`A stored ${kind} can't be read: ${parsed.problems.map((p) => `${p.path}: ${p.message}`).join(' ')}`);
  return parsed.value as DocumentBody;
}

function enter(library: Library, document: LibraryDocument): void {
  library.documents.push(document);
  const { body } = document;
  switch (body.kind) {
    case 'family':
      library.families.set(body.id, body);
      break;
    case 'profile':
      library.profiles.set(body.id, body);
      break;
    case 'procedure':
      library.procedures.set(body.id, body);
      break;
    case 'cautions':
      for (const caution of body.cautions) library.cautions.set(caution.id, caution);
      break;
    case 'features':
      library.features.push(...body.features);
      break;
    case 'steps':
      library.steps.set(body.id, body);
      break;
    case 'call':
      library.calls.set(body.id, body);
      break;
    case 'ladder':
      library.ladders.set(body.id, body);
      break;
    case 'layout':
      library.layouts.set(body.id, body);
      break;
    case 'replacement':
      library.replacements.set(body.id, body);
      break;
    case 'codes':
      library.codes.push(body);
      break;
    case 'common':
    case 'replacement-acts':
      break;
  }
}

/** Names across documents, and the lints of each kind. Warnings of procedures are left to `procedure lint`. */
function crossCheck(library: Library): FileProblem[] {
  const problems: FileProblem[] = [];
  const cautions = new Set(library.cautions.keys());
  const procedures = new Set(library.procedures.keys());
  const families = [...library.families.keys()].join(', ');
  const tests = new Set([...library.families.values()].flatMap((f) => f.tests.map((t) => t.id)));
  for (const { body, file } of library.documents)
    if (body.kind === 'features')
      body.features.forEach((f, i) => {
        if (library.features.find((other) => other.id === f.id) === f) return;
        const message = `Feature "${f.id}" also stands in another list. Give one of them another id.`;
        problems.push({ file, path: `features[${i}].id`, message });
      });
  // Every family answers the questions; with one of them asked twice each would be wrong.
  if (problems.length > 0) return problems;
  for (const { body, file } of library.documents) {
    const add = (found: Problem[]) => problems.push(...found.map((p) => ({ file, path: p.path, message: p.message })));
    if (body.kind === 'family') add(lintFamily(body, { procedures, cautions, features: library.features }));
    if (body.kind === 'codes') add(lintCodes(body, library.codes, { tests, profiles: new Set(library.profiles.keys()) }));
    if (body.kind === 'replacement') add(lintReplacement(body, { families: new Set(library.families.keys()), procedures }));
    if (body.kind !== 'profile' && body.kind !== 'procedure' && body.kind !== 'layout') continue;
    if (body.kind === 'procedure' && body.family === everyFamily) {
      add(lintErrors(body, [...library.families.values()], cautions));
      continue;
    }
    const family = library.families.get(body.family);
    if (!family) add([{ code: 'unknownName', path: 'family', message: `System type "${body.family}" does not exist. Use one of: ${families}.` }]);
    else if (body.kind === 'profile') add([...checkProfile(body, family, library.features), ...checkLadder(body, library)]);
    else if (body.kind === 'procedure') add(lintErrors(body, [family], cautions));
  }
  return problems;
}

function checkLadder({ ladder }: Profile, { ladders }: Library): Problem[] {
  if (ladder === undefined || ladders.has(ladder)) return [];
  return [{ code: 'unknownName', path: 'ladder', message: `Value chart "${ladder}" does not exist. Use one of: ${[...ladders.keys()].join(', ')}.` }];
}

/** SHA-256 over the parsed document. The order of fields counts, since the order of answers is their order on the screen. */
export function contentHash(body: unknown): string {
  return createHash('sha256').update(JSON.stringify(body)).digest('hex');
}
