import { and, asc, desc, eq, gt, inArray, lt, or, type SQL, sql } from 'drizzle-orm';
import { caseNumber } from '../base/caseNumber';
import type { Reader } from '../db/open';
import { bay, caseFile, type CaseKind, type CaseState, evidence, person, run } from '../db/schema';
import { matching } from '../record/search';

/** How far a case has come: taken in, tested, something was done about it, handed over. */
export type CaseStage = 'takenIn' | 'testing' | 'repair' | 'handedOver';

export interface CaseRow {
  id: number;
  number: string;
  kind: CaseKind;
  state: CaseState;
  /** Id of its system type. */
  family: string;
  stage: CaseStage;
  /** A procedure is under way. */
  running: boolean;
  /** Who recorded something last, or took it in. */
  by: string;
  bay: string | null;
  vehicle: string;
  plate: string;
  words: string;
  openedAt: number;
  closedAt: number | null;
  outcome: string | null;
}

/** Ways to order the list. Each is followed from a row by what stands in it, so that a page costs the same however far down it is. */
export const sorts = { newest: 'Newest first', oldest: 'Oldest first', vehicle: 'By vehicle' } as const satisfies Record<string, string>;
export type Sort = keyof typeof sorts;

export interface CaseQuery {
  states: CaseState[];
  kind?: CaseKind;
  family?: string;
  text: string;
  sort: Sort;
  /** The last row of the page before. */
  after?: { id: number; vehicle: string };
}

/** Rows on a page. */
export const pageSize = 50;
/** Rows of an export. */
export const exportSize = 20_000;

const columns = {
  id: caseFile.id,
  kind: caseFile.kind,
  state: caseFile.state,
  family: caseFile.familyId,
  stage: sql<CaseStage>`case
    when ${caseFile.state} = 'closed' then 'handedOver'
    when exists (select 1 from ${run} where ${run.caseId} = ${caseFile.id})
      or exists (select 1 from ${evidence} where ${evidence.caseId} = ${caseFile.id} and ${evidence.kind} <> 'test') then 'repair'
    when exists (select 1 from ${evidence} where ${evidence.caseId} = ${caseFile.id}) then 'testing'
    else 'takenIn' end`,
  running: sql<boolean>`exists (select 1 from ${run} where ${run.caseId} = ${caseFile.id} and ${run.status} = 'running')`,
  by: sql<string>`(select ${person.name} from ${person} where ${person.id} = coalesce(
    (select ${evidence.by} from ${evidence} where ${evidence.caseId} = ${caseFile.id} order by ${evidence.seq} desc limit 1),
    ${caseFile.openedBy}))`,
  bay: bay.name,
  vehicle: caseFile.vehicle,
  plate: caseFile.plate,
  words: caseFile.words,
  openedAt: caseFile.openedAt,
  closedAt: caseFile.closedAt,
  outcome: caseFile.outcome,
};

function beyond({ sort, after }: CaseQuery): SQL | undefined {
  if (!after) return undefined;
  switch (sort) {
    case 'newest':
      return lt(caseFile.id, after.id);
    case 'oldest':
      return gt(caseFile.id, after.id);
    case 'vehicle':
      return or(gt(caseFile.vehicle, after.vehicle), and(eq(caseFile.vehicle, after.vehicle), gt(caseFile.id, after.id)));
  }
}

const order: Record<Sort, SQL[]> = {
  newest: [desc(caseFile.id)],
  oldest: [asc(caseFile.id)],
  vehicle: [asc(caseFile.vehicle), asc(caseFile.id)],
};

/** A page of cases, one row more than asked when there are further ones. */
export async function listCases(db: Reader, query: CaseQuery, limit = pageSize): Promise<{ rows: CaseRow[]; more: boolean }> {
  const words = matching(query.text);
  if (query.text !== '' && !words) return { rows: [], more: false };
  const where = and(
    inArray(caseFile.state, query.states),
    query.kind ? eq(caseFile.kind, query.kind) : undefined,
    query.family ? eq(caseFile.familyId, query.family) : undefined,
    words,
    beyond(query),
  );
  const found = await db
    .select(columns)
    .from(caseFile)
    .leftJoin(bay, eq(caseFile.bayId, bay.id))
    .where(where)
    .orderBy(...order[query.sort])
    .limit(limit + 1);
  return { rows: found.slice(0, limit).map((r) => ({ ...r, number: caseNumber(r.id) })), more: found.length > limit };
}

/** Earlier cases of the same vehicle, by its identification number or plate; the latest first. */
export async function knownVehicle(db: Reader, identification: string, plate: string, but?: number): Promise<CaseRow[]> {
  const same = [
    ...(identification.length >= 5 ? [eq(caseFile.identification, identification)] : []),
    ...(plate.length >= 3 ? [eq(caseFile.plate, plate)] : []),
  ];
  if (same.length === 0) return [];
  const found = await db
    .select(columns)
    .from(caseFile)
    .leftJoin(bay, eq(caseFile.bayId, bay.id))
    .where(and(or(...same), but === undefined ? undefined : sql`${caseFile.id} <> ${but}`))
    .orderBy(desc(caseFile.id))
    .limit(10);
  return found.map((r) => ({ ...r, number: caseNumber(r.id) }));
}
