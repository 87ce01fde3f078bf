import { readFileSync } from 'node:fs';
import Joi from 'joi';
import { type Library, parseYaml } from '../content/reader';
import { everyFamily, resolveParams, valuesOf, withNumbers } from '../core/library';
import { parseWith } from '../core/library/parseWith';
import {
  type Branches,
  branchesOf,
  compile,
  type Draft,
  draftOf,
  interruptions,
  type LintReport,
  lint,
  mergeSteps,
  replay,
  type ReplayReport,
} from '../core/procedure';
import { parseProcedure } from '../core/procedure/schema';
import type { Result } from '../core/units';
import { CannotUse } from './fail';
import { library } from './library';

function read(file: string): string {
  try {
    return readFileSync(file, 'utf8');
  } catch {
    throw new CannotUse(`${file}: can’t be read. Check the path.`);
  }
}

/** The value, or the first problem as the command's one line. */
function usable<T>(file: string, result: Result<T>): T {
  if (result.ok) return result.value;
  const { path, message } = result.problems[0]!;
  throw new CannotUse(`${file}: ${path}: ${message}`);
}

function load(file: string, folders: string[], profileId: string | undefined) {
  const lib = library(folders);
  const written = usable(file, parseProcedure(usable(file, parseYaml(read(file)))));
  const procedure = usable(
    file,
    mergeSteps(written, (id) => lib.steps.get(id)),
  );
  // One for every vehicle is worked with a profile's family, or with the numbers of the first.
  const every = procedure.family === everyFamily;
  const chosen = every ? (lib.profiles.get(profileId ?? '')?.family ?? [...lib.families.keys()][0]!) : procedure.family;
  const family = lib.families.get(chosen);
  if (!family) throw new CannotUse(`${file}: family: "${procedure.family}" does not exist. Use one of: ${[...lib.families.keys()].join(', ')}.`);
  const profile = profileOf(lib, profileId, chosen);
  const params = resolveParams(withNumbers(family, procedure), profile);
  return { lib, procedure, family, params, values: valuesOf(params) };
}

function profileOf(lib: Library, id: string | undefined, family: string) {
  if (id === undefined) return undefined;
  const profile = lib.profiles.get(id);
  if (!profile) throw new CannotUse(`--profile ${id}: does not exist. Use one of: ${[...lib.profiles.keys()].join(', ')}.`);
  if (profile.family !== family)
    throw new CannotUse(
      `--profile ${id}: belongs to system type "${profile.family}", the procedure to "${family}". Use a profile of that system type.`,
    );
  return profile;
}

/** `procedure lint` */
export function procedureLint(file: string, folders: string[], profileId?: string): LintReport {
  const { lib, procedure, family, values } = load(file, folders, profileId);
  return lint(procedure, values, { family, cautions: new Set(lib.cautions.keys()) });
}

const at = Joi.number().min(0).required();
const step = Joi.string().max(60).required();
const lineForms = {
  start: Joi.object({ at, type: Joi.any(), keys: Joi.array().items(Joi.string().max(8)).min(1).required() }),
  answer: Joi.object({ at, type: Joi.any(), step, answer: Joi.string().max(60).required(), value: Joi.number(), note: Joi.string().max(500) }),
  waive: Joi.object({ at, type: Joi.any(), step, reason: Joi.string().max(500).required() }),
  interrupt: Joi.object({
    at,
    type: Joi.any(),
    what: Joi.string()
      .valid(...interruptions)
      .required(),
    note: Joi.string().max(500),
  }),
  number: Joi.object({
    at,
    type: Joi.any(),
    name: Joi.string().max(60).required(),
    value: Joi.alternatives(Joi.number(), Joi.string().max(60)).options({ convert: false }).required(),
    source: Joi.string().max(500).required(),
  }),
  note: Joi.object({ at, type: Joi.any(), note: Joi.string().max(500).required() }),
  takeBack: Joi.object({ at, type: Joi.any(), event: Joi.string().max(60).required() }),
  stop: Joi.object({ at, type: Joi.any(), reason: Joi.string().max(500).required() }),
};
const line = Object.entries(lineForms).reduce<Joi.Schema>(
  (otherwise, [type, form]) => Joi.alternatives().conditional('.type', { is: type, then: form, otherwise }),
  Joi.object({
    at,
    type: Joi.string()
      .valid(...Object.keys(lineForms))
      .required(),
  }).unknown(),
);

/** `procedure replay`: authority counts as on record, and the person may waive. */
export function procedureReplay(file: string, eventsFile: string, folders: string[], profileId?: string, atSeconds?: string): ReplayReport {
  const { procedure, params, values, lib, family } = load(file, folders, profileId);
  const problem = lint(procedure, values, { family, cautions: new Set(lib.cautions.keys()) }).problems.find((p) => p.severity === 'error');
  if (problem) throw new CannotUse(`${file}: ${problem.path}: ${problem.message}`);
  let data: unknown;
  try {
    data = JSON.parse(read(eventsFile));
  } catch (error) {
    if (error instanceof CannotUse) throw error;
    throw new CannotUse(`${eventsFile}: is not JSON (${(error as Error).message}). Correct it.`);
  }
  const lines = usable(eventsFile, parseWith<Parameters<typeof replay>[3]>(Joi.array().items(line).min(1).max(10_000).required(), data));
  const moment = atSeconds === undefined ? undefined : Number(atSeconds);
  if (moment !== undefined && !(moment >= 0)) throw new CannotUse(`--at ${atSeconds}: expected seconds from the start, 0 or more.`);
  return usable(
    eventsFile,
    replay(compile(procedure), params, values, lines, { record: { authority: true, keysAbsent: [] }, mayWaive: true }, moment),
  );
}

/** `procedure table`: what each procedure consists of, and how many ways lead through it. */
export const procedureTable = (folders: string[]): Branches[] => {
  const rows = [...library(folders).procedures.values()].map(branchesOf);
  return rows.sort((a, b) => a.family.localeCompare(b.family) || a.id.localeCompare(b.id));
};

/** The same as docs/procedures.md. */
export const tableAsMarkdown = (rows: readonly Branches[]): string[] => [
  '| system type | procedure | steps by kind | answers | limits | stops | failure branches |',
  '| --- | --- | --- | ---: | ---: | ---: | ---: |',
  ...rows.map((r) => {
    const kinds = Object.entries(r.kinds).map(([kind, n]) => `${kind} ${n}`);
    return `| ${r.family} | \`${r.id}\` ${r.title} | ${kinds.join(', ')} | ${r.answers.length} | ${r.limits.length} | ${r.stops.length} | ${r.failing + r.stops.length} |`;
  }),
];

/** `procedure draft`: the sentences of a text of service information as steps. */
export const procedureDraft = (file: string): Draft => draftOf(read(file));

/** A step in one line: its kind, its figures, its sentence. */
export function draftLine({ kind, text, line, minS, maxS, withinS, n, max }: Draft['steps'][number]): string {
  const figures = [
    minS === undefined ? '' : `at least ${minS} s`,
    maxS === undefined ? '' : `at most ${maxS} s`,
    withinS === undefined ? '' : `within ${withinS} s`,
    n === undefined ? '' : `${n} times`,
    max === undefined ? '' : `at most ${max}`,
  ].filter(Boolean);
  return `line ${line}: ${kind}${figures.length > 0 ? ` (${figures.join(', ')})` : ''}: ${text}`;
}
