import { desc, eq } from 'drizzle-orm';
import type { Library } from '../../content/reader';
import { contradiction } from '../../core/identify';
import { noneOfThese } from '../../core/lamp';
import type { DocumentPin, Family, Feature, TestDefinition } from '../../core/library';
import type { Problem } from '../../core/units';
import { type CaseRecord, openCaseForChange, refreshCaseSearch } from '../record/cases';
import { type Act, actOnce } from '../acts/commands';
import type { Keeping } from '../db/kept';
import type { Db, Reader, Tx } from '../db/open';
import { caseFile, identification } from '../db/schema';
import type { Learned } from '../../core/diagnosis';
import { readExperience } from '../record/experience';
import type { Documents } from '../library/documents';
import { Refused, refused } from '../base/expected';
import { readLooksAgain } from '../ledger/lamps';
import { notify } from '../acts/live';
import { currentProfile, keptProfiles } from '../library/profiles';

export interface SystemPins {
  family: DocumentPin;
  profile: DocumentPin | null;
}

/** The system chosen at intake, as pins to the versions that are current now. */
export async function systemPins(tx: Reader, library: Library, system: string): Promise<SystemPins> {
  const [kind, id] = system.split(':') as ['family' | 'profile', string];
  const unknown = () => refused(400, 'unknownSystem', `"${id}" is not in the library. Choose one from the list.`, 'system');
  const familyPin = (name: string): DocumentPin => {
    const found = library.documents.find((d) => d.kind === 'family' && d.id === name);
    if (!found) throw unknown();
    return { id: found.id, version: found.version, hash: found.hash };
  };
  if (kind === 'family') return { family: familyPin(id), profile: null };
  const found = await currentProfile(tx, id);
  if (!found) throw unknown();
  return { profile: found.pin, family: familyPin(found.profile.family) };
}

/** Every system that a vehicle can be worked as: vehicles first, then families with their typical numbers. */
export async function systemsOf(services: Keeping & { library: Library }) {
  const { library } = services;
  return [
    ...(await keptProfiles(services))
      .filter((p) => !p.retired)
      .map(({ profile: p, origin }) => ({
        value: `profile:${p.id}`,
        title: p.title,
        note: origin === 'shop' ? 'profile of this shop' : 'numbers looked up',
        needs: { family: library.families.get(p.family)!.newKey, profile: p.newKey },
      })),
    ...[...library.families.values()].map((f) => ({
      value: `family:${f.id}`,
      title: f.title,
      note: 'typical numbers',
      needs: { family: f.newKey, profile: undefined },
    })),
  ];
}

/** Answers to questions that exist. @throws Refused with each that doesn't */
export function checkSeen(features: readonly Feature[], seen: Readonly<Record<string, string>>): void {
  const problems = Object.entries(seen).flatMap(([id, value]): Problem[] => {
    const feature = features.find((f) => f.id === id);
    if (!feature) return [{ code: 'unknownName', path: `seen.${id}`, message: 'This question is not in the library. Reload the page.' }];
    if (value === 'cantSee' || Object.hasOwn(feature.values, value)) return [];
    const known = [...Object.keys(feature.values), 'cantSee'].join(', ');
    return [{ code: 'unknownName', path: `seen.${id}`, message: `"${value.slice(0, 60)}" is not an answer here. Use one of: ${known}.` }];
  });
  if (problems.length > 0) throw new Refused(400, problems);
}

/** Writes down what was seen and which system was chosen by it. */
export async function enterIdentification(
  tx: Tx,
  act: Pick<Act, 'actor' | 'now'>,
  caseId: number,
  seen: Record<string, string>,
  { family, profile }: SystemPins,
  carried: string[] = [],
): Promise<void> {
  const start = await startingWith(tx, caseId, family.id);
  await tx.insert(identification).values({ caseId, seen, family, profile, carried, ...start, by: act.actor.id, at: act.now });
}

/** A case keeps what it started with; only another family starts with something else. */
async function startingWith(tx: Tx, caseId: number, familyId: string): Promise<{ proven: Record<string, number>; learned: Learned | null }> {
  const [before] = await tx
    .select({ family: identification.family, proven: identification.proven, learned: identification.learned })
    .from(identification)
    .where(eq(identification.caseId, caseId))
    .orderBy(desc(identification.id))
    .limit(1);
  if (before?.family.id === familyId) return { proven: before.proven, learned: before.learned };
  const [row] = await tx.select({ vehicle: caseFile.vehicle }).from(caseFile).where(eq(caseFile.id, caseId));
  return readExperience(tx, familyId, row?.vehicle ?? '');
}

/**
 * A second look at which system a vehicle has. Everything that was recorded stays; what was seen under another family counts on only where the
 * new family has the same test with the same words, since the same pattern says something else there.
 */
