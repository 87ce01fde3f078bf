import { isDeepStrictEqual } from 'node:util';
import { eq, inArray, sql } from 'drizzle-orm';
import { LRUCache } from 'lru-cache';
import type { Kept } from '../db/kept';
import type { Db } from '../db/open';
import { audit, bay, caseFile, caseTables, customer } from '../db/schema';
import { type CaseRecord, loadCases } from './cases';

/** Cases that are kept at most. */
const mostCases = 300;

interface KeptCase {
  changes: number | null;
  /** What a case can't change without: the last line about it in the audit log, which every act writes, and names that are kept elsewhere. */
  stamp: string;
  record: CaseRecord;
}

/**
 * Records of cases as pages read them. One is read anew when an act has changed it; when only other cases were changed, one short statement says so
 * for all that are asked for. Acts read the record themselves, in their transaction. Whoever gets a record must not change it.
 */
export class KeptCases {
  readonly #cases = new LRUCache<number, KeptCase>({ max: mostCases });

  /** @param compare reads each kept record anew and throws where it is another; for tests */
  constructor(
    private readonly db: Db,
    private readonly kept: Kept,
    private readonly compare = false,
  ) {}

  async one(id: number): Promise<CaseRecord | undefined> {
    return (await this.all([id]))[0];
  }

  /** Those of the cases that are there, in the order of their numbers. */
  async all(ids: readonly number[]): Promise<CaseRecord[]> {
    const changes = this.kept.changes(caseTables);
    const known = (id: number) => {
      const before = this.#cases.get(id);
      return changes !== null && before?.changes === changes ? before : undefined;
    };
    const found = new Map(ids.flatMap((id) => known(id) ?? []).map((k) => [k.record.id, k.record]));
    const asked = ids.filter((id) => !found.has(id));
    if (asked.length > 0) {
      // The stamps are read before the records: a record is at least as new as its stamp.
      const stamps = await this.#stamps(asked);
      // Taken now: whoever else reads meanwhile may put another in its place, or let it go.
      const same = asked.flatMap((id) => {
        const before = this.#cases.get(id);
        return before && before.stamp === stamps.get(id) ? before.record : [];
      });
      const unchanged = new Set(same.map((r) => r.id));
      const fresh = await loadCases(
        this.db,
        asked.filter((id) => stamps.has(id) && !unchanged.has(id)),
      );
      for (const record of [...same, ...fresh]) {
        found.set(record.id, record);
        this.#cases.set(record.id, { changes, stamp: stamps.get(record.id)!, record });
      }
    }
    if (this.compare) await this.#mustEqual([...found.values()], changes);
    return [...found.values()].sort((a, b) => a.id - b.id);
  }

  async #stamps(ids: number[]): Promise<Map<number, string>> {
    const rows = await this.db
      .select({
        id: caseFile.id,
        act: sql<number | null>`(select max(${audit.id}) from ${audit} where ${audit.caseId} = ${caseFile.id})`,
        bay: bay.name,
        customer: customer.name,
        phone: customer.phone,
        erasedAt: customer.erasedAt,
      })
      .from(caseFile)
      .leftJoin(bay, eq(caseFile.bayId, bay.id))
      .leftJoin(customer, eq(caseFile.customerId, customer.id))
      .where(inArray(caseFile.id, ids));
    return new Map(rows.map(({ id, ...rest }) => [id, JSON.stringify(rest)]));
  }

  async #mustEqual(records: CaseRecord[], changes: number | null): Promise<void> {
    const fresh = await loadCases(
      this.db,
      records.map((r) => r.id),
    );
    if (this.kept.changes(caseTables) !== changes) return;
    for (const record of records)
      if (
        !isDeepStrictEqual(
          fresh.find((r) => r.id === record.id),
          record,
        )
      )
        throw new Error(`What is kept of case ${record.id} is not what is stored`);
  }
}
