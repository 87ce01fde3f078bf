import { and, asc, desc, eq, isNull, ne, or } from 'drizzle-orm';
import { type BurstCondition, type BurstSetup, featuresOf, type KnownCapture, sameSetup, type Theory, theoryOf } from '../../../core/burst';
import type { Reader } from '../../db/open';
import { captureAside, caseFile, measurement } from '../../db/schema';
import type { CaseRecord } from '../../record/cases';
import type { BurstsRaw } from '../../record/measured';
import { mostBaselines } from './form';

/** A capture of a case whose condition is known, or that was asked about. */
export interface KeptCapture {
  id: string;
  condition: BurstCondition;
  key: string | null;
  simulated: boolean;
  at: number;
  raw: BurstsRaw;
}

/** Captures of this vehicle, the oldest first: of the case, and of other cases with the same VIN. Those set aside are left out. */
export async function capturesOf(db: Reader, { id, identification }: Pick<CaseRecord, 'id' | 'identification'>): Promise<KeptCapture[]> {
  const own = eq(measurement.caseId, id);
  const rows = await db
    .select({
      id: measurement.id,
      key: measurement.keyTag,
      caseId: measurement.caseId,
      simulated: measurement.simulated,
      at: measurement.at,
      raw: measurement.raw,
    })
    .from(measurement)
    .innerJoin(caseFile, eq(caseFile.id, measurement.caseId))
    .leftJoin(captureAside, eq(captureAside.id, measurement.id))
    .where(
      and(
        eq(measurement.kind, 'bursts'),
        isNull(captureAside.id),
        identification === '' ? own : or(own, and(ne(caseFile.identification, ''), eq(caseFile.identification, identification))),
      ),
    )
    .orderBy(asc(measurement.at), asc(measurement.id))
    .limit(mostBaselines);
  // A tag of another case is another key.
  return rows.map(({ caseId, key, raw, ...r }) => ({
    ...r,
    key: caseId === id ? key : null,
    condition: (raw as BurstsRaw).condition,
    raw: raw as BurstsRaw,
  }));
}

/** What of these captures a capture is compared with: like ones whose condition is known; real ones with real ones. */
export const knownOf = (captures: readonly KeptCapture[], like: BurstSetup, simulated: boolean): KnownCapture[] =>
  captures.flatMap(({ condition, key, raw, simulated: own }) => {
    const features = featuresOf(raw);
    return condition === 'asked' || !features || own !== simulated || !sameSetup(raw, like) ? [] : [{ ...features, condition, key }];
  });

/** What a new capture of a case is compared with. */
export const baselinesOf = async (
  db: Reader,
  record: Pick<CaseRecord, 'id' | 'identification'>,
  like: BurstSetup,
  simulated: boolean,
): Promise<KnownCapture[]> => knownOf(await capturesOf(db, record), like, simulated);

/** Captures of the shop that a theory is held against, the newest. */
const mostForTheory = 400;

/** What real captures of all cases say of the theory that the count depends on the number of stored keys. */
export async function shopTheory(db: Reader): Promise<Theory> {
  const rows = await db
    .select({ caseId: measurement.caseId, vin: caseFile.identification, raw: measurement.raw })
    .from(measurement)
    .innerJoin(caseFile, eq(caseFile.id, measurement.caseId))
    .leftJoin(captureAside, eq(captureAside.id, measurement.id))
    .where(and(eq(measurement.kind, 'bursts'), eq(measurement.simulated, false), isNull(captureAside.id)))
    .orderBy(desc(measurement.at))
    .limit(mostForTheory);
  return theoryOf(
    rows.flatMap(({ caseId, vin, raw }) => {
      const { condition, storedKeys, probe, place, ...rest } = raw as BurstsRaw;
      const features = featuresOf(rest);
      if (condition === 'asked' || storedKeys === null || !features) return [];
      const vehicle = [vin || caseId, probe.toLowerCase(), place.toLowerCase()].join(' / ');
      return [{ vehicle, condition, storedKeys, count: features.count }];
    }),
  );
}
