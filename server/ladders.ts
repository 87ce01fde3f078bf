import { and, desc, eq, max, sql } from 'drizzle-orm';
import Joi from 'joi';
import { stringify } from 'yaml';
import { contentHash, type Library, maxContentBytes, parseBody, parseYaml } from '../content/reader';
import { type Ladder, parseLadderCsv } from '../core/ladder';
import { parseLadder } from '../core/ladder/schema';
import type { DocumentPin } from '../core/library';
import { type Act, actOnce } from './commands';
import type { Db, Reader, Tx } from './db/open';
import { document } from './db/schema';
import { Refused, refused } from './expected';
import { notify } from './live';
import { line, parseForm, text } from './parseForm';
import { newProfileId } from './profiles';

/** One version of a ladder with where it stands. */
export interface LadderEntry {
  pin: DocumentPin;
  ladder: Ladder;
  origin: 'shipped' | 'shop';
}

/** A name that comes by an address may be anything; only this can be the name of a ladder. */
const isName = (id: string): boolean => /^[a-z][A-Za-z0-9-]{0,59}$/.test(id);

const shippedEntries = (library: Library): LadderEntry[] =>
  library.documents.flatMap((d): LadderEntry[] =>
    d.body.kind === 'ladder' ? [{ pin: { id: d.id, version: d.version, hash: d.hash }, ladder: d.body, origin: 'shipped' }] : [],
  );

/** Every ladder in its newest version, the shop's own and the shipped ones, by title. */
export async function listLadders(db: Reader, library: Library): Promise<LadderEntry[]> {
  const rows = await db
    .selectDistinctOn([document.id], { document })
    .from(document)
    .where(and(eq(document.kind, 'ladder'), eq(document.origin, 'shop')))
    .orderBy(document.id, desc(document.version));
  const shop = rows.map(({ document: d }): LadderEntry => ({
    pin: { id: d.id, version: d.version, hash: d.hash },
    ladder: parseBody('ladder', d.body) as Ladder,
    origin: 'shop',
  }));
  return [...shop, ...shippedEntries(library)].sort((a, b) => (a.ladder.title < b.ladder.title ? -1 : 1));
}

/**
 * @param status 404 where it is the page that is asked for, 400 where a form names it
 * @throws Refused when there is no such ladder
 */
export async function ladderNamed(db: Reader, library: Library, id: string, status: 400 | 404 = 400): Promise<LadderEntry> {
  const found = (await listLadders(db, library)).find((l) => l.pin.id === id);
  if (!found) throw refused(status, 'noLadder', 'This ladder is not in the library. Choose one of the list.', 'ladder');
  return found;
}

export interface LadderForm {
  title: string;
  source: string;
  pellets: 1 | 2;
  contactOhms?: number;
  ppmPerKelvin?: number;
  /** CSV: step,nominal,low,high. */
  steps: string;
  /** The person has checked the numbers against the source. */
  check: boolean;
}

export const parseLadderForm = (data: unknown) =>
  parseForm<LadderForm>(
    Joi.object({
      title: line(120).min(1).required(),
      source: line(600).min(1).required(),
      pellets: Joi.number().valid(1, 2).required(),
      contactOhms: Joi.number().min(0).max(1000).empty(''),
      ppmPerKelvin: Joi.number().min(-20_000).max(20_000).empty(''),
      steps: text(60_000).min(1).required(),
      check: Joi.boolean().truthy('on').default(false),
    }),
    data,
  );

/** Saves a ladder of the shop: a new one, or the next version of `id`. */
export async function saveLadder(db: Db, library: Library, act: Act, id: string, form: LadderForm): Promise<{ id: string }> {
  const steps = parseLadderCsv(form.steps);
  if (!steps.ok)
    throw new Refused(
      400,
      steps.problems.map((p) => ({ ...p, path: 'steps', message: [p.path, p.message].filter(Boolean).join(': ') })),
    );
  const checked = form.check ? { by: act.actor.name, on: new Date(act.now).toISOString().slice(0, 10) } : null;
  const { check: _check, steps: _steps, ...rest } = form;
  const fields = { ...rest, steps: steps.value, checked };
  const what = { right: 'editLibrary', action: 'ladder saved', payload: [id, form], detail: { ladder: id, title: form.title } } as const;
  return actOnce(db, act, what, (tx) => insertNext(tx, library, act, id === '' ? newProfileId(form.title) : id, fields));
}

/** Takes a ladder in as YAML: whole or not at all. */
export async function importLadder(db: Db, library: Library, act: Act, yaml: string): Promise<{ id: string }> {
  if (Buffer.byteLength(yaml) > maxContentBytes)
    throw refused(413, 'tooLarge', `The file is larger than ${maxContentBytes / 1e6} MB. Choose the right file.`, 'file');
  const data = parseYaml(yaml);
  if (!data.ok) throw new Refused(400, data.problems);
  const parsed = parseLadder(data.value);
  if (!parsed.ok) throw new Refused(400, parsed.problems);
  const { kind: _kind, id, version: _version, ...fields } = parsed.value;
  const what = { right: 'editLibrary', action: 'ladder imported', payload: yaml, detail: { ladder: id } } as const;
  return actOnce(db, act, what, (tx) => insertNext(tx, library, act, id, fields));
}

async function insertNext(tx: Tx, library: Library, act: Act, id: string, fields: Omit<Ladder, 'kind' | 'id' | 'version'>): Promise<{ id: string }> {
  if (!isName(id)) throw refused(404, 'noLadder', 'There is no such ladder.');
  if (shippedEntries(library).some((l) => l.pin.id === id))
    throw refused(409, 'shipped', `"${id}" is a shipped ladder, which is not edited. Save it under a name of your own.`, 'title');
  // Two who save at once do it one after the other, on any number of servers.
  await tx.execute(sql`select pg_advisory_xact_lock(hashtext(${`ladder ${id}`}))`);
  const [row] = await tx
    .select({ version: max(document.version) })
    .from(document)
    .where(and(eq(document.kind, 'ladder'), eq(document.id, id)));
  const body: Ladder = { kind: 'ladder', id, version: (row?.version ?? 0) + 1, ...fields };
  const parsed = parseLadder(body);
  if (!parsed.ok) throw new Refused(400, parsed.problems);
  await tx.insert(document).values({
    kind: 'ladder',
    id,
    version: body.version,
    hash: contentHash(parsed.value),
    origin: 'shop',
    body: parsed.value,
    enteredAt: act.now,
    by: act.actor.id,
  });
  await notify(tx, { what: 'library' });
  return { id };
}

export const ladderYaml = (ladder: Ladder): string => stringify(ladder, { lineWidth: 120 });
/** Its steps as the form takes them. */
export const ladderCsv = ({ steps }: Pick<Ladder, 'steps'>): string =>
  ['step,nominal,low,high', ...steps.map((s) => [s.step, s.nominal, s.low, s.high].join(','))].join('\n');
