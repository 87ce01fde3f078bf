import { asc, inArray } from 'drizzle-orm';
import type { Reader } from '../db/open';
import { measurement, type MeasurementKind } from '../db/schema';
import type { Kept } from './measured';

/** A measurement as the page of a case shows it. */
export interface MeasurementLine {
  id: string;
  kind: MeasurementKind;
  key: string | null;
  raw: Kept;
  verdict: string;
  simulated: boolean;
  by: string;
  at: number;
}

/** Measurements of cases, in order of time. */
export async function measurementsOf(db: Reader, caseIds: number[], name: (person: string) => string): Promise<Map<number, MeasurementLine[]>> {
  const rows = await db.select().from(measurement).where(inArray(measurement.caseId, caseIds)).orderBy(asc(measurement.at), asc(measurement.id));
  const byCase = new Map<number, MeasurementLine[]>();
  for (const { caseId, keyTag, raw, by, ...row } of rows)
    byCase.set(caseId, [...(byCase.get(caseId) ?? []), { ...row, key: keyTag, raw: raw as Kept, by: name(by) }]);
  return byCase;
}
