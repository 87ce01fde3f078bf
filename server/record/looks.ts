import type { LampReading } from '../../core/lamp';
import type { LampMoment } from '../../core/library';
import type { lampLook, lampReading, LookOrigin } from '../db/schema';

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

/** Looks of a case, in order of time, each as it was read last in the family that the case is worked as now. */
export function looksIn(
  looks: readonly (typeof lampLook.$inferSelect & { readings: (typeof lampReading.$inferSelect)[] })[],
  familyId: string,
): LookLine[] {
  // Two looks of one moment stay in the order in which they were read.
  const order = ({ readings: [first] }: (typeof looks)[number]) => first?.id ?? Number.MAX_SAFE_INTEGER;
  return [...looks]
    .sort((a, b) => a.at - b.at || order(a) - order(b))
    .map(({ id, keyTag, moment, origin, lit, litAtEnd, lengthS, at, readings }) => {
      const read = readings.findLast((r) => r.family.id === familyId);
      const reading = read ? { state: read.state, pattern: read.pattern, p: read.p, verdict: read.verdict } : null;
      return { id, key: keyTag, moment, origin, lit, litAtEnd, lengthS, at, reading };
    });
}
