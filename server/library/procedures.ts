import { stringify } from 'yaml';
import type { Library } from '../../content/reader';
import { type DocumentPin, type Effect, type Family, gates, serves } from '../../core/library';
import { lintErrors, type Procedure, procedureOf, type Written } from '../../core/procedure';
import { parseProcedure, parseWritten } from '../../core/procedure/schema';
import type { Problem } from '../../core/units';
import { type Act, actOnce } from '../acts/commands';
import { Refused, refused } from '../base/expected';
import { anything, flag, line, list, needed, oneOf, orElse, whole } from '../base/field';
import { id as idField } from '../base/fields';
import { parseForm } from '../base/parseForm';
import type { Keeping } from '../db/kept';
import type { Db, Reader } from '../db/open';
import { document, retiredDocument } from '../db/schema';
import { type DocumentEntry, documentVersions, editable, insertNext, isRetired, listDocuments, newDocumentId } from './shopDocuments';

/** One version of a procedure with where it stands. */
export interface ProcedureEntry extends Omit<DocumentEntry<'procedure'>, 'body'> {
  procedure: Procedure;
}
export interface ListedProcedure extends ProcedureEntry {
  retired: boolean;
}
const named = <E extends DocumentEntry<'procedure'>>({ body, ...entry }: E) => ({ ...entry, procedure: body });

/** Every procedure in its newest version, the shop's own and the shipped ones, by title. */
export const keptProcedures = ({ kept, database, library }: Keeping & { library: Library }): Promise<ListedProcedure[]> =>
  kept.read('procedures', [document, retiredDocument], async () => (await listDocuments(database.db, library, 'procedure')).map(named));

/** What a case of a system type may be worked with: the shipped procedures first, then the shop's own that are offered. */
export async function proceduresOf(on: Keeping & { library: Library }, family: string): Promise<Procedure[]> {
  const own = (await keptProcedures(on)).filter((p) => p.origin === 'shop' && !p.retired);
  return [...on.library.procedures.values(), ...own.map((p) => p.procedure)].filter((p) => serves(p, family));
}

/** Every version of one procedure, the newest first; empty when there is none. */
export const procedureVersions = async (db: Reader, id: string): Promise<ProcedureEntry[]> =>
  (await documentVersions(db, 'procedure', id)).map(named);

/** The version that a run begins with: the shipped one, or the newest of the shop's own that is offered; undefined when there is none. */
export async function procedureToRun(db: Reader, library: Library, id: string): Promise<{ pin: DocumentPin; procedure: Procedure } | undefined> {
  const shipped = library.documents.find((d) => d.kind === 'procedure' && d.id === id);
  if (shipped) return { pin: { id: shipped.id, version: shipped.version, hash: shipped.hash }, procedure: shipped.body as Procedure };
  const [newest] = await procedureVersions(db, id);
  return newest && !(await isRetired(db, 'procedure', id)) ? newest : undefined;
}

/** A procedure as it is written from a text; its steps are read by core. */
export const parseProcedureForm = (data: unknown) =>
  parseForm(
    {
      /** The version that was edited; 0: a new one. */
      from: needed(whole(0, Number.MAX_SAFE_INTEGER)),
      title: needed(line(120).min(1)),
      family: needed(idField),
      source: needed(line(600).min(1)),
      effect: needed(oneOf(gates)),
      cautions: orElse(list(idField).max(20), []),
      written: needed(anything()),
      /** The person has compared every step with the source. */
      check: flag(),
    },
    data,
  );
export type ProcedureForm = ReturnType<typeof parseProcedureForm>;

/** Problems of steps that point at others. */
function orderProblems({ steps, noReturn }: Written): Problem[] {
  const at = (id: string) => steps.findIndex((s) => s.id === id);
  const problems = steps.flatMap((s, i): Problem[] =>
    s.from !== undefined && (at(s.from) < 0 || at(s.from) >= i)
      ? [{ code: 'order', path: `written.steps[${i}].from`, message: 'What is repeated must begin before this step. Choose an earlier step.' }]
      : [],
  );
  if (noReturn !== undefined && at(noReturn) < 0)
    problems.push({ code: 'order', path: 'written.noReturn', message: 'The step of the point of no return is gone. Choose another one.' });
  return problems;
}

/** Errors of the lint in a procedure, in each family of this library that it is for. */
const errorsOf = (library: Library, procedure: Procedure): Problem[] =>
  lintErrors(procedure, familiesNamed(library, procedure.family), new Set(library.cautions.keys()));

function familiesNamed(library: Library, id: string): Family[] {
  const families = [...library.families.values()].filter((f) => serves({ family: id }, f.id));
  if (families.length === 0) throw refused(400, 'unknownFamily', `"${id}" is not a system type of the library. Choose one from the list.`, 'family');
  return families;
}

