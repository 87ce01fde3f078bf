import { and, asc, desc, eq, inArray, isNull, sql } from 'drizzle-orm';
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
  const sameVin = db.select({ id: caseFile.id }).from(caseFile).where(eq(caseFile.identification, identification));
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
    .leftJoin(captureAside, eq(captureAside.id, measurement.id))
    .where(
      and(
        identification === '' ? eq(measurement.caseId, id) : inArray(measurement.caseId, sameVin),
        eq(measurement.kind, 'bursts'),
        isNull(captureAside.id),
      ),
    )
    .orderBy(asc(measurement.at), asc(measurement.id))
    .limit(mostBaselines);
  return rows.map(({ caseId, key, raw, ...r }) => ({
    ...r,
    // A tag of another case is another key.
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

/** A field of the raw reading, without reading all its bursts. */
const field = (name: keyof BurstsRaw) => sql<string | null>`(${measurement.raw} ->> ${sql.raw(`'${name}'`)})`;

/** What real captures of all cases say of the theory that the count depends on the number of stored keys. */
export async function shopTheory(db: Reader): Promise<Theory> {
  const rows = await db
    .select({
      caseId: measurement.caseId,
      vin: caseFile.identification,
      condition: field('condition'),
      storedKeys: field('storedKeys'),
      probe: field('probe'),
      place: field('place'),
      quality: field('quality'),
      count: sql<number>`json_array_length(${measurement.raw} -> 'bursts')`,
    })
    .from(measurement)
    .innerJoin(caseFile, eq(caseFile.id, measurement.caseId))
    .leftJoin(captureAside, eq(captureAside.id, measurement.id))
    .where(and(eq(measurement.kind, 'bursts'), eq(measurement.simulated, false), isNull(captureAside.id)))
    .orderBy(desc(measurement.at))
    .limit(mostForTheory);
  return theoryOf(
    rows.flatMap(({ caseId, vin, condition, storedKeys, probe, place, quality, count }) => {
      if (condition === null || condition === 'asked' || storedKeys === null || quality === 'notMeasurable') return [];
      const vehicle = [vin || caseId, (probe ?? '').toLowerCase(), (place ?? '').toLowerCase()].join(' / ');
      return [{ vehicle, condition, storedKeys: Number(storedKeys), count: Number(count) }];
    }),
  );
}