export async function identifyAgain(
  db: Db,
  library: Library,
  documents: Documents,
  act: Act,
  caseId: number,
  form: { seen: Record<string, string>; system: string },
): Promise<void> {
  const what = { right: 'editIntake', action: 'system identified', payload: [caseId, form], caseId, detail: { system: form.system } } as const;
  await actOnce(db, act, what, async (tx) => {
    const record = await openCaseForChange(tx, caseId);
    checkSeen(library.features, form.seen);
    if (record.runs.some((r) => r.status === 'running'))
      throw refused(409, 'running', 'A run of this case is in progress. Finish or stop it before you choose another system type.', 'system');
    const pins = await systemPins(tx, library, form.system);
    // A case of before identifications were kept: what it was worked as until now is written down first.
    if (record.identifications.length === 0 && pins.family.hash !== record.family.hash)
      await tx.insert(identification).values({
        caseId,
        seen: {},
        family: record.family,
        profile: record.profile,
        carried: [],
        by: act.actor.id,
        at: record.openedAt,
      });
    const carried = await carriedOver(documents, tx, record, await documents.family(pins.family, tx));
    await enterIdentification(tx, act, caseId, form.seen, pins, carried);
    await tx
      .update(caseFile)
      .set({
        familyId: pins.family.id,
        familyVersion: pins.family.version,
        familyHash: pins.family.hash,
        profileId: pins.profile?.id ?? null,
        profileVersion: pins.profile?.version ?? null,
        profileHash: pins.profile?.hash ?? null,
      })
      .where(eq(caseFile.id, caseId));
    if (pins.family.id !== record.family.id) await readLooksAgain(tx, documents, act, await openCaseForChange(tx, caseId));
    await refreshCaseSearch(tx, caseId);
    await notify(tx, { what: 'case', id: caseId });
    return null;
  });
}

/** Ids of the lines of the ledger that mean the same in the new family: the same test, in the same words. */
async function carriedOver(documents: Documents, tx: Tx, record: CaseRecord, to: Family): Promise<string[]> {
  const ids: string[] = [];
  for (const entry of record.evidence) {
    const pin = pinOfEntry(record, entry.familyHash);
    const from = pin ? await documents.family(pin, tx) : undefined;
    const [before, after] = [from, to].map((f) => f?.tests.find((t) => t.id === entry.test));
    if (!before || !after || before.do !== after.do) continue;
    if (entry.outcome === null || before.outcomes[entry.outcome]?.say === after.outcomes[entry.outcome]?.say) ids.push(entry.id);
  }
  // A repair means the same where the other family knows the same fault by the same words.
  for (const repairAction of record.repairActions) {
    const pin = pinOfEntry(record, repairAction.familyHash);
    const from = pin ? await documents.family(pin, tx) : undefined;
    const [before, after] = [from, to].map((f) => f?.faults?.find((x) => x.id === repairAction.fault));
    if (before && after && before.title === after.title) ids.push(repairAction.id);
  }
  return ids;
}

/** The family under which a line of the ledger was recorded. */
export function pinOfEntry(record: Pick<CaseRecord, 'family' | 'identifications'>, hash: string): DocumentPin | undefined {
  return [record.family, ...record.identifications.map((i) => i.family)].find((pin) => pin.hash === hash);
}

/** What is seen on the vehicle: the latest answers, and the kinds of the keys that came with it. */
export function seenOf(record: Pick<CaseRecord, 'identifications' | 'keys'>): {
  seen: Record<string, string>;
  kinds: { tag: string; kind: string }[];
} {
  const kinds = record.keys.filter((k) => k.toFit === null && k.kind !== 'unknown').map((k) => ({ tag: k.tag, kind: k.kind }));
  return { seen: record.identifications.at(-1)?.seen ?? {}, kinds };
}

/** Why the family of a case is uncertain, if it is; names the key where its kind is the reason. */
export function uncertainTypeOf(library: Library, record: Pick<CaseRecord, 'identifications' | 'keys' | 'family' | 'kind'>) {
  if (record.kind !== 'vehicle' || !library.families.has(record.family.id)) return null;
  const { seen, kinds } = seenOf(record);
  const check = (answers: Record<string, string>) => contradiction(library.features, [...library.families.values()], record.family.id, answers);
  const bySight = check(seen);
  if (bySight) return { ...bySight, key: null };
  for (const { tag, kind } of kinds) {
    const found = check({ ...seen, keyKind: kind });
    if (found) return { ...found, key: tag };
  }
  return null;
}

/** The verdict of the latest look, when the lamp did nothing that its family's list has. */
export function strangeLamp(record: Pick<CaseRecord, 'looks' | 'kind'>): string | null {
  const read = record.kind === 'vehicle' ? record.looks.findLast((l) => l.reading?.state === 'decided')?.reading : undefined;
  return read?.pattern === noneOfThese ? read.verdict : null;
}

/** Titles and tests of the families under which lines of the ledger were recorded that don't count any more. */
export async function earlierFamilies(
  documents: Documents,
  record: CaseRecord,
): Promise<Record<string, { title: string; tests: Record<string, TestDefinition>; faults: Record<string, string> }>> {
  const hashes = new Set([...record.evidence, ...record.repairActions].flatMap((e) => (e.familyHash === record.family.hash ? [] : [e.familyHash])));
  const found = await Promise.all(
    [...hashes].map(async (hash) => {
      const pin = pinOfEntry(record, hash);
      if (!pin) return [];
      const { title, tests, faults = [] } = await documents.family(pin);
      const named = { tests: Object.fromEntries(tests.map((t) => [t.id, t])), faults: Object.fromEntries(faults.map((f) => [f.id, f.title])) };
      return [[hash, { title, ...named }] as const];
    }),
  );
  return Object.fromEntries(found.flat());
}
