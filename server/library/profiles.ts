import { stringify } from 'yaml';
import type { Library } from '../../content/reader';
import {
  checkParamValue,
  checkProfile,
  type DocumentPin,
  type Family,
  type KnownValue,
  type ParamValue,
  type Profile,
  usesLadder,
} from '../../core/library';
import { parseProfile } from '../../core/library/schema';
import { ok, type Problem, readQuantity, type Result } from '../../core/units';
import { type Act, actOnce } from '../acts/commands';
import type { Keeping } from '../db/kept';
import type { Db, Reader, Tx } from '../db/open';
import { document, retiredDocument } from '../db/schema';
import { Refused, refused } from '../base/expected';
import { type DocumentEntry, documentVersions, editable, insertNext, isRetired, listDocuments, newDocumentId } from './shopDocuments';
import type { NewProfile, ProfileForm } from './forms';

/** One version of a profile with where it stands. */
export interface ProfileEntry extends Omit<DocumentEntry<'profile'>, 'body'> {
  profile: Profile;
}
export interface ListedProfile extends ProfileEntry {
  retired: boolean;
}
const named = <E extends DocumentEntry<'profile'>>({ body, ...entry }: E) => ({ ...entry, profile: body });

/** The shop's own profiles as they are now and the shipped ones, by title. */
export const listProfiles = async (db: Reader, library: Library): Promise<ListedProfile[]> =>
  (await listDocuments(db, library, 'profile')).map(named);

export const keptProfiles = ({ kept, database, library }: Keeping & { library: Library }): Promise<ListedProfile[]> =>
  kept.read('profiles', [document, retiredDocument], () => listProfiles(database.db, library));

/** Every version of one profile, the newest first; empty when there is none. */
export const profileVersions = async (db: Reader, id: string): Promise<ProfileEntry[]> => (await documentVersions(db, 'profile', id)).map(named);

/** A profile of the shop's own: a family's typical numbers, or a copy of another profile. */
export async function createProfile(db: Db, library: Library, act: Act, form: NewProfile): Promise<{ id: string }> {
  const what = { right: 'editLibrary', action: 'profile made', payload: form, detail: { title: form.title } } as const;
  return actOnce(db, act, what, (tx) => makeProfile(tx, library, act, form));
}

/** The first version of a profile, with numbers besides those of what it is copied from. */
export async function makeProfile(tx: Tx, library: Library, act: Act, form: NewProfile, values: Profile['values'] = {}): Promise<DocumentPin> {
  const { family, profile } = await originalOf(tx, library, form.from);
  return insertNext(tx, act, {
    kind: 'profile',
    id: newDocumentId(form.title),
    version: 1,
    title: form.title,
    family,
    source: profile ? copiedFrom(profile) : 'Made in this shop.',
    checked: null,
    values: { ...profile?.values, ...values },
    ...(profile?.ladder ? { ladder: profile.ladder } : {}),
    ...(profile?.newKey ? { newKey: profile.newKey } : {}),
    ...(profile?.seen ? { seen: profile.seen } : {}),
  });
}

/** Longest source that the form of a profile takes, characters. */
const maxSource = 600;

/** Where the numbers of a copy come from. A copy of copies tells of the latest ones; what stood longest ago is cut off. */
function copiedFrom({ title, version, source }: Profile): string {
  const whole = `Copied from ${title}, version ${version}. ${source}`;
  return whole.length <= maxSource ? whole : `${whole.slice(0, maxSource - 2).trimEnd()} …`;
}

async function originalOf(tx: Tx, library: Library, from: string): Promise<{ family: string; profile?: Profile }> {
  const [kind, id = ''] = from.split(':');
  if (kind === 'family' && library.families.has(id)) return { family: id };
  const [latest] = kind === 'profile' ? await profileVersions(tx, id) : [];
  if (!latest) throw refused(400, 'unknownSystem', `"${id}" is not in the library. Choose one from the list.`, 'from');
  return { family: latest.profile.family, profile: latest.profile };
}

