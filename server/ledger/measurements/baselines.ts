import { and, asc, desc, eq, isNull, ne, or, type SQL, sql } from 'drizzle-orm';
import { type BurstCondition, type BurstSetup, featuresOf, knownAmong, type KnownCapture, type Theory, theoryOf } from '../../../core/burst';
import type { Reader } from '../../db/open';
import { captureAside, caseFile, measurement } from '../../db/schema';
import type { CaseRecord } from '../../record/cases';
import type { BurstsRaw } from '../../record/measured';
import { mostBaselines } from './form';

/** A capture whose condition is known, or that was asked about. */
export interface KeptCapture {
  id: string;
  condition: BurstCondition;
  key: string | null;
  simulated: boolean;
  /** Of another vehicle of the same model. */
  ofModel: boolean;
  at: number;
  raw: BurstsRaw;
}

type Of = Pick<CaseRecord, 'id' | 'identification' | 'profile'>;

/** Captures of this vehicle, the oldest first: of the case, and of other cases with the same VIN. Those set aside are left out. */
export const capturesOf = (db: Reader, record: Of): Promise<KeptCapture[]> => read(db, record, ofVehicle(record), asc, false);

/** Captures of other vehicles of its model (cases with the same profile), the newest; none where it has no profile. */
export const capturesOfModel = async (db: Reader, record: Of): Promise<KeptCapture[]> =>
  record.profile === null
    ? []
    : read(
        db,
        record,
        and(
          eq(caseFile.profileId, record.profile.id),
          ne(caseFile.id, record.id),
          or(eq(caseFile.identification, ''), ne(caseFile.identification, record.identification)),
        ),
        desc,
        true,
      );

const ofVehicle = ({ id, identification }: Of) => (identification === '' ? eq(caseFile.id, id) : eq(caseFile.identification, identification));

async function read(db: Reader, { id }: Of, where: SQL | undefined, order: typeof asc, ofModel: boolean): Promise<KeptCapture[]> {
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
    .where(and(where, eq(measurement.kind, 'bursts'), isNull(captureAside.id)))
    .orderBy(order(measurement.at), order(measurement.id))
    .limit(mostBaselines);
  return rows.map(({ caseId, key, raw, ...r }) => ({
    ...r,
    ofModel,
    // A tag of another case is another key.
    key: caseId === id ? key : null,
    condition: (raw as BurstsRaw).condition,
    raw: raw as BurstsRaw,
  }));
}

const setupOf = ({ probe, place, storedKeys }: BurstsRaw): BurstSetup => ({ probe, place, storedKeys });

/** What a new capture of a case is compared with: no more than is kept with it, those of this vehicle first. */
export async function baselinesOf(db: Reader, record: Of, like: BurstSetup, simulated: boolean): Promise<KnownCapture[]> {
  const captures = [...(await capturesOf(db, record)), ...(await capturesOfModel(db, record))];
  return knownAmong(
    captures.map(({ raw, ...c }) => ({ ...c, ...setupOf(raw), features: featuresOf(raw) })),
    like,
    simulated,
  ).slice(0, mostBaselines);
}

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
