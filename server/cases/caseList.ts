import { and, asc, desc, eq, gt, inArray, lt, or, type SQL, sql } from 'drizzle-orm';
import { caseNumber } from '../base/caseNumber';
import type { Reader } from '../db/open';
import { bay, caseFile, type CaseKind, type CaseState, evidence, person, run } from '../db/schema';
import { matching, wordsOf } from '../record/search';

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

/** Whether there is any. As `exists` the database would read the whole table once instead of a few rows by their index, where a page names its cases. */
const any = (rows: SQL) => sql<boolean>`coalesce((select true from ${rows} limit 1), false)`;
const ofCase = (table: typeof run | typeof evidence, and: SQL = sql`true`) => any(sql`${table} where ${table.caseId} = ${caseFile.id} and ${and}`);

const columns = {
  id: caseFile.id,
  kind: caseFile.kind,
  state: caseFile.state,
  family: caseFile.familyId,
  stage: sql<CaseStage>`case
    when ${caseFile.state} = 'closed' then 'handedOver'
    when ${ofCase(run)} or ${ofCase(evidence, sql`${evidence.kind} <> 'test'`)} then 'repair'
    when ${ofCase(evidence)} then 'testing'
    else 'takenIn' end`,
  running: ofCase(run, sql`${run.status} = 'running'`),
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

/** Up to so many words a window of the list may hold a page of what is searched for; more of them are rarely together. */
const fewWords = 2;
/** Cases that are looked through in the order of the list before the word index is asked. */
const usualWindow = 1000;

/**
 * The cases that have the words. Frequent words are soon found by going through the list; rare ones by the word index. Which of both is quicker depends on how
 * many words begin so, which the database doesn't know, so it is tried: a window of the list first. What the index finds is put in order before the rows of
 * a page are read: in one statement the database goes through the list for them again. A second window, as long as the first lets hope for a page, was tried
 * too: it is often too short, and the index is asked after all.
 */
async function withWords(
  db: Reader,
  {
    words,
    many,
    others,
    sort,
    limit,
    window: size,
  }: { words: SQL; many: number; others: SQL | undefined; sort: Sort; limit: number; window: number },
): Promise<SQL | undefined> {
  if (limit > size) {
    const hits = sql`with hits as materialized (select ${caseFile.id} from ${caseFile} where ${words}) select id from hits`;
    return and(sql`${caseFile.id} in (${hits})`, others);
  }
  const window = db
    .select({ id: caseFile.id, vehicle: caseFile.vehicle, search: caseFile.search })
    .from(caseFile)
    .where(others)
    .orderBy(...order[sort])
    .limit(size)
    // By the table's own name, so that the words and the order speak of it.
    .as('case_file');
  let found =
    many > fewWords
      ? []
      : await db
          .select({ id: window.id })
          .from(window)
          .where(words)
          .orderBy(...order[sort])
          .limit(limit);
  if (found.length < limit) {
    // The word index alone is asked, whatever else is asked for: that is what `materialized` is for.
    const { id, vehicle, state, kind, familyId } = caseFile;
    const hits = sql`(with hits as materialized (select ${id}, ${vehicle}, ${state}, ${kind}, ${familyId} from ${caseFile} where ${words}) select * from hits) as case_file`;
    found = await db
      .select({ id: sql<number>`${id}` })
      .from(hits)
      .where(others)
      .orderBy(...order[sort])
      .limit(limit);
  }
  // One list instead of a parameter for each: less to plan.
  return sql`${caseFile.id} = any(${sql.param(found.map((r) => r.id))}::int[])`;
}

/**
 * A page of cases, and whether there are further ones.
 * @param window how many are looked through for the words before the index is asked; the answer is the same for any
 */
export async function listCases(db: Reader, query: CaseQuery, limit = pageSize, window = usualWindow): Promise<{ rows: CaseRow[]; more: boolean }> {
  const words = matching(query.text);
  if (query.text !== '' && !words) return { rows: [], more: false };
  const others = and(
    inArray(caseFile.state, query.states),
    query.kind ? eq(caseFile.kind, query.kind) : undefined,
    query.family ? eq(caseFile.familyId, query.family) : undefined,
    beyond(query),
  );
  const where = words ? await withWords(db, { words, many: wordsOf(query.text).length, others, sort: query.sort, limit: limit + 1, window }) : others;
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