/** Saves a profile of the shop as its next version. Who looked a number up stays with it as long as number and source stay. */
export async function saveProfile(db: Db, library: Library, act: Act, id: string, form: ProfileForm): Promise<{ id: string; version: number }> {
  const what = { right: 'editLibrary', action: 'profile saved', payload: [id, form], detail: { profile: id, from: form.from } } as const;
  return actOnce(db, act, what, async (tx) => {
    const before = await editable(tx, 'profile', id, form.from);
    const family = library.families.get(before.family)!;
    const values = readValues(family, before.values, form.values, act.actor.name);
    const seen = Object.fromEntries(library.features.flatMap((f) => (form.seen[f.id] ? [[f.id, form.seen[f.id]!]] : [])));
    const problems = checkProfile({ ...before, seen: form.seen, values: {} }, family, library.features).filter(
      ({ path }) => form.seen[path.slice(5)] !== '',
    );
    // A family without resistor keys has no field for a ladder.
    const ladder = usesLadder(family) ? form.ladder : '';
    if (ladder !== (before.ladder ?? '')) problems.push(...(await ladderProblems(tx, ladder || undefined)));
    if (problems.length > 0) throw new Refused(400, problems);
    const was = [before.title, before.source, before.values, before.seen ?? {}, before.ladder ?? ''];
    const same = JSON.stringify(was) === JSON.stringify([form.title, form.source, values, seen, ladder]);
    if (same && !form.check) throw refused(409, 'unchanged', 'Nothing was changed, so there is nothing to save.');
    const checked = form.check ? { by: act.actor.name, on: new Date(act.now).toISOString().slice(0, 10) } : same ? before.checked : null;
    const { seen: _seen, ladder: _ladder, ...rest } = before;
    return insertNext(tx, act, {
      ...rest,
      title: form.title,
      source: form.source,
      values,
      checked,
      ...(Object.keys(seen).length > 0 ? { seen } : {}),
      ...(ladder === '' ? {} : { ladder }),
    });
  });
}

/** A ladder that a profile names must be in the library. */
async function ladderProblems(db: Reader, ladder: string | undefined): Promise<Problem[]> {
  if (ladder === undefined || (await documentVersions(db, 'ladder', ladder)).length > 0) return [];
  return [{ code: 'unknownName', path: 'ladder', message: `Value chart "${ladder}" is not in the library. Import it first, or leave it out.` }];
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
    const read = readParamValue(family, name, text, `values.${name}.value`);
    const value = read.ok ? read.value : text;
    problems.push(...(read.ok ? checkParamValue(family, name, value, `values.${name}`) : read.problems));
    if (source === '')
      problems.push({ code: 'noSource', path: `values.${name}.source`, message: 'Where does this number come from? Name document and page.' });
    const old = before[name];
    values[name] = { value, source, by: old && old.value === value && old.source === source ? old.by : by };
  }
  if (problems.length > 0) throw new Refused(400, problems);
  // In the family's order, so that the same numbers are the same document.
  return Object.fromEntries(Object.keys(family.params).flatMap((name): [string, KnownValue][] => (values[name] ? [[name, values[name]]] : [])));
}

/** A number as people write it, in the unit of its parameter; a choice is taken as it stands, and checked as one (checkParamValue). */
export function readParamValue(family: Family, name: string, text: string, path: string): Result<ParamValue> {
  const param = Object.hasOwn(family.params, name) ? family.params[name] : undefined;
  return !param || 'oneOf' in param ? ok(text) : readQuantity(text, { unit: param.unit, path });
}

/** Adds numbers that were looked up while a vehicle was worked to a profile of the shop, as its next version. */
export async function addToProfile(tx: Tx, act: Act, id: string, values: Profile['values']): Promise<DocumentPin> {
  const before = await editable(tx, 'profile', id);
  return insertNext(tx, act, { ...before, values: { ...before.values, ...values }, checked: null });
}

/** A profile as a file that another shop can import. */
export const profileYaml = (profile: Profile): string => stringify(profile, { lineWidth: 120 });

/** A profile that came as a file, with every name in it looked up. @throws Refused with every problem and its path */
export async function readProfile(db: Reader, library: Library, data: unknown): Promise<Profile> {
  const parsed = parseProfile(data);
  if (!parsed.ok) throw new Refused(400, parsed.problems);
  const family = library.families.get(parsed.value.family);
  if (!family) {
    const known = [...library.families.keys()].sort().join(', ');
    throw refused(400, 'unknownName', `System type "${parsed.value.family}" does not exist. Use one of: ${known}.`, 'family');
  }
  const problems = [...checkProfile(parsed.value, family, library.features), ...(await ladderProblems(db, parsed.value.ladder))];
  if (problems.length > 0) throw new Refused(400, problems);
  return parsed.value;
}

/** Pins of the newest version, for a case that is worked with it; undefined when it is not there or not offered any more. */
export async function currentProfile(db: Reader, id: string): Promise<ProfileEntry | undefined> {
  const [newest] = await profileVersions(db, id);
  return newest && !(await isRetired(db, 'profile', id)) ? newest : undefined;
}
