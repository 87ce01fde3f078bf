import { randomUUID } from 'node:crypto';
import type { Library } from '../../content/reader';
import { firstSeconds, lampVerdict, type LampReading, noneOfThese, readLamp, type Recording, recordingOf } from '../../core/lamp';
import {
  type DocumentPin,
  type Family,
  type LaidLamp,
  type LampMoment,
  lampMoments,
  type Profile,
  resolveLamps,
  resolveParams,
} from '../../core/library';
import { paramsAt } from '../../core/procedure';
import { type CaseRecord, openCaseForChange } from '../record/cases';
import { type Act, actOnce, doneAt } from '../acts/commands';
import type { Db, Reader, Tx } from '../db/open';
import { type FilmedLamp, lampLook, lampReading } from '../db/schema';
import type { Documents } from '../library/documents';
import { Refused, refused } from '../base/expected';
import type { NewLook } from './forms';
import { append, checkEvidence } from './ledger';
import { notify } from '../acts/live';
import { caseNumbers } from './numbers';

/** What a look came to. */
export interface LookRead {
  verdict: string;
  /** It stands in the ledger as evidence. */
  recorded: boolean;
}

type Taps = Pick<NewLook, 'lit' | 'litAtEnd' | 'lengthS'>;

/** @throws Refused when the lights can't have followed each other so */
export function recordingOfTaps({ lit, litAtEnd, lengthS }: Taps): Recording {
  const samples = lit.flatMap(([onS, offS], i) => [
    { atS: onS, lit: true },
    ...(litAtEnd && i === lit.length - 1 ? [] : [{ atS: offS, lit: false }]),
  ]);
  const recording = recordingOf(samples, lengthS);
  if (recording.ok) return recording.value;
  throw new Refused(
    400,
    recording.problems.map((p) => ({ ...p, path: `lit${p.path}` })),
  );
}

/** What lamp and cluster of a case's vehicle may show, with the vehicle's own numbers. */
export async function lampsOf(db: Reader, documents: Documents, record: Pick<CaseRecord, 'id' | 'family' | 'profile'>) {
  const family = await documents.family(record.family, db);
  const profile = record.profile ? await documents.profile(record.profile, db) : undefined;
  const params = paramsAt(resolveParams(family, profile), await caseNumbers(db, record.id));
  return { family, profile, lamps: resolveLamps(family.lamps, params) };
}

/** The patterns that its lamp makes at a moment. */
async function patternsOf(db: Reader, documents: Documents, record: Pick<CaseRecord, 'id' | 'family' | 'profile'>, moment: LampMoment) {
  const { family, lamps } = await lampsOf(db, documents, record);
  return { family, patterns: lamps.filter((l) => l.moment === moment && l.segments) };
}

/** Keeps a look with its raw taps, reads it in the family of the case, and records what it shows where that is decided. */
export async function recordLook(db: Db, documents: Documents, library: Library, act: Act, form: NewLook): Promise<LookRead> {
  const what = { right: 'recordEvidence', action: 'light read', payload: form, caseId: form.case, detail: { moment: form.moment } } as const;
  return actOnce(db, act, what, async (tx) => {
    const record = await openCaseForChange(tx, form.case);
    const { family, patterns } = await patternsOf(tx, documents, record, form.moment);
    if (patterns.length === 0) {
      const moments = lampMoments.filter((m) => family.lamps.some((l) => l.moment === m && l.segments)).join(', ');
      throw refused(
        400,
        'noLamp',
        moments ? `“${family.title}” has no light then. Use one of: ${moments}.` : `“${family.title}” has no security light.`,
        'moment',
      );
    }
    if (form.key !== undefined && !record.keys.some((k) => k.present && k.tag === form.key))
      throw refused(400, 'keyMissing', `Tag ${form.key} is not here. Choose a key of the case.`, 'key');
    const byEye = form.origin === 'eye';
    const recording = byEye ? null : recordingOfTaps(form);
    const lookId = randomUUID();
    await tx.insert(lampLook).values({
      id: lookId,
      caseId: record.id,
      keyTag: form.key ?? null,
      moment: form.moment,
      origin: form.origin,
      file: form.file,
      lit: byEye ? [] : form.lit,
      litAtEnd: form.litAtEnd,
      lengthS: form.lengthS,
      by: act.actor.id,
      at: doneAt(act),
    });
    const read = recording
      ? readIn(family, patterns, recording)
      : {
          state: 'decided' as const,
          pattern: noneOfThese,
          p: null,
          verdict: `It matches none of the patterns of “${family.title}”. Check the system type.`,
        };
    const elsewhere =
      recording && read.state === 'decided' && read.pattern === noneOfThese ? inOtherFamilies(library, family, form.moment, recording) : [];
    const verdict = [read.verdict, ...elsewhere].join(' ');
    await enterReading(tx, lookId, record.family, { ...read, verdict }, act.now);
    const recorded = await recordReading(tx, act, record, family, patterns, { id: lookId, keyTag: form.key ?? null }, { ...read, verdict });
    await notify(tx, { what: 'case', id: record.id });
    return { verdict, recorded };
  });
}

