import { desc, eq, inArray, isNotNull } from 'drizzle-orm';
import { caseNumber } from '../../base/caseNumber';
import type { Reader } from '../../db/open';
import { caseFile, lampLook, lampReading, measurement, stepTry } from '../../db/schema';

/** Instruments of the bench that leave something in a case. */
export type UsedInstrument = 'lamp' | 'ladder' | 'trials' | 'bursts' | 'substitute';

export interface LastUse {
  /** Address of the case, number and vehicle. */
  to: string;
  case: string;
  /** What it came to, the first sentence. */
  say: string;
  at: number;
}

/** How many are shown of each. */
const most = 3;
const first = (verdict: string) => /^.*?[.!?](?=\s|$)/.exec(verdict)?.[0] ?? verdict;

/** The last three uses of each instrument in any case, the newest first. */
export async function lastUses(db: Reader): Promise<Record<UsedInstrument, LastUse[]>> {
  const about = { id: caseFile.id, vehicle: caseFile.vehicle };
  const measured = (kinds: readonly ('pellet' | 'wiring' | 'wiggle' | 'trials' | 'bursts')[]) =>
    db
      .select({ ...about, verdict: measurement.verdict, at: measurement.at })
      .from(measurement)
      .innerJoin(caseFile, eq(caseFile.id, measurement.caseId))
      .where(inArray(measurement.kind, [...kinds]))
      .orderBy(desc(measurement.at))
      .limit(most);
  const [lamp, ladder, trials, bursts, tries] = await Promise.all([
    db
      .select({ ...about, verdict: lampReading.verdict, at: lampLook.at })
      .from(lampLook)
      .innerJoin(caseFile, eq(caseFile.id, lampLook.caseId))
      .innerJoin(lampReading, eq(lampReading.lookId, lampLook.id))
      .orderBy(desc(lampLook.at), desc(lampReading.id))
      .limit(most),
    measured(['pellet', 'wiring', 'wiggle']),
    measured(['trials']),
    measured(['bursts']),
    db
      .select({ ...about, step: stepTry.step, result: stepTry.result, at: stepTry.at })
      .from(stepTry)
      .innerJoin(caseFile, eq(caseFile.id, stepTry.caseId))
      .where(isNotNull(stepTry.result))
      .orderBy(desc(stepTry.at))
      .limit(most),
  ]);
  const line = (r: { id: number; vehicle: string; verdict: string; at: number }): LastUse => ({
    to: `/cases/${r.id}`,
    case: `${caseNumber(r.id)} ${r.vehicle}`.trim(),
    say: first(r.verdict),
    at: r.at,
  });
  return {
    lamp: lamp.map(line),
    ladder: ladder.map(line),
    trials: trials.map(line),
    bursts: bursts.map(line),
    substitute: tries.map((t) => line({ ...t, verdict: `Value ${t.step}: ${t.result}` })),
  };
}
