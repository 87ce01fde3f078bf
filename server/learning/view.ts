import { count, desc, eq, isNull, sql } from 'drizzle-orm';
import { casesIn, type Difference, differencesOf, type SaidTenth, saidTenths, type Tallies } from '../../core/learning';
import { caseNumber } from '../base/caseNumber';
import type { Reader } from '../db/open';
import { caseFile, learnedElsewhere, lesson, person } from '../db/schema';
import { readTallies } from '../record/experience';
import type { Services } from '../services/services';

/** Missed cases that are listed. */
const mostMissed = 20;

export interface LearnedView {
  families: {
    id: string;
    title: string;
    cases: number;
    missed: number;
    differences: Difference[];
    options: { kind: string; n: number; within: number }[];
    asked: number;
    stayed: number;
  }[];
  said: SaidTenth[];
  missed: { id: number; number: string; vehicle: string; family: string }[];
  leftOut: number;
  elsewhere: { id: number; shop: string; cases: number; by: string; at: number }[];
}

/** What the shop has learned, by system type; those with most cases first. */
export async function readLearned({ database: { db }, library }: Services): Promise<LearnedView> {
  const tallies = await readTallies(db);
  const title = (id: string) => library.families.get(id)?.title ?? id;
  const of = (id: string, t: Tallies): LearnedView['families'][number] => {
    const family = library.families.get(id);
    return {
      id,
      title: title(id),
      cases: casesIn(t),
      missed: t.missed,
      differences: family ? differencesOf(family, t) : [],
      options: Object.entries(t.options).map(([kind, o]) => ({ kind, ...o })),
      asked: t.asked,
      stayed: t.stayed,
    };
  };
  return {
    families: Object.entries(tallies)
      .map(([id, t]) => of(id, t))
      .filter((f) => f.cases > 0 || f.asked > 0 || f.options.length > 0)
      .sort((a, b) => b.cases - a.cases),
    said: saidTenths(Object.values(tallies)),
    missed: await missedCases(db, title),
    leftOut: (
      await db
        .select({ n: count() })
        .from(lesson)
        .where(sql`${lesson.leftOut} is not null`)
    )[0]!.n,
    elsewhere: (
      await db
        .select({
          id: learnedElsewhere.id,
          shop: learnedElsewhere.shop,
          families: learnedElsewhere.families,
          by: person.name,
          at: learnedElsewhere.at,
        })
        .from(learnedElsewhere)
        .innerJoin(person, eq(person.id, learnedElsewhere.by))
        .orderBy(desc(learnedElsewhere.id))
    ).map(({ families, ...e }) => ({ ...e, cases: Object.values(families).reduce((n, f) => n + casesIn(f), 0) })),
  };
}

async function missedCases(db: Reader, title: (id: string) => string): Promise<LearnedView['missed']> {
  const rows = await db
    .select({ id: lesson.caseId, vehicle: caseFile.vehicle, family: lesson.familyId })
    .from(lesson)
    .innerJoin(caseFile, eq(caseFile.id, lesson.caseId))
    .where(sql`${isNull(lesson.leftOut)} and (${lesson.lesson} ->> 'missed') = 'true'`)
    .orderBy(desc(lesson.caseId))
    .limit(mostMissed);
  return rows.map((r) => ({ ...r, number: caseNumber(r.id), family: title(r.family) }));
}

/** Whether a case teaches, and why not where it was left out; null: it teaches nothing. */
export async function lessonState(db: Reader, caseId: number): Promise<{ leftOut: string | null } | null> {
  const [row] = await db.select({ leftOut: lesson.leftOut }).from(lesson).where(eq(lesson.caseId, caseId));
  return row ?? null;
}