/** Saves a procedure of the shop that is written from a text: a new one, or the next version of `id`. */
export async function saveProcedure(db: Db, library: Library, act: Act, id: string, form: ProcedureForm): Promise<{ id: string; version: number }> {
  const read = parseWritten(form.written);
  if (!read.ok)
    throw new Refused(
      400,
      read.problems.map((p) => ({ ...p, path: `written.${p.path}` })),
    );
  const written = read.value;
  familiesNamed(library, form.family);
  const what = { right: 'editLibrary', action: 'procedure saved', payload: [id, form], detail: { procedure: id, title: form.title } } as const;
  return actOnce(db, act, what, async (tx) => {
    const before = id === '' ? undefined : await editable(tx, 'procedure', id, form.from);
    if (before && !before.written)
      throw refused(409, 'notWritten', 'This procedure was not written from a text here, so it can’t be edited on this page.');
    const head = { title: form.title, family: form.family, source: form.source, effect: form.effect as Effect, cautions: form.cautions };
    const content = (h: typeof head, w: Written) => JSON.stringify([h.title, h.family, h.source, h.effect, h.cautions, w]);
    const same = before?.written !== undefined && content(headOf(before), before.written) === content(head, written);
    if (same && !form.check) throw refused(409, 'unchanged', 'Nothing was changed, so there is nothing to save.');
    const checked = form.check ? { by: act.actor.name, on: new Date(act.now).toISOString().slice(0, 10) } : null;
    const parsed = parseProcedure(procedureOf({ ...head, id: before?.id ?? newDocumentId(form.title), version: 1, checked }, written));
    if (!parsed.ok) throw new Refused(400, parsed.problems);
    const problems = [...orderProblems(written), ...errorsOf(library, parsed.value)];
    if (problems.length > 0) throw new Refused(400, problems);
    return insertNext(tx, act, parsed.value);
  });
}

/** A copy of the newest version of a procedure, shipped or the shop's own, as the shop's own. */
export async function copyProcedure(db: Db, library: Library, act: Act, id: string): Promise<{ id: string }> {
  const what = { right: 'editLibrary', action: 'procedure copied', payload: id, detail: { procedure: id } } as const;
  return actOnce(db, act, what, async (tx) => {
    const found = await procedureToRun(tx, library, id);
    if (!found) throw refused(404, 'noDocument', 'This procedure was not found.');
    const { written: _written, ...procedure } = found.procedure;
    const title = `${procedure.title.slice(0, 108)}, own copy`;
    const copyOf = { id, version: procedure.version };
    return insertNext(tx, act, { ...procedure, id: newDocumentId(procedure.title), version: 1, title, checked: null, copyOf });
  });
}

/** The steps of a copy as they were edited; their data is read by core. */
export const parseStepsForm = (data: unknown) =>
  parseForm(
    {
      /** The version that was edited. */
      from: needed(whole(1, Number.MAX_SAFE_INTEGER)),
      title: needed(line(120).min(1)),
      source: needed(line(600).min(1)),
      steps: needed(list(anything()).max(200)),
      check: flag(),
    },
    data,
  );
export type StepsForm = ReturnType<typeof parseStepsForm>;

/** Saves the edited steps of a copy as its next version. */
export async function saveSteps(db: Db, library: Library, act: Act, id: string, form: StepsForm): Promise<{ id: string; version: number }> {
  const what = { right: 'editLibrary', action: 'procedure saved', payload: [id, form], detail: { procedure: id, title: form.title } } as const;
  return actOnce(db, act, what, async (tx) => {
    const before = await editable(tx, 'procedure', id, form.from);
    if (before.written) throw refused(409, 'written', 'This procedure was written from a text. Edit its sentences on its page.');
    const checked = form.check ? { by: act.actor.name, on: new Date(act.now).toISOString().slice(0, 10) } : null;
    const parsed = parseProcedure({ ...before, title: form.title, source: form.source, steps: form.steps, checked });
    if (!parsed.ok) throw new Refused(400, parsed.problems);
    const content = ({ title, source, steps }: Procedure) => JSON.stringify([title, source, steps]);
    if (content(parsed.value) === content(before) && !form.check)
      throw refused(409, 'unchanged', 'Nothing was changed, so there is nothing to save.');
    const problems = errorsOf(library, parsed.value);
    if (problems.length > 0) throw new Refused(400, problems);
    return insertNext(tx, act, parsed.value);
  });
}

/** What was said of the whole when it was written; the cautions that every such procedure has are its own. */
export const headOf = ({ title, family, source, effect, cautions }: Procedure) => ({
  title,
  family,
  source,
  effect,
  cautions: cautions.filter((c) => !['serviceFirst', 'window', 'flat'].includes(c)),
});

/** A procedure that came as a file. @throws Refused with every problem and its path */
export function readProcedure(library: Library, data: unknown): Procedure {
  const parsed = parseProcedure(data);
  if (!parsed.ok) throw new Refused(400, parsed.problems);
  const problems = errorsOf(library, parsed.value);
  if (problems.length > 0) throw new Refused(400, problems);
  return parsed.value;
}

export const procedureYaml = (procedure: Procedure): string => stringify(procedure, { lineWidth: 120 });
