import { eq } from 'drizzle-orm';
import type { Learned } from '../../core/diagnosis';
import { casesIn, experienceOf, lineOf, noTallies, type Tallies } from '../../core/learning';
import type { Reader } from '../db/open';
import { learnedElsewhere, tally } from '../db/schema';

/** What a case of a system type starts with, for a vehicle of this line: from the sums, which every closed case is added to. */
export async function readExperience(
  db: Reader,
  familyId: string,
  vehicle: string,
): Promise<{ proven: Record<string, number>; learned: Learned | null }> {
  const [own] = await db.select().from(tally).where(eq(tally.familyId, familyId));
  const others = await db.select({ families: learnedElsewhere.families }).from(learnedElsewhere);
  const { proven, learned } = experienceOf(
    own?.tallies ?? noTallies(),
    others.flatMap(({ families }) => families[familyId] ?? []),
    lineOf(vehicle),
  );
  return { proven, learned: own && casesIn(own.tallies) > 0 ? learned : null };
}

export const readTallies = async (db: Reader): Promise<Record<string, Tallies>> =>
  Object.fromEntries((await db.select().from(tally)).map((t) => [t.familyId, t.tallies]));