interface Read {
  state: LampReading['state'];
  pattern: string;
  p: number | null;
  verdict: string;
}

function readIn(family: Family, patterns: readonly LaidLamp[], recording: Recording): Read {
  const reading = readLamp(patterns, recording);
  const [first] = reading.patterns;
  return { state: reading.state, pattern: first!.id, p: first!.p, verdict: lampVerdict(reading, patterns, family.title) };
}

const enterReading = (tx: Tx, lookId: string, { id, version, hash }: DocumentPin, { state, pattern, p, verdict }: Read, at: number) =>
  tx.insert(lampReading).values({ lookId, family: { id, version, hash }, state, pattern, p, verdict, at });

/** Writes what a decided pattern means into the ledger. Not every pattern means an outcome: an armed lamp is health. */
async function recordReading(
  tx: Tx,
  act: Act,
  record: CaseRecord,
  family: Family,
  patterns: readonly LaidLamp[],
  look: { id: string; keyTag: string | null },
  read: Read,
  again = false,
): Promise<boolean> {
  const means = read.state === 'decided' ? patterns.find((l) => l.id === read.pattern)?.means : undefined;
  if (!means) return false;
  const perKey = family.tests.find((t) => t.id === means.test)!.perKey;
  const key = perKey ? look.keyTag : null;
  if (perKey && key === null && again) return false;
  checkEvidence(record, family, { ...means, note: '', ...(key === null ? {} : { key }) });
  await append(tx, record.id, [
    {
      caseId: record.id,
      test: means.test,
      outcome: means.outcome,
      keyTag: key,
      note: read.verdict.slice(0, 500),
      replaces: null,
      lookId: look.id,
      familyHash: record.family.hash,
      by: act.actor.id,
      occurredAt: doneAt(act),
      receivedAt: act.now,
    },
  ]);
  return true;
}

/** How much of a look is read in every family at once. */
const everywhereS = 25;
/** In which other families the same light would be read, in a sentence; the likeliest two. */
function inOtherFamilies(library: Library, own: Family, moment: LampMoment, recording: Recording): string[] {
  const seen = firstSeconds(recording, everywhereS);
  const found = [...library.families.values()].flatMap((family) => {
    const patterns = resolveLamps(family.lamps, resolveParams(family)).filter((l) => l.moment === moment && l.segments);
    if (family.id === own.id || patterns.length === 0) return [];
    const { state, pattern, p } = readIn(family, patterns, seen);
    return state === 'decided' && pattern !== noneOfThese
      ? [{ p: p!, say: `“${patterns.find((l) => l.id === pattern)!.title}” in “${family.title}”` }]
      : [];
  });
  const best = found.sort((a, b) => b.p - a.p).slice(0, 2);
  return best.length === 0 ? [] : [`With typical numbers it would be ${best.map((b) => b.say).join(', or ')}.`];
}

/** A film that was watched before the vehicle was here: its taps are kept and read, and are no evidence, since nobody here saw the lamp. */
export async function enterFilm(
  tx: Tx,
  act: Act,
  caseId: number,
  film: FilmedLamp,
  pin: DocumentPin,
  family: Family,
  profile: Profile | undefined,
): Promise<void> {
  const id = randomUUID();
  await tx.insert(lampLook).values({ id, caseId, keyTag: null, origin: 'film', file: '', ...film, by: act.actor.id, at: act.now });
  const patterns = resolveLamps(family.lamps, resolveParams(family, profile)).filter((l) => l.moment === film.moment && l.segments);
  if (patterns.length > 0) await enterReading(tx, id, pin, readIn(family, patterns, recordingOfTaps(film)), act.now);
}

/** Reads the raw taps of a case again in the family that it is worked as from now on: the same light may mean the opposite there. */
export async function readLooksAgain(tx: Tx, documents: Documents, act: Act, record: CaseRecord): Promise<void> {
  for (const look of record.looks.filter((l) => l.origin !== 'eye' && l.reading === null)) {
    const { family, patterns } = await patternsOf(tx, documents, record, look.moment);
    if (patterns.length === 0) continue;
    const read = readIn(family, patterns, recordingOfTaps(look));
    await enterReading(tx, look.id, record.family, read, act.now);
    const here = look.key === null || record.keys.some((k) => k.present && k.tag === look.key);
    const said = { ...read, verdict: `Read again from the taps. ${read.verdict}` };
    if (here) await recordReading(tx, act, record, family, patterns, { id: look.id, keyTag: look.key }, said, true);
  }
}
