import { createHash } from 'node:crypto';
import { readdirSync, readFileSync, statSync } from 'node:fs';
import { join, relative } from 'node:path';
import { isMap, LineCounter, parseDocument } from 'yaml';
import { type Caution, type CautionList, type Family, lintFamily, type Profile, resolveParams, valuesOf } from '../core/library';
import { parseCautions, parseFamily, parseProfile } from '../core/library/schema';
import { lint, type Procedure } from '../core/procedure';
import { parseProcedure } from '../core/procedure/schema';
import type { Problem, Result } from '../core/units';

/** Every kind of document the library knows, with its one parser. */
const parsers = {
  family: parseFamily as (data: unknown) => Result<unknown>,
  profile: parseProfile as (data: unknown) => Result<unknown>,
  procedure: parseProcedure as (data: unknown) => Result<unknown>,
  cautions: parseCautions as (data: unknown) => Result<unknown>,
};
export type DocumentKind = keyof typeof parsers;
export type DocumentBody = Family | Profile | Procedure | CautionList;

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
  cautions: Map<string, Caution>;
}

export interface ReadContent {
  library: Library;
  files: number;
  errors: FileProblem[];
}

/** Larger files are not content. */
const maxBytes = 1_000_000;

/** Reads folders of YAML, later folders adding to earlier ones, and checks everything that a person could have got wrong. */
export function readContent(...folders: string[]): ReadContent {
  const library: Library = { documents: [], families: new Map(), profiles: new Map(), procedures: new Map(), cautions: new Map() };
  const errors: FileProblem[] = [];
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
      if ('errors' in read) errors.push(...read.errors);
      else {
        const twin = library.documents.find((d) => d.kind === read.kind && d.id === read.id);
        if (twin) errors.push({ file, path: 'id', message: `${read.kind} "${read.id}" also stands in ${twin.file}. Give one of them another id.` });
        else enter(library, read);
      }
    }
  }
  if (errors.length === 0) errors.push(...crossCheck(library));
  return { library, files, errors };
}

function listYaml(folder: string): string[] | { message: string } {
  try {
    return readdirSync(folder, { recursive: true, encoding: 'utf8' })
      .filter((name) => /\.ya?ml$/.test(name) && !/(^|\/)demo\//.test(name))
      .sort()
      .map((name) => join(folder, name));
  } catch {
    return { message: 'This folder cannot be read. Check that it exists and may be read.' };
  }
}

/** YAML text to plain data. Anchors are allowed sparingly, duplicate keys and several documents in a file are not. */
export function parseYaml(text: string): Result<unknown> {
  const lines = new LineCounter();
  const document = parseDocument(text, { uniqueKeys: true, lineCounter: lines, prettyErrors: false });
  const problem = document.errors[0] ?? document.warnings[0];
  if (problem) {
    const { line, col } = lines.linePos(problem.pos[0]);
    return {
      ok: false,
      problems: [{ code: 'yaml', path: `line ${line}, column ${col}`, message: `${problem.message.replace(/[.]?$/, '.')} Correct the YAML there.` }],
    };
  }
  if (!isMap(document.contents))
    return {
      ok: false,
      problems: [{ code: 'yaml', path: '', message: 'The file must hold one document of fields, beginning with kind. Write them.' }],
    };
  try {
    return { ok: true, value: document.toJS({ maxAliasCount: 50 }) };
  } catch {
    return { ok: false, problems: [{ code: 'yaml', path: '', message: 'Too many aliases. Write the values out.' }] };
  }
}

function readDocument(path: string, file: string): LibraryDocument | { errors: FileProblem[] } {
  const fail = (problems: Problem[]) => ({ errors: problems.map((p) => ({ file, path: p.path, message: p.message })) });
  const problem = (message: string, at = '') => fail([{ code: 'file', path: at, message }]);
  if (statSync(path).size > maxBytes) return problem(`The file is larger than ${maxBytes} bytes. Split it.`);
  const data = parseYaml(readFileSync(path, 'utf8'));
  if (!data.ok) return fail(data.problems);
  const kind = (data.value as { kind?: unknown }).kind;
  if (typeof kind !== 'string' || !(kind in parsers))
    return problem(`Found ${JSON.stringify(kind)}. Use one of: ${Object.keys(parsers).join(', ')}.`, 'kind');
  const parsed = parsers[kind as DocumentKind](data.value);
  if (!parsed.ok) return fail(parsed.problems);
  const body = parsed.value as DocumentBody;
  return { kind: kind as DocumentKind, id: body.id, version: body.version, hash: contentHash(body), body, file };
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
  }
}

/** Names across documents, and the lints of each kind. Warnings of procedures are left to `procedure lint`. */
function crossCheck(library: Library): FileProblem[] {
  const problems: FileProblem[] = [];
  const cautions = new Set(library.cautions.keys());
  const procedures = new Set(library.procedures.keys());
  const families = [...library.families.keys()].join(', ');
  for (const { body, file } of library.documents) {
    const add = (found: Problem[]) => problems.push(...found.map((p) => ({ file, path: p.path, message: p.message })));
    if (body.kind === 'family') add(lintFamily(body, { procedures, cautions }));
    if (body.kind !== 'profile' && body.kind !== 'procedure') continue;
    const family = library.families.get(body.family);
    if (!family) add([{ code: 'unknownName', path: 'family', message: `Family "${body.family}" does not exist. Use one of: ${families}.` }]);
    else if (body.kind === 'profile') add(checkProfile(body, family));
    else add(lint(body, valuesOf(resolveParams(family)), { family, cautions }).problems.filter((p) => p.severity === 'error'));
  }
  return problems;
}

function checkProfile(profile: Profile, family: Family): Problem[] {
  return Object.entries(profile.values).flatMap(([name, { value }]): Problem[] => {
    const param = family.params[name];
    const path = `values.${name}`;
    if (!param)
      return [
        {
          code: 'unknownName',
          path,
          message: `Family "${family.id}" has no parameter "${name}". Use one of: ${Object.keys(family.params).join(', ')}.`,
        },
      ];
    if ('oneOf' in param)
      return param.oneOf.includes(String(value))
        ? []
        : [{ code: 'unknownName', path: `${path}.value`, message: `Found ${JSON.stringify(value)}. Use one of: ${param.oneOf.join(', ')}.` }];
    if (typeof value !== 'number')
      return [{ code: 'type', path: `${path}.value`, message: `Found ${JSON.stringify(value)}. Use a number in ${param.unit || 'counts'}.` }];
    return [];
  });
}

/** SHA-256 over the parsed document. The order of fields counts, since the order of answers is their order on the screen. */
export function contentHash(body: unknown): string {
  return createHash('sha256').update(JSON.stringify(body)).digest('hex');
}
