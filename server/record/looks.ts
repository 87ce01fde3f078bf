import { asc, inArray } from 'drizzle-orm';
import type { LampReading } from '../../core/lamp';
import type { LampMoment } from '../../core/library';
import type { Reader } from '../db/open';
import { lampLook, lampReading, type LookOrigin } from '../db/schema';

/** A look of a case as its page shows it, with its latest reading in the family that the case is worked as. */
export interface LookLine {
  id: string;
  key: string | null;
  moment: LampMoment;
  origin: LookOrigin;
  lit: [number, number][];
  litAtEnd: boolean;
  lengthS: number;
  at: number;
  reading: { state: LampReading['state']; pattern: string; p: number | null; verdict: string } | null;
}

/** Looks of cases, in order of time, each read in the family that its case is worked as now. */
export async function looksOf(db: Reader, caseIds: number[], familyOf: (caseId: number) => string): Promise<Map<number, LookLine[]>> {
  const looks = await db.select().from(lampLook).where(inArray(lampLook.caseId, caseIds)).orderBy(asc(lampLook.at), asc(lampLook.id));
  const byCase = new Map<number, LookLine[]>();
  if (looks.length === 0) return byCase;
  const ids = looks.map((l) => l.id);
  const readings = await db.select().from(lampReading).where(inArray(lampReading.lookId, ids)).orderBy(asc(lampReading.id));
  // Two looks of one moment stay in the order in which they were read.
  const order = new Map([...readings].reverse().map((r, i) => [r.lookId, -i]));
  looks.sort((a, b) => a.at - b.at || (order.get(a.id) ?? 0) - (order.get(b.id) ?? 0));
  for (const { caseId, keyTag, moment, origin, lit, litAtEnd, lengthS, id, at } of looks) {
    const read = readings.findLast((r) => r.lookId === id && r.family.id === familyOf(caseId));
    const reading = read ? { state: read.state, pattern: read.pattern, p: read.p, verdict: read.verdict } : null;
    byCase.set(caseId, [...(byCase.get(caseId) ?? []), { id, key: keyTag, moment, origin, lit, litAtEnd, lengthS, at, reading }]);
  }
  return byCase;
}
