import { asc, eq } from 'drizzle-orm';
import type { Library } from '../../content/reader';
import { checkParamValue, type Family, isUnusual, type ParamValues, usualRange } from '../../core/library';
import { type GivenNumber, lint, numbersGiven, type Procedure } from '../../core/procedure';
import { quantityWords } from '../../core/units';
import { caseForChange, type CaseRecord } from '../record/cases';
import { type Act, actOnce } from '../acts/commands';
import type { Keeping } from '../db/kept';
import type { Db, Reader } from '../db/open';
import { caseFile, run, runEvent } from '../db/schema';
import { Refused, refused } from '../base/expected';
import { notify } from '../acts/live';
import { addToProfile, type ListedProfile, makeProfile, profileVersions, readParamValue } from '../library/profiles';

/** Numbers of the vehicle that were looked up in the runs of a case. */
export async function caseNumbers(db: Reader, caseId: number): Promise<Record<string, GivenNumber>> {
  const rows = await db
    .select({ event: runEvent.event })
    .from(runEvent)
    .innerJoin(run, eq(runEvent.runId, run.id))
    .where(eq(run.caseId, caseId))
    .orderBy(asc(run.id), asc(runEvent.seq));
  return numbersGiven(rows.map((r) => r.event));
}

export const keptNumbers = ({ kept, database }: Keeping, caseId: number): Promise<Record<string, GivenNumber>> =>
  kept.read(`numbers ${caseId}`, [run, runEvent], () => caseNumbers(database.db, caseId));

/**
 * A number as it was typed in a run, in the family's terms.
 * @param confirmed it was asked again, and is meant
 * @throws Refused when it can't be meant, when the procedure would contradict itself with it, or (`unusual`) when it is outside the usual range and
 * was not asked again yet
 */
export function readNumber(
  family: Family,
  procedure: Procedure,
  values: ParamValues,
  { name, value: typed, confirmed }: { name: string; value: string; confirmed: boolean },
): number | string {
  const read = readParamValue(family, name, typed, 'value');
  if (!read.ok) throw new Refused(400, read.problems);
  const { value } = read;
  const problems = checkParamValue(family, name, value, 'value');
  if (problems.length > 0) throw new Refused(400, problems);
  const before = new Set(orderProblems(procedure, values));
  const wrong = orderProblems(procedure, { ...values, [name]: value }).find((p) => !before.has(p));
  if (wrong) throw refused(400, 'badValue', `This number contradicts the others of the procedure (${wrong}) Check both again.`, 'value');
  const param = family.params[name]!;
  if (!confirmed && isUnusual(family, name, value) && 'unit' in param) {
    const found = quantityWords(Number(value), param.unit);
    throw refused(409, 'unusual', `${JSON.stringify(typed)} is ${found}. Outside the usual range (${usualRange(param)}). Is it right?`, 'value');
  }
  return value;
}

/** Limits that stand in the wrong order. Names were checked when the procedure was read. */
function orderProblems(procedure: Procedure, values: ParamValues): string[] {
  return lint(procedure, values, { cautions: new Set() }).problems.flatMap((p) => (p.code === 'order' ? [p.message] : []));
}

/** Of the numbers given in a case, those that its family has. */
export const ofFamily = (family: Pick<Family, 'params'> | undefined, numbers: Readonly<Record<string, GivenNumber>>): Record<string, GivenNumber> =>
  Object.fromEntries(Object.entries(numbers).filter(([name]) => family !== undefined && name in family.params));

/**
 * Keeps what was looked up in a case, also after it was closed: added to the shop's profile that the case is worked with, or as a new one. An open
 * case goes on with it; a closed one keeps the version it was worked with.
 */
export async function saveNumbers(db: Db, library: Library, act: Act, caseId: number, title: string): Promise<{ profile: string }> {
  const what = { right: 'editLibrary', action: 'numbers saved', payload: [caseId, title], caseId, detail: { title } } as const;
  return actOnce(db, act, what, async (tx) => {
    const record = await caseForChange(tx, caseId);
    const family = library.families.get(record.family.id);
    // A number that only a procedure asked for is none of the vehicle's profile.
    const values = ofFamily(family, await caseNumbers(tx, caseId));
    if (Object.keys(values).length === 0) throw refused(409, 'noNumbers', 'No number was looked up in this case yet.');
    const pinned = record.profile?.id;
    const own = pinned === undefined ? undefined : (await profileVersions(tx, pinned))[0];
    const kept =
      own?.origin === 'shop'
        ? await addToProfile(tx, act, own.pin.id, values)
        : await makeProfile(tx, library, act, { title, from: pinned === undefined ? `family:${record.family.id}` : `profile:${pinned}` }, values);
    if (record.state === 'open')
      await tx.update(caseFile).set({ profileId: kept.id, profileVersion: kept.version, profileHash: kept.hash }).where(eq(caseFile.id, caseId));
    await notify(tx, { what: 'case', id: caseId });
    return { profile: kept.id };
  });
}

/** The shop's profile of the same family in which every number that was looked up in a case is kept; undefined when there is none. */
export function keptIn(
  record: Pick<CaseRecord, 'family'>,
  numbers: Readonly<Record<string, GivenNumber>>,
  profiles: readonly ListedProfile[],
): ListedProfile | undefined {
  return profiles.find(
    ({ origin, profile }) =>
      origin === 'shop' &&
      profile.family === record.family.id &&
      Object.entries(numbers).every(([name, n]) => profile.values[name]?.value === n.value && profile.values[name].source === n.source),
  );
}
