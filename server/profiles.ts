import { randomInt } from 'node:crypto';
import { and, desc, eq, max, sql } from 'drizzle-orm';
import { stringify } from 'yaml';
import { contentHash, type Library, maxContentBytes, parseBody, parseYaml } from '../content/reader';
import { checkParamValue, checkProfile, type DocumentPin, type Family, type KnownValue, type ParamValue, type Profile } from '../core/library';
import { parseProfile } from '../core/library/schema';
import type { Problem } from '../core/units';
import { type Act, actOnce } from './commands';
import type { Db, Reader, Tx } from './db/open';
import { document, person, retiredDocument } from './db/schema';
import { Refused, refused } from './expected';
import { notify } from './live';

/** One version of a profile with where it stands. */
export interface ProfileEntry {
  pin: DocumentPin;
  profile: Profile;
  origin: 'shipped' | 'shop';
  enteredAt: number;
  /** Who saved it; empty for what is shipped. */
  by: string;
}

export interface ListedProfile extends ProfileEntry {
  retired: boolean;
}

type Row = { document: typeof document.$inferSelect; by: string | null };
const entryOf = ({ document: d, by }: Row): ProfileEntry => ({
  pin: { id: d.id, version: d.version, hash: d.hash },
  profile: parseBody('profile', d.body) as Profile,
  origin: d.origin === 'shipped' ? 'shipped' : 'shop',
  enteredAt: d.enteredAt,
  by: by ?? '',
});

/** The shop's own profiles as they are now and the shipped ones, by title. */
export async function listProfiles(db: Reader, library: Library): Promise<ListedProfile[]> {
  const rows = await db
    .selectDistinctOn([document.id], { document, by: person.name, retired: retiredDocument.at })
    .from(document)
    .leftJoin(person, eq(document.by, person.id))
    .leftJoin(retiredDocument, and(eq(retiredDocument.kind, document.kind), eq(retiredDocument.id, document.id)))
    .where(and(eq(document.kind, 'profile'), eq(document.origin, 'shop')))
    .orderBy(document.id, desc(document.version));
  const shop = rows.map((row): ListedProfile => ({ ...entryOf(row), retired: row.retired !== null }));
  const shipped = library.documents.flatMap((d): ListedProfile[] =>
    d.body.kind === 'profile'
      ? [{ pin: { id: d.id, version: d.version, hash: d.hash }, profile: d.body, origin: 'shipped', enteredAt: 0, by: '', retired: false }]
      : [],
  );
  return [...shop, ...shipped].sort((a, b) => (a.profile.title < b.profile.title ? -1 : 1));
}

/** What comes by an address may be anything; only this can be the name of a document. */
const isName = (id: string): boolean => /^[a-z][A-Za-z0-9-]{0,59}$/.test(id);

/** Every version of one profile, the newest first; empty when there is none. Versions that only came with a case of another shop are left out. */
export async function profileVersions(db: Reader, id: string): Promise<ProfileEntry[]> {
  if (!isName(id)) return [];
  const rows = await db
    .select({ document, by: person.name })
    .from(document)
    .leftJoin(person, eq(document.by, person.id))
    .where(and(eq(document.kind, 'profile'), eq(document.id, id)))
    .orderBy(desc(document.version));
  return rows.filter((r) => r.document.origin !== 'case').map(entryOf);
}

export async function isRetired(db: Reader, id: string): Promise<boolean> {
  const rows = await db
    .select({ id: retiredDocument.id })
    .from(retiredDocument)
    .where(and(eq(retiredDocument.kind, 'profile'), eq(retiredDocument.id, id)));
  return rows.length > 0;
}

const idAlphabet = '23456789abcdefghjkmnpqrstvwxyz';

