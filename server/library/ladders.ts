import { stringify } from 'yaml';
import type { Library } from '../../content/reader';
import { type Ladder, parseLadderCsv } from '../../core/ladder';
import { parseLadder } from '../../core/ladder/schema';
import { type Act, actOnce } from '../acts/commands';
import type { Keeping } from '../db/kept';
import type { Db, Reader } from '../db/open';
import { document, retiredDocument } from '../db/schema';
import { Refused, refused } from '../base/expected';
import { choice, flag, line, needed, quantity, text, whole } from '../base/field';
import { parseForm } from '../base/parseForm';
import { type DocumentEntry, documentVersions, editable, insertNext, listDocuments, newDocumentId } from './shopDocuments';

/** One version of a ladder with where it stands. */
export interface LadderEntry extends Omit<DocumentEntry<'ladder'>, 'body'> {
  ladder: Ladder;
}
export interface ListedLadder extends LadderEntry {
  retired: boolean;
}
const named = <E extends DocumentEntry<'ladder'>>({ body, ...entry }: E) => ({ ...entry, ladder: body });

/** Every ladder in its newest version, the shop's own and the shipped ones, by title. */
export const listLadders = async (db: Reader, library: Library): Promise<ListedLadder[]> => (await listDocuments(db, library, 'ladder')).map(named);

export const keptLadders = ({ kept, database, library }: Keeping & { library: Library }): Promise<ListedLadder[]> =>
  kept.read('ladders', [document, retiredDocument], () => listLadders(database.db, library));

/** What a key may be compared with: the ladders that are offered, and the one that is in use. */
export const offeredLadders = async (on: Keeping & { library: Library }, inUse: string | undefined): Promise<ListedLadder[]> =>
  (await keptLadders(on)).filter((l) => !l.retired || l.pin.id === inUse);

/** Every version of one ladder, the newest first; empty when there is none. */
export const ladderVersions = async (db: Reader, id: string): Promise<LadderEntry[]> => (await documentVersions(db, 'ladder', id)).map(named);

/** The newest version of a ladder that a form names. @throws Refused when there is no such ladder */
export async function ladderNamed(db: Reader, id: string): Promise<LadderEntry> {
  const [newest] = await ladderVersions(db, id);
  if (!newest) throw refused(400, 'noLadder', 'This value chart is not in the library. Choose one from the list.', 'ladder');
  return newest;
}

export const parseLadderForm = (data: unknown) =>
  parseForm(
    {
      from: needed(whole(0, Number.MAX_SAFE_INTEGER)),
      title: needed(line(120).min(1)),
      source: needed(line(600).min(1)),
      pellets: needed(choice(1, 2)),
      contactOhms: quantity({ unit: 'Ω', min: 0, max: 1000 }).empty(''),
      ppmPerKelvin: quantity({ unit: '', min: -20_000, max: 20_000 }).empty(''),
      /** CSV: step,nominal,low,high. */
      steps: needed(text(60_000).min(1)),
      /** The person has checked the numbers against the source. */
      check: flag(),
    },
    data,
  );
export type LadderForm = ReturnType<typeof parseLadderForm>;

/** Saves a ladder of the shop: a new one, or the next version of `id`. */
export async function saveLadder(db: Db, act: Act, id: string, form: LadderForm): Promise<{ id: string; version: number }> {
  const steps = parseLadderCsv(form.steps);
  if (!steps.ok)
    throw new Refused(
      400,
      steps.problems.map((p) => ({ ...p, path: 'steps', message: [p.path, p.message].filter(Boolean).join(': ') })),
    );
  const { check, steps: _typed, from, ...rest } = form;
  const what = { right: 'editLibrary', action: 'value chart saved', payload: [id, form], detail: { ladder: id, title: form.title } } as const;
  return actOnce(db, act, what, async (tx) => {
    const before = id === '' ? undefined : await editable(tx, 'ladder', id, from);
    const content = (l: Omit<Ladder, 'kind' | 'id' | 'version' | 'checked'>) =>
      JSON.stringify([l.title, l.source, l.pellets, l.contactOhms ?? '', l.ppmPerKelvin ?? '', l.steps]);
    const same = before !== undefined && content(before) === content({ ...rest, steps: steps.value });
    if (same && !check) throw refused(409, 'unchanged', 'Nothing was changed, so there is nothing to save.');
    const checked = check ? { by: act.actor.name, on: new Date(act.now).toISOString().slice(0, 10) } : null;
    const parsed = parseLadder({ kind: 'ladder', id: before?.id ?? newDocumentId(form.title), version: 1, ...rest, checked, steps: steps.value });
    if (!parsed.ok) throw new Refused(400, parsed.problems);
    return insertNext(tx, act, parsed.value);
  });
}

/** A ladder that came as a file. @throws Refused with every problem and its path */
export function readLadder(data: unknown): Ladder {
  const parsed = parseLadder(data);
  if (!parsed.ok) throw new Refused(400, parsed.problems);
  return parsed.value;
}

export const ladderYaml = (ladder: Ladder): string => stringify(ladder, { lineWidth: 120 });
/** Its steps as the form takes them. */
export const ladderCsv = ({ steps }: Pick<Ladder, 'steps'>): string =>
  ['step,nominal,low,high', ...steps.map((s) => [s.step, s.nominal, s.low, s.high].join(','))].join('\n');