/** An id in words, with a few letters of chance: profiles of two shops must not be taken for each other. */
export function newProfileId(title: string): string {
  const words = title
    .toLowerCase()
    .normalize('NFD')
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 36)
    .replace(/-+$/, '');
  const chance = Array.from({ length: 4 }, () => idAlphabet[randomInt(idAlphabet.length)]).join('');
  return ['shop', words, chance].filter(Boolean).join('-');
}

export interface NewProfile {
  title: string;
  /** `family:ID` or `profile:ID`: what it is copied from. */
  from: string;
}

/** A profile of the shop's own: a family's typical numbers, or a copy of another profile. */
export async function createProfile(db: Db, library: Library, act: Act, form: NewProfile): Promise<{ id: string }> {
  const what = { right: 'editLibrary', action: 'profile made', payload: form, detail: { title: form.title } } as const;
  return actOnce(db, act, what, (tx) => makeProfile(tx, library, act, form));
}

/** The first version of a profile, with numbers besides those of what it is copied from. */
export async function makeProfile(tx: Tx, library: Library, act: Act, form: NewProfile, values: Profile['values'] = {}): Promise<DocumentPin> {
  const { family, profile } = await originalOf(tx, library, form.from);
  return insertVersion(tx, act, {
    kind: 'profile',
    id: newProfileId(form.title),
    version: 1,
    title: form.title,
    family,
    source: profile ? `Copied from ${profile.title}, version ${profile.version}. ${profile.source}` : 'Made in this shop.',
    checked: null,
    values: { ...profile?.values, ...values },
    ...(profile?.newKey ? { newKey: profile.newKey } : {}),
    ...(profile?.seen ? { seen: profile.seen } : {}),
  });
}

async function originalOf(tx: Tx, library: Library, from: string): Promise<{ family: string; profile?: Profile }> {
  const [kind, id = ''] = from.split(':');
  if (kind === 'family' && library.families.has(id)) return { family: id };
  const [latest] = kind === 'profile' ? await profileVersions(tx, id) : [];
  if (!latest) throw refused(400, 'unknownSystem', `"${id}" is not in the library. Choose one of the list.`, 'from');
  return { family: latest.profile.family, profile: latest.profile };
}

async function insertVersion(tx: Tx, act: Act, profile: Profile): Promise<DocumentPin> {
  const { id, version } = profile;
  const row = { kind: 'profile' as const, id, version, hash: contentHash(profile), origin: 'shop' as const, body: profile };
  await tx.insert(document).values({ ...row, enteredAt: act.now, by: act.actor.id });
  await notify(tx, { what: 'library' });
  return { id, version, hash: row.hash };
}

export interface ProfileForm {
  /** The version that was edited. */
  from: number;
  title: string;
  source: string;
  /** As typed; an empty value stays typical. */
  values: Record<string, { value: string; source: string }>;
  /** What is seen on the vehicle, by question; empty: not known. */
  seen: Record<string, string>;
  /** The person has checked every number against its source. */
  check: boolean;
}

/** Saves a profile of the shop as its next version. Who looked a number up stays with it as long as number and source stay. */
export async function saveProfile(db: Db, library: Library, act: Act, id: string, form: ProfileForm): Promise<{ id: string; version: number }> {
  const what = { right: 'editLibrary', action: 'profile saved', payload: [id, form], detail: { profile: id, from: form.from } } as const;
  return actOnce(db, act, what, async (tx) => {
    const before = await editable(tx, id);
    if (before.version !== form.from) {
      const message = `Somebody saved version ${before.version} meanwhile. Look at it in another tab, then put your numbers in there.`;
      throw refused(409, 'stale', message, 'from');
    }
    const family = library.families.get(before.family)!;
    const values = readValues(family, before.values, form.values, act.actor.name);
    const seen = Object.fromEntries(library.features.flatMap((f) => (form.seen[f.id] ? [[f.id, form.seen[f.id]!]] : [])));
    const problems = checkProfile({ ...before, seen: form.seen, values: {} }, family, library.features).filter(
      ({ path }) => form.seen[path.slice(5)] !== '',
    );
    if (problems.length > 0) throw new Refused(400, problems);
    const was = [before.title, before.source, before.values, before.seen ?? {}];
    const same = JSON.stringify(was) === JSON.stringify([form.title, form.source, values, seen]);
    if (same && !form.check) throw refused(409, 'unchanged', 'Nothing was changed, so there is nothing to save.');
    const checked = form.check ? { by: act.actor.name, on: new Date(act.now).toISOString().slice(0, 10) } : same ? before.checked : null;
    const version = (await newestVersion(tx, id)) + 1;
    const { seen: _seen, ...rest } = before;
    const next = { ...rest, version, title: form.title, source: form.source, values, checked, ...(Object.keys(seen).length > 0 ? { seen } : {}) };
    return insertVersion(tx, act, next);
  });
}

/** Two who save the same profile at once do it one after the other, on any number of servers; held until the transaction ends. */
async function lockProfile(tx: Tx, id: string): Promise<void> {
  if (isName(id)) await tx.execute(sql`select pg_advisory_xact_lock(hashtext(${`profile ${id}`}))`);
}

/** The newest version, when it is the shop's own; nobody else changes it until the transaction ends. */
async function editable(tx: Tx, id: string): Promise<Profile> {
  await lockProfile(tx, id);
  const [newest] = await profileVersions(tx, id);
  if (!newest) throw refused(404, 'noProfile', 'There is no such profile.');
  if (newest.origin === 'shipped') throw refused(409, 'shipped', 'What is shipped is not edited. Copy it to a profile of the shop.');
  return newest.profile;
}

async function newestVersion(tx: Tx, id: string): Promise<number> {
  const [row] = await tx
    .select({ version: max(document.version) })
    .from(document)
    .where(and(eq(document.kind, 'profile'), eq(document.id, id)));
  return row?.version ?? 0;
}

function readValues(family: Family, before: Profile['values'], typed: ProfileForm['values'], by: string): Profile['values'] {
  const problems: Problem[] = [];
  const values: Profile['values'] = {};
  for (const [name, { value: text, source }] of Object.entries(typed)) {
    if (text === '') {
      if (source !== '')
        problems.push({ code: 'noValue', path: `values.${name}.value`, message: 'A source without a number. Type the number, or clear the source.' });
      continue;
    }
    const value = readParamValue(family, name, text);
    const found = checkParamValue(family, name, value, `values.${name}`);
    problems.push(...found);
    if (source === '')
      problems.push({ code: 'noSource', path: `values.${name}.source`, message: 'Where does this number come from? Name document and page.' });
    const old = before[name];
    values[name] = { value, source, by: old && old.value === value && old.source === source ? old.by : by };
  }
  if (problems.length > 0) throw new Refused(400, problems);
  // In the family's order, so that the same numbers are the same document.
  return Object.fromEntries(Object.keys(family.params).flatMap((name): [string, KnownValue][] => (values[name] ? [[name, values[name]]] : [])));
}

/** A number as it is typed: comma or point, with or without its unit. What is none stays text and is refused by the check. */
export function readParamValue(family: Family, name: string, text: string): ParamValue {
  const param = Object.hasOwn(family.params, name) ? family.params[name] : undefined;
  if (!param || 'oneOf' in param) return text;
  const bare = (param.unit !== '' && text.endsWith(param.unit) ? text.slice(0, -param.unit.length) : text).trim().replace(',', '.');
  return /^-?\d+(\.\d+)?$/.test(bare) ? Number(bare) : text;
}

/** Adds numbers that were looked up while a vehicle was worked to a profile of the shop, as its next version. */
export async function addToProfile(tx: Tx, act: Act, id: string, values: Profile['values']): Promise<DocumentPin> {
  const before = await editable(tx, id);
  return insertVersion(tx, act, { ...before, version: (await newestVersion(tx, id)) + 1, values: { ...before.values, ...values }, checked: null });
}

export async function retireProfile(db: Db, act: Act, id: string): Promise<void> {
  await actOnce(db, act, { right: 'editLibrary', action: 'profile retired', payload: id, detail: { profile: id } }, async (tx) => {
    await editable(tx, id);
    await tx.insert(retiredDocument).values({ kind: 'profile', id, at: act.now, by: act.actor.id }).onConflictDoNothing();
    await notify(tx, { what: 'library' });
    return null;
  });
}

export async function restoreProfile(db: Db, act: Act, id: string): Promise<void> {
  await actOnce(db, act, { right: 'editLibrary', action: 'profile offered again', payload: id, detail: { profile: id } }, async (tx) => {
    await editable(tx, id);
    await tx.delete(retiredDocument).where(and(eq(retiredDocument.kind, 'profile'), eq(retiredDocument.id, id)));
    await notify(tx, { what: 'library' });
    return null;
  });
}

/** A profile as a file that another shop can import. */
export const profileYaml = (profile: Profile): string => stringify(profile, { lineWidth: 120 });

/**
 * Takes a profile in as YAML, whole or not at all. A profile that this shop has already becomes its next version; one with the same content is
 * only pointed at.
 * @throws Refused with every problem and its path
 */
export async function importProfile(db: Db, library: Library, act: Act, text: string): Promise<{ id: string; version: number; known: boolean }> {
  const profile = readProfile(library, text);
  const what = { right: 'editLibrary', action: 'profile imported', payload: text, detail: { profile: profile.id } } as const;
  return actOnce(db, act, what, async (tx) => {
    await lockProfile(tx, profile.id);
    const versions = await profileVersions(tx, profile.id);
    if (versions[0]?.origin === 'shipped') {
      const message = `"${profile.id}" is the name of a shipped profile. Give yours another id, such as shop-${profile.id}.`;
      throw refused(409, 'shipped', message, 'id');
    }
    const content = (p: Profile) => contentHash({ ...p, version: 0 });
    const twin = versions.find((v) => content(v.profile) === content(profile));
    if (twin) return { id: profile.id, version: twin.pin.version, known: true };
    return { ...(await insertVersion(tx, act, { ...profile, version: (await newestVersion(tx, profile.id)) + 1 })), known: false };
  });
}

function readProfile(library: Library, text: string): Profile {
  const unusable = (problems: Problem[]) => new Refused(400, problems);
  if (Buffer.byteLength(text) > maxContentBytes)
    throw refused(
      413,
      'tooLarge',
      `The file is larger than ${maxContentBytes / 1e6} MB. A profile has a few kilobytes; choose the right file.`,
      'file',
    );
  const data = parseYaml(text);
  if (!data.ok) throw unusable(data.problems);
  const kind = (data.value as { kind?: unknown }).kind;
  if (kind !== 'profile')
    throw refused(400, 'kind', `Found ${JSON.stringify(kind)?.slice(0, 80) ?? 'nothing'}. A shop imports profiles: kind: profile.`, 'kind');
  const parsed = parseProfile(data.value);
  if (!parsed.ok) throw unusable(parsed.problems);
  const family = library.families.get(parsed.value.family);
  if (!family) {
    const known = [...library.families.keys()].sort().join(', ');
    throw refused(400, 'unknownName', `Family "${parsed.value.family}" does not exist. Use one of: ${known}.`, 'family');
  }
  const problems = checkProfile(parsed.value, family, library.features);
  if (problems.length > 0) throw unusable(problems);
  return parsed.value;
}

/** Pins of the newest version, for a case that is worked with it; undefined when it is not there or not offered any more. */
export async function currentProfile(db: Reader, id: string): Promise<ProfileEntry | undefined> {
  const [newest] = await profileVersions(db, id);
  return newest && !(await isRetired(db, id)) ? newest : undefined;
}
